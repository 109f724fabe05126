"""What keeps a gate from being saved: places that no answer divides, words with unknown slots."""

from collections.abc import Collection, Iterator
from itertools import chain
from math import prod

from jotgate.core.common.errors import Fault
from jotgate.core.common.wording import slots
from jotgate.core.gate.settings import Gate, Places
from jotgate.core.gate.words import SLOTS
from jotgate.core.items import options_of
from jotgate.core.walking.plan import Plan

DIVIDING = frozenset({"pick_one", "pick_many", "yes_no", "carried"})
"""The kinds of items whose answers can divide places."""

COUNTING = frozenset({"number", "computed"})
"""The kinds whose answers can be counted."""

MOST_CELLS = 2_000
"""Combinations of values that one kind of places can have: all of them are looked at for a page."""


def faults_of(gate: Gate, plan: Plan | None, statuses: Collection[str]) -> list[Fault]:
    """What is wrong with a gate for the newest edition, None before there is one, and for the keys
    of the statuses that entries can have."""
    found = (_of_places(gate, plan), _of_words(gate), _of_waiting(gate))
    return [*chain(*found), *_of_statuses(gate, statuses)]


def _of_statuses(gate: Gate, statuses: Collection[str]) -> Iterator[Fault]:
    for key in sorted(gate.statuses - set(statuses)):
        message = f"There is no status with the key {key}."
        yield Fault(code="unknown_status", at="freed_by", message=message)


def _of_places(gate: Gate, plan: Plan | None) -> Iterator[Fault]:
    for n, one in enumerate(gate.places):
        at = f"places/{n}"
        if plan is not None:
            yield from _of_one(one, plan, at)
        elif one.by or one.amount:
            message = "Publish the questionnaire first: its questions divide these places."
            yield Fault(code="not_published", at=at, message=message)


def _of_one(one: Places, plan: Plan, at: str) -> Iterator[Fault]:
    if prod(_ways(plan, key) for key in one.by) > MOST_CELLS:
        message = f"These are more than {MOST_CELLS} combinations. Divide the places by less."
        yield Fault(code="too_many", at=at, message=message)
    asked = {item.key: item for item in plan.questionnaire.items()}
    for key in (*one.by, *((one.amount,) if one.amount else ())):
        item, kinds = asked.get(key), COUNTING if key == one.amount else DIVIDING
        if item is None or item.kind not in kinds:
            message = f"No question with the key {key} of the newest edition can be used here."
            yield Fault(code="unknown_item", at=at, message=message)
        elif item.kind == "carried" and not item.options:
            message = f"{key} can be anything: only values of a list can divide places."
            yield Fault(code="no_options", at=at, message=message)
        elif plan.is_restricted(key):
            message = f"Answers to {key} are restricted: what is full would tell of them."
            yield Fault(code="restricted", at=at, message=message)


def _ways(plan: Plan, key: str) -> int:
    """How many values of a question can divide places, something else included."""
    item = plan.items.get(key)
    return len(options_of(item)) + 2 if item is not None else 1


def _of_words(gate: Gate) -> Iterator[Fault]:
    for reason, text in gate.words.items():
        for language, words in text.items():
            unknown = [name for name in slots(words) if name not in SLOTS]
            if unknown:
                message = f"There is no {{{unknown[0]}}} here: use one of {', '.join(SLOTS)}."
                yield Fault(code="unknown_slot", at=f"words/{reason}/{language}", message=message)


def _of_waiting(gate: Gate) -> Iterator[Fault]:
    if gate.waiting.on and not any(not one.by for one in gate.places):
        message = "A waiting list needs places in all: set how many there are."
        yield Fault(code="no_places", at="waiting", message=message)
