"""Acts that set something, or put somebody on a contact list, carried out."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import Invalid, NoPlace
from jotgate.core.common.wording import say
from jotgate.core.contacts.contact import facts_of
from jotgate.core.contacts.lists import Consent, Joining
from jotgate.core.dispatch.effects import (
    CarePlanned,
    ContactPlanned,
    Effect,
    ListPlanned,
    StatusPlanned,
    ValuePlanned,
)
from jotgate.core.dispatch.replaying import detail_of, kind_of
from jotgate.core.dispatch.subject import Subject
from jotgate.core.handling import Care
from jotgate.core.records.dispatch import Run
from jotgate.services import joining_lists
from jotgate.services.context import Context
from jotgate.services.dispatch.not_done import NotDone
from jotgate.services.handling import Change, change_entry
from jotgate.services.trail import note
from jotgate.store import questionnaires
from jotgate.store.accounts import care
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts, lists, opt_outs
from jotgate.store.entries import writing

Setting = StatusPlanned | CarePlanned | ContactPlanned | ValuePlanned | ListPlanned


async def set_it(
    context: Context, conn: Connection, run: Run, subject: Subject, effect: Setting
) -> Run:
    """The run of an effect that is carried out, or cannot be."""
    begun = replace(run, kind=kind_of(effect), detail=detail_of(effect))
    try:
        await _set(context, conn, subject, effect)
    except NotDone as why:
        return replace(begun, state="left_out" if why.left_out else "failed", last_error=str(why))
    return begun


async def _set(context: Context, conn: Connection, subject: Subject, effect: Setting) -> None:
    match effect:
        case StatusPlanned():
            await _status(context, conn, subject, effect)
        case CarePlanned():
            await _care(context, conn, subject, effect)
        case ContactPlanned():
            await _field(context, conn, subject, effect)
        case ValuePlanned():
            await _value(context, conn, subject, effect)
        case ListPlanned():
            await _list(context, conn, subject, effect)


async def hold_people(conn: Connection, effects: Sequence[Effect]) -> None:
    """Hold the mail addresses that effects put on lists, before any of them is carried out."""
    emails = {one.email for one in effects if isinstance(one, ListPlanned) and one.email}
    for email in sorted(emails):
        await contacts.hold_email(conn, email)


def _at(subject: Subject) -> tuple[UUID, UUID]:
    return subject.entry.questionnaire_id, subject.entry.id


async def _status(
    context: Context, conn: Connection, subject: Subject, effect: StatusPlanned
) -> None:
    try:
        await change_entry(context, conn, None, *_at(subject), Change(status=effect.status))
    except NoPlace:
        why = "Its place is not free any more. Make room at the gate, then do this again."
        raise NotDone(why) from None
    except Invalid:
        why = "There is no such status any more. Name another in the rule, then do this again."
        raise NotDone(why) from None


async def _care(context: Context, conn: Connection, subject: Subject, effect: CarePlanned) -> None:
    id, entry_id = _at(subject)
    if effect.in_turn and effect.team and effect.person:
        await care.take_turn(conn, id, effect.team, effect.person)
    who = Care(effect.person) if effect.person else Care(team=effect.team)
    await change_entry(context, conn, None, id, entry_id, Change(care=who))


async def _field(
    context: Context, conn: Connection, subject: Subject, effect: ContactPlanned
) -> None:
    found = await contacts.find(conn, effect.contact_id, lock=True)
    if found is None:
        raise NotDone("The contact is no longer there.", left_out=True)
    facts = facts_of(found)
    if facts.get(effect.field) == effect.value:
        return
    values = {**facts, effect.field: effect.value}
    await contacts.put(conn, found.id, found.revision, values, found.opted_out)
    await _contact_noted(context, conn, subject, found.id, {"fields": [effect.field]})


async def _contact_noted(
    context: Context, conn: Connection, subject: Subject, id: UUID, told: Mapping[str, Any]
) -> None:
    at = _at(subject)
    await note(context, conn, None, "contact_changed", *at, contact=str(id), **told)


async def _value(
    context: Context, conn: Connection, subject: Subject, effect: ValuePlanned
) -> None:
    id, entry_id = _at(subject)
    gate = await questionnaires.gate(conn, id)
    if gate is not None and effect.key in gate.value.counts_by:
        why = "The gate counts places by it, so it stays. Change the rule, then skip this."
        raise NotDone(why)
    if subject.entry.answers.get(effect.key) == effect.value:
        return
    await writing.set_value(conn, id, entry_id, effect.key, effect.value)
    number = subject.entry.number
    await note(context, conn, None, "entry_handled", id, entry_id, number=number, value=effect.key)


async def why_not_on_list(conn: Connection, effect: ListPlanned) -> str:
    """Why somebody who consented is not put on a list; empty where they are."""
    out = "They asked not to be written to, so they were not added."
    if effect.contact_id is None:
        return out if await opt_outs.since(conn, effect.email) else ""
    found = await contacts.find(conn, effect.contact_id)
    if found is None:
        return "The contact is no longer there."
    return out if found.opted_out else ""


async def _address(conn: Connection, effect: ListPlanned) -> str:
    """The mail address of whoever an act is about: the contact's own where it is one."""
    if effect.contact_id is None:
        return effect.email
    found = await contacts.find(conn, effect.contact_id)
    return (found.email if found else None) or ""


async def asks_first(conn: Connection, effect: ListPlanned) -> bool:
    """Whether a letter asks before somebody is put on a list: not whoever is on it already."""
    if not effect.confirm:
        return False
    return not await lists.has(conn, effect.list_id, await _address(conn, effect))


async def _list(context: Context, conn: Connection, subject: Subject, effect: ListPlanned) -> None:
    if await lists.name_of(conn, effect.list_id) is None:
        raise NotDone("The list is gone. Name another in the rule, then do this again.")
    why = await why_not_on_list(conn, effect)
    if why:
        raise NotDone(why, left_out=True)
    who = await _joining(conn, subject, effect)
    if await asks_first(conn, effect):
        await joining_lists.ask(context, conn, who)
    else:
        await joining_lists.join(context, conn, who)


async def _joining(conn: Connection, subject: Subject, effect: ListPlanned) -> Joining:
    """Whoever is asked by letter first is asked at the address of the contact."""
    email = await _address(conn, effect) if effect.confirm else effect.email
    if not email and effect.confirm:
        raise NotDone("The contact has no mail address to be asked at.", left_out=True)
    entry = subject.entry
    consent = _consent(subject, effect)
    return Joining(effect.contact_id, email, effect.name, entry.language, entry.id, consent)


def _consent(subject: Subject, effect: ListPlanned) -> Consent:
    entry, document = subject.entry, subject.plan.questionnaire
    return Consent(
        list_id=effect.list_id,
        questionnaire_id=entry.questionnaire_id,
        entry_number=entry.number,
        title=say(document.title, document.first_language, document.first_language),
        edition=entry.edition,
        question=effect.question,
        answer=effect.answer,
        given=entry.arrived,
    )
