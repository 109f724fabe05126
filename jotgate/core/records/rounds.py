"""Rounds as they are kept, and who is asked in them."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from uuid import UUID

from jotgate.core.contacts.contact import Contact
from jotgate.core.records.links import Pass
from jotgate.core.rounds.round import Round
from jotgate.core.rounds.standing import Facts

RoundState = Literal["draft", "running", "stopped"]


@dataclass(frozen=True)
class KeptRound:
    """`drawn` is when people were drawn, of `drawn_from` who could have been."""

    id: UUID
    questionnaire_id: UUID
    round: Round
    revision: int
    state: RoundState
    made: datetime
    by: UUID | None
    drawn: datetime | None = None
    drawn_from: int = 0


@dataclass(frozen=True)
class Portion:
    """One that was released; `batch_id` are the passes of its people."""

    number: int
    released: datetime
    batch_id: UUID


@dataclass(frozen=True)
class StepRun:
    """That a step went to a portion, to `asked` people."""

    portion: int
    step: str
    began: datetime
    asked: int
    mailing_id: UUID | None


@dataclass(frozen=True)
class Drawn:
    """Somebody who was drawn, in which place of the draw."""

    contact_id: UUID
    number: int
    stratum: str
    zone: str
    portion: int


@dataclass(frozen=True)
class Asked:
    """Somebody in a round as they stand. `name` is empty where the contact was taken out."""

    contact_id: UUID
    name: str
    stratum: str
    portion: int
    facts: Facts
    on_step: str
    next_try: datetime | None
    code_why: str


@dataclass(frozen=True)
class Attempt:
    """A call or a visit, with what came of it."""

    id: UUID
    contact_id: UUID
    step: str
    way: str
    at: datetime
    outcome: str
    note: str
    again: datetime | None
    by: UUID | None


@dataclass(frozen=True)
class Print:
    """The newest PDF of a mailing on paper."""

    mailing_id: UUID
    at: datetime
    letters: int
    pages: int


@dataclass(frozen=True)
class ToPrint:
    """A letter that is to be printed; `hash` is that of the secret of its pass."""

    id: UUID
    postcode: str
    hash: bytes
    one: Pass
    contact: Contact
