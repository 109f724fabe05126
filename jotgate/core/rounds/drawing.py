"""Drawing people by chance, in a way that can be shown again: a seed that is kept gives the same
people, in whatever order they are listed.

Each has a number that follows from the seed and their own id (HMAC, RFC 2104, with SHA-256), and
those with the smallest numbers are drawn: simple random sampling without replacement, by the method
of permanent random numbers, which is common practice.
"""

import hmac
from collections.abc import Collection, Iterable, Mapping, Sequence
from fractions import Fraction
from uuid import UUID


def by_chance(ids: Iterable[UUID], seed: str) -> list[UUID]:
    """In an order that follows from the seed: whoever is released first comes first."""
    key = seed.encode()
    return sorted(set(ids), key=lambda id: (hmac.digest(key, id.bytes, "sha256"), id))


def drawn(ids: Iterable[UUID], count: int, seed: str) -> list[UUID]:
    """`count` of them, or all where there are no more."""
    return by_chance(ids, seed)[:count]


def drawn_by_strata(
    strata: Mapping[str, Collection[UUID]], sizes: Mapping[str, int], seed: str
) -> dict[str, list[UUID]]:
    """So many of each stratum as `sizes` says, drawn apart from each other; none of one that has no
    size."""
    return {
        name: drawn(ids, sizes.get(name, 0), f"{seed}\x1f{name}") for name, ids in strata.items()
    }


def proportional(counts: Mapping[str, int], total: int) -> dict[str, int]:
    """`total` shared out as `counts` are, whole numbers by the largest remainders (Hamilton's
    method), and of no stratum more than there are."""
    every = sum(counts.values())
    if not every:
        return dict.fromkeys(counts, 0)
    total = min(total, every)
    exact = {name: Fraction(total * count, every) for name, count in counts.items()}
    found = {name: int(one) for name, one in exact.items()}
    rest: Sequence[str] = sorted(exact, key=lambda name: (found[name] - exact[name], name))
    for name in rest[: total - sum(found.values())]:
        found[name] += 1
    return found


def portions(ids: Sequence[UUID], sizes: Iterable[int]) -> list[list[UUID]]:
    """Those who were drawn, released in portions of these sizes one after the other; the last has
    all that are left."""
    found: list[list[UUID]] = []
    at = 0
    for size in sizes:
        found.append(list(ids[at : at + size]))
        at += size
    return [one for one in [*found, list(ids[at:])] if one]
