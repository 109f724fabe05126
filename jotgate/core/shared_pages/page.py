"""A page to share: figures of a questionnaire's entries with words between them, for people who
have no account."""

from dataclasses import dataclass
from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import AwareDatetime, Field, StringConstraints

from jotgate.core.common.part import Key, Part
from jotgate.core.conditions.condition import Condition
from jotgate.core.figures.arrivals import Arrivals
from jotgate.core.figures.pictures import Base, Picture

MOST_PARTS = 60


class WordsPart(Part):
    """Words in CommonMark."""

    kind: Literal["words"] = "words"
    words: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=4_000)]


class FigurePart(Part):
    """The figure of the question `key`."""

    kind: Literal["figure"] = "figure"
    key: Key


class ArrivalsPart(Part):
    """When the entries arrived, over time and by the hour of the day."""

    kind: Literal["arrivals"] = "arrivals"


PagePart = Annotated[WordsPart | FigurePart | ArrivalsPart, Field(discriminator="kind")]


class PageContent(Part):
    """What is on a page to share, in `language`: of the entries that `filter` lets through, with
    those in the archive where `archived`. Good `until` that moment, for ever without one."""

    title: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]
    language: Annotated[str, StringConstraints(min_length=2, max_length=40)]
    parts: tuple[PagePart, ...] = Field((), max_length=MOST_PARTS)
    filter: Condition | None = None
    archived: bool = False
    of: Base = "answered"
    until: AwareDatetime | None = None


class DrawnWords(Part):
    kind: Literal["words"] = "words"
    words: str


class DrawnFigure(Part):
    """A question, how many were `asked` (None where that is not known) and `answered`, and what is
    drawn: None where nobody answered, or where there are too many different answers."""

    kind: Literal["figure"] = "figure"
    key: Key
    title: str
    asked: int | None
    answered: int
    picture: Annotated[Picture, Field(discriminator="kind")] | None


class DrawnArrivals(Part):
    kind: Literal["arrivals"] = "arrivals"
    arrivals: Arrivals


class NotShown(Part):
    """The question `key` is restricted, or not there any more."""

    kind: Literal["not_shown"] = "not_shown"
    key: Key


DrawnPart = Annotated[
    DrawnWords | DrawnFigure | DrawnArrivals | NotShown, Field(discriminator="kind")
]


class DrawnPage(Part):
    """A page with its figures as they were counted at a moment, of so many entries."""

    title: str
    language: str
    of: Base
    entries: int
    counted: AwareDatetime
    parts: tuple[DrawnPart, ...]


@dataclass(frozen=True)
class SharedPage:
    """A page as it is kept, found by whoever has its `token`. With `frozen` it shows what was
    counted then, else what there is now. `closed` is when it was taken back."""

    id: UUID
    questionnaire_id: UUID
    token: str
    content: PageContent
    frozen: DrawnPage | None
    closed: datetime | None
    made: datetime
    made_by: UUID | None
    revision: int

    def is_open(self, now: datetime) -> bool:
        until = self.content.until
        return self.closed is None and (until is None or now < until)
