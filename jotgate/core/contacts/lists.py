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
    is when that arrived."""

    list_id: UUID
    questionnaire_id: UUID
    entry_number: int
    title: str
    edition: int
    question: str
    answer: str
    given: datetime
