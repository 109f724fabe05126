"""A submission: an entry, its restricted answers and the outgoing work, stored once."""

import hashlib
from dataclasses import asdict, dataclass, replace
from typing import Any
from uuid import UUID

import orjson

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.common.errors import (
    AlreadyThere,
    InvalidAnswers,
    KeyReused,
    NotFound,
    PassRefused,
    Replaced,
    Unavailable,
)
from jotgate.core.common.today import Today, today_in
from jotgate.core.common.values import Values
from jotgate.core.common.wording import closest
from jotgate.core.entries.about import about
from jotgate.core.entries.clearance import split
from jotgate.core.entries.display import files_in
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.finishing import Ending, ending, to_keep
from jotgate.core.entries.stored import as_json, values_of
from jotgate.core.gate.places import takes_of
from jotgate.core.hand_off import HandOff
from jotgate.core.records.entries import Submission
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.walking.arrival import NOTHING_KNOWN, Arrival
from jotgate.core.walking.path import Walk, walk
from jotgate.core.walking.plan import Plan
from jotgate.core.walking.prefill import Filled
from jotgate.services import gate
from jotgate.services.arrivals import opened, refuse_over
from jotgate.services.context import Context
from jotgate.services.public import own_entry
from jotgate.services.public.answering import (
    Answers,
    faults_of,
    needs_sign_in,
    page_of,
    public_state,
    read,
    with_filled,
)
from jotgate.services.public.changing import change
from jotgate.services.public.facts import with_facts
from jotgate.services.public.handing import end_visits, offered
from jotgate.services.public.holding import item_of
from jotgate.services.public.results import Result, with_result
from jotgate.services.public.robots import refuse_programs
from jotgate.services.public.storing import NotStored, ToStore, known_state, store
from jotgate.services.sealing import Restricted, seal, unseal
from jotgate.store import entries, questionnaires
from jotgate.store.base import Connection
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


@dataclass(frozen=True)
class _Walked:
    """A submission as it was walked through, with what its visitor brought."""

    id: UUID
    plan: Plan
    arrival: Arrival
    filled: Filled
    whole: Walk
    language: str

    @property
    def own(self) -> UUID | None:
        """The entry that is to be changed by it."""
        return self.arrival.came.own


async def submit(
    context: Context, address: str, answers: Answers, idempotency_key: str
) -> Submitted:
    """Store an entry in one transaction, once for its key, or change the one that the visitor came
    to change.

    Raises InvalidAnswers where an answer on the path fails, Shut where the gate lets nobody in,
    PassRefused where the pass lets nobody in any more, Replaced where its edition has gone, and
    KeyReused where the key came before with other answers. A submission that was stored before is
    answered as it was then, open or shut.
    """
    walked = await _walked(context, address, answers)
    stuck = walked.whole.stuck
    if stuck is not None:
        plan, language = walked.plan, walked.language
        repeated = None
        if walked.own is None:
            repeated = await _repeated(context, address, plan, idempotency_key, answers, language)
        if repeated is not None:
            return repeated
        faults = faults_of(plan, stuck.failed, language, walked.whole.kept)
        raise InvalidAnswers("Some answers need another look.", faults, stuck.page.key)
    to_store = _to_store(context, walked, answers, idempotency_key)
    if walked.own is not None:
        changed = await change(context, address, walked.plan, walked.language, to_store)
        return await _ended(context, address, walked, to_store, changed.number, changed.repeated)
    known = await known_state(context, address, walked.id)
    await refuse_programs(context, known, walked.arrival, to_store.seen)
    try:
        number, hand_offs = await store(context, address, walked.plan, known, to_store)
    except (AlreadyThere, NotStored):
        return await _not_stored(context, address, idempotency_key, answers, to_store)
    done = await _ended(context, address, walked, to_store, number, False)
    finish = walked.whole.finish.key
    onward = [HandOff.model_validate(one) for one in hand_offs if one["finish"] == finish]
    return replace(
        done,
        onward=onward[0] if onward else None,
        changes=known.gate.changing is not None,
    )


async def _walked(context: Context, address: str, answers: Answers) -> _Walked:
    id, plan = await _edition(context, address, answers.edition)
    today = today_in(plan.questionnaire.time_zone, context.clock.now())
    arrival = opened(context, id, answers.arrival)
    filled = read(plan, answers.link, today, arrival, answers.edition, answers.arrival)
    own = arrival.came.own
    if own is not None:
        filled = await _filled_again(context, plan, id, own, today, filled)
    given = await with_facts(context, plan, id, answers.given, own)
    whole = walk(plan, with_filled(filled, given), filled.carried, today)
    language = closest(plan.questionnaire.languages, [answers.language])
    return _Walked(id, plan, arrival, filled, whole, language)


async def _filled_again(
    context: Context, plan: Plan, id: UUID, own: UUID, today: Today, filled: Filled
) -> Filled:
    async with context.single.connect() as conn:
        entry = await entries.entry(conn, id, own)
    if entry is None:
        raise NotFound("What you sent is not here any more.")
    return await own_entry.filled_again(context, plan, entry, today, filled)


