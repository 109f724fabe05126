"""What dispatch did: runs, and rows in registers."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from jotgate.core.entries.about import Thing

RunState = Literal["waiting", "done", "failing"]


@dataclass(frozen=True)
class Run:
    """One effect. `detail` of a row: register and row; of a notice: to, subject, body."""

    id: UUID
    questionnaire_id: UUID
    entry_id: UUID
    rule: str
    position: int
    kind: Literal["row", "notice"]
    state: RunState
    detail: dict[str, Any]
    tries: int
    last_error: str | None
    changed: datetime


@dataclass(frozen=True)
class Row:
    id: int
    values: dict[str, str | bool]
    entry_number: int
    filed: datetime
    about: Thing | None = None
