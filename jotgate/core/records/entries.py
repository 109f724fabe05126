"""An entry that is to be stored, and one that was only started."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from uuid import UUID

from jotgate.core.entries.entry import Stored
from jotgate.core.gate.places import Take
from jotgate.core.records.ciphertext import Ciphertext
from jotgate.core.walking.arrival import Came


@dataclass(frozen=True)
class Submission:
    """An entry before it has its number. `sealed` are its restricted answers, encrypted; `about` is
    the id of the thing in another system that it is about, where it says that; `claims` are those
    of the visitor's sign-in; `left_empty` the open questions that were asked and not answered."""

    id: UUID
    questionnaire_id: UUID
    edition: int
    arrived: datetime
    finish: str
    answers: Stored
    flags: list[str]
    idempotency_key: str
    body_hash: bytes
    sealed: Ciphertext | None
    about: str | None = None
    came: Came = Came()
    language: str = ""
    claims: Mapping[str, str] = field(default_factory=dict)
    left_empty: list[str] = field(default_factory=list)


@dataclass(frozen=True)
class Taking:
    """What a submission takes at the gate, whose revision it was let in by.

    `hold` is the hash of the name under which places may be held for it, `held` are the cells that
    are. `person` is who sends it, where that is limited: fewer than `most` entries since `since`,
    and none since `paused`.
    """

    gate_revision: int
    takes: tuple[Take, ...] = ()
    hold: bytes = b""
    held: frozenset[str] = frozenset()
    person: bytes | None = None
    most: int = 0
    since: datetime | None = None
    paused: datetime | None = None

    @property
    def is_placed(self) -> bool:
        return bool(self.takes or self.held)


@dataclass(frozen=True)
class Started:
    token_hash: str
    questionnaire_id: UUID
    edition: int
    sealed: bytes
    touched: datetime
    page: str = ""


@dataclass(frozen=True)
class Version:
    """An entry as it was until it was `replaced`, by whoever sent it or by somebody of the office,
    who said `why`; versions count from 1."""

    version: int
    replaced: datetime
    edition: int
    account_id: UUID | None = None
    why: str = ""
    waits: bool = False
