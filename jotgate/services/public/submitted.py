"""What is said of a submission that was stored before, or could not be stored."""

import hashlib
from dataclasses import asdict, dataclass, replace
from typing import Any
from uuid import UUID

import orjson

from jotgate.core.common.errors import (
    KeyReused,
    PassRefused,
    Replaced,
    Unavailable,
)
from jotgate.core.common.today import today_in
from jotgate.core.common.values import Values
from jotgate.core.common.wording import closest
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.finishing import Ending, ending
from jotgate.core.entries.stored import values_of
from jotgate.core.gate.places import takes_of
from jotgate.core.hand_off import HandOff
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.walking.arrival import NOTHING_KNOWN, Arrival
from jotgate.core.walking.plan import Plan
from jotgate.core.walking.prefill import Filled
from jotgate.services import gate
from jotgate.services.arrivals import opened, refuse_over
from jotgate.services.context import Context
from jotgate.services.keys.sealing import restricted_of
from jotgate.services.public.answering import Answers, no_place
from jotgate.services.public.entering import needs_sign_in, public_state, read
from jotgate.services.public.handing import offered
from jotgate.services.public.holding import item_of
from jotgate.services.public.results import Result, with_result
from jotgate.services.public.storing import ToStore
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.entries import entries
from jotgate.store.links import named_links, passes


@dataclass(frozen=True)
class Submitted:
    """A stored entry. `repeated` tells that this submission had been stored before, `onward` where
    one may go on, `known` that whoever sent it was known by a mail address, or by what they sent
    before, `changes` that entries can be changed by whoever sent them."""

    id: UUID
    number: int
    ending: Ending
    repeated: bool
    onward: HandOff | None = None
    known: bool = False
    changes: bool = False


def facts_of(filled: Filled) -> Values:
    """What is known of the visitor beside carried values."""
    return {name: value for name, value in filled.carried.items() if "." in name}


def body_hash(answers: Answers, arrival: Arrival) -> bytes:
    """What tells one submission from another under the same key; the language does not count, nor
    when they came."""
    said: list[Any] = [answers.edition, answers.link, answers.given]
    if arrival != NOTHING_KNOWN:
        known = replace(arrival, moment="", page="")
        said.append({**asdict(known), "locked": sorted(known.locked)})
    return hashlib.sha256(orjson.dumps(said, option=orjson.OPT_SORT_KEYS)).digest()


async def _before(
    context: Context, conn: Connection, id: UUID, key: str, answers: Answers
) -> Entry | None:
    """The entry that was stored under this key. Raises KeyReused where it is of other answers."""
    found = await entries.by_idempotency_key(conn, id, key)
    if found is None:
        return None
    entry, known = found
    if known is not None and known != body_hash(answers, opened(context, id, answers.arrival)):
        raise KeyReused("Something else was sent under this key before.")
    return entry


async def sent_before(
    context: Context, address: str, plan: Plan, key: str, answers: Answers, language: str
) -> Submitted | None:
    """What this submission led to before, if it did."""
    async with context.engine.connect() as conn:
        found = await public_state(conn, address)
        entry = await _before(context, conn, found.id, key, answers)
    if entry is None:
        return None
    return await _taken_before(context, address, plan, entry, answers, language)


async def repeated_before(
    context: Context, address: str, plan: Plan, key: str, answers: Answers, language: str
) -> Submitted | None:
    """The entry that this submission led to before, which its files belong to by now.

    Where there is none, a shut gate comes before any word on the answers: raises Shut.
    """
    async with context.engine.connect() as conn:
        found = await public_state(conn, address)
        entry = await _before(context, conn, found.id, key, answers) if plan.files else None
        if entry is None:
            arrival = opened(context, found.id, answers.arrival)
            newest = await context.plan(conn, found.id, found.edition)
            await gate.let_in(context, conn, found, newest, language, arrival, going_on=True)
    if entry is None:
        return None
    return await _taken_before(context, address, plan, entry, answers, language)


