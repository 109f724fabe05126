"""Work that takes a while, done by the worker, with how far it is."""

from dataclasses import dataclass, field
from datetime import datetime
from typing import Any, Literal
from uuid import UUID

WorkKind = Literal[
    "make_passes",
    "make_mailing",
    "look_at_contacts",
    "bring_contacts",
    "bring_rows",
    "replay",
    "entries",
    "release",
    "print_letters",
    "bring_no_letters",
]
WorkState = Literal["waiting", "running", "done", "failed"]


@dataclass(frozen=True)
class Work:
    """`done` of `total` rows. `arguments` is what it works on, `result` what came of it: where it
    failed, what is wrong (`faults`)."""

    id: UUID
    account_id: UUID
    questionnaire_id: UUID | None
    kind: WorkKind
    state: WorkState
    done: int
    total: int
    arguments: dict[str, Any]
    result: dict[str, Any]
    changed: datetime


@dataclass(frozen=True)
class UploadedTable:
    """A table that somebody brought, kept in `chunks` pieces. `sample` are its first rows; it is
    `kept` once something was made of it that goes on needing it."""

    id: UUID
    account_id: UUID
    name: str
    columns: tuple[str, ...]
    sample: tuple[tuple[str, ...], ...] = field(repr=False)
    rows: int
    chunks: int
    made: datetime
    kept: bool = False
