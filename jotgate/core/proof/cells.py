"""The answers that an item can have, cut into classes that no comparison tells apart.

Of each class one answer stands for all: whatever is compared with, the rest of the class
compares the same. What is written freely can be anything else besides: then the classes are not
all of them, which `open` tells.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from decimal import Decimal
from fractions import Fraction
from math import lcm
from random import Random
from typing import Any

from jotgate.core.answers.checks import check
from jotgate.core.answers.dates import moment_bound
from jotgate.core.answers.failures import CheckFailed, FailedInside
from jotgate.core.answers.rules import Raw
from jotgate.core.common.decimals import stepped, whole_steps
from jotgate.core.common.today import Today, day_of
from jotgate.core.common.values import ELSE, Value, as_decimal, read_operand
from jotgate.core.conditions.condition import Leaf, holds, operands
from jotgate.core.items import Carried, Date, DateTime, Item, Number, Scale, Time, YesNo, holding
from jotgate.core.items.kinds import Holds, kinds_that_hold
from jotgate.core.walking.made_up import answer

MADE = object()
"""An answer that is made up when it is needed."""

SOME_ELSE = {ELSE: "Something else"}
MOST_STEPS = 1000
"""Steps of a number that are looked at for one that is legal."""

SAMPLES = ("Clear", "ada@example.org", "https://example.org/a", "12345", "A1", "+442079460000")


@dataclass(frozen=True)
class Cell:
    """One class: an answer of it as it is sent, and the value that comes of it.

    The value is None where nothing is known but that there is an answer. A `loose` class is of
    several answers that no condition tells apart, but another answer might.
    """

    raw: Raw
    value: Value | None
    loose: bool = False

    @property
    def exact(self) -> Value | None:
        """The one value of the class, None where it has several."""
        return None if self.loose else self.value


@dataclass(frozen=True)
class Cells:
    """The classes of an item; `open` where its answers can be of others too."""

    each: tuple[Cell, ...]
    open: bool = False


def cells_of(
    item: Item,
    leaves: Sequence[Leaf],
    bounds: Sequence[Value],
    today: Today,
    others: Iterable[Value] | None = None,
) -> Cells:
    """The classes of `item` under the comparisons `leaves`.

    `bounds` are other values that answers are held against. For an answer that is held against
    other answers, `others` are some values of those; then every candidate is a class of its own.
    """
    finely = others is not None
    find = CANDIDATES.get(item.kind)
    if find is None:
        return Cells((Cell(MADE, None),))
    found: list[Cell] = []
    seen: set[Any] = set()
    every = every_legal(item, today) if finely else None
    tried = [*_constants(item, leaves, today), *bounds, *(others or ()), *(every or ())]
    for raw in find(item, tried, today):
        value = legal(item, raw, today)
        if value is None:
            continue
        told = (
            value if finely else tuple(holds(leaf, {item.key: value}, today) for leaf in leaves),
            tuple(_side(value, bound) for bound in bounds),
        )
        if told not in seen:
            seen.add(told)
            found.append(Cell(raw, value))
    if finely:
        return Cells(tuple(found), every is None)
    written = item.kind in _WRITTEN or (isinstance(item, Carried) and not item.options)
    free = any(leaf.op in ("contains", "like") for leaf in leaves)
    return Cells(tuple(found), written and (free or not _other(found, leaves, today)))


MOST_EVERY = 60
"""Legal answers that an item may have for all of them to be told apart."""


def every_legal(item: Item, today: Today) -> list[Value] | None:
    """Every answer there is to `item`; None where there are too many."""
    raws: Iterable[Any]
    match item:
        case Scale() | YesNo() | Carried(options=(_, *_)):
            raws = CANDIDATES[item.kind](item, (), today)
        case Number(at_least=low, at_most=high) if low is not None and high is not None:
            unit = Decimal(1).scaleb(-item.decimals)
            first, last = (whole_steps(end, Decimal(0), unit) for end in (low, high))
            if last - first >= MOST_EVERY:
                return None
            raws = [format(unit * at, "f") for at in range(int(first), int(last) + 1)]
        case Date(earliest=str(low), latest=str(high)):
            first_day, last_day = day_of(low, today.day), day_of(high, today.day)
            if first_day is None or last_day is None or (last_day - first_day).days >= MOST_EVERY:
                return None
            days = range((last_day - first_day).days + 1)
            raws = [(first_day + timedelta(days=by)).isoformat() for by in days]
        case _:
            return None
    return [value for raw in raws if (value := legal(item, raw, today)) is not None]


def _side(value: Any, bound: Any) -> int:
    if type(value) is not type(bound):
        return 2
    return int(value > bound) - int(value < bound)


def _other(found: Iterable[Cell], leaves: Sequence[Leaf], today: Today) -> bool:
    """Whether one of the classes is that of every text that is not named."""
    named = {one for leaf in leaves for one in operands(leaf)}
    return any(cell.value not in named for cell in found)


def legal(item: Item, raw: Raw, today: Today) -> Value | None:
    """The value of `raw` where it passes the checks of `item`."""
    try:
        return check(item, raw, today)
    except (CheckFailed, FailedInside):
        return None


def _constants(item: Item, leaves: Sequence[Leaf], today: Today) -> Iterator[Any]:
    kind = _CLASS.get(holding(item), str)
    for leaf in leaves:
        for operand in operands(leaf):
            value = operand if kind is str else read_operand(kind, operand, today)
            if value is not None:
                yield value


_CLASS: Mapping[Holds, type] = {
    "number": Decimal,
    "day": date,
    "time": time,
    "moment": datetime,
}


def _numbers(item: Number, constants: Iterable[Any], _: Today) -> Iterator[str]:
    """The legal numbers next to every constant and to the ends."""
    unit, reach = _grid(item)
    start = (item.at_least if item.step else None) or Decimal(0)
    ends = (item.at_least, item.at_most, Decimal(0))
    numbers = (as_decimal(one) for one in (*constants, *(end for end in ends if end is not None)))
    for number in dict.fromkeys(one for one in numbers if one is not None):
        below = whole_steps(number, start, unit)
        for near in sorted(range(-reach, reach + 2), key=abs):
            yield format(stepped(start, below + near, unit), "f")


def _grid(item: Number) -> tuple[Decimal, int]:
    """What numbers are counted in, and among how many of those in a row a legal one has to be:
    of steps that have more digits than are allowed, only some are legal."""
    digit = Decimal(1).scaleb(-item.decimals)
    if item.step is None:
        return digit, 2
    step, least = Fraction(item.step), Fraction(digit)
    period = Fraction(
        lcm(step.numerator * least.denominator, least.numerator * step.denominator),
        step.denominator * least.denominator,
    )
    return item.step, min(int(period / step) + 1, MOST_STEPS)


def _scale(item: Scale, _: Iterable[Any], _today: Today) -> Iterator[int]:
    yield from range(item.low, item.high + 1)


def _days(item: Date, constants: Iterable[Any], today: Today) -> Iterator[str]:
    ends = [day_of(one, today.day) for one in (item.earliest, item.latest) if one]
    days = [one for one in (*constants, *ends, today.day) if isinstance(one, date)]
    for day in dict.fromkeys(days):
        for near in (0, -1, 1):
            yield from _near(day, timedelta(days=near))


def _near(day: date, by: timedelta) -> Iterator[str]:
    try:
        yield (day + by).isoformat()
    except OverflowError:
        return


def _times(item: Time, constants: Iterable[Any], _: Today) -> Iterator[str]:
    ends = [time.fromisoformat(one) for one in (item.earliest, item.latest) if one]
    for one in dict.fromkeys([*constants, *ends, time(12)]):
        if isinstance(one, time):
            minutes = one.hour * 60 + one.minute
            for near in (minutes, minutes - 1, minutes + 1):
                if 0 <= near < 1440:
                    yield f"{near // 60:02}:{near % 60:02}"


def _moments(item: DateTime, constants: Iterable[Any], today: Today) -> Iterator[str]:
    ends = (
        moment_bound(item.earliest, today, end=False) if item.earliest else None,
        moment_bound(item.latest, today, end=True) if item.latest else None,
    )
    edges = [_local(one, today) for one in (*constants, today.now.astimezone(UTC))]
    for moment in dict.fromkeys([*(one for one in ends if one), *edges]):
        for near in (0, -1, 1, -720, 720, -1440, 1440):
            try:
                yield (moment + timedelta(minutes=near)).isoformat(timespec="minutes")
            except OverflowError:
                continue


def _local(value: Any, today: Today) -> datetime:
    """A moment on the questionnaire's clock; a day as its noon."""
    if isinstance(value, datetime):
        return value.astimezone(today.zone).replace(tzinfo=None, second=0, microsecond=0)
    return datetime.combine(value, time(12))


