"""How the public page looks, and what it says around the questions."""

from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field, StringConstraints

from jotgate.core.common.part import Part
from jotgate.core.common.wording import Text

Colour = Annotated[str, StringConstraints(pattern=r"^#[0-9a-f]{6}$")]
"""Red, green and blue in hexadecimal, such as `#3f5128`."""


class HeaderPicture(Part):
    """A picture with the title; `text` tells what it shows, none where it only decorates.

    `width` and `height` are in pixels, so that its place is kept while it loads. A picture beside
    the questions stands above them where there is no room for both.
    """

    media: UUID
    width: int = Field(ge=1, le=20_000)
    height: int = Field(ge=1, le=20_000)
    text: Text = {}
    place: Literal["above", "beside", "none"] = "above"


class Look(Part):
    """The accent is made readable where it is not. `introduction` stands on the
    first page, in CommonMark. Words of a button that are not given are the page's own.
    `one_by_one` shows the questions of a page one after another.
    """

    accent: Colour | None = None
    picture: HeaderPicture | None = None
    progress: bool = True
    one_by_one: bool = False
    width: Literal["narrow", "wide"] = "narrow"
    introduction: Text = {}
    onward: Text = {}
    back: Text = {}
    send: Text = {}
