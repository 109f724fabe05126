"""What dispatch rules do with one entry. Restricted answers are not given to this, so that none can
leave."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from jotgate.core.common.today import Today, today_in
from jotgate.core.common.values import Values
from jotgate.core.conditions.condition import holds
from jotgate.core.conditions.saved import in_full
from jotgate.core.contacts.contact import Contact
from jotgate.core.dispatch.call_body import call_body
from jotgate.core.dispatch.effects import (
    CallPlanned,
    Effect,
    NotPlanned,
    Outcome,
    Place,
    Planned,
    StatusPlanned,
)
from jotgate.core.dispatch.facts import Around, fact_items, fact_values
from jotgate.core.dispatch.known import Known
from jotgate.core.dispatch.letters import letters
from jotgate.core.dispatch.rows import rows
from jotgate.core.dispatch.rules import (
    OTHERWISE,
    Act,
    Call,
    Dispatch,
    FileRow,
    Notice,
    Rule,
    SetStatus,
)
from jotgate.core.dispatch.texts import Words
from jotgate.core.entries.display import Reader
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.stored import values_of
from jotgate.core.items import Item
from jotgate.core.registers.cells import Where
from jotgate.core.walking.plan import Plan


@dataclass(frozen=True)
class Subject:
    """An entry with all that rules may know of it: `values` are its open answers and its facts,
    `today` is when it arrived."""

    plan: Plan
    entry: Entry
    today: Today
    values: Values
    words: Words
    known: Known

    @property
    def where(self) -> Where:
        """Where cells of rows are written."""
        return Where(self.today.zone, self.known.people)

    def in_language(self, language: str) -> Words:
        """The words about it in another language."""
        own = self.words
        reader = Reader(self.plan, language)
        return Words(reader, own.values, own.facts, self.entry.number)


def subject_of(plan: Plan, entry: Entry, contact: Contact | None, known: Known) -> Subject:
    """An `entry` that has open answers only, and the contact that it is of."""
    today = today_in(plan.questionnaire.time_zone, entry.arrived)
    values = {**values_of(plan.items, entry.answers), **fact_values(entry, today.now, contact)}
    words = Words(Reader(plan), values, _facts(plan, known.around), entry.number)
    return Subject(plan, entry, today, values, words, known)


def _facts(plan: Plan, around: Around) -> Mapping[str, Item]:
    """The facts of entries, made once for an edition while nothing around it changes."""
    at = ("facts", tuple(around.links.items()), tuple(around.statuses.items()))
    found: Mapping[str, Item] | None = plan.made.get(at)
    if found is None:
        for other in [one for one in plan.made if isinstance(one, tuple) and one[0] == "facts"]:
            del plan.made[other]
        found = plan.made[at] = fact_items(plan.questionnaire, around)
    return found


def planned(dispatch: Dispatch, subject: Subject) -> Planned:
    """The effects of `dispatch` on an entry, in order."""
    effects: list[Effect] = []
    outcomes: dict[str, Outcome] = {}
    caught_by: str | None = None
    for rule in dispatch.rules:
        outcome = outcomes[rule.key] = _outcome(rule, subject, caught_by is not None)
        if outcome in ("acted", "caught"):
            effects += _effects(rule.key, rule.acts, subject)
        if outcome == "caught":
            caught_by = rule.key
    if caught_by is None:
        effects += _effects(OTHERWISE, dispatch.otherwise, subject)
    outcomes[OTHERWISE] = "passed_over" if caught_by else "acted"
    return Planned(caught_by, tuple(effects), outcomes)


def _outcome(rule: Rule, subject: Subject, is_caught: bool) -> Outcome:
    if rule.off:
        return "off"
    if rule.when is not None:
        when = in_full(rule.when, subject.plan.written.saved)
        if not holds(when, subject.values, subject.today):
            return "does_not_hold"
    if not rule.catches:
        return "acted"
    return "passed_over" if is_caught else "caught"


def _effects(rule: str, acts: tuple[Act, ...], subject: Subject) -> Iterator[Effect]:
    for position, act in enumerate(acts):
        at = Place(rule, position)
        match act:
            case FileRow():
                register = subject.known.registers.get(act.register_id)
                if register is None:
                    why = "Its register is gone. Name another in the rule, then do this again."
                    yield NotPlanned(at, "row", why)
                else:
                    yield from rows(at, act, register, subject.words, subject.where)
            case Notice():
                yield from _letters(at, act, subject)
            case Call():
                yield _call(at, act, subject)
            case SetStatus():
                yield StatusPlanned(at, act.status)


def _letters(at: Place, act: Notice, subject: Subject) -> Iterator[Effect]:
    own, language = subject.words, subject.entry.language
    answered = subject.in_language(language) if language and act.to.kind == "answer" else own
    yield from letters(at, act, answered, subject.known.teams)


def _call(at: Place, act: Call, subject: Subject) -> Effect:
    if act.hook_id not in subject.known.hooks:
        why = "What is to be called is gone. Name another in the rule, then do this again."
        return NotPlanned(at, "call", why)
    return CallPlanned(at, act.hook_id, call_body(subject.plan, subject.entry, subject.values))
