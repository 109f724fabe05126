"""Letters on paper: sheets whose address shows in the window of an envelope."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal
from unicodedata import normalize

from pydantic import Field, StringConstraints

from jotgate.core.common.part import Part

PaperWindow = Literal["din_a", "din_b", "no_10"]

LONGEST_LINES, LONGEST_SENDER = 500, 90

OwnField = Annotated[str, StringConstraints(pattern=r"^([a-z][a-z0-9_]{0,39})?$")]


class Post(Part):
    """How the contacts of a round are written to on paper: the `lines` of their address, in which
    slots stand for what is known of them, the field that has their postcode, by which letters are
    sorted, and the `sender` in one line."""

    lines: Annotated[str, StringConstraints(max_length=LONGEST_LINES)] = ""
    postcode: OwnField = ""
    sender: Annotated[str, StringConstraints(strip_whitespace=True, max_length=LONGEST_SENDER)] = (
        Field("", pattern=r"^[^\r\n]*$")
    )


@dataclass(frozen=True)
class Box:
    """On the sheet, in millimetres from its left and upper edge."""

    left: float
    top: float
    width: float
    height: float


@dataclass(frozen=True)
class Sheet:
    """A sheet of paper, sizes in millimetres. `address` is where what is written shows in the
    window however the sheet lies in its envelope, `sender` the line of who writes; the letter
    begins at `text`. `folds` are marked at the edge."""

    name: str
    width: float
    height: float
    address: Box
    sender: Box
    text: float
    folds: tuple[float, float]


_INCH = 25.4

SHEETS: Mapping[PaperWindow, Sheet] = {
    "din_b": Sheet(
        "A4, window by DIN 5008 form B",
        210,
        297,
        Box(25, 62.7, 80, 27.3),
        Box(25, 45, 80, 5),
        98.5,
        (105, 210),
    ),
    "din_a": Sheet(
        "A4, window by DIN 5008 form A",
        210,
        297,
        Box(25, 44.7, 80, 27.3),
        Box(25, 27, 80, 5),
        80.5,
        (87, 192),
    ),
    "no_10": Sheet(
        "US letter, window of a No. 10 envelope",
        8.5 * _INCH,
        11 * _INCH,
        Box(25, 2.5 * _INCH, 4.375 * _INCH - 25, 0.666 * _INCH),
        Box(25, 15, 80, 5),
        98.5,
        (11 * _INCH / 3, 22 * _INCH / 3),
    ),
}
"""DIN 5008:2020, 5.4 and annex: the field for the address is 85 by 45 mm at 20 mm from the left and
45 (form B) or 27 mm (form A) from the top, of which 17.7 mm are for the sender and notes and 27.3
for the address; text begins 5 mm to the right of its edge. Written down from memory.

No. 10: an envelope of 9.5 by 4.125 inches, its window 4.5 by 1.125, 0.875 from the left and 0.5
from below (common practice, from memory), around a sheet folded to 8.5 by 3.667, which may lie
anywhere in it: `address` is what shows wherever it lies."""

POINT = _INCH / 72
SIZES = (10.0, 9.0, 8.0, 7.0)
"""Of type, in points, the largest that fits is taken."""

INSET = 0.5
"""Millimetres above and below an address, for letters that are taller than their line."""

LEADING = 1.2
"""From one line to the next, in heights of the type."""


@dataclass(frozen=True)
class AddressLines:
    """The lines of an address in type of `size` points."""

    size: float
    lines: tuple[str, ...]


def width_of(line: str) -> float:
    """At most how wide a line is, in heights of its type, in an ordinary sans-serif."""
    return sum(map(_wide, normalize("NFD", line)))


def _wide(letter: str) -> float:
    if "\u0300" <= letter <= "\u036f":
        return 0.0
    if not letter.isascii() or letter in "MWmw@%&":
        return 1.05
    return 0.8 if letter.isupper() or letter in "#$+<=>^_|~" else 0.68


def fitted(lines: Sequence[str], box: Box) -> AddressLines | None:
    """The lines as they fit into a box, in the largest type that does, long ones broken in the
    smallest; None where there are too many."""
    said = [" ".join(one.split()) for one in lines]
    said = [one for one in said if one]
    for size in SIZES:
        widest = box.width / (size * POINT)
        if all(width_of(one) <= widest for one in said) and len(said) <= _room(box, size):
            return AddressLines(size, tuple(said))
    widest = box.width / (SIZES[-1] * POINT)
    broken = tuple(part for one in said for part in _broken(one, widest))
    return AddressLines(SIZES[-1], broken) if len(broken) <= _room(box, SIZES[-1]) else None


def _room(box: Box, size: float) -> int:
    """How many lines of this type a box has room for."""
    return int((box.height - 2 * INSET) / (size * POINT * LEADING) + 1e-6)


def _broken(line: str, widest: float) -> list[str]:
    """A line in parts that are as wide as that at most, broken between words where that goes."""
    parts, now = [], ""
    for word in line.split(" "):
        longer = f"{now} {word}" if now else word
        if width_of(longer) <= widest:
            now = longer
            continue
        if now:
            parts.append(now)
        now = ""
        for letter in word:
            if width_of(now + letter) > widest:
                parts.append(now)
                now = ""
            now += letter
    return [*parts, now] if now else parts
