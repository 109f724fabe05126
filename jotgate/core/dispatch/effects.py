"""What dispatch does with an entry: effects in order, and why each rule acted or did not."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Literal
from uuid import UUID

from jotgate.core.common.values import FileFacts
from jotgate.core.dispatch.acts import Gathered, Matching, Quiet
from jotgate.core.records.dispatch import RunKind
from jotgate.core.registers.cells import Cell
from jotgate.core.registers.columns import Register
from jotgate.core.registers.values import with_computed

Outcome = Literal["acted", "caught", "passed_over", "does_not_hold", "off"]


@dataclass(frozen=True)
class Place:
    """Which act of which rule an effect is of; `part` counts what one act does several times, such
    as a letter to each of a team."""

    rule: str
    position: int
    part: int = 0


@dataclass(frozen=True)
class RowPlanned:
    """A row for a register, or for the row there that is alike in the cells `alike`, whose columns
    are called `found_by`. `files` are those that stand in its cells by their ids, `kept` the
    restricted questions whose answers are kept beside it."""

    at: Place
    register_id: UUID
    values: Mapping[str, Cell]
    register: Register = field(compare=False)
    matching: Matching | None = None
    alike: Mapping[str, Cell] | None = None
    found_by: str = ""
    files: tuple[FileFacts, ...] = ()
    kept: tuple[str, ...] = ()

    def brought(self, cells: Mapping[str, Cell]) -> dict[str, Cell]:
        """The cells of a row once it is brought up to date."""
        return with_computed(self.register.columns, {**cells, **self.values})


@dataclass(frozen=True)
class NoticePlanned:
    """A letter to one address, as plain text and as HTML. `printed` is the page of HTML that is
    attached to it as a PDF, empty where none is; `gathered` and `quiet` are those of its act."""

    at: Place
    to: str
    subject: str
    plain: str
    html: str
    language: str
    printed: str = ""
    gathered: Gathered = "at_once"
    quiet: Quiet | None = None
    to_visitor: bool = False


@dataclass(frozen=True)
class CallPlanned:
    """A call to another system with a body of JSON."""

    at: Place
    hook_id: UUID
    body: Mapping[str, Any]


@dataclass(frozen=True)
class StatusPlanned:
    at: Place
    status: str


@dataclass(frozen=True)
class CarePlanned:
    """Somebody takes care of the entry: a person, or a team; both where the person is the one of
    the team whose turn it is."""

    at: Place
    person: UUID | None
    team: UUID | None
    in_turn: bool = False


@dataclass(frozen=True)
class ContactPlanned:
    """A field of the contact, by its key, as it is kept, and as it was."""

    at: Place
    contact_id: UUID
    field: str
    value: str
    before: str = ""


@dataclass(frozen=True)
class ValuePlanned:
    """A carried value of the entry, by its key, and what it was."""

    at: Place
    key: str
    value: str
    before: str = ""


@dataclass(frozen=True)
class ListPlanned:
    """Somebody on a contact list: the contact, or else whoever has the mail address `email`, which
    becomes a contact called `name` where there is none. `question` and `answer` are the consent as
    it was asked and given; with `confirm` a letter asks once more first."""

    at: Place
    list_id: UUID
    contact_id: UUID | None
    email: str
    name: str
    question: str
    answer: str
    confirm: bool = False


@dataclass(frozen=True)
class NotPlanned:
    """An act that cannot be done with this entry: `why`, with what to do about it. `left_out` is
    where there is simply nothing to do, such as a letter to an address that was not given."""

    at: Place
    kind: RunKind
    why: str
    left_out: bool = False


Effect = (
    RowPlanned
    | NoticePlanned
    | CallPlanned
    | StatusPlanned
    | CarePlanned
    | ContactPlanned
    | ValuePlanned
    | ListPlanned
    | NotPlanned
)


@dataclass(frozen=True)
class Planned:
    """What dispatch does with one entry. `caught_by` is the rule that caught it, if any; `outcomes`
    says of each rule by key what came of it."""

    caught_by: str | None
    effects: tuple[Effect, ...]
    outcomes: Mapping[str, Outcome]
