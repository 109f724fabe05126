"""Dispatch rules as they are written: conditions, and what is done where they hold.

Rules are tried in order. A rule that catches is the only one of those that does: later ones that
catch are passed over. A rule that does not catch acts whenever it holds. What `otherwise` says is
done where no rule caught the entry.
"""

from dataclasses import dataclass
from datetime import time
from functools import cached_property
from typing import Annotated, Literal
from uuid import UUID

from pydantic import AfterValidator, Field, StringConstraints

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.texts import email
from jotgate.core.common.part import Key, Part
from jotgate.core.common.wording import Text
from jotgate.core.conditions.condition import Condition

OTHERWISE = "otherwise"


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
    its entries makes a row of its own."""

    kind: Literal["file"]
    register_id: UUID
    columns: dict[Key, Source] = Field({}, max_length=200)
    matching: Matching | None = None
    per: Key | Literal[""] = ""


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
    words are CommonMark. `whole` puts all that was answered below them. Letters that are `gathered`
    go out together, once in an hour or a day, as one letter."""

    kind: Literal["notice"]
    to: Recipient
    subject: Text = {}
    body: Text = {}
    whole: bool = False
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


Act = Annotated[FileRow | Notice | Call | SetStatus, Field(discriminator="kind")]


class Rule(Part):
    """Without `when` it holds for every entry. One that is `off` does nothing."""

    key: Key
    when: Condition | None = None
    acts: tuple[Act, ...] = Field((), max_length=20)
    catches: bool = True
    off: bool = False
    note: Annotated[str, StringConstraints(max_length=500)] = ""


@dataclass(frozen=True)
class Needs:
    """What rules speak of beside their questionnaire: registers by id; whether systems are called,
    teams written to, and whether what stands around the entries is named: links and statuses."""

    registers: frozenset[UUID]
    hooks: bool
    teams: bool
    around: bool


class Dispatch(Part):
    rules: tuple[Rule, ...] = Field((), max_length=200)
    otherwise: tuple[Act, ...] = Field((), max_length=20)

    def acts(self) -> tuple[Act, ...]:
        """What any rule does."""
        return (*(act for rule in self.rules for act in rule.acts), *self.otherwise)

    def filed_to(self) -> frozenset[UUID]:
        """The registers that rules file to."""
        return frozenset(act.register_id for act in self.acts() if isinstance(act, FileRow))

    @cached_property
    def needs(self) -> Needs:
        acts, said = self.acts(), self.model_dump_json()
        return Needs(
            registers=self.filed_to(),
            hooks=any(isinstance(act, Call) for act in acts),
            teams=any(isinstance(act, Notice) and isinstance(act.to, ToTeam) for act in acts),
            around="entry.link" in said or "entry.status" in said,
        )
