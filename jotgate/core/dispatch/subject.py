"""An entry with all that dispatch rules may know of it. Restricted answers are not given to this,
so that none can leave."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from jotgate.core.answers.checks import check
from jotgate.core.common.today import Today, today_in
from jotgate.core.common.values import Values
from jotgate.core.contacts.contact import Contact
from jotgate.core.dispatch.known import Known
from jotgate.core.dispatch.texts import Words
from jotgate.core.entries.clearance import split
from jotgate.core.entries.display import Reader
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.facts import Around, fact_items, fact_values
from jotgate.core.entries.finishing import to_keep
from jotgate.core.entries.stored import as_json, values_of
from jotgate.core.items import Item
from jotgate.core.registers.cells import Where
from jotgate.core.walking.path import Walk
from jotgate.core.walking.plan import Plan


@dataclass(frozen=True)
class Subject:
    """An entry with all that rules may know of it: `values` are its open answers and its facts,
    `today` is when it arrived, `contact` whom it came from, where that is known."""

    plan: Plan
    entry: Entry
    today: Today
    values: Values
    words: Words
    known: Known
    contact: Contact | None = None

    @property
    def where(self) -> Where:
        """Where cells of rows are written."""
        return Where(self.today.zone, self.known.people)

    def in_language(self, language: str) -> Words:
        """The words about it in another language."""
        own = self.words
        reader = Reader(self.plan, language)
        return Words(reader, own.values, own.facts, self.entry.number)

    def with_value(self, name: str, value: str) -> "Subject":
        """With something else under the key of a carried value, or the name of a fact."""
        values, entry, own = {**self.values, name: value}, self.entry, self.words
        if name in self.plan.items:
            answers = {**entry.answers, name: value}
            entry = entry._replace(answers=answers)
        words = Words(own.reader, values, own.facts, own.number)
        return replace(self, entry=entry, values=values, words=words)


def subject_of(
    plan: Plan, entry: Entry, contact: Contact | None, known: Known, so: Values | None = None
) -> Subject:
    """An `entry` that has open answers only, and the contact that it is of; facts that are `so`
    are over what it says itself."""
    today = today_in(plan.questionnaire.time_zone, entry.arrived)
    facts = {**fact_values(entry, today.now, contact), **(so or {})}
    values = {**values_of(plan.items, entry.answers), **facts}
    words = Words(Reader(plan), values, _facts(plan, known.around), entry.number)
    return Subject(plan, entry, today, values, words, known, contact)


def subject_of_walk(
    plan: Plan, whole: Walk, entry: Entry, facts: Mapping[str, Any], known: Known
) -> Subject:
    """An entry of answers that nobody sent: `entry` says what is known of it, `whole` its answers
    and its visitor, and `facts` what else is to be so, by name as somebody would answer it. Raises
    CheckFailed for a fact that cannot be."""
    kept = split(plan, to_keep(plan, whole))[0]
    stored = {key: as_json(one) for key, one in kept.items()}
    finish = "" if plan.restrictions.finish else whole.finish.key
    made = entry._replace(answers=stored, finish=finish)
    items = _facts(plan, known.around)
    today = today_in(plan.questionnaire.time_zone, entry.arrived)
    read = {name: check(items[name], raw, today) for name, raw in facts.items() if name in items}
    so = {key: one for key, one in whole.kept.items() if "." in key}
    so |= {name: one for name, one in read.items() if one is not None}
    return subject_of(plan, made, None, known, so)


def _facts(plan: Plan, around: Around) -> Mapping[str, Item]:
    """The facts of entries, made once for an edition while nothing around it changes."""
    at = ("facts", tuple(around.links.items()), tuple(around.statuses.items()))
    found: Mapping[str, Item] | None = plan.made.get(at)
    if found is None:
        for other in [one for one in plan.made if isinstance(one, tuple) and one[0] == "facts"]:
            del plan.made[other]
        found = plan.made[at] = fact_items(plan.questionnaire, around)
    return found
