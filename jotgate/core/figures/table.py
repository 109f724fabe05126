"""The table behind a picture: each of its numbers in a line."""

from collections.abc import Iterator

from jotgate.core.figures.arrivals import Arrivals
from jotgate.core.figures.pictures import (
    Bar,
    Bars,
    Bins,
    Files,
    Gathered,
    Picture,
    Plain,
    Ranks,
    Spread,
    Texts,
)

HEAD = ["key", "question", "inside", "row", "what", "number", "share", "from", "to"]

Line = list[str]


def lines_of(asked: int | None, answered: int, picture: Picture | None) -> Iterator[Line]:
    """Lines from *inside* on: in which part of a roster or grid, which option or stretch, what the
    number is, and for shares of those who answered their 95 % interval."""
    if asked is not None:
        yield ["", "", "asked", str(asked), "", "", ""]
        yield ["", "", "left empty", str(asked - answered), "", "", ""]
    yield ["", "", "answered", str(answered), "", "", ""]
    if picture is not None:
        yield from _lines(picture, "")


def lines_when(found: Arrivals) -> Iterator[Line]:
    """The same of when entries arrived."""
    drawn = (("over time", found.over_time), ("by the hour of the day", found.by_hour))
    for inside, picture in drawn:
        for one in picture.bins:
            yield [inside, one.label, "entries", str(one.count), "", "", ""]


def _lines(picture: Picture, inside: str) -> Iterator[Line]:
    match picture:
        case Bars():
            yield from (_bar(one, inside) for one in picture.bars)
            if picture.picks is not None:
                yield [inside, "", "picks", str(picture.picks), "", "", ""]
            boxes = ((picture.bottom, "lowest"), (picture.top, "highest"))
            yield from (_bar(one, inside, name) for one, name in boxes if one is not None)
            yield from _spread(picture.spread, inside)
        case Bins():
            yield from (
                [inside, one.label, "answers", str(one.count), "", "", ""] for one in picture.bins
            )
            yield from _spread(picture.spread, inside)
        case Ranks():
            for one in picture.options:
                yield [inside, one.label, "placed", str(one.count), "", "", ""]
                yield [inside, one.label, "average place", _plain(one.place), "", "", ""]
                shares = map(_plain, (one.share, one.low, one.high))
                yield [inside, one.label, "first", str(one.first), *shares]
        case Texts():
            yield [inside, "", "different answers", str(picture.different), "", "", ""]
            yield from (
                [inside, one.text, "answers", str(one.count), "", "", ""] for one in picture.often
            )
        case Files():
            yield [inside, "", "files", str(picture.files), "", "", ""]
        case Gathered():
            yield from _lines(picture.many, inside) if picture.many else ()
            yield [inside, "", "lines", str(picture.lines), "", "", ""]
            for part in picture.inner:
                name = ": ".join(filter(None, (part.row, part.label)))
                yield [name, "", "answered", str(part.answered), "", "", ""]
                yield from _lines(part.picture, name)
        case Plain():
            return


def _bar(one: Bar, inside: str, what: str = "answers") -> Line:
    shares = map(_plain, (one.share, one.low, one.high))
    return [inside, one.label, what, str(one.count), *shares]


def _spread(found: Spread | None, inside: str) -> Iterator[Line]:
    if found is None:
        return
    between = ["" if end is None else _plain(end) for end in (found.mean_low, found.mean_high)]
    yield [inside, "", "mean", _plain(found.mean), "", *between]
    five = ("smallest", "lower", "median", "upper", "largest")
    names = ("smallest", "lower quartile", "median", "upper quartile", "largest")
    for name, what in zip(five, names, strict=True):
        yield [inside, "", what, _plain(getattr(found, name)), "", "", ""]


def _plain(value: float) -> str:
    return f"{value:.6f}".rstrip("0").rstrip(".")