async def _taken_before(
    context: Context, address: str, plan: Plan, entry: Entry, answers: Answers, language: str
) -> Submitted:
    values = {**_facts_again(context, plan, entry, answers), **values_of(plan.items, entry.answers)}
    finish = entry.finish
    if not finish:
        async with context.restricted.connect() as conn:
            sealed = await entries.sealed(conn, entry.questionnaire_id, [entry.id])
        finish = (await restricted_of(context, entry.id, sealed)).finish
    said = ending(plan, plan.finishes[finish], values, entry.number, language)
    id = entry.questionnaire_id
    came = opened(context, id, answers.arrival).came
    told = Result(id, address, entry.id, entry.number, entry.finish, entry.about, came)
    said = await with_result(context, plan.finishes[finish], said, told)
    async with context.engine.connect() as conn:
        onward = await offered(conn, id, finish)
        changes = (await public_state(conn, address)).gate.changing is not None
    known = came.mail_id is not None
    return Submitted(entry.id, entry.number, said, True, onward, known, changes)


def _facts_again(context: Context, plan: Plan, entry: Entry, answers: Answers) -> Values:
    arrival = opened(context, entry.questionnaire_id, answers.arrival)
    today = today_in(plan.questionnaire.time_zone, context.clock.now())
    filled = read(plan, answers.link, today, arrival, entry.edition, answers.arrival)
    return facts_of(filled)


async def _let_in(context: Context, id: UUID, arrival: str) -> None:
    """Raise PassRefused where what the visitor came by lets nobody in any more."""
    came = opened(context, id, arrival).came
    async with context.engine.connect() as conn:
        if came.pass_id is not None:
            one = await passes.find(conn, id, came.pass_id)
            if one is None or one.revoked is not None:
                raise PassRefused("unknown")
            refuse_over(one, context.clock.now())
        if came.subject_id is None and came.staff_id is None:
            needs_sign_in(await questionnaires.sign_in(conn, id))
        if came.link_id is not None:
            link = await named_links.find(conn, id, came.link_id)
            if link is None or link.shut is not None:
                raise PassRefused("link_shut")


async def not_stored(
    context: Context, address: str, key: str, answers: Answers, given: ToStore
) -> Submitted:
    """What the first submission under this key led to, or why it was not stored."""
    async with context.engine.connect() as conn:
        found = await public_state(conn, address)
        entry = await _before(context, conn, found.id, key, answers)
        plan = await context.plan(conn, found.id, entry.edition if entry else found.edition)
    language = closest(plan.questionnaire.languages, [answers.language])
    if entry is not None:
        return await _taken_before(context, address, plan, entry, answers, language)
    await _not_let_in(context, found, plan, language, given)
    await _let_in(context, found.id, answers.arrival)
    if found.edition != answers.edition:
        page = plan.questionnaire.pages[0].key
        raise Replaced("This questionnaire was changed. Check your answers once more.", page)
    raise Unavailable("Many people are sending at this moment. Send it again.")


async def _not_let_in(
    context: Context, found: PublicState, plan: Plan, language: str, given: ToStore
) -> None:
    """Raise what the gate says of a submission. What is full is told at its question."""
    takes = takes_of(found.gate.places, given.kept)
    async with context.engine.connect() as conn:
        visitor = await gate.visitor_of(conn, found, given.arrival, given.seen, takes, True)
        counts = await gate.counts_of(conn, found, [one.cell for one in takes])
    zone, now = plan.questionnaire.time_zone, given.submission.arrived
    decision = gate.judged(context, found, zone, now, visitor, counts)
    if not decision.admitted and decision.why[0].reason == "gone":
        item = item_of(found.gate, plan, decision.why[0].cells[0], given.kept)
        if item is not None:
            raise no_place(plan, item, language, given.kept)
    await gate.refuse(context, found, plan, decision, visitor, language)
