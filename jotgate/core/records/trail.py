"""The trail: who did and who saw what."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal
from uuid import UUID

Action = Literal[
    "signed_in",
    "created",
    "published",
    "gate_changed",
    "dispatch_changed",
    "register_created",
    "restricted_seen",
    "set_free",
]


@dataclass(frozen=True)
class TrailEntry:
    """One line of the trail. `detail` holds names and keys, never answers."""

    id: int
    at: datetime
    who: str
    action: Action
    questionnaire_id: UUID | None
    entry_id: UUID | None
    detail: dict[str, Any]
