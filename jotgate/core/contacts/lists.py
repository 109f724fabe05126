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
