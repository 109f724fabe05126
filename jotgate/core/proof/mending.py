"""Repairs of faults that moving and deleting bring about: a rule that names what is no longer
before it, or that leads where nothing is any more."""

from collections.abc import Iterable, Iterator

from jotgate.core.common.errors import Fault
from jotgate.core.conditions.condition import Condition, named
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.proof.findings import Finding
from jotgate.core.proof.places import Places
from jotgate.core.proof.repairs import Repair, Repairs, member_of, moved

_OF_CONDITIONS = frozenset({"not_earlier", "no_such_answer", "no_saved", "no_count", "bad_pattern"})
_OF_TARGETS = frozenset({"not_later", "no_finish"})


def mended(questionnaire: Questionnaire, faults: Iterable[Fault]) -> list[Finding]:
    """`faults` as findings, each with the repairs there are for it."""
    places = Places(questionnaire)
    repairs = Repairs(places)
    found = []
    for fault in faults:
        try:
            offered = tuple(_repairs(questionnaire, fault, places, repairs))
        except (StopIteration, KeyError, AttributeError, IndexError, ValueError):
            offered = ()
        found.append(Finding(fault.code, "wrong", fault.at, fault.message, (), offered))
    return found


def _repairs(
    questionnaire: Questionnaire, fault: Fault, places: Places, repairs: Repairs
) -> Iterator[Repair]:
    if fault.code in _OF_TARGETS:
        yield repairs.without(fault.at)
    if fault.code not in _OF_CONDITIONS:
        return
    is_rule = "/skips/" in fault.at
    condition: Condition | None = getattr(places.part(fault.at), member_of(fault.at), None)
    if condition is None:
        return
    if fault.code == "not_earlier":
        yield from _moves(questionnaire, fault.at, condition, places)
    if is_rule:
        yield repairs.without(fault.at)
    else:
        yield repairs.without_condition(fault.at, "Remove the condition")


def _moves(
    questionnaire: Questionnaire, at: str, condition: Condition, places: Places
) -> Iterator[Repair]:
    """What is named moved before the place that names it, where it stands behind that."""
    number = places.number(at)
    first_behind = _position(at, places) if "/items/" in at else 0
    if "/skips/" in at:
        number, first_behind = number + 1, 0
    to = _target(at, places)
    for page_number, page in enumerate(questionnaire.pages):
        for position, item in enumerate(page.items):
            behind = (page_number, position) >= (number, first_behind)
            if behind and to[0] >= 0 and item.key in named(condition):
                path = f"/pages/{page_number}/items/{position}"
                target = f"/pages/{to[0]}/items/{to[1]}"
                yield moved(f"Ask {places.item(item.key)} before it", item, path, target)


def _position(at: str, places: Places) -> int:
    """Where the item of `at` stands on its page."""
    key = at.split("/")[3]
    return next(n for n, one in enumerate(places.page(at).items) if one.key == key)


def _target(at: str, places: Places) -> tuple[int, int]:
    """The place right before the one that names something: a page and a position on it."""
    number = places.number(at)
    if "/items/" in at:
        return number, _position(at, places)
    if "/skips/" in at:
        return number, len(places.page(at).items)
    return number - 1, len(places.questionnaire.pages[number - 1].items)
