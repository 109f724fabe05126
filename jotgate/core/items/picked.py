"""Questions that are answered by picking: yes or no, of options, on a scale, in order."""

from typing import Literal

from pydantic import Field

from jotgate.core.common.wording import Text
from jotgate.core.items.parts import Look, Option, PickingPart, PickPart, QuestionPart


class YesNo(QuestionPart):
    kind: Literal["yes_no"]


class PickOne(PickPart):
    kind: Literal["pick_one"]
    look: Look = "list"


class PickMany(PickPart):
    """Any number of options, or between `fewest` and `most` of them."""

    kind: Literal["pick_many"]
    fewest: int | None = Field(None, ge=1, le=2000)
    most: int | None = Field(None, ge=1, le=2000)


class Rank(QuestionPart, PickingPart):
    """The options in the respondent's order: all of them, or the first `top`."""

    kind: Literal["rank"]
    options: tuple[Option, ...] = Field((), max_length=50)
    top: int | None = Field(None, ge=1, le=50)
    shuffled: bool = False


class Scale(QuestionPart):
    """A whole number from `low` to `high`, its ends in words."""

    kind: Literal["scale"]
    low: int = Field(1, ge=0, le=1)
    high: int = Field(5, ge=2, le=10)
    low_label: Text = {}
    high_label: Text = {}


Picked = YesNo | PickOne | PickMany | Rank | Scale
