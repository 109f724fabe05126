"""A contact list as it is shown."""

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID


@dataclass(frozen=True)
class ContactList:
    """`contacts` are on it, `reachable` of them did not opt out."""

    id: UUID
    name: str
    made: datetime
    contacts: int
    reachable: int


@dataclass(frozen=True)
class Consent:
    """That a contact agreed to be on a list: in which entry of which edition, called by the title
    of its questionnaire, what was asked, and what answered, in the language of the answers. `given`
    is when that arrived, `confirmed` when they said so once more to a letter."""

    list_id: UUID
    questionnaire_id: UUID
    entry_number: int
    title: str
    edition: int
    question: str
    answer: str
    given: datetime
    confirmed: datetime | None = None


@dataclass(frozen=True)
class Joining:
    """Who is to be on a list by a consent in an entry: the contact, or else whoever has the mail
    address `email`, who becomes a contact called `name` where there is none."""

    contact_id: UUID | None
    email: str
    name: str
    language: str
    entry_id: UUID
    consent: Consent


@dataclass(frozen=True)
class ListQuestion:
    """A letter that asks whether somebody wants to be on a list, and when they said yes."""

    id: UUID
    joining: Joining
    asked: datetime
    agreed: datetime | None = None
