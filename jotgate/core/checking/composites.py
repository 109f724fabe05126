"""Checking answers that have parts: names, addresses, files, signatures."""

import re
from collections.abc import Iterable, Mapping
from functools import cache
from typing import Any, cast

import pycountry
from babel import Locale

from jotgate.core.checking.failures import CheckFailed, FailedInside
from jotgate.core.checking.file_kinds import MEGABYTE, kind_of
from jotgate.core.checking.texts import says_nothing, text
from jotgate.core.common.values import FileFacts, Value
from jotgate.core.items import Address, File, Name, Signature
from jotgate.core.words import LANGUAGES, page, spoken

LONGEST_PART = 200
"""Characters of one part of a name or an address."""


@cache
def countries() -> frozenset[str]:
    """The assigned codes of ISO 3166-1 alpha-2, as Debian's iso-codes lists them."""
    return frozenset(country.alpha_2 for country in pycountry.countries)


def country_names(language: str) -> Mapping[str, str]:
    """Code of a country -> its name in `language`, or in English."""
    return cast(Mapping[str, str], Locale(spoken(language)).territories)


def name(item: Name, raw: object) -> Mapping[str, Value]:
    return _parts(raw, item.parts, item.needed, "name")


def address(item: Address, raw: object) -> Mapping[str, Value]:
    found = _parts(raw, item.parts, item.needed, "address")
    country = found.get("country")
    if country is not None and country not in (item.countries or countries()):
        raise FailedInside({"country": CheckFailed("not_a_country")})
    return found


def _parts(
    raw: object, parts: Iterable[str], needed: Iterable[str], kind: str
) -> Mapping[str, Value]:
    if not isinstance(raw, dict) or not set(raw) <= set(parts):
        raise CheckFailed("wrong_kind")
    found: dict[str, Value] = {}
    failed: dict[str, CheckFailed] = {}
    for part in parts:
        try:
            written = text(raw.get(part) or "", None, LONGEST_PART)
            if not says_nothing(written):
                found[part] = written
            elif part in needed:
                failed[part] = CheckFailed("part_missing", part=part_label(kind, part))
        except CheckFailed as failure:
            failed[part] = failure
    if failed:
        raise FailedInside(failed)
    return found


def part_label(kind: str, part: str) -> Mapping[str, str]:
    """What a part is called, in every language that we have words for."""
    return {language: page(language)[f"{kind}_{part}"] for language in LANGUAGES}


_DRAWN = re.compile(r"(?:M\d{1,4} \d{1,4}(?:L\d{1,4} \d{1,4})+)+")
LONGEST_DRAWN = 60_000


def signature(_: Signature, raw: object) -> Mapping[str, Value]:
    """`{"typed": name}`, or `{"drawn": path}`: lines as SVG path data, whole numbers, 600 by 200.

    The path has only moves and lines (`M` and `L` of SVG 1.1, absolute).
    """
    if not isinstance(raw, dict):
        raise CheckFailed("wrong_kind")
    match raw:
        case {"typed": typed} if len(raw) == 1:
            written = text(typed, None, LONGEST_PART)
            if not says_nothing(written):
                return {"typed": written}
        case {"drawn": str(drawn)} if len(raw) == 1 and len(drawn) <= LONGEST_DRAWN:
            if _DRAWN.fullmatch(drawn):
                return {"drawn": drawn}
    raise CheckFailed("not_signed")


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