def _to_store(context: Context, walked: _Walked, answers: Answers, key: str) -> ToStore:
    plan, whole = walked.plan, walked.whole
    id = walked.own or context.ids.id()
    open_answers, restricted = split(plan, to_keep(plan, whole))
    hidden = whole.finish.key if plan.restrictions.finish else ""
    submission = Submission(
        id=id,
        questionnaire_id=walked.id,
        edition=answers.edition,
        arrived=context.clock.now(),
        finish="" if hidden else whole.finish.key,
        answers={key: as_json(value) for key, value in open_answers.items()},
        flags=list(walked.filled.flags),
        idempotency_key=key,
        body_hash=_body_hash(answers, walked.arrival),
        sealed=_sealed(context, id, restricted, hidden),
        about=about(plan, open_answers),
        came=walked.arrival.came,
    )
    held = (whole.kept[key] for key in plan.file_holders if key in whole.kept)
    sent = tuple(UUID(one.id) for value in held for one in files_in(value))
    seen = replace(answers.seen, submission=key)
    return ToStore(submission, whole.kept, sent, walked.arrival, seen)


async def _ended(
    context: Context,
    address: str,
    walked: _Walked,
    stored: ToStore,
    number: int,
    repeated: bool,
) -> Submitted:
    """What follows once an entry is stored: what its visitor reads, and that the next one at their
    browser is somebody else."""
    plan, finish, came = walked.plan, walked.whole.finish, walked.arrival.came
    one = stored.submission
    values = {**_facts(walked.filled), **to_keep(plan, walked.whole)}
    said = ending(plan, finish, values, number, walked.language)
    told = Result(walked.id, address, one.id, number, one.finish, one.about, came)
    said = await with_result(context, finish, said, told)
    if came.entry or came.subject_id:
        await end_visits(context, walked.id, came)
    known = came.mail_id is not None or came.own is not None
    return Submitted(one.id, number, said, repeated, known=known)


def _facts(filled: Filled) -> Values:
    """What is known of the visitor beside carried values."""
    return {name: value for name, value in filled.carried.items() if "." in name}


async def _edition(context: Context, address: str, edition: int) -> tuple[UUID, Plan]:
    """The questionnaire at `address` and its edition, from memory where they are known.

    Neither ever changes. Whether the gate is open is asked when the entry is stored.
    """
    id = context.addresses.find(address)
    plan = id and context.plans.find((id, edition))
    if id and plan:
        return id, plan
    async with context.engine.connect() as conn:
        found = await public_state(conn, address)
        if not 1 <= edition <= found.edition:
            raise NotFound("There is no such edition. Open the link again.")
        plan = await context.plan(conn, found.id, edition)
    return context.addresses.keep(address, found.id), plan


def _sealed(context: Context, entry_id: UUID, restricted: Values, finish: str) -> bytes | None:
    if not restricted and not finish:
        return None
    answers = {key: as_json(value) for key, value in restricted.items()}
    return seal(context, entry_id, Restricted(answers, finish))


def _body_hash(answers: Answers, arrival: Arrival) -> bytes:
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
    entry, body_hash = found
    arrival = opened(context, id, answers.arrival)
    if body_hash is not None and body_hash != _body_hash(answers, arrival):
        raise KeyReused("Something else was sent under this key before.")
    return entry


async def _repeated(
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
        finish = unseal(context, entry.id, sealed[entry.id]).finish
    said = ending(plan, plan.finishes[finish], values, entry.number, language)
    id = entry.questionnaire_id
    came = opened(context, id, answers.arrival).came
    told = Result(id, address, entry.id, entry.number, entry.finish, entry.about, came)
    said = await with_result(context, plan.finishes[finish], said, told)
    async with context.engine.connect() as conn:
        onward = await offered(conn, id, finish)
    return Submitted(entry.id, entry.number, said, True, onward)


def _facts_again(context: Context, plan: Plan, entry: Entry, answers: Answers) -> Values:
    arrival = opened(context, entry.questionnaire_id, answers.arrival)
    today = today_in(plan.questionnaire.time_zone, context.clock.now())
    filled = read(plan, answers.link, today, arrival, entry.edition, answers.arrival)
    return _facts(filled)


async def _let_in(context: Context, id: UUID, arrival: str) -> None:
    """Raise PassRefused where what the visitor came by lets nobody in any more."""
    came = opened(context, id, arrival).came
    async with context.engine.connect() as conn:
        if came.pass_id is not None:
            one = await passes.find(conn, id, came.pass_id)
            if one is None or one.revoked is not None:
                raise PassRefused("unknown")
            refuse_over(one, context.clock.now())
        if came.subject_id is None:
            needs_sign_in(await questionnaires.sign_in(conn, id))
        if came.link_id is not None:
            link = await named_links.find(conn, id, came.link_id)
            if link is None or link.shut is not None:
                raise PassRefused("link_shut")


async def _not_stored(
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
            failed = {item: CheckFailed("option_full")}
            faults = faults_of(plan, failed, language, given.kept)
            raise InvalidAnswers("A place went meanwhile.", faults, page_of(plan, item))
    await gate.refuse(context, found, plan, decision, visitor, language)
