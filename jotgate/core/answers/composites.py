"""Answers that have parts: names, addresses, signatures."""

import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace
from functools import cache
from random import Random
from typing import Any, cast

import pycountry
from babel import Locale

from jotgate.core.answers.failures import CheckFailed, FailedInside
from jotgate.core.answers.rules import Raw, Rules, Schema, Words, as_set, closed
from jotgate.core.answers.samples import NAMES
from jotgate.core.answers.texts import says_nothing, text
from jotgate.core.answers.written import text_schema
from jotgate.core.common.today import Today
from jotgate.core.common.values import Value
from jotgate.core.items import Address, Name, Signature
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


def _parts_schema(item: Name | Address) -> Schema:
    properties: Schema = {part: text_schema(None, LONGEST_PART) for part in item.parts}
    if isinstance(item, Address) and "country" in properties:
        properties["country"] = {"enum": sorted(item.countries or countries())}
    return closed(properties, list(item.needed))


def _signature_schema(_: Signature) -> Schema:
    path = "^(M[0-9]{1,4} [0-9]{1,4}(L[0-9]{1,4} [0-9]{1,4})+)+$"
    drawn = {"type": "string", "pattern": path, "maxLength": LONGEST_DRAWN}
    typed = text_schema(None, LONGEST_PART)
    return {"oneOf": [closed({"typed": typed}, ["typed"]), closed({"drawn": drawn}, ["drawn"])]}


def _tell_address(words: Words, item: Address, value: Any) -> str:
    names = country_names(words.language)
    found = [value[part] for part in item.parts if part in value and part != "country"]
    if "country" in value:
        found.append(names.get(value["country"], value["country"]))
    return ", ".join(found)


def _make_parts(item: Name | Address, _: Today, dice: Random) -> Raw:
    named: dict[str, str] = {part: dice.choice(NAMES[part]) for part in item.parts if part in NAMES}
    if isinstance(item, Address) and "country" in item.parts:
        named["country"] = dice.choice(item.countries or ("GB", "ES", "MA"))
    return named


def _faults(item: Name | Address) -> Iterator[tuple[str, str]]:
    for part in item.needed:
        if part not in item.parts:
            message = f"The part {part} is needed but not asked. Ask it, or do not need it."
            yield "wrong_source", message


_IN_PARTS = Rules(
    schema=_parts_schema, make=_make_parts, limits=as_set("parts", "needed"), faults=_faults
)

RULES: Mapping[str, Rules] = {
    "name": replace(
        _IN_PARTS,
        check=lambda item, raw, _: name(item, raw),
        tell=lambda _, item, value: " ".join(value[part] for part in item.parts if part in value),
    ),
    "address": replace(
        _IN_PARTS, check=lambda item, raw, _: address(item, raw), tell=_tell_address
    ),
    "signature": Rules(
        check=lambda item, raw, _: signature(item, raw),
        schema=_signature_schema,
        tell=lambda _, _item, value: str(value.get("typed", "✓")),
        make=lambda _, _today, dice: {"typed": dice.choice(NAMES["given"])},
    ),
}
