"""What dispatch rules speak of beside their questionnaire."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from uuid import UUID

from jotgate.core.contacts.fields import ContactField
from jotgate.core.entries.facts import NOTHING_AROUND, Around
from jotgate.core.registers.cells import Person
from jotgate.core.registers.columns import Register


@dataclass(frozen=True)
class Hook:
    """Another system that is called, by its address on the web. One that is `cleared` is told what
    is restricted too."""

    id: UUID
    name: str
    address: str
    cleared: bool = False


@dataclass(frozen=True)
class Known:
    """Registers and systems to call by id, the mail addresses of teams, what stands around the
    questionnaire's entries, and the people of the office. `carers` are those of them who may see
    the entries, by id; `turns` has of each team those who may, the one whose turn it is first.
    Contacts have `contact_fields` of the office's own, and are on `lists`; `counted` are the keys
    by which the gate counts places. Whoever does not `reach` contacts has no rule change them.
    `questionnaire_id` is whose rules they are."""

    registers: Mapping[UUID, Register] = field(default_factory=dict)
    hooks: Mapping[UUID, Hook] = field(default_factory=dict)
    teams: Mapping[UUID, tuple[str, ...]] = field(default_factory=dict)
    around: Around = NOTHING_AROUND
    people: Mapping[str, Person] = field(default_factory=dict)
    carers: Mapping[UUID, str] = field(default_factory=dict)
    turns: Mapping[UUID, tuple[UUID, ...]] = field(default_factory=dict)
    contact_fields: tuple[ContactField, ...] = ()
    lists: Mapping[UUID, str] = field(default_factory=dict)
    counted: frozenset[str] = frozenset()
    reaches: bool = True
    questionnaire_id: UUID | None = None
