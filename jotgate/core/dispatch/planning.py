"""What dispatch rules do with one entry. Restricted answers are not given to this, so that none can
leave."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from jotgate.core.answers.checks import check
from jotgate.core.common.today import Today, today_in
from jotgate.core.common.values import Values
from jotgate.core.conditions.condition import holds
from jotgate.core.conditions.saved import SavedCondition, in_full
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
from jotgate.core.entries.clearance import split
from jotgate.core.entries.display import Reader
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.finishing import to_keep
from jotgate.core.entries.stored import as_json, values_of
from jotgate.core.items import Item
from jotgate.core.registers.cells import Where
from jotgate.core.walking.path import Walk
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


def subject_of(
    plan: Plan, entry: Entry, contact: Contact | None, known: Known, so: Values | None = None
) -> Subject:
    """An `entry` that has open answers only, and the contact that it is of; facts that are `so`
    are over what it says itself."""
    today = today_in(plan.questionnaire.time_zone, entry.arrived)
    facts = {**fact_values(entry, today.now, contact), **(so or {})}
    values = {**values_of(plan.items, entry.answers), **facts}
    words = Words(Reader(plan), values, _facts(plan, known.around), entry.number)
    return Subject(plan, entry, today, values, words, known)


def subject_of_walk(
    plan: Plan, whole: Walk, entry: Entry, facts: Mapping[str, Any], known: Known
) -> Subject:
    """An entry of answers that nobody sent: `entry` says what is known of it, `whole` its answers
    and its visitor, and `facts` what else is to be so, by name as somebody would answer it. Raises
    CheckFailed for a fact that cannot be."""
    kept = split(plan, to_keep(plan, whole))[0]
    stored = {key: as_json(one) for key, one in kept.items()}
    finish = "" if plan.restrictions.finish else whole.finish.key
    made = entry.model_copy(update={"answers": stored, "finish": finish})
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


def planned(dispatch: Dispatch, subject: Subject) -> Planned:
    """The effects of `dispatch` on an entry, in order."""
    saved = subject.plan.written.saved
    caught_by, outcomes = outcomes_of(dispatch, saved, subject.values, subject.today)
    effects = [
        effect
        for rule in dispatch.rules
        if outcomes[rule.key] in ("acted", "caught")
        for effect in _effects(rule.key, rule.acts, subject)
    ]
    if caught_by is None:
        effects += _effects(OTHERWISE, dispatch.otherwise, subject)
    return Planned(caught_by, tuple(effects), outcomes)


def outcomes_of(
    dispatch: Dispatch, saved: tuple[SavedCondition, ...], values: Values, today: Today
) -> tuple[str | None, dict[str, Outcome]]:
    """Which rule catches an entry with these answers and facts, and what comes of each by key;
    `saved` are the conditions that the questionnaire saves under a name."""
    outcomes: dict[str, Outcome] = {}
    caught_by: str | None = None
    for rule in dispatch.rules:
        when = rule.when and in_full(rule.when, saved)
        is_true = not rule.off and holds(when, values, today)
        outcome = outcomes[rule.key] = _outcome(rule, is_true, caught_by is not None)
        if outcome == "caught":
            caught_by = rule.key
    outcomes[OTHERWISE] = "passed_over" if caught_by else "acted"
    return caught_by, outcomes


def _outcome(rule: Rule, is_true: bool, is_caught: bool) -> Outcome:
    if rule.off:
        return "off"
    if not is_true:
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
