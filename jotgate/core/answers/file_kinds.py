"""Which files are of which kind: media types of the IANA registry, told from the content."""

import re
import unicodedata

from jotgate.core.items.gathered import FileKind

_OPEN_DOCUMENT = "application/vnd.oasis.opendocument"
_OFFICE = "application/vnd.openxmlformats-officedocument"

TYPES: dict[FileKind, tuple[str, ...]] = {
    "picture": ("image/jpeg", "image/png", "image/gif", "image/webp"),
    "pdf": ("application/pdf",),
    "document": (
        f"{_OPEN_DOCUMENT}.text",
        f"{_OFFICE}.wordprocessingml.document",
        "application/rtf",
        "text/plain",
    ),
    "sheet": (
        f"{_OPEN_DOCUMENT}.spreadsheet",
        f"{_OFFICE}.spreadsheetml.sheet",
        "text/csv",
    ),
    "audio": ("audio/mpeg", "audio/ogg", "audio/x-wav", "audio/mp4", "audio/x-flac"),
    "video": ("video/mp4", "video/webm", "video/quicktime"),
}

_KIND_OF: dict[str, FileKind] = {one: kind for kind, types in TYPES.items() for one in types}

MEGABYTE = 1_000_000


def kind_of(media_type: str) -> FileKind | None:
    return _KIND_OF.get(media_type)


LONGEST_NAME = 120

_UNSEEN = re.compile("[\x00-\x1f\x7f-\x9f\ud800-\udfff\u200b-\u200f\u202a-\u202e\u2066-\u2069]")
"""Control characters, and those that hide or turn the letters around them."""


def file_name(given: str) -> str:
    """The name of a file without folders and hidden characters, of a length to be read."""
    last = re.split(r"[/\\]", given)[-1]
    name = " ".join(_UNSEEN.sub("", unicodedata.normalize("NFC", last)).split()).strip(". ")
    if len(name) > LONGEST_NAME:
        stem, dot, ending = name.rpartition(".")
        keep = LONGEST_NAME - len(ending) - 2
        name = f"{stem[:keep]}…{dot}{ending}" if 0 < len(ending) <= 10 else name[:LONGEST_NAME]
    return name or "file"
