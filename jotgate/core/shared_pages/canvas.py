"""A drawing that stands alone (Scalable Vector Graphics 1.1), from left to right or mirrored."""

import unicodedata
from collections.abc import Iterator
from html import escape
from typing import Literal

WIDE, NARROW = 640.0, 300.0
"""Widths of a drawing, in units of it: pixels, where it is not scaled; the second is for phones."""

SIZE = 13
LINE = 17
"""Of text, and from one line to the next."""

Colour = Literal["ink", "quiet", "bar", "track", "line"]

COLOURS: dict[Colour, str] = {
    "ink": "#1d231a",
    "quiet": "#4c5546",
    "bar": "#6d8350",
    "track": "#eceee5",
    "line": "#7a8370",
}
"""Each is a class too, so that a page can give it another."""

Anchor = Literal["start", "middle", "end"]
_MIRRORED: dict[Anchor, Anchor] = {"start": "end", "middle": "middle", "end": "start"}

_FAMILY = "'Atkinson Hyperlegible Next Variable', 'Noto Sans', sans-serif"


def width_of(text: str, size: float = SIZE) -> float:
    """How wide a text is in a wide font, as the reader's is not known. Letters that stand over
    others take nothing."""
    return size * sum(map(_em, text))


def _em(letter: str) -> float:
    if unicodedata.combining(letter):
        return 0.0
    if unicodedata.east_asian_width(letter) in "WF":
        return 1.0
    if letter in " .,:;'|ijl":
        return 0.34
    return 0.97 if letter in "mwMW%@" else 0.75 if letter.isupper() else 0.63


def wrapped(text: str, width: float, most: int = 3) -> list[str]:
    """A text in lines that are about as wide as `width`, at most so many; what is left out is
    told by an ellipsis. A word that is longer than a line is broken."""
    lines = list(_lines(text, width))
    if len(lines) > most:
        lines = [*lines[: most - 1], lines[most - 1][:-1].rstrip() + "…"]
    return lines or [""]


def _lines(text: str, width: float) -> Iterator[str]:
    line = ""
    for word in text.split():
        longer = f"{line} {word}" if line else word
        if width_of(longer) <= width:
            line = longer
            continue
        if line:
            yield line
        while width_of(word) > width:
            fits = next(n for n in range(len(word), 0, -1) if n == 1 or width_of(word[:n]) <= width)
            yield word[:fits]
            word = word[fits:]
        line = word
    if line:
        yield line


class Canvas:
    """What is drawn so far, `height` deep. Places count from the side where reading begins."""

    def __init__(self, width: float, mirrored: bool) -> None:
        self.width, self.height = width, 0.0
        self._mirrored = mirrored
        self._parts: list[str] = []

    def box(self, x: float, y: float, width: float, height: float, colour: Colour) -> None:
        left = self.width - x - width if self._mirrored else x
        self._parts.append(
            f'<rect class="{colour}" fill="{COLOURS[colour]}" x="{left:.1f}" y="{y:.1f}" '
            f'width="{max(width, 0):.1f}" height="{max(height, 0):.1f}"/>'
        )

    def text(
        self,
        x: float,
        y: float,
        said: str,
        anchor: Anchor = "start",
        colour: Colour = "ink",
        bold: bool = False,
    ) -> None:
        """`y` is the line that letters stand on. What is said keeps to itself in which direction it
        runs (Unicode Standard Annex 9: first strong isolate)."""
        at, side = (self.width - x, _MIRRORED[anchor]) if self._mirrored else (x, anchor)
        isolated = f"\u2068{said}\u2069" if self._mirrored or not said.isascii() else said
        weight = ' font-weight="600"' if bold else ""
        self._parts.append(
            f'<text class="{colour}" fill="{COLOURS[colour]}" x="{at:.1f}" y="{y:.1f}" '
            f'text-anchor="{side}"{weight}>{escape(isolated)}</text>'
        )

    @property
    def is_narrow(self) -> bool:
        return self.width < WIDE

    def words(self, said: str, colour: Colour = "ink", bold: bool = False, room: float = 0) -> None:
        """Lines of text below what is there, with so much `room` left beside them."""
        for line in wrapped(said, self.width - room, 12):
            self.height += LINE
            self.text(0, self.height - 4, line, colour=colour, bold=bold)

    def svg(self, name: str) -> str:
        """The whole; `name` is what it is called where it is not seen."""
        said, wide, high = escape(name), f"{self.width:.0f}", f"{self.height + 2:.0f}"
        kind = "narrow" if self.is_narrow else "wide"
        return (
            f'<svg xmlns="http://www.w3.org/2000/svg" role="img" aria-label="{said}" '
            f'class="{kind}" viewBox="0 0 {wide} {high}" width="{wide}" height="{high}" '
            f'font-family="{_FAMILY}" font-size="{SIZE}"><title>{said}</title>'
            f"{''.join(self._parts)}</svg>"
        )
