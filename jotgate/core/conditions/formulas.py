"""Computed values: how they follow from answers. Numbers are exact decimals."""

from collections.abc import Callable, Iterator, Mapping
from datetime import date, datetime, time
from decimal import Decimal
from typing import Annotated, Any, Literal

from pydantic import Field

from jotgate.core.common.decimals import added, plain
from jotgate.core.common.part import Key, Part
from jotgate.core.common.today import Today
from jotgate.core.common.values import Else, Value, Values

Keys = Annotated[tuple[Key, ...], Field(min_length=1, max_length=200)]


class Sum(Part):
    """The numbers answered, added up; inside a roster or grid, over all its rows."""

    do: Literal["sum"]
    of: Keys


class Count(Part):
    """How many there are: picks, files, roster entries; any other answer counts one."""

    do: Literal["count"]
    of: Keys


Unit = Literal["minutes", "hours", "days", "weeks", "months", "years"]
Edge = Annotated[str, Field(pattern=r"^(today|[a-z][a-z0-9_]{0,39})$")]


class Difference(Part):
    """Whole units from `since` to `until`, less than 0 where `until` is the earlier one.

    Each is the key of a day or a moment, or `today`.
    """

    do: Literal["difference"]
    since: Edge
    until: Edge
    unit: Unit = "days"


Points = Annotated[Decimal, Field(max_digits=20, decimal_places=6)]


class Score(Part):
    """Points for options, added up: key of a question, to points by code."""

    do: Literal["score"]
    points: dict[Key, dict[str, Points]] = Field(min_length=1, max_length=200)


class First(Part):
    """The first of these questions that has an answer, with its answer."""

    do: Literal["first"]
    of: Keys


Formula = Annotated[Sum | Count | Difference | Score | First, Field(discriminator="do")]


def sources(formula: Formula) -> tuple[str, ...]:
    """The keys that `formula` is computed from."""
    match formula:
        case Difference():
            return tuple(key for key in (formula.since, formula.until) if key != "today")
        case Score():
            return tuple(formula.points)
        case _:
            return formula.of


def compute(
    formula: Formula, values: Values, owners: Mapping[str, str], today: Today
) -> Value | None:
    """The value, or None where nothing that it is computed from is answered.

    `owners` leads from the key of a question inside a roster or grid to that one's key.
    """
    return _COMPUTE[formula.do](formula, values, owners, today)


def _found(key: str, values: Values, owners: Mapping[str, str]) -> Iterator[Value]:
    """Every answer to `key`; inside a roster or grid, one for each of its rows."""
    if key in values:
        yield values[key]
    elif key in owners:
        for row in _rows(values.get(owners[key])):
            if key in row:
                yield row[key]


def _rows(value: Any) -> Iterator[Mapping[str, Value]]:
    if isinstance(value, tuple):
        yield from value
    elif isinstance(value, Mapping):
        for rows in value.values():
            yield from rows


def _sum(formula: Sum, values: Values, owners: Mapping[str, str], _: Today) -> Decimal | None:
    found = [one for key in formula.of for one in _found(key, values, owners)]
    numbers = [one for one in found if isinstance(one, Decimal)]
    return added(numbers) if numbers else None


def _count(formula: Count, values: Values, owners: Mapping[str, str], _: Today) -> Decimal | None:
    found = [one for key in formula.of for one in _found(key, values, owners)]
    if not found:
        return None
    return Decimal(sum(len(one) if isinstance(one, tuple) else 1 for one in found))


def _difference(
    formula: Difference, values: Values, _: Mapping[str, str], today: Today
) -> Decimal | None:
    edges = [
        today.day if key == "today" else values.get(key) for key in (formula.since, formula.until)
    ]
    since, until = (as_moment(edge, today) for edge in edges)
    if since is None or until is None:
        return None
    return Decimal(_whole_units(since, until, formula.unit))


def as_moment(value: Value | None, today: Today) -> datetime | None:
    """A day as its start where the questionnaire is at home; a moment in that zone's clock."""
    if isinstance(value, datetime):
        return value.astimezone(today.zone).replace(tzinfo=None)
    if isinstance(value, date):
        return datetime.combine(value, time())
    return None


_SECONDS = {"minutes": 60, "hours": 3600, "days": 86400, "weeks": 604800}


def _whole_units(since: datetime, until: datetime, unit: Unit) -> int:
    if until < since:
        return -_whole_units(until, since, unit)
    if unit in _SECONDS:
        return int((until - since).total_seconds()) // _SECONDS[unit]
    months = (until.year - since.year) * 12 + until.month - since.month
    if (until.day, until.time()) < (since.day, since.time()):
        months -= 1
    return months if unit == "months" else months // 12


def _score(formula: Score, values: Values, owners: Mapping[str, str], _: Today) -> Decimal | None:
    found = [
        points.get(code_of(code), Decimal(0))
        for key, points in formula.points.items()
        for answer in _found(key, values, owners)
        for code in (answer if isinstance(answer, tuple) else (answer,))
    ]
    return added(found) if found else None


def code_of(answer: Any) -> str:
    """The name by which points are given: a code, a number, `yes` or `no`, `else`."""
    if isinstance(answer, bool):
        return "yes" if answer else "no"
    if isinstance(answer, Decimal):
        return plain(answer)
    return "else" if isinstance(answer, Else) else str(answer)


def _first(formula: First, values: Values, *_: object) -> Value | None:
    return next((values[key] for key in formula.of if key in values), None)


_COMPUTE: dict[str, Callable[[Any, Values, Mapping[str, str], Today], Value | None]] = {
    "sum": _sum,
    "count": _count,
    "difference": _difference,
    "score": _score,
    "first": _first,
}
