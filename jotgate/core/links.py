"""What is set for the ways into a questionnaire and on from it."""

from typing import Annotated
from urllib.parse import urlsplit

from pydantic import AfterValidator, Field, StringConstraints

from jotgate.core.common.part import Part
from jotgate.core.hand_off import HandOff
from jotgate.core.sign_in import VisitorSignIn


def _origin(written: str) -> str:
    """The origin (RFC 6454) of a site: its scheme, host and port, and nothing else."""
    text = written.strip().rstrip("/").lower()
    text = text if "://" in text else f"https://{text}"
    try:
        parts = urlsplit(text)
        port = f":{parts.port}" if parts.port else ""
    except ValueError:
        raise ValueError(NO_SITE) from None
    host = parts.hostname or ""
    sound = host and all(one.isascii() and (one.isalnum() or one in ".-") for one in host)
    if parts.scheme not in ("http", "https") or not sound or parts.path or parts.query:
        raise ValueError(NO_SITE)
    return f"{parts.scheme}://{host}{port}"


NO_SITE = "Write a site without a path, such as https://wells.example.org."

Origin = Annotated[str, StringConstraints(max_length=200), AfterValidator(_origin)]


class Links(Part):
    """`hand_offs` say where people may go on, `frames` which sites may show the page in a frame,
    `sign_in` where visitors may sign in, or have to."""

    hand_offs: tuple[HandOff, ...] = Field((), max_length=100)
    frames: tuple[Origin, ...] = Field((), max_length=50)
    sign_in: VisitorSignIn = VisitorSignIn()