def _texts(item: Any, constants: Iterable[Any], today: Today) -> Iterator[str]:
    """Texts that are named, their kind, and some that are not."""
    named = [one for one in constants if isinstance(one, str)]
    yield from named
    pattern = getattr(item, "pattern", None)
    yield from pattern.fits if pattern else ()
    for seed in range(3):
        made = answer(item, {}, today, Random(seed))
        yield from (made,) if isinstance(made, str) else ()
    yield from SAMPLES
    for one in named:
        yield from (f"a{one}", f"{one}b", f"a{one}.org", f"a@{one}.org", f"a@{one}")
    yield " ".join(named)


def _yes_no(*_: Any) -> Iterator[bool]:
    yield from (True, False)


def _carried(item: Carried, constants: Iterable[Any], today: Today) -> Iterator[str]:
    if item.options:
        yield from (option.code for option in item.options)
    else:
        yield from _texts(item, constants, today)


RANGED = kinds_that_hold("number", "day", "time", "moment") - {"scale"}
"""The kinds of which there may be no answer at all."""

_WRITTEN = kinds_that_hold("text")

CANDIDATES: Mapping[str, Any] = {
    **dict.fromkeys(_WRITTEN, _texts),
    "number": _numbers,
    "scale": _scale,
    "date": _days,
    "time": _times,
    "date_time": _moments,
    "yes_no": _yes_no,
    "carried": _carried,
}
