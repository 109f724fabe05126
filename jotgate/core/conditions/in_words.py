"""Conditions as sentences, as staff read them.

`web/src/desk/condition/words.ts` says the same; `web/tests/condition_words.json` holds both to it.
"""

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from jotgate.core.conditions.condition import Condition, EntryCount

WORDS: Mapping[str, str] = {
    "is": "is",
    "is_not": "is not",
    "one_of": "is one of",
    "includes": "includes",
    "includes_all": "includes all of",
    "at_least": "is at least",
    "at_most": "is at most",
    "more_than": "is more than",
    "less_than": "is less than",
    "between": "is between",
    "contains": "contains",
    "like": "is like the pattern",
    "any_entry": "has an entry where",
    "every_entry": "has only entries where",
    "entry_count": "has",
    "answered": "has an answer",
    "unanswered": "has no answer",
}

OF_DAYS: Mapping[str, str] = {
    "at_least": "is not before",
    "at_most": "is not after",
    "more_than": "is after",
    "less_than": "is before",
}


@dataclass(frozen=True)
class Subject:
    """What a condition can name: what it is called, what its options are, whether it is a day, a
    time or a moment (`timed`), or picks several, and what is asked `inside` of it."""

    label: str
    options: Mapping[str, str] = field(default_factory=dict)
    timed: bool = False
    several: bool = False
    inside: "Mapping[str, Subject]" = field(default_factory=dict)


Subjects = Mapping[str, Subject]
"""By key; conditions that are saved stand under `saved:` and their name."""


def in_words(condition: Condition, subjects: Subjects) -> str:
    match condition.op:
        case "all" | "any":
            between = " and " if condition.op == "all" else " or "
            return between.join(_inside(one, subjects) for one in condition.parts)
        case "not":
            return f"not {_inside(condition.part, subjects)}"
        case "saved":
            found = subjects.get(f"saved:{condition.name}")
            return found.label if found else condition.name
    subject = subjects.get(condition.item)
    lead = f"{subject.label if subject else condition.item} {_operator(condition.op, subject)}"
    rest = _REST.get(condition.op, _value)(condition, subject, subjects)
    return f"{lead} {rest}".rstrip()


def _inside(part: Condition, subjects: Subjects) -> str:
    words = in_words(part, subjects)
    return f"({words})" if part.op in ("all", "any") else words


def _operator(op: str, subject: Subject | None) -> str:
    if subject and subject.timed:
        return OF_DAYS.get(op, WORDS[op])
    return "includes any of" if op == "one_of" and subject and subject.several else WORDS[op]


def _said(operand: str | bool, subject: Subject | None) -> str:
    if isinstance(operand, bool):
        return "Yes" if operand else "No"
    if operand == "":
        return "…"
    if subject and subject.timed:
        return _day(operand)
    return subject.options.get(operand, operand) if subject else operand


def _day(day: str) -> str:
    """`today-7` in words."""
    found = re.fullmatch(r"today([+-]\d+)?", day)
    if not found:
        return day
    by = int(found[1] or 0)
    if not by:
        return "today"
    days = "day" if abs(by) == 1 else "days"
    return f"{abs(by)} {days} {'ago' if by < 0 else 'from today'}"


def _value(leaf: Any, subject: Subject | None, _: Subjects) -> str:
    return _said(leaf.value, subject)


def _values(leaf: Any, subject: Subject | None, _: Subjects) -> str:
    return ", ".join(_said(one, subject) for one in leaf.values)


def _between(leaf: Any, subject: Subject | None, _: Subjects) -> str:
    return f"{_said(leaf.low, subject)} and {_said(leaf.high, subject)}"


def _where(leaf: Any, subject: Subject | None, subjects: Subjects) -> str:
    inside = subject.inside if subject else {}
    return in_words(leaf.where, {**inside, **subjects}) if leaf.where else ""


def _many(leaf: EntryCount, subject: Subject | None, subjects: Subjects) -> str:
    low, high = leaf.at_least, leaf.at_most
    if low is not None and high is not None:
        many = _entries(low) if low == high else f"{low} to {_entries(high)}"
    else:
        many = f"at least {_entries(low or 0)}" if high is None else f"at most {_entries(high)}"
    where = _where(leaf, subject, subjects)
    return f"{many} where {where}" if where else many


def _entries(number: int) -> str:
    return "1 entry" if number == 1 else f"{number} entries"


_REST: Mapping[str, Callable[[Any, Subject | None, Subjects], str]] = {
    "answered": lambda *_: "",
    "unanswered": lambda *_: "",
    "one_of": _values,
    "includes_all": _values,
    "between": _between,
    "any_entry": _where,
    "every_entry": _where,
    "entry_count": _many,
}
