"""What keeps one item from being published."""

from collections import Counter
from collections.abc import Callable, Iterator, Mapping
from datetime import date
from typing import Any

from jotgate.core.checking.texts import fits
from jotgate.core.common.errors import Fault
from jotgate.core.common.patterns import BadPattern, compiled
from jotgate.core.common.today import day_of
from jotgate.core.common.wording import Text, say
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.items import (
    Address,
    Date,
    DateTime,
    Grid,
    Item,
    Location,
    Name,
    Picture,
    Roster,
    ShortText,
    Time,
    Video,
    inside,
    is_restricted,
    is_valued,
    options_of,
)
from jotgate.core.items.kinds import PICKED
from jotgate.core.publishing.condition_faults import Earlier, condition_faults, fault
from jotgate.core.publishing.cross_check_faults import check_faults, formula_faults


def item_faults(
    item: Item, earlier: Earlier, at: str, questionnaire: Questionnaire
) -> Iterator[Fault]:
    """Faults of `item`, and of what is inside it."""
    first = questionnaire.first_language
    if not say(item.text, first, first).strip():
        noun = "question" if is_valued(item) else item.kind
        yield fault("no_text", at, f"This {noun} has no words yet.")
    yield from condition_faults(item.shown_when, earlier, first, at, "This is shown when")
    needed = getattr(item, "required_when", None)
    yield from condition_faults(needed, earlier, first, f"{at}/required", "This is required when")
    yield from _range(item, at)
    yield from _options(item, earlier, at, first)
    own = _OWN.get(item.kind)
    if own:
        yield from own(item, at)
    if item.kind == "computed":
        yield from formula_faults(item, earlier, at)
    if inside(item):
        yield from _inside(item, earlier, at, questionnaire)


def _inside(item: Item, earlier: Earlier, at: str, questionnaire: Questionnaire) -> Iterator[Fault]:
    known = dict(earlier)
    for one in inside(item):
        place = f"{at}/items/{one.key}"
        yield from item_faults(one, known, place, questionnaire)
        if is_restricted(one):
            message = "Restrict the whole of it: a single question inside cannot be restricted."
            yield fault("restricted_inside", place, message)
        if isinstance(item, Roster) and is_valued(one):
            known[one.key] = one
    if isinstance(item, Roster):
        yield from check_faults(item.checks, item.items, known, at, questionnaire)
    if isinstance(item, Grid):
        yield from _rows(item, earlier, at, questionnaire.first_language)


def _rows(item: Grid, earlier: Earlier, at: str, first: str) -> Iterator[Fault]:
    yield from _coded([(row.code, row.label) for row in item.rows], "row", at, first)
    for row in item.rows:
        lead = f"The row {row.code} is shown when"
        yield from condition_faults(row.shown_when, earlier, first, at, lead)
    numbers = {column.key for column in item.columns if column.kind == "number"}
    for key in item.totals:
        if key not in numbers:
            message = f"There is no column {key} of numbers to add up."
            yield fault("wrong_source", at, message)


def _options(item: Item, earlier: Earlier, at: str, first: str) -> Iterator[Fault]:
    options = options_of(item)
    if item.kind in PICKED and not options:
        yield fault("no_options", at, "There is nothing to pick. Add at least one option.")
    yield from _coded([(option.code, option.label) for option in options], "option", at, first)
    for option in options:
        lead = f"The option {option.code} is shown when"
        yield from condition_faults(option.shown_when, earlier, first, at, lead)


def _coded(parts: list[tuple[str, Text]], noun: str, at: str, first: str) -> Iterator[Fault]:
    counted = Counter(code for code, _ in parts)
    for code in sorted(code for code, count in counted.items() if count > 1):
        yield fault("double_code", at, f"Two {noun}s have the code {code}. Change one of them.")
    for code, label in parts:
        if not label.get(first, "").strip():
            yield fault("no_label", at, f"The {noun} {code} has no words yet.")


_LIMITS: Mapping[str, tuple[str, str]] = {
    "short_text": ("shortest", "longest"),
    "long_text": ("shortest", "longest"),
    "number": ("at_least", "at_most"),
    "pick_many": ("fewest", "most"),
    "roster": ("fewest", "most"),
}


def _range(item: Item, at: str) -> Iterator[Fault]:
    if item.kind not in _LIMITS:
        return
    low, high = (getattr(item, name) for name in _LIMITS[item.kind])
    if item.kind == "pick_many" and high is None:
        high = len(options_of(item)) + bool(item.else_label)
    if low is not None and high is not None and low > high:
        message = f"No answer can be at least {low} and at most {high}. Change one of them."
        yield fault("empty_range", at, message)


def _days(item: Date | DateTime | Time, at: str) -> Iterator[Fault]:
    """A range of days or times that nothing lies in, whatever day it is."""
    edges = (item.earliest, item.latest)
    if None in edges or "now" in edges:
        return
    relative = [str(edge).startswith("today") for edge in edges]
    if any(relative) and not all(relative):
        return
    low, high = (
        edge if isinstance(item, Time) else day_of(str(edge), date(2000, 1, 1)) for edge in edges
    )
    if low is None or high is None or str(low) > str(high):
        message = f"Nothing lies between {item.earliest} and {item.latest}. Change one of them."
        yield fault("empty_range", at, message)


def _pattern(item: ShortText, at: str) -> Iterator[Fault]:
    pattern = item.pattern
    if pattern is None:
        return
    try:
        compiled(pattern.expression)
    except BadPattern as why:
        yield fault("bad_pattern", at, f"The pattern cannot be used: {why}.")
        return
    for examples, wanted in ((pattern.fits, True), (pattern.fails, False)):
        for example in examples:
            if fits(pattern, example) is not wanted:
                what = "does not fit the pattern, and should" if wanted else "fits, and should not"
                yield fault("wrong_example", at, f"The example {example} {what}.")


def _needed(item: Name | Address, at: str) -> Iterator[Fault]:
    for part in item.needed:
        if part not in item.parts:
            message = f"The part {part} is needed but not asked. Ask it, or do not need it."
            yield fault("wrong_source", at, message)


def _area(item: Location, at: str) -> Iterator[Fault]:
    if item.box is not None and item.box.south > item.box.north:
        message = "The south of the area is north of its north. Change one of them."
        yield fault("empty_range", at, message)


def _media(item: Picture | Video, at: str) -> Iterator[Fault]:
    if item.media is None:
        yield fault("no_media", at, f"Choose the {item.kind} to show.")
    if isinstance(item, Video) and item.captions is None and not any(item.spoken.values()):
        message = "Add captions or what is said in words, for those who cannot hear it."
        yield fault("no_captions", at, message)


def _roster(item: Roster, at: str) -> Iterator[Fault]:
    if not any(is_valued(one) for one in item.items):
        yield fault("nothing_asked", at, "Nothing is asked here yet. Add at least one question.")


def _grid(item: Grid, at: str) -> Iterator[Fault]:
    if not item.rows or not item.columns:
        yield fault("nothing_asked", at, "A grid needs at least one row and one column.")


_OWN: Mapping[str, Callable[[Any, str], Iterator[Fault]]] = {
    "short_text": _pattern,
    "date": _days,
    "date_time": _days,
    "time": _days,
    "name": _needed,
    "address": _needed,
    "location": _area,
    "picture": _media,
    "video": _media,
    "roster": _roster,
    "grid": _grid,
}
