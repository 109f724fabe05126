"""Dispatch rules as they are being written, which may not be rules yet."""

from collections.abc import Iterator
from typing import Any

from pydantic import ValidationError

from jotgate.core.common.errors import Fault
from jotgate.core.dispatch.rules import OTHERWISE, Dispatch

MOST = 50
"""Faults that are told at most."""


def read_rules(written: Any) -> tuple[Dispatch, tuple[Fault, ...]]:
    """The rules that are `written` in JSON, none of them where that cannot be read, and what keeps
    it from being so, each at its rule."""
    try:
        return Dispatch.model_validate(written), ()
    except ValidationError as why:
        return Dispatch(), tuple(_faults(why, written))


def _faults(why: ValidationError, written: Any) -> Iterator[Fault]:
    for error in why.errors(include_url=False, include_input=False)[:MOST]:
        message = error["msg"].removeprefix("Value error, ")
        yield Fault(code=error["type"], at=_place(error["loc"], written), message=message)


def _place(place: tuple[int | str, ...], written: Any) -> str:
    """Where it is: by the key of a rule, in place of its position."""
    if len(place) > 1 and place[0] == "rules":
        try:
            key = written["rules"][place[1]]["key"]
        except (KeyError, IndexError, TypeError):
            key = place[1]
        return "/".join(map(str, ("rules", key, *place[2:])))
    return "/".join(map(str, place)) or OTHERWISE
