"""What dispatch rules do with an entry: file, write, call, set and add."""

from datetime import time
from typing import Annotated, Literal
from uuid import UUID

from pydantic import AfterValidator, Field, StringConstraints

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.texts import email
from jotgate.core.common.part import Key, Part
from jotgate.core.common.wording import Text


def _mail_address(written: str) -> str:
    if not written.strip():
        raise ValueError("Write the mail address.")
    try:
        return email(written)
    except CheckFailed:
        raise ValueError("This is not a mail address.") from None


Address = Annotated[str, StringConstraints(max_length=254), AfterValidator(_mail_address)]
"""A mail address with its domain in lower case."""

Named = Annotated[str, StringConstraints(min_length=1, max_length=120)]
"""The key of an item, `key.part` of one in parts, or a fact such as `entry.finish`."""


class FromEntry(Part):
    """What the entry says: an answer, a carried or computed value, or a fact of it."""

    kind: Literal["entry"]
    name: Named


class Fixed(Part):
    """The same in every row, written as one would into the column."""

    kind: Literal["fixed"]
    text: str = Field(min_length=1, max_length=2_000)


class Composed(Part):
    """A text with slots."""

    kind: Literal["composed"]
    text: str = Field(min_length=1, max_length=5_000)


Source = Annotated[FromEntry | Fixed | Composed, Field(discriminator="kind")]
"""Where a cell of a row comes from."""


class Matching(Part):
    """Which row of the register is brought up to date: the one that is alike in `columns`. `none`
    and `several` say what is done where there is no such row, or more than one; nothing at all for
    `leave`, and `ask` has somebody decide."""

    columns: tuple[Key, ...] = Field(min_length=1, max_length=10)
    none: Literal["add", "leave", "ask"] = "add"
    several: Literal["first", "last", "all", "add", "leave", "ask"] = "ask"


class FileRow(Part):
    """File to a register. `columns` has the source of each by the column's key; where `matching`
    is given, a row that is there is brought up to date; with the key of a roster in `per`, each of
    its entries makes a row of its own. `kept` are restricted questions whose answers are kept
    beside the row, sealed, in a register for cleared eyes."""

    kind: Literal["file"]
    register_id: UUID
    columns: dict[Key, Source] = Field({}, max_length=200)
    matching: Matching | None = None
    per: Key | Literal[""] = ""
    kept: tuple[Key, ...] = Field((), max_length=50)


class ToAddress(Part):
    kind: Literal["address"]
    address: Address


class ToTeam(Part):
    """Everybody of a team."""

    kind: Literal["team"]
    team_id: UUID


class ToAnswer(Part):
    """The mail address that an answer or a fact is: a receipt for whoever answered."""

    kind: Literal["answer"]
    name: Named


Gathered = Literal["at_once", "hourly", "daily"]

Recipient = Annotated[ToAddress | ToTeam | ToAnswer, Field(discriminator="kind")]


class Quiet(Part):
    """Hours in which nothing is sent, in the questionnaire's time zone; over midnight where the end
    is before the start."""

    start: time
    end: time


class Notice(Part):
    """A letter. Subject and words are texts with slots, in each language of the questionnaire; the
    words are CommonMark. `whole` puts all that was answered below them, `printed` attaches it as a
    PDF. Letters that are `gathered` go out together, once in an hour or a day, as one letter."""

    kind: Literal["notice"]
    to: Recipient
    subject: Text = {}
    body: Text = {}
    whole: bool = False
    printed: bool = False
    gathered: Gathered = "at_once"
    quiet: Quiet | None = None


class Call(Part):
    """A call to another system, with what is open of the entry."""

    kind: Literal["call"]
    hook_id: UUID


class SetStatus(Part):
    """Set the entry's status."""

    kind: Literal["status"]
    status: Key


class CarePerson(Part):
    kind: Literal["person"]
    person_id: UUID


class CareTeam(Part):
    """A team as a whole, or the one of its people whose turn it is."""

    kind: Literal["team"]
    team_id: UUID
    in_turn: bool = False


class SetCare(Part):
    """Set who takes care of the entry."""

    kind: Literal["care"]
    who: Annotated[CarePerson | CareTeam, Field(discriminator="kind")]


class SetContact(Part):
    """Set a field of the contact that the entry came by."""

    kind: Literal["contact"]
    field: Key
    source: Source


class SetValue(Part):
    """Set a carried value of the entry, by its key."""

    kind: Literal["value"]
    key: Key
    source: Source


class AddToList(Part):
    """Add to a contact list, once the answer to `consent` is yes, or picks `option` of one that is
    picked from: the contact that the entry came by, or else the one with the mail address that
    `email` names, which is made under `name` where there is none. With `confirm` they are asked by
    letter first, and added once they say yes to that too."""

    kind: Literal["list"]
    list_id: UUID
    consent: Key
    option: Annotated[str, StringConstraints(max_length=100)] = ""
    email: Named | Literal[""] = ""
    name: Named | Literal[""] = ""
    confirm: bool = False


Act = Annotated[
    FileRow | Notice | Call | SetStatus | SetCare | SetContact | SetValue | AddToList,
    Field(discriminator="kind"),
]
