"""What tables of entries are sorted by, and the indexes for that.

What is empty has a value that stands last, so that a page goes on behind the last of the one before
by one comparison of rows, which an index serves from end to end.
"""

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal
from uuid import UUID

import orjson
from sqlalchemy import ARRAY, ColumnElement, Integer, Numeric, Text, cast, func, literal

from jotgate.core.entries.table import TableColumn
from jotgate.core.items import Address, Name

By = Literal["text", "raw", "number", "place", "length", "parts", "letters"]

EMPTY: Mapping[By, tuple[str, str]] = {
    "text": ("\uffff", ""),
    "raw": ("\U0010ffff", ""),
    "number": ("Infinity", "-Infinity"),
    "place": ("2147483647", "0"),
    "length": ("2147483647", "-1"),
    "parts": ("\uffff", ""),
    "letters": ("", ""),
}
"""What stands for nothing where the small stand first, and where the large do. U+FFFF is above
every other character (UTS #35, part 5, 3.5, from memory); in the order of bytes the last code point
is."""

_TYPES: Mapping[By, Any] = {
    "text": Text(),
    "raw": Text(),
    "number": Numeric(),
    "place": Integer(),
    "length": Integer(),
    "parts": Text(),
    "letters": Text(),
}

_COLLATIONS: Mapping[By, str] = {"text": "und-x-icu", "parts": "und-x-icu", "raw": "C"}
"""The root order of the Unicode Collation Algorithm for what people read, bytes for what stands in
ISO 8601."""


@dataclass(frozen=True)
class Part:
    """One thing that is sorted by: the answer under a key, in one of the forms of `By`; `codes` are
    those of its options, or its parts. By its letters something is only looked for."""

    key: str
    by: By
    codes: tuple[str, ...] = ()
    descending: bool = False

    @property
    def empty(self) -> str:
        return EMPTY[self.by][self.descending]


def part_of(column: TableColumn, descending: bool) -> Part:
    item = column.item
    match column.holds:
        case "number":
            return Part(column.key, "number", (), descending)
        case "day" | "time" | "moment" | "truth":
            return Part(column.key, "raw", (), descending)
        case "pick":
            codes = tuple(one.code for one in getattr(item, "options", ()))
            return Part(column.key, "place", codes, descending)
        case "picks" | "order" | "files" | "entries":
            return Part(column.key, "length", (), descending)
        case "parts":
            parts = tuple(item.parts) if isinstance(item, Name | Address) else ()
            return Part(column.key, "parts", parts, descending)
        case _:
            return Part(column.key, "text", (), descending)


def expression(part: Part, answers: ColumnElement[Any]) -> ColumnElement[Any]:
    """What an entry is sorted by; `answers` are the JSON that has the key."""
    empty = cast(literal(part.empty, Text), _TYPES[part.by])
    given: list[Any] = [answers, literal(part.key, Text)]
    if part.by in ("place", "parts"):
        given.append(literal(list(part.codes), ARRAY(Text)))
    if part.by != "letters":
        given.append(empty)
    found = getattr(func, f"entry_{part.by}")(*given, type_=_TYPES[part.by])
    named = _COLLATIONS.get(part.by)
    return found.collate(named) if named else found  # type: ignore[no-any-return]


@dataclass(frozen=True)
class IndexSpec:
    """An index that would serve an order; all its parts stand in the same direction."""

    questionnaire_id: UUID
    parts: tuple[Part, ...]

    @property
    def as_json(self) -> dict[str, Any]:
        said = [
            {"key": one.key, "by": one.by, "empty": one.empty, "codes": list(one.codes)}
            for one in self.parts
        ]
        return {"parts": said, "descending": self.parts[0].descending}

    @property
    def name(self) -> str:
        said = orjson.dumps([str(self.questionnaire_id), self.as_json])
        return f"er_{hashlib.sha256(said).hexdigest()[:24]}"
