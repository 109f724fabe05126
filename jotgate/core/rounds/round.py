"""A round as it is written: whom to ask, how they are drawn, and the steps that it takes."""

from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field, StringConstraints

from jotgate.core.common.part import Key, Part
from jotgate.core.common.wording import Text
from jotgate.core.conditions.condition import Condition
from jotgate.core.gate.times import LocalMoment, Times
from jotgate.core.mailing import Kind, MailingText
from jotgate.core.rounds.paper import PaperWindow, Post
from jotgate.core.rounds.trying_again import TryingAgain

Way = Literal["mail", "paper", "call", "visit"]

Whom = Literal["not_answered", "not_started", "broken_off"]
"""Of those whom the steps before have not moved: all, those who have not started, or those who
started and stopped."""

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]
FieldKey = Annotated[str, StringConstraints(pattern=r"^([a-z][a-z0-9_]{0,39})?$")]
MOST_STEPS, MOST_PORTIONS, MOST_PEOPLE = 20, 100, 1_000_000


class People(Part):
    """Those on a list, or those of them of whom `only` is true."""

    list_id: UUID | None = None
    only: Condition | None = None


class Draw(Part):
    """Everybody without a `size` and `sizes`, else so many, drawn by chance. `by` is a field of
    contacts, each of whose values is a stratum, from which as many are drawn as `sizes` says, or of
    `size` as many as it has its share. The same `seed` draws the same people."""

    size: int | None = Field(None, ge=1, le=MOST_PEOPLE)
    by: FieldKey = ""
    sizes: dict[Annotated[str, StringConstraints(max_length=500)], int] = Field(
        default_factory=dict, max_length=500
    )
    seed: Annotated[str, StringConstraints(strip_whitespace=True, max_length=80)] = ""


class Step(Part):
    """One letter, call or visit: at a moment in the questionnaire's time zone, or `after` hours
    from the step before, the first from the release. It goes to those whom `to` says and of whom
    `only` is true. `text` is that of a letter, which on paper is folded for an envelope with this
    `window`, on both sides of its sheets where it is `duplex`; `script` is what whoever rings or
    goes says, by language. One that is `held` waits, and so do those after it."""

    key: Key
    name: Name
    way: Way
    at: LocalMoment | None = None
    after: int = Field(168, ge=0, le=9_600)
    to: Whom = "not_answered"
    only: Condition | None = None
    text: MailingText | None = None
    window: PaperWindow = "din_b"
    duplex: bool = False
    script: Text = Field(default_factory=dict)
    held: bool = False


class Round(Part):
    """`hours` are those in which anything goes out, in each contact's time zone: what `zone_field`
    of the contact names, else the questionnaire's. Those who were drawn are released in portions of
    these sizes, the last of which has all that are left. `trying` is for calls and visits, `post`
    for letters on paper. `kind` says what kind of letters it sends, for those who want no more of
    these."""

    name: Name
    people: People = People()
    draw: Draw = Draw()
    portions: tuple[Annotated[int, Field(ge=1, le=MOST_PEOPLE)], ...] = Field(
        (), max_length=MOST_PORTIONS
    )
    hours: Times = Times()
    zone_field: FieldKey = ""
    steps: tuple[Step, ...] = Field((), max_length=MOST_STEPS)
    trying: TryingAgain = TryingAgain()
    post: Post = Post()
    kind: Kind = ""

    def step(self, key: str) -> Step | None:
        return next((one for one in self.steps if one.key == key), None)
