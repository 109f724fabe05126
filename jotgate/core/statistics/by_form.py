"""Which variables an answer becomes, by what it holds."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from functools import partial
from typing import Any

import orjson

from jotgate.core.common.values import ELSE, FALSE, TRUE
from jotgate.core.entries.table import Held, held_by
from jotgate.core.items import (
    Address,
    Grid,
    Item,
    Name,
    Roster,
    Scale,
    inside,
    is_valued,
    options_of,
)
from jotgate.core.statistics.variables import (
    Category,
    Draft,
    Form,
    Read,
    Wording,
    numbered,
)
from jotgate.core.words import page

Asked = Sequence[Item]
"""A question as editions have it, the newest last: one at least, all of the same form."""


def drafts(asked: Asked, say: Wording) -> list[Draft]:
    """The variables of what is stored of a question. A roster says how many there are, a grid all
    that stands in it where no row can be answered more than once, else how often each was."""
    match asked[-1]:
        case Roster():
            return [Draft("whole", lambda stored: str(len(stored)), part="How many")]
        case Grid():
            return list(_grid(asked, say))
    return list(_BY_HELD[held_by(asked[-1])](asked, say))


def repeats(asked: Asked) -> bool:
    """Whether a grid has rows that can be answered more than once."""
    return any(row.repeats > 1 for item in asked if isinstance(item, Grid) for row in item.rows)


def versions(asked: Asked, key: str) -> list[Item]:
    """A question inside of another, as editions have it."""
    return [one for item in asked for one in inside(item) if one.key == key]


def categories(asked: Asked, say: Wording) -> tuple[Category, ...]:
    """What can be picked in any edition, in the order in which it came up, so that numbers stay
    what they are; labels are the newest."""
    labels: dict[str, str] = {}
    for item in asked:
        labels |= {one.code: say(one.label) or one.code for one in options_of(item)}
        if other := getattr(item, "else_label", None):
            labels[ELSE] = say(other)
    numbers = numbered(list(labels), ELSE)
    return tuple(Category(code, numbers[code], label) for code, label in labels.items())


def rows_of(asked: Asked, say: Wording) -> tuple[Category, ...]:
    """The rows of a grid in all editions, as categories."""
    labels: dict[str, str] = {}
    for item in asked:
        if isinstance(item, Grid):
            labels |= {one.code: say(one.label) or one.code for one in item.rows}
    numbers = numbered(list(labels), "")
    return tuple(Category(code, numbers[code], label) for code, label in labels.items())


def _truths(say: Wording) -> tuple[Category, ...]:
    words = page(say.language)
    return (Category(TRUE, 1, words["yes"]), Category(FALSE, 0, words["no"]))


def _plain(form: Form) -> Callable[[Asked, Wording], Iterator[Draft]]:
    def made(_: Asked, __: Wording) -> Iterator[Draft]:
        yield Draft(form, _text)

    return made


def _text(stored: Any) -> str | None:
    return stored if isinstance(stored, str) else orjson.dumps(stored).decode()


def _number(asked: Asked, say: Wording) -> Iterator[Draft]:
    whole = all(isinstance(one, Scale) or getattr(one, "decimals", 1) == 0 for one in asked)
    last = asked[-1]
    steps: tuple[Category, ...] = ()
    if isinstance(last, Scale):
        ends = {last.low: last.low_label, last.high: last.high_label}
        said = {one: say(ends.get(one)) for one in range(last.low, last.high + 1)}
        steps = tuple(Category(str(one), one, words) for one, words in said.items() if words)
    yield Draft("whole" if whole else "number", _text, categories=steps)


def _truth(_: Asked, say: Wording) -> Iterator[Draft]:
    yield Draft(
        "truth", lambda stored: TRUE if stored in (True, TRUE) else FALSE, categories=_truths(say)
    )


def _code(stored: Any) -> str:
    return ELSE if isinstance(stored, Mapping) else str(stored)


def _own_words(stored: Any) -> str | None:
    return stored.get(ELSE) if isinstance(stored, Mapping) else None


def _pick(asked: Asked, say: Wording) -> Iterator[Draft]:
    found = categories(asked, say)
    yield Draft("code", _code, categories=found)
    for one in found:
        if one.code == ELSE:
            yield Draft("text", _own_words, (ELSE, "words"), f"{one.label} (words)")


def _picks(asked: Asked, say: Wording) -> Iterator[Draft]:
    def picked(code: str, stored: Any) -> str:
        return TRUE if code in map(_code, stored) else FALSE

    def words(stored: Any) -> str | None:
        return next(filter(None, map(_own_words, stored)), None)

    for one in categories(asked, say):
        yield Draft("truth", partial(picked, one.code), (one.code,), one.label, _truths(say))
        if one.code == ELSE:
            yield Draft("text", words, (ELSE, "words"), f"{one.label} (words)")


def _order(asked: Asked, say: Wording) -> Iterator[Draft]:
    def place(code: str, stored: Any) -> str | None:
        return str(stored.index(code) + 1) if code in stored else None

    for one in categories(asked, say):
        yield Draft("whole", partial(place, one.code), (one.code,), f"{one.label} (place)")


def _member(name: str) -> Read:
    return lambda stored: stored.get(name)


def _parts(asked: Asked, say: Wording) -> Iterator[Draft]:
    words, kind = page(say.language), asked[-1].kind
    every = (part for one in asked if isinstance(one, Name | Address) for part in one.parts)
    for part in dict.fromkeys(every):
        yield Draft("text", _member(part), (part,), words[f"{kind}_{part}"])


def _place(_: Asked, __: Wording) -> Iterator[Draft]:
    for name in ("latitude", "longitude"):
        yield Draft("number", _member(name), (name,), name.capitalize())


def _files(_: Asked, __: Wording) -> Iterator[Draft]:
    def names(stored: Any) -> str:
        return "; ".join(one["name"] for one in stored)

    yield Draft("whole", lambda stored: str(len(stored)), part="How many files")
    yield Draft("text", names, ("names",), "Names of the files")


def _drawing(_: Asked, __: Wording) -> Iterator[Draft]:
    how = (Category("drawn", 1, "Drawn"), Category("typed", 2, "Typed"))
    yield Draft("code", lambda stored: next(iter(stored)), categories=how)
    yield Draft("text", _member("typed"), ("typed",), "Typed name")


def _grid(asked: Asked, say: Wording) -> Iterator[Draft]:
    several = repeats(asked)
    for row in rows_of(asked, say):
        if several:
            yield Draft("whole", partial(_times, row.code), (row.code,), f"{row.label} (times)")
            continue
        for one in inside(asked[-1]):
            if is_valued(one):
                yield from _cell(row, one.key, versions(asked, one.key), say)


def _times(row: str, stored: Any) -> str:
    return str(len(stored.get(row, ())))


def _cell(row: Category, key: str, asked: Asked, say: Wording) -> Iterator[Draft]:
    def within(read: Read, stored: Any) -> str | None:
        lines: Sequence[Mapping[str, Any]] = stored.get(row.code) or ({},)
        return read(lines[0][key]) if key in lines[0] else None

    for one in drafts(asked, say):
        called = [row.label, say(asked[-1].text), one.part]
        yield Draft(
            one.form,
            partial(within, one.read),
            (row.code, key, *one.stem),
            ", ".join(filter(None, called)),
            one.categories,
        )


_BY_HELD: Mapping[Held, Callable[[Asked, Wording], Iterable[Draft]]] = {
    "text": _plain("text"),
    "number": _number,
    "day": _plain("day"),
    "time": _plain("time"),
    "moment": _plain("moment"),
    "truth": _truth,
    "pick": _pick,
    "picks": _picks,
    "order": _order,
    "parts": _parts,
    "place": _place,
    "files": _files,
    "drawing": _drawing,
    "first": _plain("text"),
}
"""By what is held; rosters and grids are gone into, and the others hold nothing."""
