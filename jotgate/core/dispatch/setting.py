"""What acts set: who takes care of an entry, a field of its contact, a carried value, and who is on
a contact list."""

from collections import Counter
from collections.abc import Callable, Mapping
from datetime import date
from decimal import Decimal
from functools import partial
from uuid import UUID

from jotgate.core.answers.checks import check
from jotgate.core.answers.failures import CheckFailed
from jotgate.core.common.values import Value
from jotgate.core.contacts.fields import BUILT_IN, LONGEST, NotFit, readings
from jotgate.core.dispatch.acts import (
    AddToList,
    CarePerson,
    CareTeam,
    Composed,
    Fixed,
    SetCare,
    SetContact,
    SetValue,
    Source,
)
from jotgate.core.dispatch.effects import (
    CarePlanned,
    ContactPlanned,
    Effect,
    ListPlanned,
    NotPlanned,
    Place,
    ValuePlanned,
)
from jotgate.core.dispatch.known import Known
from jotgate.core.dispatch.subject import Subject
from jotgate.core.dispatch.texts import Words, value_of
from jotgate.core.entries.display import Reader
from jotgate.core.entries.stored import as_json
from jotgate.core.items import options_of

NOTHING = "There is nothing to set it to."
ANOTHER = "Name another in the rule, then do this again."


def care(at: Place, act: SetCare, known: Known, turns: Counter[UUID]) -> Effect:
    """`turns` counts how often each team was asked for the next of its people already."""
    match act.who:
        case CarePerson(person_id=id):
            if id not in known.carers:
                return NotPlanned(at, "care", f"They may not see these entries any more. {ANOTHER}")
            return CarePlanned(at, id, None)
        case CareTeam(team_id=id, in_turn=False):
            if id not in known.teams:
                return NotPlanned(at, "care", f"The team is gone. {ANOTHER}")
            return CarePlanned(at, None, id)
        case CareTeam(team_id=id):
            people = known.turns.get(id, ())
            if not people:
                why = "Nobody of the team may see these entries. Add somebody to it, or give it a "
                return NotPlanned(at, "care", f"{why}part, then do this again.")
            turns[id] += 1
            return CarePlanned(at, people[(turns[id] - 1) % len(people)], id, in_turn=True)


def contact_field(at: Place, act: SetContact, subject: Subject) -> Effect:
    contact = subject.contact
    if contact is None:
        why = "The entry came from nobody who is among the contacts."
        return NotPlanned(at, "contact", why, left_out=True)
    known = {one.key: one.label for one in subject.known.contact_fields}
    label = {**BUILT_IN, **known}.get(act.field, act.field)
    given = _said(act.source, subject.words, partial(_plain, subject.words)).strip()
    if not given:
        return NotPlanned(at, "contact", f"{label}: {NOTHING}", left_out=True)
    reading = readings(subject.known.contact_fields).get(act.field)
    if reading is None:
        return NotPlanned(at, "contact", f"There is no field {act.field} any more. {ANOTHER}")
    try:
        value = reading(given)
    except NotFit as why:
        told = f"{label}: {why} Change the rule or the field, then do this again."
        return NotPlanned(at, "contact", told)
    before = subject.values.get(f"contact.{act.field}")
    return ContactPlanned(at, contact.id, act.field, value, str(before or ""))


def _said(source: Source, words: Words, of: Callable[[str], str]) -> str:
    """What a source says, `of` what it names of the entry."""
    if isinstance(source, Fixed):
        return source.text
    return words.filled(source.text) if isinstance(source, Composed) else of(source.name)


def _plain(words: Words, name: str) -> str:
    """What the entry says, as a field of a contact is written."""
    match value_of(words.values, name):
        case bool() as value:
            return "yes" if value else "no"
        case (date() | Decimal()) as value:
            return str(as_json(value))
    return words.of(name)


def value(at: Place, act: SetValue, subject: Subject) -> Effect:
    item = subject.plan.items.get(act.key)
    if item is None or item.kind != "carried":
        told = f"The edition of this entry carries no {act.key}."
        return NotPlanned(at, "value", told, left_out=True)
    form = "code" if options_of(item) else ""
    words = subject.words
    given = _said(act.source, words, lambda name: words.of(name, form))
    try:
        found = check(item.model_copy(update={"required": False}), given.strip(), subject.today)
    except CheckFailed:
        told = f"{act.key}: {given[:80]} cannot be its value. Change the rule, then do this again."
        return NotPlanned(at, "value", told)
    if found is None:
        return NotPlanned(at, "value", f"{act.key}: {NOTHING}", left_out=True)
    before = subject.values.get(act.key)
    return ValuePlanned(at, act.key, str(as_json(found)), str(before or ""))


def list_member(at: Place, act: AddToList, subject: Subject) -> Effect:
    words = subject.words
    if act.list_id not in subject.known.lists:
        return NotPlanned(at, "list", f"The list is gone. {ANOTHER}")
    answer = value_of(words.values, act.consent)
    if not is_yes(answer, act.option):
        return NotPlanned(at, "list", "No consent was given, so nobody was added.", left_out=True)
    own = subject.contact.id if subject.contact else None
    email = ""
    if own is None:
        try:
            email = readings(())["email"](str(value_of(words.values, act.email) or ""))
        except NotFit:
            told = "No mail address was given there, so nobody was added."
            return NotPlanned(at, "list", told, left_out=True)
    name = words.of(act.name, "line")[:LONGEST] if act.name else ""
    consent = _consent(act, subject, answer)
    return ListPlanned(at, act.list_id, own, email, name, *consent, act.confirm)


def is_yes(answer: Value | None, option: str) -> bool:
    """Whether an answer is a consent: a yes, or one that picks the option."""
    if not option:
        return answer is True
    return answer == option or (isinstance(answer, tuple) and option in answer)


def _consent(act: AddToList, subject: Subject, answer: Value | None) -> tuple[str, str]:
    """What was asked and answered, in the language in which it was."""
    reader = Reader(subject.plan, subject.entry.language)
    item = subject.plan.items.get(act.consent)
    if item is None or answer is None or isinstance(answer, Mapping):
        return act.consent, ""
    asked = reader.say(getattr(item, "text", {})) or act.consent
    return asked, reader.reads(item, answer)
