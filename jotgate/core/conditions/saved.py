"""Conditions that a questionnaire saves under a name, to be used in several places."""

from collections.abc import Callable
from typing import Annotated, Any, TypeVar

from pydantic import BaseModel, StringConstraints

from jotgate.core.common.part import Key, Part
from jotgate.core.conditions.condition import (
    AllOf,
    AnyOf,
    Condition,
    Entries,
    EntryCount,
    Node,
    Not,
    Saved,
)

T = TypeVar("T", bound=BaseModel)


class SavedCondition(Part):
    """`name` is what staff read; conditions mean it by its `key`."""

    key: Key
    name: Annotated[str, StringConstraints(max_length=100)]
    when: Condition


def expanded(document: T, saved: tuple[SavedCondition, ...]) -> T:
    """`document` with each use of a saved condition replaced by what that one says.

    A name that nothing is saved under stays, and counts as false; so does one inside of
    another saved condition.
    """
    meanings = {one.key: one.when for one in saved}
    return _in_part(document, lambda found: _meant(found, meanings)) if meanings else document


def in_full(condition: Condition, saved: tuple[SavedCondition, ...]) -> Condition:
    """`condition` with each use of a saved one replaced by what that one says."""
    if not saved:
        return condition
    found: Condition = _meant(condition, {one.key: one.when for one in saved})
    return found


def _meant(condition: Any, meanings: dict[str, Condition]) -> Any:
    match condition:
        case Saved():
            return meanings.get(condition.name, condition)
        case AllOf() | AnyOf():
            parts = tuple(_meant(part, meanings) for part in condition.parts)
            return condition.model_copy(update={"parts": parts})
        case Not():
            return condition.model_copy(update={"part": _meant(condition.part, meanings)})
        case Entries() | EntryCount() if condition.where is not None:
            return condition.model_copy(update={"where": _meant(condition.where, meanings)})
    return condition


def _in_part(part: Any, change: Callable[[Any], Any]) -> Any:
    """`part` with `change` made to every condition in it; what stays the same is shared."""
    if isinstance(part, Node):
        return change(part)
    if isinstance(part, tuple):
        new = tuple(_in_part(one, change) for one in part)
        return new if any(a is not b for a, b in zip(new, part, strict=True)) else part
    if not isinstance(part, BaseModel):
        return part
    changed = {}
    for name in type(part).model_fields:
        value = getattr(part, name)
        new = _in_part(value, change)
        if new is not value:
            changed[name] = new
    return part.model_copy(update=changed) if changed else part
