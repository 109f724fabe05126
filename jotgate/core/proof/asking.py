"""What is asked, as statements: items with what is inside of them, and their conditions."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from decimal import Decimal

from jotgate.core.answers.picks import ranked
from jotgate.core.common.today import Today
from jotgate.core.common.values import ELSE, Value
from jotgate.core.conditions.condition import Condition
from jotgate.core.conditions.cross_checks import CrossCheck
from jotgate.core.items import (
    SHOWN,
    Computed,
    Grid,
    Item,
    PickMany,
    PickOne,
    Rank,
    Roster,
    options_of,
)
from jotgate.core.proof.answers import (
    ANY,
    MOST_COUNTED,
    Answer,
    Entry,
    named_codes,
    one_valued,
    pick_many,
    pick_one,
)
from jotgate.core.proof.cells import MADE, RANGED, SOME_ELSE, Cell, Cells, cells_of
from jotgate.core.proof.computing import computed, look_into
from jotgate.core.proof.crossing import crossed
from jotgate.core.proof.gates import FALSE, TRUE, Gates
from jotgate.core.proof.statements import statement
from jotgate.core.proof.subjects import Subjects
from jotgate.core.walking.plan import Plan

Goal = tuple[str, str]
"""What may happen, and where: `("page", "pages/p")`, `("fires", "pages/p/skips/1")`, …"""

FEW_ENTRIES, MOST_INSIDE = 8, 120
"""Entries of a roster that are told apart, or so many as have no more questions in all; where
more could matter, nothing is proved of them."""


@dataclass
class Encoding:
    """`goals` are the statements that something happens. Under `closed`, every answer is one
    that is known. `sources` are the statements of the conditions, by place, where they may be
    set aside to find out which of them matter."""

    gates: Gates
    answers: dict[str, Answer] = field(default_factory=dict)
    goals: dict[Goal, int] = field(default_factory=dict)
    closed: int = TRUE
    sources: dict[str, int] = field(default_factory=dict)

    def every(self) -> Iterator[Answer]:
        """Every answer, those inside of rosters too."""
        for one in self.answers.values():
            yield one
            for entry in one.entries:
                yield from entry.answers.values()


class Asking:
    """Makes statements of what is asked, into `made`."""

    def __init__(
        self, plan: Plan, today: Today, apart: bool, also: Iterable[Condition] = ()
    ) -> None:
        self.plan, self.today, self.apart = plan, today, apart
        self.gates = Gates()
        self.made = Encoding(self.gates)
        self.subjects = Subjects(plan.questionnaire, also)
        look_into(self.subjects, plan, today)

    def _cells(self, item: Item) -> Cells:
        """The classes of an item that is of one class."""
        key = item.key
        if not self.subjects.matters(key) and item.kind not in RANGED:
            return Cells((Cell(MADE, None),))
        named = self.subjects.leaves.get(key, ())
        bounds = self.subjects.numbers.get(key, ())
        others = None
        if self.subjects.joined.get(key):
            together = sorted(self.subjects.together(key) - {key})
            others = [one for other in together for one in self._some_of(other)]
        return cells_of(item, named, bounds, self.today, others)

    def _some_of(self, key: str) -> list[Value]:
        """Some values of an item that another one is held against, or of how many it has."""
        item = self.plan.items.get(key)
        match item:
            case PickOne():
                return [*item.codes, SOME_ELSE[ELSE], f"What {key} says"]
            case PickMany() | Roster():
                most = len(item.options) + 1 if isinstance(item, PickMany) else item.most
                return [Decimal(n) for n in range(1, min(most, MOST_COUNTED) + 1)]
            case None | Computed():
                return []
        found = cells_of(
            item, self.subjects.leaves.get(key, ()), self.subjects.numbers.get(key, ()), self.today
        )
        return [cell.value for cell in found.each if cell.value is not None]

    def _when(self, at: str, condition: Condition | None, answers: Mapping[str, Answer]) -> int:
        """That the condition at `at` holds."""
        found = statement(self.gates, condition, answers, self.today)
        if condition is None or not self.apart:
            return found
        loose, kept = self.gates.fresh(), self.made.sources.setdefault(at, self.gates.fresh())
        self.gates.some((-kept, -loose, found))
        self.gates.some((-kept, loose, -found))
        return loose

    def _told(self, at: str, condition: Condition | None, here: int, holds: int) -> None:
        """The goals of a condition: that it is true, and that it is false, where it is asked."""
        if condition is not None:
            for goal, literal in (("true", holds), ("false", -holds)):
                known = self.made.goals.get((goal, at), FALSE)
                found = self.gates.both(here, literal)
                self.made.goals[goal, at] = self.gates.either(known, found)

    def _apart(self, at: str, found: int) -> int:
        """`found`, but never where what stands at `at` is set aside."""
        if not self.apart or found == FALSE:
            return found
        return self.gates.both(found, self.made.sources.setdefault(at, self.gates.fresh()))

    def _answer(self, item: Item, at: str, active: int, answers: Mapping[str, Answer]) -> Answer:
        must = self._required(item, at, active, answers)
        return replace(self._asked(item, at, active, must, answers), must=must)

    def _asked(
        self, item: Item, at: str, active: int, must: int, answers: Mapping[str, Answer]
    ) -> Answer:
        gates = self.gates
        if isinstance(item, Computed):
            matters = self.subjects.matters(item.key)
            found = matters and computed(gates, item, active, answers, self.subjects, self.today)
            return found or one_valued(gates, active, FALSE, Cells((Cell(None, None),)))
        shown = {}
        for option in options_of(item):
            if option.shown_when is not None:
                place = f"{at}/options/{option.code}"
                shown[option.code] = self._when(place, option.shown_when, answers)
                self._told(place, option.shown_when, active, shown[option.code])
        named = named_codes(self.subjects.leaves.get(item.key, ()))
        named |= self.subjects.codes.get(item.key, set())
        joined = bool(self.subjects.joined.get(item.key))
        if isinstance(item, PickOne):
            if joined and len(item.options) <= MOST_COUNTED:
                named = named | item.codes
            return pick_one(gates, item, active, must, shown, named, joined)
        if isinstance(item, PickMany):
            counted = joined or item.key in self.subjects.numbers
            if counted and len(item.options) <= MOST_COUNTED:
                named = named | item.codes
            return pick_many(gates, item, active, must, shown, named)
        if isinstance(item, Roster):
            return self._roster(item, at, active, must, answers)
        if isinstance(item, Grid):
            return self._grid(item, at, active, must, answers)
        found = one_valued(gates, active, must, self._cells(item))
        return replace(found, count=ranked(item)) if isinstance(item, Rank) else found

    def _crossed(self, check: CrossCheck, answers: Mapping[str, Answer]) -> int:
        """That `check` does not hold of what is answered; its condition is not looked at."""
        items = (self.plan.items.get(key) for key in self.subjects.together(check.left))
        listed = not any(isinstance(one, Computed) for one in items)
        return crossed(self.gates, check, answers, self.today, listed)

    def _required(self, item: Item, at: str, active: int, answers: Mapping[str, Answer]) -> int:
        """That `item` has to be answered."""
        if getattr(item, "required", False):
            return TRUE
        when = getattr(item, "required_when", None)
        if when is None:
            return FALSE
        holds = self._when(f"{at}/required", when, answers)
        self._told(f"{at}/required", when, active, holds)
        return holds

    def _grid(
        self, item: Grid, at: str, active: int, must: int, answers: Mapping[str, Answer]
    ) -> Answer:
        rows = []
        for row in item.rows:
            place = f"{at}/rows/{row.code}"
            holds = self._when(place, row.shown_when, answers)
            self._told(place, row.shown_when, active, holds)
            rows.append(holds)
        cell = (self.gates.fresh(), Cell(MADE, None))
        any_row = self.gates.either(*rows)
        stuck = self.gates.both(active, must, -any_row)
        self.gates.some((-cell[0], active))
        self.gates.some((-cell[0], any_row))
        self.gates.some((-active, -must, stuck, cell[0]))
        return Answer(active, cell[0], (cell,), stuck=stuck, can=any_row)

    def _roster(
        self, item: Roster, at: str, active: int, must: int, answers: Mapping[str, Answer]
    ) -> Answer:
        """As many entries as could matter, the first ones given before the later ones."""
        named = self.subjects.leaves.get(item.key, ())
        useful = sum(
            max(getattr(leaf, "at_least", 0) or 0, (getattr(leaf, "at_most", 0) or 0) + 1)
            for leaf in named
            if leaf.op not in ("answered", "unanswered")
        )
        useful += max((int(number) + 1 for number in self._counts(item)), default=0)
        entries: list[Entry] = []
        stuck: list[int] = []
        before = active
        wanted = min(item.most, max(item.fewest, 1) + useful)
        told_apart = max(FEW_ENTRIES, MOST_INSIDE // max(len(item.items), 1), item.fewest)
        for number in range(min(wanted, told_apart)):
            given = active if number < item.fewest else self.gates.fresh()
            self.gates.some((-given, before))
            if number == 0:
                self.gates.some((-active, -must, given))
            entry, failing = self._entry(item, at, given, answers)
            entries.append(entry)
            stuck += failing
            before = given
        never = self.gates.either(*stuck)
        answered = self.gates.both(entries[0].given, -never) if entries else FALSE
        more = wanted > len(entries) and (self.gates.fresh(), ANY)
        if more:
            self.gates.some((-more[0], before))
        return Answer(
            active,
            answered,
            (more,) if more else (),
            entries=tuple(entries),
            stuck=never,
        )

    def _counts(self, item: Roster) -> list[Decimal]:
        """The numbers of entries that a check tells apart."""
        if self.subjects.joined.get(item.key):
            return [Decimal(item.most)]
        numbers = self.subjects.numbers.get(item.key, ())
        bounds = [one for one in numbers if isinstance(one, Decimal)]
        return [min(max(one, Decimal(0)), Decimal(item.most)) for one in bounds]

    def _entry(
        self, item: Roster, at: str, given: int, answers: Mapping[str, Answer]
    ) -> tuple[Entry, list[int]]:
        """One entry, and what keeps somebody from going on from it."""
        inner: dict[str, Answer] = {}
        known = {**answers}
        for one in item.items:
            place = f"{at}/items/{one.key}"
            holds = self._when(place, one.shown_when, known)
            active = self.gates.both(given, holds)
            self._told(place, one.shown_when, given, holds)
            if one.kind not in SHOWN:
                known[one.key] = inner[one.key] = self._answer(one, place, active, known)
        can = [self.gates.both(one.active, one.can) for one in inner.values()]
        failing = [one.stuck for one in inner.values()]
        failing.append(self.gates.both(given, -self.gates.either(*can)))
        self.gates.some((-given, *(one.answered for one in inner.values()), *failing))
        for number, check in enumerate(item.checks, start=1):
            place = f"{at}/checks/{number}"
            when = self._when(place, check.when, known)
            self._told(place, check.when, given, when)
            found = self._crossed(check, known)
            failing.append(self._apart(f"{place}/broken", self.gates.both(given, when, found)))
        return Entry(given, inner), failing
