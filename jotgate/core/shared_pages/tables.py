"""The numbers behind a picture as tables: heads, and lines of cells in words."""

from collections.abc import Iterator
from dataclasses import dataclass

from jotgate.core.figures.pictures import Bar, Bars, Bins, Gathered, Picture, Ranks, Texts
from jotgate.core.shared_pages.numbers import fine, percent, whole
from jotgate.core.words import figures


@dataclass(frozen=True)
class NumberTable:
    """`name` is empty where a picture has one table only."""

    name: str
    head: tuple[str, ...]
    lines: tuple[tuple[str, ...], ...]


def tables(picture: Picture, language: str, name: str = "") -> Iterator[NumberTable]:
    """None of what is nothing but a number."""
    words = figures(language)
    match picture:
        case Bars():
            head = tuple(words[one] for one in ("answer", "number", "share", "interval"))
            lines = tuple((one.label, *_numbers(one, language)) for one in picture.bars)
            yield NumberTable(name, head, lines)
        case Bins():
            counts = tuple((one.label, whole(one.count, language)) for one in picture.bins)
            yield NumberTable(name, (words["answer"], words["number"]), counts)
        case Ranks():
            names = ("answer", "average_place", "put_first", "number")
            ranked = tuple(
                (
                    one.label,
                    fine(one.place, language) if one.count else "–",
                    f"{whole(one.first, language)} ({percent(one.share, language)})",
                    whole(one.count, language),
                )
                for one in picture.options
            )
            yield NumberTable(name, tuple(words[one] for one in names), ranked)
        case Texts() if picture.often:
            often = tuple((one.text, whole(one.count, language)) for one in picture.often)
            yield NumberTable(name, (words["answer"], words["number"]), often)
        case Gathered():
            if picture.many is not None:
                yield from tables(picture.many, language, words["how_many"])
            for part in picture.inner:
                inside = ": ".join(filter(None, (part.row, part.label)))
                yield from tables(part.picture, language, inside)


def _numbers(one: Bar, language: str) -> tuple[str, str, str]:
    between = f"{whole(100 * one.low, language)}–{whole(100 * one.high, language)} %"
    return whole(one.count, language), percent(one.share, language), between
