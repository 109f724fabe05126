"""Items that only show something: notes, pictures, videos."""

from typing import Literal
from uuid import UUID

from pydantic import Field

from jotgate.core.common.wording import Text
from jotgate.core.items.parts import ItemPart


class Note(ItemPart):
    """Words between the questions; nothing is asked. They may be formatted in CommonMark."""

    kind: Literal["note"]


class Picture(ItemPart):
    """A picture of one's own; `text` tells what it shows to those who cannot see it.

    `width` and `height` are in pixels, so that its place is kept while it loads.
    """

    kind: Literal["picture"]
    media: UUID | None = None
    width: int | None = Field(None, ge=1, le=20_000)
    height: int | None = Field(None, ge=1, le=20_000)
    caption: Text = {}


class Video(ItemPart):
    """A video file of one's own; `text` is its title.

    It has captions, or in `spoken` what is said in it.
    """

    kind: Literal["video"]
    media: UUID | None = None
    captions: UUID | None = None
    spoken: Text = {}
