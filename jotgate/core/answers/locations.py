"""Reading a place as people write or paste it, and checking where it lies.

Taken are degrees with decimals, degrees and minutes, degrees, minutes and seconds, with signs or
with N, S, E and W before or behind; `geo:` addresses (RFC 5870); and ISO 6709 in its short forms
(`+54.1234-002.5678/`, `+540724.2-0023404.1/`). Latitude comes first where no letters say otherwise.
"""

import re
from collections.abc import Iterator, Mapping, Sequence
from decimal import Decimal
from math import asin, cos, radians, sin, sqrt
from random import Random
from typing import Any, NamedTuple

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.rules import Raw, Rules, Schema, Words, closed, saying
from jotgate.core.common.formatting import number
from jotgate.core.common.today import Today
from jotgate.core.common.values import Value
from jotgate.core.items.gathered import Box, Location

LONGEST = 120
"""Characters of a place that are read."""

EARTH_RADIUS = 6371.0088
"""Kilometres: the mean radius of the Earth (IUGG, GRS 80)."""

_PLACES = Decimal("0.00001")
_MOST = {"latitude": 90, "longitude": 180}
_AXES = {"N": "latitude", "S": "latitude", "E": "longitude", "W": "longitude"}

_TOKEN = re.compile(r"\s*(?:(\d{1,9}(?:\.\d{1,12})?)|([NSEW])|([°º'’′\"”″]{1,2})|([+\-−])|([,;/]))")
_KINDS = " nlus,"
"""The groups of `_TOKEN`, one letter each: number, letter, unit, sign, comma."""

_LETTER_FIRST, _LETTER_LAST = re.compile("ls?(nu?)+"), re.compile("s?(nu?)+l?")
_SHORT = re.compile(r"([+-])(\d{2,6})(\.\d{1,9})?([+-])(\d{3,7})(\.\d{1,9})?")
_COMMAS = re.compile(r"\d,\d")


class _Angle(NamedTuple):
    """A part of what was written: its sign and numbers, and the letter that stands with it."""

    sign: int
    numbers: tuple[Decimal, ...]
    letter: str


def location(item: Location, raw: object) -> Mapping[str, Value]:
    """`{"latitude": …, "longitude": …}` in decimal degrees of WGS 84, with five places, from a text
    or from such a map. Raises CheckFailed."""
    latitude, longitude = _read(raw)
    if item.box is not None and not _inside(item.box, latitude, longitude):
        raise CheckFailed("outside_area")
    if item.near is not None:
        here = item.near.latitude, item.near.longitude
        if kilometres((latitude, longitude), here) > float(item.near.kilometres):
            raise CheckFailed("too_far", limit=item.near.kilometres)
    return {"latitude": latitude, "longitude": longitude}


def kilometres(one: tuple[Decimal, Decimal], other: tuple[Decimal, Decimal]) -> float:
    """The way between two places along the ground, on a sphere (the haversine formula)."""
    (lat, lon), (to_lat, to_lon) = ((radians(a), radians(b)) for a, b in (one, other))
    chord = sin((to_lat - lat) / 2) ** 2 + cos(lat) * cos(to_lat) * sin((to_lon - lon) / 2) ** 2
    return 2 * EARTH_RADIUS * asin(min(1.0, sqrt(chord)))


def _inside(box: Box, latitude: Decimal, longitude: Decimal) -> bool:
    """Whether a place lies in a box; one whose west is beyond its east goes across 180°."""
    if not box.south <= latitude <= box.north:
        return False
    if box.west <= box.east:
        return box.west <= longitude <= box.east
    return longitude >= box.west or longitude <= box.east


def _read(raw: object) -> tuple[Decimal, Decimal]:
    if isinstance(raw, dict) and set(raw) == set(_MOST):
        parts = [_Angle(1, (_number(raw[axis]),), "") for axis in _MOST]
        return _placed(parts)
    if not isinstance(raw, str) or len(raw) > LONGEST:
        raise CheckFailed("not_a_location")
    written = raw.strip()
    if written.lower().startswith("geo:"):
        written = written[4:].partition(";")[0]
        numbers = [_number(one) for one in written.split(",")[:2]]
        return _placed([_Angle(1, (one,), "") for one in numbers])
    short = _SHORT.fullmatch(written.rstrip("/"))
    if short and ("." in written or len(short[2]) > 3):
        signs, wholes, rests = short.group(1, 4), short.group(2, 5), short.group(3, 6)
        found = zip(signs, (2, 3), wholes, rests, strict=True)
        return _placed([_from_short(*one) for one in found])
    return _placed(_angles(written))


def _number(raw: object) -> Decimal:
    if isinstance(raw, bool) or not isinstance(raw, str | int | float | Decimal):
        raise CheckFailed("not_a_location")
    written = str(raw).strip()
    if not re.fullmatch(r"[+-]?\d{1,3}(?:\.\d{1,30})?", written):
        raise CheckFailed("not_a_location")
    return Decimal(written)


def _from_short(sign: str, width: int, whole: str, rest: str | None) -> _Angle:
    """One angle of ISO 6709: degrees, then minutes and seconds where the digits go on."""
    degrees, more = whole[:width], whole[width:]
    parts = [degrees, *(more[at : at + 2] for at in range(0, len(more), 2))]
    if len(parts[-1]) < 2 or len(degrees) < width:
        raise CheckFailed("not_a_location")
    parts[-1] += rest or ""
    return _Angle(-1 if sign == "-" else 1, tuple(Decimal(one) for one in parts), "")


