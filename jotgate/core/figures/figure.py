"""The figure of a question: what is drawn of the answers to it, by their form."""

from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from datetime import date, datetime, time
from decimal import Decimal
from typing import Any

from jotgate.core.common.intervals import share_interval
from jotgate.core.entries.display import Reader
from jotgate.core.entries.table import Held, held_by
from jotgate.core.figures.categories import categories, codes_in, in_order
from jotgate.core.figures.days import day_bins, hour_bins
from jotgate.core.figures.pictures import (
    Bar,
    Bars,
    Bins,
    Files,
    Frequent,
    Gathered,
    Inner,
    Picture,
    Plain,
    Ranked,
    Ranks,
    Single,
    Texts,
)
from jotgate.core.figures.spreads import Counted, counted, number_bins, spread, there
from jotgate.core.figures.tally import Said, Tally, answered
from jotgate.core.items import Grid, Item, Roster, Scale, inside, is_valued

MOST_OFTEN = 5
"""Texts that are told, where they repeat."""

OF_PEOPLE = frozenset(("email", "phone"))
"""Kinds whose answers name somebody: how many there are is all that a figure tells of them."""


def figure_of(item: Item, tally: Tally, reader: Reader, of: int | None = None) -> Picture | None:
    """What is drawn of a tally, in the reader's language; None where nobody answered. Shares are of
    `of`, or of those who answered."""
    if not answered(tally):
        return None
    if isinstance(item, Roster | Grid):
        return _gathered(item, tally, reader)
    held = held_by(item)
    drawn = tally if held in FRAMED else [one for one in tally if one.many]
    return _PICTURES[held](item, drawn, reader, of or answered(tally))


FRAMED = frozenset(("number", "day", "time", "moment", "truth", "pick", "picks"))
"""What is drawn on a scale or in bars, which can be the same for two tallies."""


def _bar(label: str, count: int, of: int) -> Bar:
    low, high = share_interval(count, of)
    return Bar(label=label, count=count, share=count / of, low=low, high=high)


def _bars(item: Item, tally: Tally, reader: Reader, of: int) -> tuple[Bar, ...]:
    said: Counter[str] = Counter()
    for value, many in tally:
        for code in codes_in(value):
            said[code] += many
    return tuple(_bar(one.label, one.many, of) for one in in_order(item, said, reader))


def _one(item: Item, tally: Tally, reader: Reader, of: int) -> Single:
    return Bars(bars=_bars(item, tally, reader, of))


def _many(item: Item, tally: Tally, reader: Reader, of: int) -> Single:
    picks = sum(len(value) * many for value, many in tally)
    return Bars(bars=_bars(item, tally, reader, of), picks=picks)


def _numbers(tally: Tally) -> Counted:
    return counted((Decimal(str(value)), many) for value, many in tally)


def _number(item: Item, tally: Tally, reader: Reader, of: int) -> Single:
    if isinstance(item, Scale):
        return _scale(item, tally, reader, of)
    values = _numbers(tally)
    return Bins(bins=number_bins(values, reader.language), spread=spread(there(values)))


def _scale(item: Scale, tally: Tally, reader: Reader, of: int) -> Single:
    values = _numbers(tally)
    box = 2 if item.high - item.low >= 4 else 1
    steps = sorted({*map(Decimal, range(item.low, item.high + 1)), *dict(values)})

    def together(some: Sequence[Decimal]) -> Bar:
        label = "–".join(dict.fromkeys((str(some[0]), str(some[-1]))))
        return _bar(label, sum(many for value, many in values if value in some), of)

    return Bars(
        bars=_bars(item, tally, reader, of),
        spread=spread(there(values)),
        bottom=together(steps[:box]),
        top=together(steps[-box:]),
    )


def _days(tally: Iterable[tuple[date, int]], reader: Reader) -> Single:
    days: Counter[date] = Counter()
    for day, many in tally:
        days[day] += many
    return Bins(bins=day_bins(days, reader.language))


def _day(_: Item, tally: Tally, reader: Reader, __: int) -> Single:
    return _days(((date.fromisoformat(value), many) for value, many in tally), reader)


def _moment(_: Item, tally: Tally, reader: Reader, __: int) -> Single:
    """By their days in the questionnaire's time zone."""
    at = ((datetime.fromisoformat(value), many) for value, many in tally)
    return _days(((value.astimezone(reader.zone).date(), many) for value, many in at), reader)


