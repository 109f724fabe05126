"""Computed values as statements: which of them there can be, and when.

A score, count or sum is added up source by source; the totals that there can be so far are told
apart. The first of several answers is that of its source. A time since or until today is as its
one day is. What is computed in another way is an answer that nothing is known of.
"""

from calendar import monthrange
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from datetime import datetime, time, timedelta
from decimal import Decimal
from math import ceil, floor

from jotgate.core.common.today import Today
from jotgate.core.common.values import Value, as_decimal
from jotgate.core.conditions.condition import operands
from jotgate.core.conditions.formulas import (
    Count,
    Difference,
    First,
    Score,
    Sum,
    code_of,
    compute,
    sources,
)
from jotgate.core.items import Computed, PickMany, PickOne
from jotgate.core.items.kinds import kinds_that_hold
from jotgate.core.proof.answers import MOST_COUNTED, Answer
from jotgate.core.proof.cells import Cell, every_legal
from jotgate.core.proof.gates import FALSE, TRUE, Gates
from jotgate.core.proof.subjects import Subjects
from jotgate.core.walking.plan import Plan

MOST_TOTALS = 250
"""Totals that are told apart; what can come to more is not looked into."""

SEVERAL = kinds_that_hold("order", "files", "drawing", "entries")
"""The kinds, beside pick many, of which one answer may count several."""

Part = Sequence[tuple[int, Decimal | None]]
"""What can become of a source, one of it: a statement, and what it adds; None where nothing."""


def look_into(subjects: Subjects, plan: Plan, today: Today) -> None:
    """Tell apart in every source what a computed value that matters is told apart by."""
    for item in reversed(list(plan.questionnaire.items())):
        if isinstance(item, Computed) and subjects.matters(item.key):
            _look_into(subjects, item, plan, today)


def _look_into(subjects: Subjects, item: Computed, plan: Plan, today: Today) -> None:
    formula = item.formula
    for key in sources(formula):
        source = plan.items.get(key)
        if source is None:
            continue
        if isinstance(source, Computed):
            subjects.summed.add(key)
        if isinstance(formula, First):
            subjects.leaves[key] += [
                leaf.model_copy(update={"item": key}) for leaf in subjects.leaves[item.key]
            ]
            subjects.numbers[key] += subjects.numbers[item.key]
            subjects.joined[key] |= subjects.joined.get(item.key, set())
        elif isinstance(formula, Difference):
            edges = _edges(subjects, item, formula, today)
            at_day = source.kind == "date"
            subjects.numbers[key] += [one.date() if at_day else one for one in edges]
        elif isinstance(formula, Count):
            if isinstance(source, PickMany):
                subjects.codes[key] |= source.codes
            elif source.kind not in SEVERAL:
                subjects.once.add(key)
        elif isinstance(source, PickOne | PickMany) and isinstance(formula, Score):
            subjects.codes[key] |= set(formula.points[key])
        elif isinstance(source, Computed):
            if not isinstance(source.formula, First | Difference):
                subjects.exact.add(key)
        elif (every := every_legal(source, today)) is not None:
            subjects.numbers[key] += every
            subjects.exact.add(key)


def _edges(subjects: Subjects, item: Computed, formula: Difference, today: Today) -> list[datetime]:
    """The moments at which a number of units that the value is compared with is reached."""
    named = [one for leaf in subjects.leaves[item.key] for one in operands(leaf)]
    found = (as_decimal(str(one)) for one in [*named, *subjects.numbers[item.key]])
    units = {
        near
        for number in found
        if number is not None and abs(number) < 1_000_000
        for near in range(floor(number) - 1, ceil(number) + 2)
    }
    sign = -1 if formula.until == "today" else 1
    start = datetime.combine(today.day, time())
    moved = (_moved(start, sign * number, formula.unit) for number in sorted(units))
    return [one.replace(tzinfo=today.zone) for one in moved if one is not None]


def _moved(start: datetime, by: int, unit: str) -> datetime | None:
    """So many units later, at the end of a shorter month; None where there is no such year."""
    try:
        if unit not in ("months", "years"):
            return start + timedelta(**{unit: by})
        months = start.year * 12 + start.month - 1 + (by if unit == "months" else by * 12)
        year, month = divmod(months, 12)
        return start.replace(
            year=year, month=month + 1, day=min(start.day, monthrange(year, month + 1)[1])
        )
    except (OverflowError, ValueError):
        return None


