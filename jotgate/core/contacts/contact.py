"""A contact, and one that was given by somebody of the office read and checked."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from uuid import UUID

from jotgate.core.common.errors import Fault
from jotgate.core.contacts.fields import BUILT_IN, ContactField, NotFit, Reading


@dataclass(frozen=True)
class Contact:
    """`key` is what it is called in another system. `fields` are those of the office's own, by
    key; what is empty is not there. `opted_out` is since when it must not be written to."""

    id: UUID
    key: str = ""
    name: str = ""
    email: str = ""
    phone: str = ""
    language: str = ""
    fields: Mapping[str, str] = field(default_factory=dict)
    opted_out: datetime | None = None
    revision: int = 1

    @property
    def called(self) -> str:
        """What staff read where there is room for one word of it."""
        return self.name or self.email or self.key or self.phone


def facts_of(contact: Contact) -> dict[str, str]:
    """What carried values and texts may take of a contact, by field."""
    own = {name: getattr(contact, name) for name in BUILT_IN}
    return {name: text for name, text in {**own, **contact.fields}.items() if text}


def read_values(
    known: Mapping[str, Reading], values: Mapping[str, str]
) -> tuple[dict[str, str], list[tuple[str, str]]]:
    """Values by field as they are kept, empty ones left out; and what is wrong by field."""
    found: dict[str, str] = {}
    wrong: list[tuple[str, str]] = []
    for name, given in values.items():
        trimmed = given.strip()
        if not trimmed:
            continue
        try:
            found[name] = known[name](trimmed)
        except NotFit as why:
            wrong.append((name, str(why)))
    return found, wrong


NOBODY = "Give a name, a mail address, a phone number or a key, so that it can be told from others."


def says_who(values: Mapping[str, str]) -> bool:
    return any(values.get(name) for name in ("key", "name", "email", "phone"))


def contact_faults(
    fields: tuple[ContactField, ...], values: Mapping[str, str], known: Mapping[str, Reading]
) -> Iterator[Fault]:
    """What is wrong with values that are to be a whole contact, each at its field."""
    for name in values:
        if name not in known:
            yield Fault(code="no_field", at=name, message=f"There is no field {name}.")
    found, wrong = read_values(known, {k: v for k, v in values.items() if k in known})
    for name, why in wrong:
        yield Fault(code="does_not_fit", at=name, message=why)
    if not wrong and not says_who(found):
        yield Fault(code="nobody", at="name", message=NOBODY)
