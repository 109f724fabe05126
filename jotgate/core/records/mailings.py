"""Letters to contacts, and what became of each."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from uuid import UUID

from jotgate.core.mailing import MailingText

MailingWay = Literal["mail", "paper"]
MailingState = Literal["preparing", "sending", "held", "done", "failed"]
LetterState = Literal["waiting", "sent", "left_out", "failed"]
"""`left_out` is one whose contact opted out, or whose pass was revoked, before it was sent."""


@dataclass(frozen=True)
class Mailing:
    """A letter to many. `batch_id` are the passes that it takes along, one for each; one that is a
    step of a round says of which. Of one on paper a letter was `sent` once it was printed. The
    numbers count letters by what became of them."""

    id: UUID
    questionnaire_id: UUID
    name: str
    text: MailingText
    state: MailingState
    made: datetime
    by: UUID | None
    batch_id: UUID | None
    round_id: UUID | None = None
    step: str = ""
    way: MailingWay = "mail"
    kind: str = ""
    waiting: int = 0
    sent: int = 0
    left_out: int = 0
    failed: int = 0


@dataclass(frozen=True)
class MailingLetter:
    """One letter to the address `email`, with the pass that it takes along."""

    id: UUID
    questionnaire_id: UUID
    mailing_id: UUID
    pass_id: UUID
    contact_id: UUID
    email: str
    state: LetterState
    tries: int
    error: str
    changed: datetime