def computed(
    gates: Gates,
    item: Computed,
    active: int,
    answers: Mapping[str, Answer],
    subjects: Subjects,
    today: Today,
) -> Answer | None:
    """The value of `item` as an answer; None where nothing is known of it."""
    keys = sources(item.formula)
    known = {key: answers[key] for key in keys if key in answers}
    if len(known) < len(keys) or not known:
        return None
    match item.formula:
        case First():
            cells = _first(gates, known)
        case Difference() if subjects.joined.get(item.key):
            cells = None
        case Difference():
            cells = _since(item.formula, known, today)
        case _:
            parts = list(_parts(item.formula, known, subjects))
            cells = None if None in parts else _totals(gates, [one for one in parts if one])
    if cells is None:
        return None
    given = [(gates.both(active, literal), Cell(None, value)) for literal, value in cells]
    return Answer(active, gates.either(*(one for one, _ in given)), tuple(given))


Found = list[tuple[int, Value]]


def _first(gates: Gates, known: Mapping[str, Answer]) -> Found | None:
    cells: Found = []
    before: list[int] = []
    for answer in known.values():
        for one, cell in answer.cells:
            if cell.value is None:
                return None
            cells.append((gates.both(one, *before), cell.value))
        if answer.options or answer.others or answer.entries:
            return None
        before.append(-answer.answered)
    return cells


def _since(formula: Difference, known: Mapping[str, Answer], today: Today) -> Found | None:
    cells: Found = []
    for key, answer in known.items():
        for one, cell in answer.cells:
            value = None if cell.value is None else compute(formula, {key: cell.value}, {}, today)
            if value is None:
                return None
            cells.append((one, value))
    return cells


def _parts(
    formula: Score | Count | Sum, known: Mapping[str, Answer], subjects: Subjects
) -> Iterator[Part | None]:
    """What each source can add; None for one of which that is not known."""
    for key, answer in known.items():
        left = (-answer.answered, None)
        picks = answer.options
        if isinstance(formula, Count):
            yield from _counted(answer, left, key in subjects.once)
        elif picks or answer.others:
            points = formula.points[key] if isinstance(formula, Score) else {}
            yield [left, (answer.answered, Decimal(0))]
            for code, pick in picks.items():
                yield [(pick, points.get(code, Decimal(0))), (-pick, None)]
        elif _is_told_apart(key, answer, subjects):
            yield [left, *((one, _adds(formula, key, cell)) for one, cell in answer.cells)]
        else:
            yield None


def _is_told_apart(key: str, answer: Answer, subjects: Subjects) -> bool:
    """Whether each class of the answer adds one number."""
    told = key in subjects.exact or key in subjects.codes
    return told and all(cell.value is not None for _, cell in answer.cells)


def _adds(formula: Score | Sum, key: str, cell: Cell) -> Decimal | None:
    if isinstance(formula, Score):
        return formula.points[key].get(code_of(cell.value), Decimal(0))
    return cell.value if isinstance(cell.value, Decimal) else None


def _counted(answer: Answer, left: tuple[int, None], once: bool) -> Iterator[Part | None]:
    """How many are picked, or that there is an answer."""
    if once:
        yield [left, (answer.answered, Decimal(1))]
    elif answer.others or not 0 < len(answer.options) <= MOST_COUNTED:
        yield None
    else:
        yield [left, (answer.answered, Decimal(0))]
        for pick in answer.options.values():
            yield [(pick, Decimal(1)), (-pick, None)]


def _totals(gates: Gates, parts: Sequence[Part]) -> Found | None:
    """Every total there can be."""
    totals: dict[Decimal | None, int] = {None: TRUE}
    for part in parts:
        ways: dict[Decimal | None, list[int]] = defaultdict(list)
        for total, so_far in totals.items():
            for literal, adds in part:
                both = gates.both(so_far, literal)
                if both != FALSE:
                    now = total if adds is None else (total or Decimal(0)) + adds
                    ways[now].append(both)
        if len(ways) > MOST_TOTALS:
            return None
        totals = {total: gates.either(*literals) for total, literals in ways.items()}
    return [(literal, total) for total, literal in totals.items() if total is not None]
