"""The kinds that nobody answers: notes, pictures, videos, carried and computed values."""

from collections.abc import Iterator, Mapping
from decimal import Decimal
from random import Random
from typing import Any

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.picks import codes_of, option_of
from jotgate.core.answers.rules import Limits, Raw, Rules, Schema, saying
from jotgate.core.answers.texts import text
from jotgate.core.answers.written import text_schema
from jotgate.core.common.today import Today
from jotgate.core.common.values import Value
from jotgate.core.conditions.formulas import First
from jotgate.core.items import Carried, Computed, Picture, Video
from jotgate.core.items.carried import FORGED, Constant, FromClaim, FromContact, Source


def carried_value(item: Carried, raw: Raw) -> str:
    """Raises CheckFailed."""
    return option_of(item, raw) if item.options else text(raw, None, item.longest)


def _carried_faults(item: Carried) -> Iterator[tuple[str, str]]:
    kinds = [one.model_dump_json() for one in item.sources]
    if len(set(kinds)) < len(kinds):
        yield "double_source", "It comes from the same source twice. Take one of them out."
    if not item.sources and item.required:
        message = "It is required, and nothing brings it: only a finish sets it."
        yield "no_source", message
    for source in item.sources:
        yield from _source_faults(item, source)
    if not item.sealed:
        return
    if any(one.kind in FORGED for one in item.sources):
        message = "It is sealed, but whoever holds the link can change what comes with the address."
        yield "forged_source", message
    if item.is_seen:
        message = "A sealed value is never shown to the visitor, nor asked for: not both."
        yield "sealed_shown", message


def _source_faults(item: Carried, source: Source) -> Iterator[tuple[str, str]]:
    match source:
        case FromContact(field=""):
            yield "not_chosen", "Choose which field of the contact it is."
        case FromClaim(claim=""):
            yield "not_chosen", "Say which claim of the sign-in it is."
        case Constant():
            try:
                carried_value(item, source.value)
            except CheckFailed:
                yield "no_such_answer", f"It is always {source.value}: it has no such value."


def _carried_schema(item: Carried) -> Schema:
    return {"enum": codes_of(item)} if item.options else text_schema(None, item.longest)


def _make_carried(item: Carried, _: Today, dice: Random) -> Raw:
    return dice.choice(item.options).code if item.options else "Made up"[: item.longest]


def _read_computed(item: Computed, stored: Any) -> Value:
    """What a computed value is follows from its formula; a first answer keeps its own form."""
    if isinstance(item.formula, First):
        return tuple(stored) if isinstance(stored, list) else stored
    return Decimal(stored)


def _media_limits(item: Picture | Video, _: Today) -> Limits:
    found = {"media": item.media, "captions": getattr(item, "captions", None)}
    size = {name: getattr(item, name, None) for name in ("width", "height")}
    return {name: f"/media/{id}" if id else None for name, id in found.items()} | size


def _media_faults(item: Picture | Video) -> Iterator[tuple[str, str]]:
    if item.media is None:
        yield "no_media", f"Choose the {item.kind} to show."
    if isinstance(item, Video) and item.captions is None and not any(item.spoken.values()):
        yield "no_captions", "Add captions or what is said in words, for those who cannot hear it."


RULES: Mapping[str, Rules] = {
    "note": Rules(),
    "picture": Rules(limits=_media_limits, faults=_media_faults),
    "video": Rules(limits=_media_limits, faults=_media_faults),
    "carried": Rules(
        check=lambda item, raw, _: carried_value(item, raw),
        schema=_carried_schema,
        limits=lambda item, _: {} if item.options else {"longest": item.longest},
        make=_make_carried,
        faults=_carried_faults,
    ),
    "computed": Rules(
        schema=lambda item: {} if isinstance(item.formula, First) else {"type": "number"},
        unsaid=saying("that it follows from other answers"),
        read=_read_computed,
    ),
}
