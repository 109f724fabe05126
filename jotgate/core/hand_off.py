"""Handing on from one questionnaire to another: which answers go along, and what fits where."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import datetime
from decimal import Decimal
from zoneinfo import ZoneInfo

from pydantic import Field

from jotgate.core.common.decimals import plain
from jotgate.core.common.errors import Fault
from jotgate.core.common.part import Key, Part
from jotgate.core.common.values import Else, Value, Values
from jotgate.core.common.wording import Text
from jotgate.core.entries.stored import as_json
from jotgate.core.items import IN_PARTS, Carried, Item, holding, is_valued, options_of
from jotgate.core.items.kinds import BY_LINK, Holds
from jotgate.core.items.staff_names import staff_name
from jotgate.core.walking.arrival import Pairs
from jotgate.core.walking.given import names_of
from jotgate.core.walking.plan import Plan


class HandedValue(Part):
    """What goes from `source` to `target`, each a key or `key.part`. A `locked` answer cannot be
    changed where it arrives."""

    source: str = Field(max_length=100)
    target: str = Field(max_length=100)
    locked: bool = False


class HandOff(Part):
    """Who ends at `finish` may go on in the questionnaire with the address `to`; `label` is what
    the button says."""

    finish: Key
    to: str = Field(max_length=40)
    label: Text = {}
    values: tuple[HandedValue, ...] = Field((), max_length=200)


@dataclass(frozen=True)
class End:
    """One end of a handed value: an item, and the part of it, if any."""

    item: Item
    part: str

    @property
    def name(self) -> str:
        return f"{self.item.key}.{self.part}" if self.part else self.item.key


def sources_of(plan: Plan) -> dict[str, End]:
    """What can be handed on, by its name."""
    return _ends(item for item in plan.questionnaire.items() if is_valued(item))


def targets_of(plan: Plan) -> dict[str, End]:
    """What can take something that is handed on, by its name."""
    return _ends(
        item
        for item in plan.questionnaire.items()
        if item.kind in BY_LINK
        and (not isinstance(item, Carried) or any(s.kind == "hand_off" for s in item.sources))
    )


def _ends(items: Iterator[Item]) -> dict[str, End]:
    found: dict[str, End] = {}
    for item in items:
        for name in dict.fromkeys((item.key, *names_of(item))):
            found[name] = End(item, name.partition(".")[2])
    return found


_SINGLE: frozenset[Holds] = frozenset({"text", "number", "day", "time", "moment", "truth", "pick"})
"""What one text can say."""

_FREE = frozenset({"short_text", "long_text"})


def unfit(source: End, target: End) -> str:
    """Why what `source` has does not fit into `target`; empty where it does."""
    held = "text" if source.part else holding(source.item)
    wanted = "text" if target.part else holding(target.item)
    free = bool(target.part) or target.item.kind in _FREE
    if isinstance(target.item, Carried) and not target.item.options:
        free = True
    if free:
        return "" if held in _SINGLE else "it has more than one text can say"
    if options_of(source.item) and options_of(target.item) and held == wanted:
        missing = _missing(source.item, target.item)
        return f"the option {missing} is not there" if missing else ""
    if wanted == "text":
        same = source.item.kind == target.item.kind and not source.part
        loose = source.item.kind in ("carried", *_FREE)
        return "" if same or loose else f"it is no {target.item.kind.replace('_', ' ')}"
    if held != wanted or (wanted in ("parts", "place") and source.item.kind != target.item.kind):
        return "it is of another kind"
    return ""


def _missing(source: Item, target: Item) -> str:
    known = {option.code for option in options_of(target)}
    return next((one.code for one in options_of(source) if one.code not in known), "")


def hand_off_faults(
    hand_offs: tuple[HandOff, ...], plan: Plan, targets: Mapping[str, Plan]
) -> Iterator[Fault]:
    """What is wrong with hand-offs of the questionnaire of `plan`; `targets` by address."""
    finishes = [one.finish for one in hand_offs]
    for number, one in enumerate(hand_offs):
        at = f"hand_offs/{number}"
        if one.finish not in plan.finishes:
            yield _fault("no_finish", at, f"There is no finish {one.finish} in the newest edition.")
        if finishes.count(one.finish) > 1:
            yield _fault("twice", at, f"The finish {one.finish} hands on already.")
        first = plan.questionnaire.first_language
        if not one.label.get(first, "").strip():
            yield _fault("no_label", f"{at}/label", "Say on the button where it leads.")
        target = targets.get(one.to)
        if target is None:
            yield _fault("no_target", f"{at}/to", "Choose a questionnaire that is published.")
            continue
        yield from _value_faults(one, at, plan, target)


def _value_faults(one: HandOff, at: str, plan: Plan, target: Plan) -> Iterator[Fault]:
    sources, targets = sources_of(plan), targets_of(target)
    names = [value.target for value in one.values]
    for number, value in enumerate(one.values):
        place = f"{at}/values/{number}"
        source, end = sources.get(value.source), targets.get(value.target)
        if source is None:
            yield _fault("no_item", place, f"There is nothing called {value.source} to hand on.")
        elif end is None:
            yield _fault("no_item", place, f"Nothing called {value.target} takes it there.")
        elif names.count(value.target) > 1:
            yield _fault("twice", place, f"{value.target} is filled in twice.")
        else:
            yield from _ends_faults(source, end, place, plan, target)


def _ends_faults(source: End, end: End, at: str, plan: Plan, target: Plan) -> Iterator[Fault]:
    first = plan.questionnaire.first_language
    name = staff_name(source.item, first)
    reason = unfit(source, end)
    if reason:
        message = f"{name} does not fit into {staff_name(end.item, first)}: {reason}."
        yield _fault("unfit", at, message)
    if plan.is_restricted(source.item.key) and not target.is_restricted(end.item.key):
        message = f"{name} is restricted here and would be open there. Restrict it there too."
        yield _fault("restricted", at, message)
    sealed = isinstance(source.item, Carried) and source.item.sealed
    if sealed and not (isinstance(end.item, Carried) and end.item.sealed):
        message = f"{name} is sealed. Only a sealed value can take it there."
        yield _fault("sealed", at, message)


def _fault(code: str, at: str, message: str) -> Fault:
    return Fault(code=code, at=at, message=message)


def proposed(plan: Plan, target: Plan) -> tuple[HandedValue, ...]:
    """What probably goes where: by key, else by name, where the kinds fit."""
    first = plan.questionnaire.first_language
    sources = sources_of(plan)
    named = {
        staff_name(end.item, first).casefold(): end for end in sources.values() if not end.part
    }
    found: list[HandedValue] = []
    there = target.questionnaire.first_language
    for name, end in targets_of(target).items():
        if end.part:
            continue
        source = sources.get(name) or named.get(staff_name(end.item, there).casefold())
        if source and not list(_ends_faults(source, end, "", plan, target)):
            found.append(HandedValue(source=source.name, target=name))
    return tuple(found)


def handed(one: HandOff, plan: Plan, target: Plan, values: Values) -> tuple[Pairs, frozenset[str]]:
    """The answers `values` that go along, as a link gives them, and the keys of those that are
    locked where they arrive. What does not fit any more is left out."""
    sources, targets = sources_of(plan), targets_of(target)
    pairs: list[tuple[str, str]] = []
    locked: set[str] = set()
    for value in one.values:
        source, end = sources.get(value.source), targets.get(value.target)
        answer = None if source is None else values.get(source.item.key)
        if source is None or end is None or answer is None:
            continue
        if list(_ends_faults(source, end, "", plan, target)):
            continue
        given = list(_texts(source, end, answer, target))
        pairs += given
        if given and value.locked:
            locked.add(end.item.key)
    return tuple(pairs), frozenset(locked)


def _texts(source: End, end: End, answer: Value, target: Plan) -> Iterator[tuple[str, str]]:
    if source.item.kind in IN_PARTS and isinstance(answer, Mapping):
        parts = {source.part: answer.get(source.part)} if source.part else answer
        for part, text in parts.items():
            if isinstance(text, str):
                yield (end.name if source.part else f"{end.item.key}.{part}"), text
        return
    for one in answer if isinstance(answer, tuple) else (answer,):
        yield end.name, _text(one, target)


def _text(value: Value, target: Plan) -> str:
    """A value as a link gives it to `target`; moments in the time zone where that is at home."""
    match value:
        case bool():
            return "yes" if value else "no"
        case Decimal():
            return plain(value)
        case Else():
            return value.words
        case datetime():
            local = value.astimezone(ZoneInfo(target.questionnaire.time_zone))
            return local.replace(tzinfo=None).isoformat(timespec="minutes")
        case Mapping() if "latitude" in value:
            return f"{value['latitude']}, {value['longitude']}"
    return str(as_json(value))
