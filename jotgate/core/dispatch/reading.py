"""Dispatch rules as they are being written, which may not be rules yet."""

from collections.abc import Iterator, Mapping
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


_CHOOSE: Mapping[str, str] = {
    "status": "Choose a status.",
    "person_id": "Choose who takes care.",
    "team_id": "Choose a team.",
    "field": "Choose a field of contacts.",
    "key": "Choose a carried value.",
    "name": "Choose what is taken from the entry.",
    "text": "Write the text.",
    "list_id": "Choose a contact list.",
    "consent": "Choose the question that asks whether they want to be on the list.",
}
"""What is said of a member of an act that is empty still."""


def _faults(why: ValidationError, written: Any) -> Iterator[Fault]:
    for error in why.errors(include_url=False)[:MOST]:
        message = error["msg"].removeprefix("Value error, ")
        if error["input"] == "":
            message = _CHOOSE.get(str(error["loc"][-1]), message)
        yield Fault(code=error["type"], at=_place(error["loc"], written), message=message)


def _place(place: tuple[int | str, ...], written: Any) -> str:
    """Where it is: by the key of a rule, in place of its position."""
    if len(place) > 1 and place[0] in ("rules", "on_status"):
        try:
            key = written[place[0]][place[1]]["key"]
        except (KeyError, IndexError, TypeError):
            key = place[1]
        return "/".join(map(str, (place[0], key, *place[2:])))
    return "/".join(map(str, place)) or OTHERWISE
