"""Answers that are made up, for trying a draft: none is told apart from a person's by a check.

They are made on the way, for what is shown only, so that conditions, options under a condition
and the path are respected. Where a page is wanted, walks are tried until one leads there.
"""

from collections.abc import Callable, Iterator, Mapping
from datetime import date, timedelta
from decimal import Decimal
from random import Random
from typing import Any

import phonenumbers

from jotgate.core.checking.checks import Raw, check
from jotgate.core.checking.failures import CheckFailed, FailedInside
from jotgate.core.checking.offered import as_offered
from jotgate.core.checking.rows import shown_inside
from jotgate.core.checking.texts import fits
from jotgate.core.common.decimals import stepped, whole_steps
from jotgate.core.common.today import Today, day_of
from jotgate.core.common.values import FileFacts, Value, Values
from jotgate.core.items import (
    Address,
    Date,
    DateTime,
    File,
    Grid,
    Item,
    Location,
    Name,
    Number,
    Option,
    Phone,
    PickMany,
    Rank,
    Roster,
    ShortText,
    Time,
)
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import Plan

TRIES = 200
"""How many walks are tried before a page counts as not found."""

WORDS = ("clear", "since", "spring", "water", "after", "rain", "by", "the", "old", "wall", "garden")
NAMES = {
    "title": ("Dr", "Ms", "Mr"),
    "given": ("Ada", "Bran", "Cleo", "Dara", "Evan", "Fen"),
    "family": ("Alder", "Birch", "Cairn", "Dale", "Esk", "Fell"),
    "suffix": ("Jr",),
    "street": ("1 Mill Lane", "22 Quay Street", "7 Fell Road"),
    "more": ("Upper floor", "Rear house"),
    "city": ("Thornmere", "Saltby"),
    "region": ("Upper Fell", "Long Moss"),
    "postcode": ("TW1 2AB", "10115"),
}
TYPES = {
    "picture": ("photo.jpg", "image/jpeg"),
    "pdf": ("page.pdf", "application/pdf"),
    "document": ("letter.odt", "application/vnd.oasis.opendocument.text"),
    "sheet": ("table.ods", "application/vnd.oasis.opendocument.spreadsheet"),
    "audio": ("sound.mp3", "audio/mpeg"),
    "video": ("film.mp4", "video/mp4"),
}


class MadeUp(Mapping[str, Raw]):
    """Answers by key, each made up when a walk asks for it; `made` are those asked for."""

    def __init__(self, plan: Plan, carried: Values, today: Today, dice: Random) -> None:
        self.made: dict[str, Raw] = {}
        self._known: dict[str, Value] = dict(carried)
        self._plan, self._today, self._dice = plan, today, dice

    def __getitem__(self, key: str) -> Raw:
        if key not in self.made:
            item = self._plan.items[key]
            self.made[key] = raw = answer(item, self._known, self._today, self._dice)
            try:
                value = check(item, raw, self._today, self._known)
            except (CheckFailed, FailedInside):
                value = None
            if value is not None:
                self._known[key] = value
        return self.made[key]

    def __iter__(self) -> Iterator[str]:
        return iter(self._plan.items)

    def __len__(self) -> int:
        return len(self._plan.items)


def answers_to(
    plan: Plan, page: str | None, carried: Values, today: Today, dice: Random
) -> dict[str, Raw] | None:
    """Answers of a walk that comes to `page`, or to a finish, and fails nowhere before it.

    None where no walk that was tried does.
    """
    for _ in range(TRIES):
        made = MadeUp(plan, carried, today, dice)
        steps = walk(plan, made, carried, today).steps
        for step in steps:
            if step.page.key == page:
                return made.made
            if step.failed:
                break
        else:
            if page is None:
                return made.made
    return None


def answer(item: Item, known: Values, today: Today, dice: Random) -> Raw:
    """An answer to `item`, None where none could be made up. `known` are those before it."""
    make = _MAKERS.get(item.kind)
    return make(as_offered(item, known, today), known, today, dice) if make else None


def _short_text(item: ShortText, _: Values, _today: Today, dice: Random) -> Raw:
    if item.pattern is not None:
        fitting = [one for one in item.pattern.fits if fits(item.pattern, one)]
        return dice.choice(fitting) if fitting else None
    return _sentence(item.shortest, item.longest or 1000, dice)


def _sentence(shortest: int | None, longest: int, dice: Random) -> str:
    words = " ".join(dice.choices(WORDS, k=dice.randint(2, 5)))
    while len(words) < (shortest or 0):
        words += f" {dice.choice(WORDS)}"
    return words[:longest].strip().ljust(min(shortest or 0, longest), "s").capitalize()


def _phone(item: Phone, _: Values, _today: Today, dice: Random) -> Raw:
    country = dice.choice(item.countries) if item.countries else "GB"
    found = phonenumbers.example_number(country)
    return phonenumbers.format_number(found, phonenumbers.PhoneNumberFormat.E164) if found else None


def _number(item: Number, _: Values, _today: Today, dice: Random) -> Raw:
    unit = item.step or Decimal(1).scaleb(-item.decimals)
    start = item.at_least if item.at_least is not None else Decimal(0)
    room = 12
    if item.at_most is not None:
        if item.at_most < start and item.at_least is None:
            start = stepped(start, whole_steps(item.at_most, start, unit), unit)
        room = min(int(whole_steps(item.at_most, start, unit)), 1000)
    return format(stepped(start, dice.randint(0, room), unit), "f") if room >= 0 else None


