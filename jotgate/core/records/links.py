"""Ways in that are kept: named links, and passes with the batches that they were made in."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from uuid import UUID

from jotgate.core.walking.arrival import Pairs

Way = Literal["", "l", "p", "s", "e"]
"""By which address somebody comes: the plain one, a named link, a pass, a sealed link, or as
somebody of the office who enters or corrects an entry."""


@dataclass(frozen=True)
class NamedLink:
    """`entries` counts what came by it, `latest` is when that was last. `code` stands in its
    address; where it carries sealed values, nobody can guess it."""

    id: UUID
    questionnaire_id: UUID
    name: str
    code: str
    values: Pairs
    made: datetime
    shut: datetime | None
    entries: int
    latest: datetime | None


@dataclass(frozen=True)
class Batch:
    """Passes that were made together. `uses` is how many entries each is good for, None for as many
    as one likes; `used` counts the entries that they brought, `live` those that work still."""

    id: UUID
    questionnaire_id: UUID
    name: str
    made: datetime
    by: UUID | None
    passes: int
    expires: datetime | None
    uses: int | None
    live: int = 0
    used: int = 0


@dataclass(frozen=True)
class Pass:
    """`number` counts the passes of its batch from 1. `used` counts the entries that it brought,
    `started` is when its holder first went on from the first page."""

    id: UUID
    questionnaire_id: UUID
    batch_id: UUID
    number: int
    contact_id: UUID | None
    sealed: bytes | None
    expires: datetime | None
    uses: int | None
    used: int
    revoked: datetime | None
    started: datetime | None = None

    @property
    def is_used_up(self) -> bool:
        return self.uses is not None and self.used >= self.uses

    def is_over(self, now: datetime) -> bool:
        return self.expires is not None and self.expires <= now
