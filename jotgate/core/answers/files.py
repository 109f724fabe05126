"""Answers that are files, sent before and looked at."""

from collections.abc import Mapping
from random import Random
from typing import Any

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.file_kinds import MEGABYTE, TYPES, kind_of
from jotgate.core.answers.rules import Limits, Raw, Rules, Schema, closed, saying
from jotgate.core.common.today import Today
from jotgate.core.common.values import FileFacts
from jotgate.core.items import File


def files(item: File, raw: Any) -> tuple[FileFacts, ...]:
    """Files that were sent before and looked at; nothing that a browser says of them counts."""
    if not isinstance(raw, list) or not all(isinstance(one, FileFacts) for one in raw):
        raise CheckFailed("no_such_file")
    if len(raw) > item.most:
        raise CheckFailed("too_many_files", limit=item.most)
    if len({one.id for one in raw}) != len(raw):
        raise CheckFailed("no_such_file")
    for one in raw:
        suits(item, one)
    return tuple(raw)


def size_suits(item: File, name: str, size: int) -> None:
    """Whether `size`, in bytes, is one that `item` takes. Raises CheckFailed."""
    if size < 1:
        raise CheckFailed("file_empty", name=name)
    if size > item.largest * MEGABYTE:
        raise CheckFailed("file_too_large", name=name, limit=item.largest)


def suits(item: File, facts: FileFacts) -> None:
    """Whether one file is what `item` asks for. Raises CheckFailed."""
    size_suits(item, facts.name, facts.size)
    if kind_of(facts.type) not in item.kinds:
        raise CheckFailed("file_not_of_kind", name=facts.name)


def _schema(item: File) -> Schema:
    facts: Schema = {
        "id": {"type": "string"},
        "name": {"type": "string"},
        "size": {"type": "integer", "minimum": 1, "maximum": item.largest * MEGABYTE},
        "type": {"enum": [one for kind in item.kinds for one in TYPES[kind]]},
    }
    return {
        "type": "array",
        "items": closed(facts, list(facts)),
        "minItems": 1,
        "maxItems": item.most,
    }


_SAMPLES = {
    "picture": ("photo.jpg", "image/jpeg"),
    "pdf": ("page.pdf", "application/pdf"),
    "document": ("letter.odt", "application/vnd.oasis.opendocument.text"),
    "sheet": ("table.ods", "application/vnd.oasis.opendocument.spreadsheet"),
    "audio": ("sound.mp3", "audio/mpeg"),
    "video": ("film.mp4", "video/mp4"),
}


def _make(item: File, _: Today, dice: Random) -> Raw:
    name, media_type = _SAMPLES[dice.choice(item.kinds)]
    return [FileFacts(f"{dice.getrandbits(128):032x}", name, 1, media_type)]


def _limits(item: File, _: Today) -> Limits:
    types = [one for kind in item.kinds for one in TYPES[kind]]
    return {"most": item.most, "largest": item.largest, "kinds": list(item.kinds), "types": types}


RULES: Mapping[str, Rules] = {
    "file": Rules(
        check=lambda item, raw, _: files(item, raw),
        schema=_schema,
        unsaid=saying("that the files were sent before and what they hold"),
        read=lambda _, stored: tuple(FileFacts(**one) for one in stored),
        make=_make,
        limits=_limits,
    )
}
