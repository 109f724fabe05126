"""What is wrong with checks across answers and with computed values."""

from collections.abc import Iterable, Iterator, Mapping

from jotgate.core.common.errors import Fault
from jotgate.core.common.wording import say
from jotgate.core.conditions.cross_checks import ALIKE, CrossCheck
from jotgate.core.conditions.formulas import Difference, First, Formula, Score, Sum, sources
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.items import Computed, Item, holding, inside, options_of
from jotgate.core.items.kinds import IN_PARTS, MEASURED, UNORDERED
from jotgate.core.publishing.condition_faults import (
    Earlier,
    condition_faults,
    fault,
    is_number,
    taken_from,
)


def check_faults(
    checks: Iterable[CrossCheck],
    here: Iterable[Item],
    earlier: Earlier,
    at: str,
    questionnaire: Questionnaire,
) -> Iterator[Fault]:
    """Faults of the checks of a page or roster whose items are `here`."""
    keys = {item.key for item in here}
    first = questionnaire.first_language
    for position, check in enumerate(checks, start=1):
        place = f"{at}/checks/{position}"
        if not say(check.message, first, first).strip():
            yield fault("no_text", place, "This check has no message yet.")
        if (check.right is None) is (check.number is None):
            message = "This check compares with an answer or with a number. Give one of them."
            yield fault("no_comparison", place, message)
        for name in check.names():
            if name not in earlier:
                message = f"This check is about {name}, which is not asked here or before."
                yield fault("not_earlier", place, message)
        if not keys & set(check.names()):
            message = "This check is about earlier pages only. Move it to the page that asks last."
            yield fault("check_elsewhere", place, message)
        yield from _comparable(check, earlier, place)
        yield from condition_faults(check.when, earlier, first, place, "This check applies when")


def _comparable(check: CrossCheck, earlier: Earlier, at: str) -> Iterator[Fault]:
    left = earlier.get(check.left)
    right = earlier.get(check.right or "")
    if left is None or (right is None and check.right is not None):
        return
    mine, other = _measure(left, earlier), "number" if right is None else _measure(right, earlier)
    unordered = mine in UNORDERED | IN_PARTS and check.relation not in ALIKE
    if mine != other or mine == "nothing" or unordered:
        message = "These two cannot be compared like this. Compare answers of the same kind."
        yield fault("no_comparison", at, message)


def _measure(item: Item, earlier: Earlier) -> str:
    """What of an answer is compared: a number, which a count is too, a day, a text, …"""
    found = {_measure_of(one) for one in taken_from(item, earlier) if one is not None}
    return found.pop() if len(found) == 1 else "nothing"


def _measure_of(item: Item) -> str:
    found = MEASURED[holding(item)]
    return item.kind if found == "parts" else found


def formula_faults(item: Computed, earlier: Earlier, at: str) -> Iterator[Fault]:
    """Faults of a computed value; it may name what stands before it, inside rosters too."""
    known = dict(earlier)
    if not isinstance(item.formula, First | Difference):
        for outer in earlier.values():
            known.update({one.key: one for one in inside(outer)})
    for key in sources(item.formula):
        if key not in known:
            message = f"This is computed from {key}, which is not asked before it."
            yield fault("not_earlier", at, message)
        elif not _usable(item.formula, known[key]):
            message = f"{key} does not have the kind of answer that this is computed from."
            yield fault("wrong_source", at, message)
    yield from _points(item.formula, known, at)


def _usable(formula: Formula, source: Item) -> bool:
    if isinstance(formula, Sum):
        return is_number(source)
    if isinstance(formula, Difference):
        return holding(source) in ("day", "moment")
    if isinstance(formula, Score):
        return bool(options_of(source)) or source.kind in ("yes_no", "scale")
    return True


def _points(formula: Formula, known: Mapping[str, Item], at: str) -> Iterator[Fault]:
    if not isinstance(formula, Score):
        return
    for key, points in formula.points.items():
        codes = {option.code for option in options_of(known[key])} if key in known else set()
        for code in points:
            if codes and code not in codes | {"else"}:
                message = f"Points are given for {code}, which is not an option of {key}."
                yield fault("no_such_answer", at, message)
