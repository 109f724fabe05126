"""A contact, and one that was given by somebody of the office read and checked."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import NamedTuple
from uuid import UUID

from jotgate.core.common.errors import Fault
from jotgate.core.contacts.fields import BUILT_IN, NotFit, Reading


@dataclass(frozen=True)
class Contact:
    """`key` is what it is called in another system. `fields` are those of the office's own, by
    key; what is empty is not there. `opted_out` is since when it must not be written to, `bounced`
    since when letters come back from its address for good. `added` is when it came to the office
    and `came` from where, where that was noted."""

    id: UUID
    key: str = ""
    name: str = ""
    email: str = ""
    phone: str = ""
    language: str = ""
    fields: Mapping[str, str] = field(default_factory=dict)
    opted_out: datetime | None = None
    revision: int = 1
    bounced: datetime | None = None
    added: datetime | None = None
    came: str = ""

    @property
    def called(self) -> str:
        """What staff read where there is room for one word of it."""
        return self.name or self.email or self.key or self.phone


class Origin(NamedTuple):
    """When a contact came, and from where, as staff read it: "the table wells.csv"."""

    at: datetime
    told: str


def facts_of(contact: Contact) -> dict[str, str]:
    """What carried values and texts may take of a contact, by field."""
    own = {name: getattr(contact, name) for name in BUILT_IN}
    return {name: text for name, text in {**own, **contact.fields}.items() if text}


NOBODY = "Give a name, a mail address, a phone number or a key, so that it can be told from others."


def says_who(values: Mapping[str, str]) -> bool:
    return any(values.get(name) for name in ("key", "name", "email", "phone"))


def read_contact(
    known: Mapping[str, Reading], values: Mapping[str, str]
) -> tuple[dict[str, str], list[Fault]]:
    """Values of a whole contact by field as they are kept, empty ones left out; and what is wrong,
    each at its field. `known` reads each field."""
    found: dict[str, str] = {}
    faults: list[Fault] = []
    unfit = False
    for name, given in values.items():
        if name not in known:
            faults.append(Fault(code="no_field", at=name, message=f"There is no field {name}."))
        elif given.strip():
            try:
                found[name] = known[name](given.strip())
            except NotFit as why:
                unfit = True
                faults.append(Fault(code="does_not_fit", at=name, message=str(why)))
    if not unfit and not says_who(found):
        faults.append(Fault(code="nobody", at="name", message=NOBODY))
    return found, faults