def _angles(written: str) -> Sequence[_Angle]:
    """The two angles that a text writes."""
    if "." not in written and len(_COMMAS.findall(written)) > 1:
        written = _COMMAS.sub(lambda found: found[0].replace(",", "."), written)
    tokens, at, text = [], 0, written.upper()
    while at < len(text.rstrip()):
        found = _TOKEN.match(text, at)
        if found is None:
            raise CheckFailed("not_a_location")
        tokens.append((found.lastindex or 0, found[found.lastindex or 0]))
        at = found.end()
    return _grouped(tokens)


def _grouped(tokens: Sequence[tuple[int, str]]) -> Sequence[_Angle]:
    """The tokens cut into two halves with as many numbers each, and each half read as an angle."""
    shape = "".join(_KINDS[kind] for kind, _ in tokens)
    each, over = divmod(shape.count("n"), 2)
    if over or not 1 <= each <= 3:
        raise CheckFailed("not_a_location")
    letters_first = shape[0] == "l"
    cut = [at for at, kind in enumerate(shape) if kind == "n"][each]
    while shape[cut - 1] in ("sl" if letters_first else "s"):
        cut -= 1
    first = len(shape[:cut].rstrip(","))
    return [_angle(half, letters_first) for half in (tokens[:first], tokens[cut:])]


def _angle(half: Sequence[tuple[int, str]], letter_first: bool) -> _Angle:
    shape = "".join(_KINDS[kind] for kind, _ in half)
    if not (_LETTER_FIRST if letter_first else _LETTER_LAST).fullmatch(shape):
        raise CheckFailed("not_a_location")
    said = {kind: [one for number, one in half if _KINDS[number] == kind] for kind in "nls"}
    sign = -1 if said["s"] and said["s"][0] != "+" else 1
    return _Angle(sign, tuple(Decimal(one) for one in said["n"]), "".join(said["l"]))


def _placed(angles: Sequence[_Angle]) -> tuple[Decimal, Decimal]:
    """Latitude and longitude, with five places."""
    if len(angles) != 2:
        raise CheckFailed("not_a_location")
    axes = [_AXES.get(one.letter, "") for one in angles]
    if bool(axes[0]) is not bool(axes[1]) or (axes[0] and axes[0] == axes[1]):
        raise CheckFailed("not_a_location")
    found = {}
    for axis, angle in zip(axes if axes[0] else _MOST, angles, strict=True):
        degrees = _degrees(angle)
        if abs(degrees) > _MOST[axis]:
            raise CheckFailed("not_a_location")
        found[axis] = degrees.quantize(_PLACES) + 0
    return found["latitude"], found["longitude"]


def _degrees(angle: _Angle) -> Decimal:
    degrees, *smaller = angle.numbers
    if any(one >= 60 for one in smaller):
        raise CheckFailed("not_a_location")
    if any(one % 1 for one in angle.numbers[:-1]) or (angle.letter and angle.sign < 0):
        raise CheckFailed("not_a_location")
    whole = degrees + sum(
        (one / 60**power for power, one in enumerate(smaller, start=1)), Decimal(0)
    )
    return -whole if angle.sign < 0 or angle.letter in ("S", "W") else whole


def _schema(_: Location) -> Schema:
    degrees: Schema = {"type": "string", "pattern": r"^-?[0-9]{1,3}(\.[0-9]{1,5})?$"}
    return closed({"latitude": degrees, "longitude": degrees}, ["latitude", "longitude"])


def _tell(words: Words, _: Location, value: Any) -> str:
    """`54.12345° N, 2.5678° W`, in the reader's letters for the quarters of the sky."""
    told = []
    for axis, names in (("latitude", "NS"), ("longitude", "EW")):
        degrees = value[axis]
        letter = words.words[f"quarter_{names[degrees < 0].lower()}"]
        told.append(f"{number(abs(degrees), words.language)}° {letter}")
    return words.words["between_parts"].join(told)


def _make(item: Location, _: Today, dice: Random) -> Raw:
    """Somewhere in the box, or at the middle of the area around a place."""
    if item.near is not None:
        return {"latitude": str(item.near.latitude), "longitude": str(item.near.longitude)}
    box = item.box
    south, north = (box.south, box.north) if box else (Decimal(-60), Decimal(70))
    west, east = (box.west, box.east) if box else (Decimal(-179), Decimal(179))
    wide = (east - west) % 360
    share = Decimal(dice.randint(0, 1000)) / 1000
    longitude = (west + wide * share + 180) % 360 - 180
    return {"latitude": str(south + (north - south) * share), "longitude": str(longitude)}


def _faults(item: Location) -> Iterator[tuple[str, str]]:
    if item.box is not None and item.box.south > item.box.north:
        message = (
            "The southern edge of the area lies north of its northern edge. Change one of them."
        )
        yield "empty_range", message


RULES: Mapping[str, Rules] = {
    "location": Rules(
        check=lambda item, raw, _: location(item, raw),
        schema=_schema,
        unsaid=saying("the area that it has to lie in, and other ways to write it"),
        read=lambda _, stored: {axis: Decimal(one) for axis, one in stored.items()},
        tell=_tell,
        make=_make,
        limits=lambda _item, _today: {"server": True},
        faults=_faults,
    )
}
