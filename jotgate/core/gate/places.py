"""Places: what an entry takes of them, and what is left."""

import json
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from decimal import ROUND_CEILING, Decimal
from functools import lru_cache
from itertools import product

from jotgate.core.common.errors import TooLarge
from jotgate.core.common.values import ELSE, Else, Value, Values
from jotgate.core.gate.settings import Places

MOST_TAKEN = 2_000
"""Cells of places that one entry can take at most."""


@dataclass(frozen=True)
class Count:
    """How many places of a cell are taken, and held for people who answer; how many people wait
    for one."""

    taken: int = 0
    held: int = 0
    waiting: int = 0


NONE = Count()

Counts = Mapping[str, Count]
"""By cell; a cell that is not there has none taken."""


@dataclass(frozen=True)
class Take:
    """What an entry takes of one cell, which has `most` places; None is no limit."""

    cell: str
    amount: int
    most: int | None


@lru_cache(4096)
def cell_of(key: str, values: tuple[str, ...] = ()) -> str:
    """The name of the places `key` for these values."""
    return json.dumps([key, *values], ensure_ascii=False, separators=(",", ":"))


def cell_parts(cell: str) -> tuple[str, tuple[str, ...]]:
    """The key and the values that `cell_of` was given."""
    key, *values = json.loads(cell)
    return key, tuple(values)


def most_of(places: Places, values: tuple[str, ...]) -> int | None:
    """How many places there are for these values; None is no limit."""
    return next((one.most for one in places.limits if one.values == values), places.most)


def _texts(value: Value | None) -> tuple[str, ...]:
    match value:
        case None | Mapping():
            return ()
        case bool():
            return ("yes" if value else "no",)
        case Else():
            return (ELSE,)
        case tuple():
            return tuple(dict.fromkeys(text for one in value for text in _texts(one)))
        case str():
            return (value[:200],)
    return (str(value)[:200],)


def _amount(places: Places, kept: Values) -> int:
    """What is counted of an entry; a number that is not whole takes the next one."""
    if places.amount is None:
        return 1
    number = kept.get(places.amount)
    if not isinstance(number, Decimal) or number <= 0:
        return 0
    return int(min(number, Decimal(1_000_000_000)).to_integral_value(ROUND_CEILING))


def takes_of(places: Iterable[Places], kept: Values) -> tuple[Take, ...]:
    """What an entry with the answers `kept` takes, in the order in which cells are locked. Where a
    question that divides places has no answer, it takes none of them; of those picked together it
    takes one each. Raises TooLarge."""
    found: dict[str, Take] = {}
    for one in places:
        amount = _amount(one, kept)
        if amount == 0:
            continue
        for values in product(*(_texts(kept.get(key)) for key in one.by)):
            cell = cell_of(one.key, values)
            found[cell] = Take(cell, amount, most_of(one, values))
            if len(found) > MOST_TAKEN:
                raise TooLarge("So many options cannot be picked together here. Pick fewer.")
    return tuple(found[cell] for cell in sorted(found))


def fits(take: Take, count: Count, own: int = 0) -> bool:
    """Whether a cell has room for `take`, by somebody for whom `own` places of it are held. Where
    people wait, what is free is theirs."""
    if take.most is None or take.amount <= own:
        return True
    if count.waiting:
        return False
    return count.taken + count.held - own + take.amount <= take.most


def left(most: int | None, count: Count, own: int = 0) -> int | None:
    """Places that are free for somebody for whom `own` are held; None is no limit."""
    if most is None:
        return None
    free = 0 if count.waiting else max(most - count.taken - count.held, 0)
    return free + own


def totals_of(places: Iterable[Places]) -> tuple[Take, ...]:
    """One place of each kind in all, in the order in which cells are locked."""
    found = (Take(cell_of(one.key), 1, one.most) for one in places if not one.by)
    return tuple(sorted(found, key=lambda one: one.cell))


def least_left(
    takes: Iterable[Take], counts: Counts, own: Mapping[str, int] | None = None
) -> int | None:
    """How many places are free of the kind that has the fewest, for somebody for whom `own` are
    held; None is no limit."""
    held = own or {}
    free = (left(one.most, counts.get(one.cell, NONE), held.get(one.cell, 0)) for one in takes)
    return min((one for one in free if one is not None), default=None)


def full_codes(
    places: Places,
    key: str,
    codes: Iterable[str],
    kept: Values,
    counts: Counts,
    own: Mapping[str, int],
) -> frozenset[str]:
    """The options of the question `key` that have no place left, with what is answered beside it.
    Where more divides the places and has no answer, none is known to be full."""
    amount = max(_amount(places, kept), 1)
    others = [(one,) if one == key else _texts(kept.get(one)) for one in places.by]
    found = set()
    for code in codes:
        by = [
            (code,) if one == key else texts for one, texts in zip(places.by, others, strict=True)
        ]
        for values in product(*by):
            cell = cell_of(places.key, values)
            take = Take(cell, amount, most_of(places, values))
            if not fits(take, counts.get(cell, NONE), own.get(cell, 0)):
                found.add(code)
    return frozenset(found)
