"""Pictures of figures as drawings that stand alone."""

from collections.abc import Callable, Sequence
from typing import Any

from jotgate.core.common.wording import fill
from jotgate.core.figures.pictures import (
    Bars,
    Bin,
    Bins,
    Files,
    Gathered,
    Picture,
    Plain,
    Ranks,
    Single,
    Spread,
    Texts,
)
from jotgate.core.shared_pages.canvas import LINE, WIDE, Canvas, width_of, wrapped
from jotgate.core.shared_pages.numbers import fine, percent, whole
from jotgate.core.shared_pages.page import DrawnFigure
from jotgate.core.words import direction, figures

LABEL, NUMBERS = 196.0, 110.0
"""How wide the words before a bar are, and the numbers behind it."""

HIGH = 120.0
"""The highest column."""

GAP = 12.0


def drawing(picture: Picture, name: str, language: str, width: float = WIDE) -> str:
    """A picture as SVG, in a language; `name` is what it is called where it is not seen."""
    canvas = Canvas(width, direction(language) == "rtl")
    _draw(canvas, picture, language)
    return canvas.svg(name)


def standalone(figure: DrawnFigure, language: str) -> str:
    """A figure as SVG that says itself what it is of."""
    canvas = Canvas(WIDE, direction(language) == "rtl")
    canvas.words(figure.title, bold=True)
    canvas.words(how_many(figure, language), "quiet")
    canvas.height += 8
    if figure.picture is not None:
        _draw(canvas, figure.picture, language)
    return canvas.svg(figure.title)


def how_many(figure: DrawnFigure, language: str) -> str:
    """How many answered, of those who were asked where that is known."""
    said = {"count": whole(figure.answered, language)}
    if figure.asked is None:
        return fill(figures(language)["answered"], said)
    said["asked"] = whole(figure.asked, language)
    return fill(figures(language)["of_asked"], said)


def _draw(canvas: Canvas, picture: Picture, language: str) -> None:
    if isinstance(picture, Gathered):
        _gathered(canvas, picture, language)
    else:
        _DRAWN[type(picture)](canvas, picture, language)


def _bars(canvas: Canvas, picture: Bars, language: str) -> None:
    for one in picture.bars:
        _bar(canvas, one.label, one, f"{whole(one.count, language)}", language)
    if picture.picks is not None:
        _note(canvas, "picks", language, count=whole(picture.picks, language))
    if picture.bottom is not None and picture.top is not None:
        both = (picture.bottom, picture.top)
        said = ", ".join(f"{one.label}: {percent(one.share, language)}" for one in both)
        canvas.words(said, "quiet")
    _spread(canvas, picture.spread, language)


def _bar(canvas: Canvas, label: str, one: Any, number: str, language: str) -> None:
    """A line with a bar as long as a share, its interval on it, a number and the share."""
    if canvas.is_narrow:
        canvas.words(label)
        start, y, high = 0.0, canvas.height, 23.0
    else:
        lines = wrapped(label, LABEL - GAP)
        high = len(lines) * LINE + 6.0
        for at, line in enumerate(lines):
            canvas.text(0, canvas.height + LINE * (at + 1) - 1, line)
        start, y = LABEL, canvas.height + (high - 15) / 2
    track = canvas.width - start - NUMBERS
    canvas.box(start, y, track, 15, "track")
    canvas.box(start, y, track * one.share, 15, "bar")
    low, long = start + track * one.low, track * max(one.high - one.low, 0.004)
    canvas.box(low, y + 7, long, 1.4, "ink")
    for end in (low, low + long - 1.4):
        canvas.box(end, y + 4, 1.4, 7.4, "ink")
    canvas.text(canvas.width - 58, y + 12, number, "end")
    canvas.text(canvas.width, y + 12, percent(one.share, language), "end")
    canvas.height += high


