"""How the values of an entry read for a person."""

from collections.abc import Callable, Hashable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, time
from decimal import Decimal
from typing import Any
from zoneinfo import ZoneInfo

from jotgate.core.answers.by_kind import RULES
from jotgate.core.answers.rules import same
from jotgate.core.common.formatting import day, moment, number
from jotgate.core.common.values import Else, FileFacts, Value, Values
from jotgate.core.common.wording import fill, say
from jotgate.core.conditions.formulas import First
from jotgate.core.entries.entry import Stored
from jotgate.core.entries.stored import as_json, from_json
from jotgate.core.items import Grid, Item, Roster, holding, inside, is_valued, options_of
from jotgate.core.walking.plan import Plan
from jotgate.core.words import page


@dataclass(frozen=True)
class Line:
    """One answered row of a grid or entry of a roster: its heading, and its cells in words."""

    heading: str
    cells: tuple[str, ...]


@dataclass(frozen=True)
class Table:
    """A grid or roster in words. `columns` are the questions asked in every line."""

    columns: tuple[str, ...]
    lines: tuple[Line, ...]


def files_in(value: Any) -> Iterator[FileFacts]:
    """The files in an answer, however deep."""
    if isinstance(value, FileFacts):
        yield value
    elif isinstance(value, Mapping):
        for one in value.values():
            yield from files_in(one)
    elif isinstance(value, tuple):
        for one in value:
            yield from files_in(one)


_WRITTEN = frozenset(
    kind for kind, one in RULES.items() if one.read is same and one.tell is None
) - {"carried"}
"""Kinds of which what is stored as text reads as it is. A carried value can have options."""


SAID_AGAIN = 2_000
"""Different answers to a question that are kept as they read: tables say the same again."""

_ALIKE = frozenset((str, bool, Decimal, time))


def is_written(item: Item) -> bool:
    """Whether what is stored of it is text that reads as it is."""
    return item.kind in _WRITTEN and holding(item) == "text"


class Memory:
    """What `made` makes of stored values, kept where many may say the same."""

    def __init__(self, made: Callable[[Any], Any]) -> None:
        self._made = made
        self._kept: dict[Hashable, Any] = {}

    def all(self, every: Sequence[Any]) -> list[Any]:
        """Of each in its order; None of None."""
        kept, find = self._kept, self.find
        return [
            None
            if one is None
            else kept[one]
            if one.__class__ in _ALIKE and one in kept
            else find(one)
            for one in every
        ]

    def find(self, stored: Any) -> Any:
        said = stored
        if stored.__class__ is list and all(one.__class__ is str for one in stored):
            said = tuple(stored)
        elif stored.__class__ not in _ALIKE:
            return self._made(stored)
        found = self._kept.get(said)
        if found is None:
            if len(self._kept) >= SAID_AGAIN:
                self._kept.clear()
            found = self._kept[said] = self._made(stored)
        return found


