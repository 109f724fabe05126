"""What is known of each kind of item: one line each, from which everything else follows.

`web/src/client/kinds.ts` is written from this (`bin/fix`). A test holds these lines, and every
table by kind, against the kinds that there are.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

Holds = Literal[
    "nothing",
    "text",
    "number",
    "day",
    "time",
    "moment",
    "truth",
    "pick",
    "picks",
    "order",
    "parts",
    "place",
    "files",
    "drawing",
    "rows",
    "entries",
    "carried",
    "computed",
]
"""What an entry holds of an item. What a carried or computed value holds follows from its options
or its formula."""

Group = Literal["Text", "Numbers and time", "Choices", "In parts", "Shown", "Behind the page"]

Operator = Literal[
    "is",
    "is_not",
    "one_of",
    "at_least",
    "at_most",
    "more_than",
    "less_than",
    "between",
    "includes",
    "includes_all",
    "contains",
    "like",
    "entry_count",
    "any_entry",
    "every_entry",
]


@dataclass(frozen=True)
class Kind:
    """`name` is for staff. `in_roster` and `in_grid`: it can be asked inside of those; `by_link`: a
    link can fill it in; `typed`: it is written with a keyboard, as one text; `pressed`: one press
    answers it; `offers`: what it offers can depend on answers; `read_back`: its page says how the
    value is read."""

    name: str
    group: Group
    holds: Holds
    in_roster: bool = False
    in_grid: bool = False
    by_link: bool = True
    typed: bool = False
    pressed: bool = False
    offers: bool = False
    read_back: bool = False


def _everywhere(name: str, group: Group, holds: Holds, **more: bool) -> Kind:
    return Kind(name, group, holds, in_roster=True, in_grid=True, **more)


def _behind(name: str, group: Group, holds: Holds) -> Kind:
    arrives, read_back = holds == "carried", holds == "computed"
    return Kind(name, group, holds, by_link=arrives, read_back=read_back)


KINDS: Mapping[str, Kind] = {
    "short_text": _everywhere("Short text", "Text", "text", typed=True),
    "long_text": Kind("Long text", "Text", "text", in_roster=True, typed=True),
    "email": _everywhere("Email", "Text", "text", typed=True),
    "phone": _everywhere("Phone", "Text", "text", typed=True),
    "web_address": _everywhere("Web address", "Text", "text", typed=True),
    "number": _everywhere("Number", "Numbers and time", "number", typed=True),
    "date": _everywhere("Date", "Numbers and time", "day"),
    "time": _everywhere("Time", "Numbers and time", "time"),
    "date_time": Kind("Date and time", "Numbers and time", "moment", in_roster=True),
    "yes_no": _everywhere("Yes or no", "Choices", "truth"),
    "pick_one": _everywhere("Pick one", "Choices", "pick", pressed=True, offers=True),
    "pick_many": _everywhere("Pick many", "Choices", "picks", pressed=True, offers=True),
    "rank": Kind("Rank", "Choices", "order", in_roster=True, pressed=True, offers=True),
    "scale": _everywhere("Scale", "Choices", "number", pressed=True),
    "name": Kind("Name", "In parts", "parts", in_roster=True),
    "address": Kind("Address", "In parts", "parts", in_roster=True),
    "location": Kind("Location", "In parts", "place", in_roster=True, read_back=True),
    "file": Kind("File", "In parts", "files", in_roster=True, by_link=False),
    "signature": Kind("Signature", "In parts", "drawing", by_link=False),
    "grid": Kind("Grid", "In parts", "rows", by_link=False, offers=True),
    "roster": Kind("Roster", "In parts", "entries", by_link=False),
    "note": Kind("Note", "Shown", "nothing", in_roster=True, by_link=False),
    "picture": _behind("Picture", "Shown", "nothing"),
    "video": _behind("Video", "Shown", "nothing"),
    "carried": _behind("Carried value", "Behind the page", "carried"),
    "computed": _behind("Computed value", "Behind the page", "computed"),
}

_ORDERED: tuple[Operator, ...] = (
    "is",
    "is_not",
    "at_least",
    "at_most",
    "more_than",
    "less_than",
    "between",
    "one_of",
)
_ONE: tuple[Operator, ...] = ("is", "is_not", "one_of")
_TEXT: tuple[Operator, ...] = ("is", "is_not", "contains", "like", "one_of")

OPERATORS: Mapping[Holds, tuple[Operator, ...]] = {
    "nothing": (),
    "text": _TEXT,
    "number": _ORDERED,
    "day": _ORDERED,
    "time": _ORDERED,
    "moment": _ORDERED,
    "truth": _ONE,
    "pick": _ONE,
    "picks": ("includes", "includes_all", "one_of"),
    "order": (),
    "parts": (),
    "place": (),
    "files": (),
    "drawing": (),
    "rows": (),
    "entries": ("entry_count", "any_entry", "every_entry"),
}
"""What can be asked of an answer, beside whether there is one, in the order in which it is offered.
Of what holds none of these, only that can be asked."""

Measure = Literal["nothing", "number", "text", "day", "time", "moment", "truth", "parts"]

MEASURED: Mapping[Holds, Measure] = {
    "nothing": "nothing",
    "text": "text",
    "number": "number",
    "day": "day",
    "time": "time",
    "moment": "moment",
    "truth": "truth",
    "pick": "text",
    "picks": "number",
    "order": "number",
    "parts": "parts",
    "place": "nothing",
    "files": "number",
    "drawing": "nothing",
    "rows": "nothing",
    "entries": "number",
}
"""What of an answer is held against another by a check: of several, how many there are."""

COUNTED: frozenset[Holds] = frozenset({"picks", "order", "files", "entries"})
"""What can be several in one answer."""

UNORDERED: frozenset[Measure] = frozenset({"text", "truth", "parts"})
"""Measures of which none is more than another."""


def kinds_that_hold(*holds: Holds) -> frozenset[str]:
    return frozenset(name for name, kind in KINDS.items() if kind.holds in holds)


SHOWN = kinds_that_hold("nothing")
"""The kinds that hold no value."""

NOT_ASKED = kinds_that_hold("nothing", "carried", "computed")
"""The kinds that nobody answers: they show something, or stand behind the page."""

IN_PARTS = kinds_that_hold("parts")
"""The kinds whose answer is a map of written parts."""

PICKED = kinds_that_hold("pick", "picks", "order")
"""The kinds that are asked as options to pick from."""

OFFERING = frozenset(name for name, kind in KINDS.items() if kind.offers)
BY_LINK = frozenset(name for name, kind in KINDS.items() if kind.by_link)