def _time(_: Item, tally: Tally, __: Reader, ___: int) -> Single:
    return Bins(bins=hour_bins({time.fromisoformat(value): many for value, many in tally}))


def _order(item: Item, tally: Tally, reader: Reader, of: int) -> Single:
    labels = categories(item, reader)
    places: dict[str, list[int]] = {code: [] for code in labels}
    for codes, many in tally:
        for place, code in enumerate(codes, 1):
            places.setdefault(code, []).extend([place] * many)

    def ranked(code: str, at: Sequence[int]) -> Ranked:
        first = sum(one == 1 for one in at)
        bar = _bar(labels.get(code, code), first, of)
        place = sum(at) / len(at) if at else 0.0
        return Ranked(count=len(at), first=first, place=place, **bar.model_dump(exclude={"count"}))

    each = [ranked(code, at) for code, at in places.items()]
    return Ranks(options=tuple(sorted(each, key=lambda one: (not one.count, one.place))))


def _text(item: Item, tally: Tally, _: Reader, __: int) -> Single:
    if item.kind in OF_PEOPLE:
        return Texts(different=len(tally), often=())
    often = sorted((one for one in tally if one.many > 1), key=lambda one: (-one.many, one.value))
    told = (Frequent(text=str(one.value), count=one.many) for one in often[:MOST_OFTEN])
    return Texts(different=len(tally), often=tuple(told))


def _first(item: Item, tally: Tally, reader: Reader, of: int) -> Single:
    """What another question holds, as it reads there."""
    words: Counter[str] = Counter()
    for value, many in tally:
        words[reader.reads(item, value) if isinstance(value, str) else str(value)] += many
    return _text(item, [Said(*one) for one in words.items()], reader, of)


def _files(_: Item, tally: Tally, __: Reader, ___: int) -> Single:
    return Files(files=sum(len(value) * many for value, many in tally))


def _plain(_: Item, __: Tally, ___: Reader, ____: int) -> Single:
    return Plain()


_PICTURES: Mapping[Held, Callable[[Item, Tally, Reader, int], Single]] = {
    "text": _text,
    "number": _number,
    "day": _day,
    "time": _time,
    "moment": _moment,
    "truth": _one,
    "pick": _one,
    "picks": _many,
    "order": _order,
    "parts": _plain,
    "place": _plain,
    "files": _files,
    "drawing": _plain,
    "first": _first,
}
"""By what is held; rosters and grids are gone into, and the others hold nothing."""


def _lines(item: Roster | Grid, tally: Tally) -> Iterator[tuple[str, Mapping[str, Any], int]]:
    """Each line that was filled in: in which row of a grid, what it says, and how often."""
    for value, many in tally:
        rows = value.items() if isinstance(item, Grid) else [("", value)]
        for row, lines in rows:
            for line in lines:
                yield row, line, many


def _gathered(item: Roster | Grid, tally: Tally, reader: Reader) -> Gathered:
    found: dict[tuple[str, str], list[Said]] = {}
    total = 0
    for row, line, many in _lines(item, tally):
        total += many
        for key, value in line.items():
            found.setdefault((key, row), []).append(Said(value, many))
    rows = (
        {one.code: reader.say(one.label) or one.code for one in item.rows}
        if isinstance(item, Grid)
        else {"": ""}
    )
    asked = [one for one in inside(item) if is_valued(one)]
    inner = [
        _inner(one, row, _once(found[one.key, code]), reader)
        for one in asked
        for code, row in rows.items()
        if answered(found.get((one.key, code), ()))
    ]
    sizes = counted((Decimal(len(value)), many) for value, many in tally)
    sized = None
    if isinstance(item, Roster):
        sized = Bins(bins=number_bins(sizes, reader.language), spread=spread(there(sizes)))
    return Gathered(many=sized, lines=total, inner=tuple(inner))


def _once(said: Iterable[Said]) -> Tally:
    """Answers that may be there several times, each once."""
    found: dict[str, Said] = {}
    for value, many in said:
        name = repr(value)
        found[name] = Said(value, many + (found[name].many if name in found else 0))
    return list(found.values())


def _inner(item: Item, row: str, tally: Tally, reader: Reader) -> Inner:
    picture = figure_of(item, tally, reader)
    assert picture is not None
    assert not isinstance(picture, Gathered)
    label = reader.say(getattr(item, "text", None)) or item.key
    return Inner(key=item.key, label=label, row=row, answered=answered(tally), picture=picture)
