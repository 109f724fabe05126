"""Texts of dispatch rules: slots with a form, and letters in CommonMark that stay safe whatever
stands in their slots."""

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import date, datetime, time
from decimal import ROUND_HALF_EVEN, Decimal
from html import escape
from typing import Literal, get_args

from babel.dates import format_date
from babel.numbers import format_decimal

from jotgate.core.common.formatting import locale_of
from jotgate.core.common.values import Value, Values
from jotgate.core.common.wording import entry_words
from jotgate.core.entries.display import Reader
from jotgate.core.entries.stored import as_json
from jotgate.core.formats.common_mark import formatted_around
from jotgate.core.items import Item

Form = Literal["weekday", "short", "iso", "whole", "grouped", "list", "code", "line"]
FORMS: tuple[Form, ...] = get_args(Form)

_SLOT = re.compile(
    r"\{([a-z][a-z0-9_]*(?:\.[A-Za-z0-9_.-]{1,60})?)(?::([a-z]{1,20}))?(?:\|([^{}|]{0,200}))?\}"
)


@dataclass(frozen=True)
class Slot:
    """A place in a text for what `name` is, in a `form` of its own, or `otherwise` where there is
    no value: `{visit:weekday|a day that suits you}`. `before` and `behind` are the letters that
    stand next to it."""

    name: str
    form: str
    otherwise: str
    before: str
    behind: str

    @property
    def is_glued(self) -> bool:
        """Whether it stands right beside a word."""
        return self.before.isalnum() or self.behind.isalnum() or self.behind == "{"


def slots_in(template: str) -> tuple[Slot, ...]:
    """Every slot of a text, in order."""
    return tuple(
        Slot(
            found[1],
            found[2] or "",
            found[3] or "",
            template[found.start() - 1 : found.start()],
            template[found.end() : found.end() + 1],
        )
        for found in _SLOT.finditer(template)
    )


def with_words(template: str, name: str, words: str) -> str:
    """A text in which the slots of `name` that say nothing where there is no value say `words`."""

    def said(found: re.Match[str]) -> str:
        if found[1] != name or found[3]:
            return found[0]
        form = f":{found[2]}" if found[2] else ""
        return f"{{{found[1]}{form}|{words}}}"

    return _SLOT.sub(said, template)


def spaced(template: str) -> str:
    """A text with a space where a slot stands right beside a word."""
    parts: list[str] = []
    end = 0
    for found in _SLOT.finditer(template):
        between = template[end : found.start()]
        glued = between[-1:].isalnum() or (parts and not between)
        parts += [between, " " if glued else "", found[0]]
        end = found.end()
        parts.append(" " if template[end : end + 1].isalnum() else "")
    return "".join([*parts, template[end:]])


class Words:
    """What stands in the slots of texts about one entry."""

    def __init__(
        self, reader: Reader, values: Values, facts: Mapping[str, Item], number: int
    ) -> None:
        self.reader, self.values, self.facts, self.number = reader, values, facts, number
        self.plain = entry_words(number, reader.say(reader.plan.questionnaire.title))

    def of(self, name: str, form: str = "") -> str:
        """The words of what `name` is; nothing where it has no value."""
        if name in self.plain:
            return self.plain[name]
        value = value_of(self.values, name)
        if value is None:
            return ""
        written = _written(value, form, self.reader)
        if written is not None:
            return written
        item = self.reader.plan.items.get(name) or self.facts.get(name)
        if form == "list" and isinstance(value, tuple) and item is not None:
            return "\n".join(f"- {self.reader.reads(item, (one,))}" for one in value)
        said = self.reader.reads(item, value) if item is not None else _plainly(value)
        return " ".join(said.split()) if form == "line" else said

    def filled(self, template: str, tamed: Callable[[str], str] = str) -> str:
        """A text with its slots filled in."""
        return _SLOT.sub(lambda found: self._in(found, tamed), template)

    def filled_as_html(self, template: str, tamed: Callable[[str], str] = str) -> str:
        """CommonMark with its slots filled in by words, never by markup."""

        def said(found: re.Match[str]) -> str:
            return escape(self._in(found, tamed)).replace("\n", "<br>\n")

        return formatted_around(template, _SLOT, said)

    def _in(self, found: re.Match[str], tamed: Callable[[str], str]) -> str:
        return tamed(self.of(found[1], found[2] or "")) or found[3] or ""


def value_of(values: Values, name: str) -> Value | None:
    """What `name` is of `values`: an item's key, `key.part`, or the name of a fact."""
    if name in values:
        return values[name]
    key, _, part = name.partition(".")
    whole = values.get(key)
    return whole.get(part) if part and isinstance(whole, Mapping) else None


def _written(value: Value, form: str, reader: Reader) -> str | None:
    """A value in a form that was asked for, where that is one for such values."""
    if form in ("code", "iso"):
        stored = as_json(value)
        return ", ".join(map(str, stored)) if isinstance(stored, list) else str(stored)
    locale = locale_of(reader.language)
    if isinstance(value, datetime) and form in ("weekday", "short"):
        value = value.astimezone(reader.zone).date()
    if isinstance(value, date) and form == "weekday":
        return format_date(value, "full", locale=locale)
    if isinstance(value, date) and form == "short":
        return format_date(value, "short", locale=locale)
    if isinstance(value, Decimal) and form == "whole":
        value = value.to_integral_value(ROUND_HALF_EVEN)
        return str(format_decimal(value, locale=locale, group_separator=False))
    if isinstance(value, Decimal) and form == "grouped":
        return str(format_decimal(value, locale=locale, decimal_quantization=False))
    return None


def _plainly(value: Value) -> str:
    """A value that no item is behind: a fact of the visitor, or a part of an answer."""
    if isinstance(value, time):
        return value.isoformat("minutes")
    return str(as_json(value))


LONGEST_TAMED = 300


def tamed(words: str) -> str:
    """What somebody wrote, as it may stand in a letter to an address that they gave: short, on one
    line, and with no web address, so that nobody has us send letters of theirs to others."""
    each = (one if not _leads_away(one) else "…" for one in words[: LONGEST_TAMED * 2].split())
    said = " ".join(each)
    return said if len(said) <= LONGEST_TAMED else f"{said[:LONGEST_TAMED]}…"


def _leads_away(word: str) -> bool:
    return "://" in word or "www." in word.casefold()
