"""Which scope of a token opens which route."""

from collections.abc import Mapping, Sequence
from enum import Enum

from jotgate.core.records.tokens import Scope

_READ: Mapping[str, Scope] = {
    "desk": "read_questionnaires",
    "questionnaires": "read_questionnaires",
    "gate": "read_questionnaires",
    "exchange": "read_questionnaires",
    "proof": "read_questionnaires",
    "trial": "read_questionnaires",
    "dispatch": "read_questionnaires",
    "bank": "read_questionnaires",
    "outlines": "read_questionnaires",
    "media": "read_questionnaires",
    "links": "read_questionnaires",
    "entries": "read_entries",
    "registers": "read_registers",
}
"""By the tag of a route; what is not here is for people alone."""

_WRITE: Mapping[Scope, Scope] = {
    "read_questionnaires": "write_questionnaires",
    "read_registers": "write_registers",
    "read_entries": "read_entries",
}
"""For methods that change things; revealing an entry is reading it."""


def scope_of(tags: Sequence[str | Enum], method: str) -> Scope | None:
    """The scope that a token needs for a route with `tags`; None where no token opens it."""
    found = next((_READ[str(tag)] for tag in tags if str(tag) in _READ), None)
    if found is None or method in ("GET", "HEAD"):
        return found
    return _WRITE[found]