def _bins(canvas: Canvas, picture: Bins, language: str) -> None:
    bins = picture.bins
    wide = min(canvas.width, len(bins) * 66.0) / len(bins)
    most, told = max([1, *(one.count for one in bins)]), wide >= 28
    foot = canvas.height + LINE + HIGH
    for at, one in enumerate(bins):
        high = HIGH * one.count / most
        canvas.box(at * wide + 1, foot - high, wide - 2, high, "bar")
        if told and one.count:
            number = whole(one.count, language)
            canvas.text((at + 0.5) * wide, foot - high - 4, number, "middle")
    canvas.box(0, foot, wide * len(bins), 1, "line")
    canvas.height = foot + LINE + 2
    _axis(canvas, bins, wide)
    _spread(canvas, picture.spread, language)


def _axis(canvas: Canvas, bins: Sequence[Bin], wide: float) -> None:
    """What each column is of, or the first and the last where not all have room."""
    y = canvas.height - 4
    if len(bins) == 1 or max(width_of(one.label) for one in bins) + 6 <= wide:
        for at, one in enumerate(bins):
            canvas.text((at + 0.5) * wide, y, one.label, "middle", "quiet")
        return
    canvas.text(0, y, bins[0].label, colour="quiet")
    whole_width = wide * len(bins)
    room = width_of(bins[0].label) + width_of(bins[-1].label) + GAP
    if room > whole_width:
        canvas.height += LINE
        canvas.text(0, y + LINE, f"– {bins[-1].label}", colour="quiet")
    else:
        canvas.text(whole_width, y, bins[-1].label, "end", "quiet")


def _ranks(canvas: Canvas, picture: Ranks, language: str) -> None:
    words = figures(language)
    canvas.height += LINE
    y = canvas.height - 4
    canvas.text(0 if canvas.is_narrow else LABEL, y, words["put_first"], colour="quiet")
    canvas.text(canvas.width - 58, y, words["average_place"], "end", "quiet")
    for one in picture.options:
        place = fine(one.place, language) if one.count else "–"
        _bar(canvas, one.label, one, place, language)


def _texts(canvas: Canvas, picture: Texts, language: str) -> None:
    for one in picture.often:
        number = whole(one.count, language)
        canvas.text(canvas.width, canvas.height + LINE - 4, number, "end")
        canvas.words(one.text, room=80)
        canvas.box(0, canvas.height + 2, canvas.width, 0.6, "line")
        canvas.height += 6
    _note(canvas, "different", language, count=whole(picture.different, language))


def _files(canvas: Canvas, picture: Files, language: str) -> None:
    _note(canvas, "files", language, count=whole(picture.files, language))


def _plain(canvas: Canvas, picture: Plain, language: str) -> None:
    """How many answered is all there is to say, and stands beside it."""


def _gathered(canvas: Canvas, picture: Gathered, language: str) -> None:
    words = figures(language)
    if picture.many is not None:
        _heading(canvas, words["how_many"])
        _bins(canvas, picture.many, language)
        _note(canvas, "lines", language, count=whole(picture.lines, language))
    for one in picture.inner:
        _heading(canvas, ": ".join(filter(None, (one.row, one.label))))
        _note(canvas, "answered", language, count=whole(one.answered, language))
        _draw(canvas, one.picture, language)


def _heading(canvas: Canvas, said: str) -> None:
    canvas.height += 8 if canvas.height else 0
    canvas.words(said, bold=True)


def _note(canvas: Canvas, word: str, language: str, **said: str) -> None:
    canvas.words(fill(figures(language)[word], said), "quiet")


def _spread(canvas: Canvas, spread: Spread | None, language: str) -> None:
    if spread is not None:
        told = {name: fine(value, language) for name, value in spread if value is not None}
        _note(canvas, "spread", language, **told)


_DRAWN: dict[type[Single], Callable[[Canvas, Any, str], None]] = {
    Bars: _bars,
    Bins: _bins,
    Ranks: _ranks,
    Texts: _texts,
    Files: _files,
    Plain: _plain,
}
