"""The office: what an installation serves, and how people sign in to it."""

from typing import Annotated, Literal
from uuid import UUID

from pydantic import AfterValidator, Field, StringConstraints

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.texts import email, web_address
from jotgate.core.common.part import Part
from jotgate.core.common.wording import Language, Text
from jotgate.core.common.zones import TimeZone
from jotgate.core.document.look import Colour


def _address_or_none(written: str) -> str:
    try:
        return email(written) if written else ""
    except CheckFailed:
        raise ValueError("This is not a mail address.") from None


def _page_or_none(written: str) -> str:
    try:
        return web_address(written) if written else ""
    except CheckFailed:
        raise ValueError(
            "This is not a web address, such as https://example.org/privacy."
        ) from None


Address = Annotated[
    str, StringConstraints(strip_whitespace=True, max_length=254), AfterValidator(_address_or_none)
]
"""A mail address with its domain in lower case, or nothing."""

WebPage = Annotated[
    str, StringConstraints(strip_whitespace=True, max_length=500), AfterValidator(_page_or_none)
]

Name = Annotated[
    str,
    StringConstraints(strip_whitespace=True, min_length=1, max_length=120, pattern=r"^[^\r\n]*$"),
]

SecondFactor = Literal["free", "cleared", "everybody"]
"""Who has to have a second factor: nobody, those with clearance, everybody."""


class OfficePicture(Part):
    """A picture for public pages that have none of their own; sizes in pixels."""

    media: UUID
    width: int = Field(ge=1, le=20_000)
    height: int = Field(ge=1, le=20_000)
    text: Text = {}


class Office(Part):
    """What holds for the whole installation.

    New questionnaires begin with its `time_zone` and the first of its `languages`; letters come
    from `sender`, answers to them go to `reply_to`; public pages show `foot` (CommonMark) and links
    to `imprint` and `privacy`, and its `accent` and `picture` where they have none of their own.
    Without `passwords` people sign in by passkey or through the identity provider. A session ends
    after `idle_minutes` in which its person did nothing.
    """

    name: Name = "Your office"
    time_zone: TimeZone = "UTC"
    languages: tuple[Language, ...] = Field(("en",), min_length=1, max_length=30)
    sender: Address = ""
    reply_to: Address = ""
    accent: Colour | None = None
    picture: OfficePicture | None = None
    foot: Text = {}
    imprint: WebPage = ""
    privacy: WebPage = ""
    second_factor: SecondFactor = "free"
    passwords: bool = True
    idle_minutes: int = Field(120, ge=5, le=1440)

    @property
    def ask(self) -> str:
        """The mail address to ask at."""
        return self.reply_to or self.sender