def _within(low: date | None, high: date | None, today: date, dice: Random) -> date:
    first = low or (high or today) - timedelta(days=60)
    last = high or max(first, today) + timedelta(days=60)
    return first + timedelta(days=dice.randint(0, max((last - first).days, 0)))


def _days(item: Date | DateTime, today: Today) -> tuple[date | None, date | None]:
    low, high = (day_of(one, today.day) if one else None for one in (item.earliest, item.latest))
    return low, high


def _date(item: Date, _: Values, today: Today, dice: Random) -> Raw:
    low, high = _days(item, today)
    return _within(low, high, today.day, dice).isoformat()


def _time(item: Time, _: Values, _today: Today, dice: Random) -> Raw:
    low, high = (_minutes(bound) for bound in (item.earliest or "08:00", item.latest or "18:00"))
    at = dice.randint(low, max(low, high))
    return f"{at // 60:02}:{at % 60:02}"


def _minutes(clock: str) -> int:
    return int(clock[:2]) * 60 + int(clock[3:])


def _date_time(item: DateTime, _: Values, today: Today, dice: Random) -> Raw:
    if item.latest == "now":
        return (today.now - timedelta(hours=dice.randint(1, 40))).strftime("%Y-%m-%dT%H:%M")
    if item.earliest == "now":
        return (today.now + timedelta(hours=dice.randint(1, 40))).strftime("%Y-%m-%dT%H:%M")
    low, high = _days(item, today)
    return f"{_within(low, high, today.day, dice)}T{dice.randint(8, 17):02}:30"


def _pick_one(item: Any, _: Values, _today: Today, dice: Random) -> Raw:
    return dice.choice(item.options).code if item.options else None


def _pick_many(item: PickMany, _: Values, _today: Today, dice: Random) -> Raw:
    alone: list[Option] = [one for one in item.options if one.alone]
    others = [one for one in item.options if not one.alone]
    if alone and (not others or dice.random() < 0.2) and (item.fewest or 1) == 1:
        return [dice.choice(alone).code]
    most = min(item.most or len(others), len(others))
    fewest = min(item.fewest or 1, most)
    picked = dice.sample(others, dice.randint(fewest, most)) if others else []
    return [one.code for one in picked]


def _rank(item: Rank, _: Values, _today: Today, dice: Random) -> Raw:
    ranked = dice.sample(item.options, len(item.options))
    return [one.code for one in ranked[: item.top]]


def _parts(item: Name | Address, _: Values, _today: Today, dice: Random) -> Raw:
    named: dict[str, str] = {part: dice.choice(NAMES[part]) for part in item.parts if part in NAMES}
    if isinstance(item, Address) and "country" in item.parts:
        named["country"] = dice.choice(item.countries or ("GB", "ES", "MA"))
    return named


def _location(item: Location, _: Values, _today: Today, dice: Random) -> Raw:
    """Somewhere in the box, or at the middle of the area around a place."""
    if item.near is not None:
        return {"latitude": str(item.near.latitude), "longitude": str(item.near.longitude)}
    box = item.box
    south, north = (box.south, box.north) if box else (Decimal(-60), Decimal(70))
    west, east = (box.west, box.east) if box else (Decimal(-179), Decimal(179))
    wide = (east - west) % 360
    share = Decimal(dice.randint(0, 1000)) / 1000
    longitude = (west + wide * share + 180) % 360 - 180
    return {"latitude": str(south + (north - south) * share), "longitude": str(longitude)}


def _file(item: File, _: Values, _today: Today, dice: Random) -> Raw:
    name, media_type = TYPES[dice.choice(item.kinds)]
    return [FileFacts(f"{dice.getrandbits(128):032x}", name, 1, media_type)]


def _grid(item: Grid, known: Values, today: Today, dice: Random) -> Raw:
    return {
        row.code: [{one.key: answer(one, known, today, dice) for one in item.columns}]
        for row in item.rows
    }


def _roster(item: Roster, known: Values, today: Today, dice: Random) -> Raw:
    count = dice.randint(max(item.fewest, min(1, item.most)), min(item.most, item.fewest + 2))
    return [_entry(item, known, today, dice) for _ in range(count)]


def _entry(item: Roster, known: Values, today: Today, dice: Random) -> dict[str, Raw]:
    entry: dict[str, Raw] = {}

    def one(inner: Item, raw: Raw, values: Values) -> Value | None:
        entry[inner.key] = answer(inner, values, today, dice)
        return check(inner, entry[inner.key], today, values)

    shown_inside(item, {}, known, one, today)
    return entry


_MAKERS: Mapping[str, Callable[[Any, Values, Today, Random], Raw]] = {
    "short_text": _short_text,
    "long_text": lambda item, _, _today, dice: _sentence(
        item.shortest, item.longest or 20_000, dice
    ),
    "email": lambda _, _known, _today, dice: f"{dice.choice(NAMES['given']).lower()}@example.org",
    "phone": _phone,
    "web_address": lambda _, _known, _today, dice: f"https://example.org/{dice.choice(WORDS)}",
    "number": _number,
    "date": _date,
    "time": _time,
    "date_time": _date_time,
    "yes_no": lambda _, _known, _today, dice: dice.random() < 0.5,
    "pick_one": _pick_one,
    "pick_many": _pick_many,
    "rank": _rank,
    "scale": lambda item, _known, _today, dice: dice.randint(item.low, item.high),
    "name": _parts,
    "address": _parts,
    "location": _location,
    "file": _file,
    "signature": lambda _, _known, _today, dice: {"typed": dice.choice(NAMES["given"])},
    "grid": _grid,
    "roster": _roster,
}
