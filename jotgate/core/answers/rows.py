"""Checking grids and rosters: the same questions answered several times over."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import Any

from jotgate.core.answers.failures import CheckFailed, FailedInside
from jotgate.core.answers.offered import as_offered
from jotgate.core.answers.rules import Rules, as_set, range_faults
from jotgate.core.answers.texts import says_nothing
from jotgate.core.common.today import Today
from jotgate.core.common.values import Value, Values
from jotgate.core.conditions.condition import holds
from jotgate.core.conditions.cross_checks import CrossCheck, broken
from jotgate.core.items import Grid, Item, Roster, Row, is_valued

CheckOne = Callable[[Item, Any, Values], Value | None]
"""Checks an item's raw answer among values. Raises CheckFailed and FailedInside."""

_Line = tuple[dict[str, Value], dict[str, CheckFailed]]


def roster(
    item: Roster, raw: object, values: Values, check: CheckOne, today: Today
) -> tuple[Value, ...]:
    """One map of answers for each entry; an entry without any answer is left out."""
    lines = _maps(raw)
    found = [_entry(item, line, values, check, today) for line in lines]
    failed = {
        f"{number}/{place}": failure
        for number, (_, failures) in enumerate(found)
        for place, failure in failures.items()
    }
    if failed:
        raise FailedInside(failed)
    kept = tuple(answers for answers, _ in found if answers)
    if len(kept) < max(item.fewest, int(item.required)):
        raise CheckFailed("too_few_entries", limit=max(item.fewest, 1))
    if len(lines) > item.most:
        raise CheckFailed("too_many_entries", limit=item.most)
    return kept


def _entry(
    item: Roster, line: Mapping[str, Any], values: Values, check: CheckOne, today: Today
) -> _Line:
    kept, failed = _line(item.items, line, values, check, today)
    failed |= broken_checks(item.checks, {**values, **kept}, [one.key for one in item.items], today)
    return kept, failed


def broken_checks(
    checks: Iterable[CrossCheck], values: Values, order: list[str], today: Today
) -> dict[str, CheckFailed]:
    """The checks that do not hold, at the later of the answers that they hold together."""
    return {
        max(check.names(), key=lambda key: order.index(key) if key in order else -1): CheckFailed(
            "check", message=check.message
        )
        for check in checks
        if broken(check, values, today)
    }


def shown_inside(
    item: Roster, line: Mapping[str, Any], values: Values, check: CheckOne, today: Today
) -> tuple[Item, ...]:
    """What one entry of a roster shows, with what its answers so far leave to pick from."""
    kept, _ = _line(item.items, line, values, check, today)
    mine = {**values, **kept}
    return tuple(
        as_offered(one, mine, today) for one in item.items if holds(one.shown_when, mine, today)
    )


def _line(
    items: Iterable[Item], line: Mapping[str, Any], values: Values, check: CheckOne, today: Today
) -> _Line:
    """The answers that are kept of one entry or row, and the failures by place."""
    kept: dict[str, Value] = {}
    failed: dict[str, CheckFailed] = {}
    mine = dict(values)
    for one in items:
        if one.kind == "note" or not holds(one.shown_when, mine, today):
            continue
        try:
            value = check(one, line.get(one.key), mine)
        except CheckFailed as failure:
            failed[one.key] = failure
        except FailedInside as inside:
            failed |= {f"{one.key}/{place}": why for place, why in inside.failures.items()}
        else:
            if value is not None:
                kept[one.key] = mine[one.key] = value
    return kept, failed


def grid(
    item: Grid, raw: object, values: Values, check: CheckOne, today: Today
) -> Mapping[str, Value]:
    """For each row with an answer, one map of answers for each time it was answered."""
    if not isinstance(raw, dict):
        raise CheckFailed("wrong_kind")
    kept: dict[str, Value] = {}
    failed: dict[str, CheckFailed] = {}
    for row in item.rows:
        lines, failures = _row(item, row, raw.get(row.code), values, check, today)
        failed |= {f"{row.code}/{place}": why for place, why in failures.items()}
        if lines:
            kept[row.code] = lines
    if failed:
        raise FailedInside(failed)
    if not kept and item.required:
        raise CheckFailed("required")
    return kept


def _row(
    item: Grid, row: Row, raw: object, values: Values, check: CheckOne, today: Today
) -> tuple[tuple[Values, ...], dict[str, CheckFailed]]:
    lines = _maps(raw) if raw is not None else []
    if len(lines) > row.repeats:
        return (), {"0": CheckFailed("too_many_entries", limit=row.repeats)}
    kept: list[Values] = []
    failed: dict[str, CheckFailed] = {}
    needed = row.required
    for number, line in enumerate(lines):
        if blank(line):
            continue
        needed = False
        found, failures = _line(item.columns, line, values, check, today)
        failed |= {f"{number}/{place}": why for place, why in failures.items()}
        if found:
            kept.append(found)
    if needed:
        columns = [column.key for column in item.columns if column.required]
        failed |= {f"0/{key}": CheckFailed("required") for key in columns}
        if not columns:
            failed["0"] = CheckFailed("row_missing")
    return tuple(kept), failed


def blank(raw: object) -> bool:
    """Whether nothing is answered in `raw`, however deep."""
    if isinstance(raw, dict):
        return all(blank(one) for one in raw.values())
    if isinstance(raw, list):
        return all(blank(one) for one in raw)
    return raw is None or (isinstance(raw, str) and says_nothing(raw))


LONGEST_LIST = 200


def _maps(raw: object) -> list[dict[str, Any]]:
    if not isinstance(raw, list) or not all(isinstance(one, dict) for one in raw):
        raise CheckFailed("wrong_kind")
    if len(raw) > LONGEST_LIST:
        raise CheckFailed("too_many_entries", limit=LONGEST_LIST)
    return raw


def _roster_faults(item: Roster) -> Iterator[tuple[str, str]]:
    yield from range_faults(item.fewest, item.most)
    if not any(is_valued(one) for one in item.items):
        yield "nothing_asked", "Nothing is asked here yet. Add at least one question."


def _grid_faults(item: Grid) -> Iterator[tuple[str, str]]:
    if not item.rows or not item.columns:
        yield "nothing_asked", "A grid needs at least one row and one column."


RULES: Mapping[str, Rules] = {
    "grid": Rules(limits=as_set("totals"), faults=_grid_faults),
    "roster": Rules(limits=as_set("fewest", "most"), faults=_roster_faults),
}
"""What depends on what is asked inside stands with those who walk through an entry."""
