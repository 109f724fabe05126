"""Files that were sent, and media that pages show."""

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID


@dataclass(frozen=True)
class SentFile:
    """`size` and `received` are in bytes; `item` is the key of the question, `key_id` that of the
    data key that its name and its content are under."""

    id: UUID
    questionnaire_id: UUID
    edition: int
    item: str
    name: str
    size: int
    received: int
    type: str | None
    entry_id: UUID | None
    begun: datetime
    key_id: UUID | None = None


@dataclass(frozen=True)
class Medium:
    """A picture, a video or captions that a questionnaire shows; one of the office is of none."""

    id: UUID
    questionnaire_id: UUID | None
    name: str
    type: str
    size: int
    added: datetime