class Reader:
    """Reads the values of one edition, in its first language or another."""

    def __init__(self, plan: Plan, language: str = "") -> None:
        self.plan = plan
        self._first_language = plan.questionnaire.first_language
        self.language = language or self._first_language
        self.words = page(self.language)
        self.zone = ZoneInfo(plan.questionnaire.time_zone)
        self._labels: dict[int, tuple[Item, dict[str, str]]] = {}
        self._before: dict[str, Callable[[Any], str]]
        self._before = plan.made.setdefault(("said in tables", self.language), {})

    def say(self, text: Mapping[str, str] | None) -> str:
        return say(dict(text or {}), self.language, self._first_language)

    def reads(self, item: Item, value: Value) -> str:
        """`value` in the words that a person reads, on one line but for written lines."""
        if item.kind == "computed" and isinstance(item.formula, First):
            return self._first(item.formula, value)
        if item.kind == "roster" or item.kind == "grid":
            return self._lines_in_words(item, value)
        tell = RULES[item.kind].tell
        return tell(self, item, value) if tell else self._one(item, value)

    def all(self, values: Values) -> dict[str, str]:
        """Every value of `values` as a person reads it, by key."""
        return {key: self.reads(self.plan.items[key], value) for key, value in values.items()}

    def stored(self, answers: Stored) -> dict[str, str]:
        """Stored answers as a person reads them, by key, for tables: what is said again and again
        is put into words once for the edition. What the edition does not have is left out."""
        items = self.plan.items
        before = self._before
        return {
            key: (before.get(key) or self._remembered(items[key]))(one)
            for key, one in answers.items()
            if key in items
        }

    def _remembered(self, item: Item) -> Callable[[Any], str]:
        made: Callable[[Any], str] = str
        if not is_written(item):
            made = Memory(lambda raw: self.reads(item, from_json(item, raw))).find
        return self._before.setdefault(item.key, made)

    def table(self, item: Item, value: Any) -> Table | None:
        """A grid or roster as a table; None for everything else."""
        if not isinstance(item, Roster | Grid):
            return None
        asked = [one for one in inside(item) if is_valued(one)]
        return Table(
            tuple(self.say(one.text) for one in asked),
            tuple(
                Line(heading, tuple(self._cell(one, line) for one in asked))
                for heading, line in self._lines(item, value)
            ),
        )

    def _cell(self, item: Item, line: Values) -> str:
        return self.reads(item, line[item.key]) if item.key in line else ""

    def _lines(self, item: Roster | Grid, value: Any) -> list[tuple[str, Values]]:
        if isinstance(item, Roster):
            return [(self.title(item, number, line), line) for number, line in enumerate(value, 1)]
        return [
            (self.say(row.label) or row.code, line)
            for row in item.rows
            for line in value.get(row.code, ())
        ]

    def title(self, item: Roster, number: int, line: Values) -> str:
        """What one entry of a roster is called: its title filled in, or its noun and number."""
        by_key = {one.key: one for one in item.items}
        told = {key: self.reads(by_key[key], value) for key, value in line.items()}
        plain = self.words["entry"].format(noun=self.noun(item), number=number)
        return fill(self.say(item.title), told).strip() or plain

    def noun(self, item: Roster) -> str:
        """What one entry of a roster is called."""
        return self.say(item.noun) or self.words["noun"]

    def _first(self, formula: First, value: Value) -> str:
        """The first answer reads as in the question that it is taken from, as far as it fits."""
        for key in formula.of:
            item = self.plan.items[key]
            if not options_of(item) or value in {option.code for option in options_of(item)}:
                return self.reads(item, value)
        return self._one(self.plan.items[formula.of[0]], value)

    def _one(self, item: Item, value: Any) -> str:
        tell = _TELL.get(value.__class__)
        if tell is not None:
            return tell(self, item, value)
        return str(as_json(value))

    def _code(self, item: Item, value: str) -> str:
        """The label of an option, or the text as it is."""
        _, labels = self._labels.get(id(item)) or self._labelled(item)
        return labels.get(value, value)

    def _labelled(self, item: Item) -> tuple[Item, dict[str, str]]:
        labels = {one.code: self.say(one.label) or one.code for one in options_of(item)}
        return self._labels.setdefault(id(item), (item, labels))

    def _lines_in_words(self, item: Any, value: Any) -> str:
        table = self.table(item, value)
        assert table is not None
        lines = [
            (line.heading, [cell for cell in line.cells if cell not in ("", line.heading)])
            for line in table.lines
        ]
        return "; ".join(f"{heading}: {', '.join(cells)}" for heading, cells in lines)


_TELL: Mapping[type, Callable[[Reader, Item, Any], str]] = {
    str: Reader._code,
    bool: lambda reader, _, value: reader.words["yes" if value else "no"],
    tuple: lambda reader, item, value: ", ".join(reader._one(item, one) for one in value),
    Else: lambda reader, item, value: (
        f"{reader.say(getattr(item, 'else_label', {}))}: {value.words}"
    ),
    FileFacts: lambda _, _item, value: value.name,
    datetime: lambda reader, _, value: moment(value, reader.language, reader.zone),
    date: lambda reader, _, value: day(value, reader.language),
    Decimal: lambda reader, _, value: number(value, reader.language),
}
"""By class, looked up: a table reads thousands of values."""
