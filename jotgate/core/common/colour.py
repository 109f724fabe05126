"""An accent colour, made dark or light enough for words on it and in it to be read.

Contrast is that of WCAG 2.2 (https://www.w3.org/TR/WCAG22/#dfn-contrast-ratio); 4.5 is what
its success criterion 1.4.3 (AA) asks of words.
"""

from collections.abc import Iterator
from dataclasses import dataclass

READABLE = 4.5
_STEP = 0.02
_WHITE, _BLACK = (255, 255, 255), (0, 0, 0)

_Rgb = tuple[int, int, int]


@dataclass(frozen=True)
class Shades:
    """One accent on a ground, each `#rrggbb`: itself, under the pointer, as a wash, in between;
    `on` is the colour of words on it."""

    main: str
    hover: str
    soft: str
    mid: str
    on: str


@dataclass(frozen=True)
class _Surface:
    """What an accent stands on: the colours behind it, and where to go until it is readable."""

    behind: tuple[str, ...]
    paper: str
    on: str
    toward: _Rgb
    wash: float


_LIGHT = _Surface(("#ffffff", "#eceee5"), "#ffffff", "#ffffff", _BLACK, 0.86)
_DARK = _Surface(("#1f2419", "#11140c", "#18200d"), "#1f2419", "#18200d", _WHITE, 0.8)


def contrast(one: str, other: str) -> float:
    """The contrast ratio of two colours, 1 to 21."""
    low, high = sorted((luminance(one), luminance(other)))
    return (high + 0.05) / (low + 0.05)


def luminance(colour: str) -> float:
    """The relative luminance of `#rrggbb`, 0 to 1."""
    red, green, blue = (_linear(part / 255) for part in _rgb(colour))
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def shades(accent: str) -> tuple[Shades, Shades]:
    """The accent for a light and for a dark page: the same hue, as far from it as need be."""
    return _shades(accent, _LIGHT), _shades(accent, _DARK)


def _shades(accent: str, ground: _Surface) -> Shades:
    main = next(one for one in _steps(accent, ground.toward) if _reads(one, ground))
    return Shades(
        main=main,
        hover=_mixed(main, ground.toward, 0.14),
        soft=_mixed(main, _rgb(ground.paper), ground.wash),
        mid=_mixed(main, _rgb(ground.paper), 0.35),
        on=ground.on,
    )


def _reads(colour: str, ground: _Surface) -> bool:
    return all(contrast(colour, behind) >= READABLE for behind in ground.behind)


def _steps(colour: str, toward: _Rgb) -> Iterator[str]:
    for step in range(round(1 / _STEP) + 1):
        yield _mixed(colour, toward, step * _STEP)


def _mixed(colour: str, other: _Rgb, share: float) -> str:
    parts = (round(a + (b - a) * share) for a, b in zip(_rgb(colour), other, strict=True))
    return "#" + "".join(f"{part:02x}" for part in parts)


def _rgb(colour: str) -> _Rgb:
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)


def _linear(part: float) -> float:
    return part / 12.92 if part <= 0.04045 else float(((part + 0.055) / 1.055) ** 2.4)
