"""Statements joined by and, or and not, as clauses for a solver.

A statement is a literal: a whole number other than 0, and its negative is its opposite. What is
joined before is not joined again, and what is settled by constants needs no clause.
"""

from collections.abc import Hashable, Iterable, Sequence
from itertools import combinations

TRUE = 1
FALSE = -1

_FEW = 6
"""Up to so many literals, "at most one" is said pair by pair."""


class Gates:
    """`clauses` is the conjunctive normal form so far; `count` how many variables it has."""

    def __init__(self) -> None:
        self.count = 1
        self.clauses: list[list[int]] = [[TRUE]]
        self._joined: dict[tuple[int, ...], int] = {}
        self._open: dict[tuple[int, Hashable], int] = {}

    def fresh(self) -> int:
        """A statement that nothing is known of."""
        self.count += 1
        return self.count

    def maybe(self, of_it: int, about: Hashable) -> int:
        """A statement `about` something that is open, and false where not `of_it`."""
        if (of_it, about) not in self._open:
            self._open[of_it, about] = found = self.fresh()
            self.some((-found, of_it))
        return self._open[of_it, about]

    def never(self, *parts: int) -> None:
        """These are not all true."""
        self.some(-part for part in parts)

    def some(self, parts: Iterable[int]) -> None:
        """At least one of these is true."""
        found = {part for part in parts if part != FALSE}
        if TRUE not in found and not any(-part in found for part in found):
            self.clauses.append(list(found))

    def both(self, *parts: int) -> int:
        """All of these."""
        found = set(parts)
        found.discard(TRUE)
        if FALSE in found:
            return FALSE
        if len(found) < 2:
            return found.pop() if found else TRUE
        if any(-part in found for part in found):
            return FALSE
        key = tuple(sorted(found))
        known = self._joined.get(key)
        if known is None:
            self._joined[key] = known = self.fresh()
            self.clauses += [[-known, part] for part in key]
            self.clauses.append([known, *(-part for part in key)])
        return known

    def either(self, *parts: int) -> int:
        """Any of these."""
        return -self.both(*(-part for part in parts))

    def same(self, one: int, other: int) -> None:
        self.some((-one, other))
        self.some((one, -other))

    def at_most_one(self, parts: Sequence[int]) -> None:
        if len(parts) <= _FEW:
            self.clauses += [[-one, -other] for one, other in combinations(parts, 2)]
            return
        begun = parts[0]
        for part in parts[1:]:
            self.never(begun, part)
            begun = self.either(begun, part)

    def counts(self, parts: Sequence[int], most: int) -> list[int]:
        """For each number from 0 to `most`, whether at least so many of `parts` are true.

        A sequential counter (Sinz, 2005, "Towards an Optimal CNF Encoding of Boolean
        Cardinality Constraints").
        """
        so_far = [TRUE, *([FALSE] * most)]
        for part in parts:
            so_far = [
                TRUE,
                *(
                    self.either(so_far[n], self.both(so_far[n - 1], part))
                    for n in range(1, most + 1)
                ),
            ]
        return so_far
