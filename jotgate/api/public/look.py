"""How a questionnaire looks, as its answering page needs it."""

from collections.abc import Mapping
from typing import Any

from pydantic import BaseModel

from jotgate.core.common.colour import Shades, shades
from jotgate.core.common.wording import say
from jotgate.core.document.look import HeaderPicture, Look
from jotgate.core.formats.common_mark import formatted
from jotgate.core.office import Office
from jotgate.core.words import page


class PictureOut(BaseModel):
    """A picture with the title, its size in pixels; `text` is none where it only decorates."""

    src: str
    width: int
    height: int
    text: str = ""
    beside: bool = False


class LookOut(BaseModel):
    """The accent on a light and on a dark page; `introduction` and `foot` are clean HTML, `imprint`
    and `privacy` addresses of pages of the office, `ask` the mail address to ask at."""

    light: Shades | None = None
    dark: Shades | None = None
    picture: PictureOut | None = None
    progress: bool = True
    one_by_one: bool = False
    wide: bool = False
    introduction: str = ""
    foot: str = ""
    imprint: str = ""
    privacy: str = ""
    ask: str = ""


def look_out(look: Look, office: Office, language: str, first: str) -> LookOut:
    """In `language`, else in the questionnaire's `first`, else in the office's. What a
    questionnaire does not have of its own is the office's."""
    accent = look.accent or office.accent
    light, dark = shades(accent) if accent else (None, None)
    return LookOut(
        **_foot(office, language),
        light=light,
        dark=dark,
        picture=_picture_out(look.picture, language, first)
        if look.picture
        else _office_picture(office, language),
        progress=look.progress,
        one_by_one=look.one_by_one,
        wide=look.width == "wide",
        introduction=formatted(say(look.introduction, language, first)),
    )


def plain_look(office: Office, language: str) -> LookOut:
    """The look of a page that belongs to no questionnaire that can be shown."""
    light, dark = shades(office.accent) if office.accent else (None, None)
    return LookOut(**_foot(office, language), light=light, dark=dark, ask=office.ask)


def _foot(office: Office, language: str) -> dict[str, Any]:
    words = say(office.foot, language, office.languages[0])
    return {
        "foot": formatted(words) if words.strip() else "",
        "imprint": office.imprint,
        "privacy": office.privacy,
    }


def _office_picture(office: Office, language: str) -> PictureOut | None:
    picture = office.picture
    if picture is None:
        return None
    return PictureOut(
        src=f"/media/{picture.media}",
        width=picture.width,
        height=picture.height,
        text=say(picture.text, language, office.languages[0]),
    )


def _picture_out(picture: HeaderPicture | None, language: str, first: str) -> PictureOut | None:
    if picture is None or picture.place == "none":
        return None
    return PictureOut(
        src=f"/media/{picture.media}",
        width=picture.width,
        height=picture.height,
        text=say(picture.text, language, first),
        beside=picture.place == "beside",
    )


def page_words(look: Look, language: str) -> Mapping[str, str]:
    """The page's words, with those of the buttons that the questionnaire has of its own."""
    given = {"continue": look.onward, "back": look.back, "send": look.send}
    own = {name: text.get(language, "").strip() for name, text in given.items()}
    return {**page(language), **{name: words for name, words in own.items() if words}}
