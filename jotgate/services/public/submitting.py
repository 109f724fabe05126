"""A submission: an entry, its restricted answers and the outgoing work, stored once."""

from dataclasses import dataclass, replace
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import (
    AlreadyThere,
    InvalidAnswers,
    NotFound,
)
from jotgate.core.common.today import Today, today_in
from jotgate.core.common.values import Values
from jotgate.core.common.wording import closest
from jotgate.core.entries.about import about
from jotgate.core.entries.clearance import split
from jotgate.core.entries.display import files_in
from jotgate.core.entries.finishing import ending, left_empty, to_keep
from jotgate.core.entries.stored import as_json
from jotgate.core.hand_off import HandOff
from jotgate.core.records.ciphertext import Ciphertext
from jotgate.core.records.entries import Submission
from jotgate.core.walking.arrival import Arrival
from jotgate.core.walking.path import Step, Walk, walk
from jotgate.core.walking.plan import Plan
from jotgate.core.walking.prefill import Filled
from jotgate.services.arrivals import opened
from jotgate.services.by_staff import may_still
from jotgate.services.context import Context
from jotgate.services.keys.sealing import Restricted, seal
from jotgate.services.public import own_entry
from jotgate.services.public.answering import Answers, faults_of
from jotgate.services.public.changing import change
from jotgate.services.public.entering import public_state, read, with_filled
from jotgate.services.public.facts import with_facts
from jotgate.services.public.handing import end_visits
from jotgate.services.public.results import Result, with_result
from jotgate.services.public.robots import asks, refuse_programs
from jotgate.services.public.storing import NotStored, ToStore, known_state, store
from jotgate.services.public.submitted import (
    Submitted,
    body_hash,
    facts_of,
    not_stored,
    repeated_before,
    sent_before,
)
from jotgate.services.trail import note
from jotgate.store.entries import entries


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
    if walked.whole.stuck is not None:
        return await _stuck(context, address, walked, answers, idempotency_key, walked.whole.stuck)
    to_store = await _to_store(context, walked, answers, idempotency_key)
    if walked.own is not None:
        changed = await change(context, address, walked.plan, walked.language, to_store)
        return await _ended(context, address, walked, to_store, changed.number, changed.repeated)
    return await _store(context, address, walked, answers, to_store)


async def _stuck(
    context: Context, address: str, walked: _Walked, answers: Answers, key: str, stuck: Step
) -> Submitted:
    """Raise InvalidAnswers, unless this was stored before."""
    plan, language = walked.plan, walked.language
    if walked.own is None:
        repeated = await repeated_before(context, address, plan, key, answers, language)
        if repeated is not None:
            return repeated
    faults = faults_of(plan, stuck.failed, language, walked.whole.kept)
    raise InvalidAnswers("Some answers need another look.", faults, stuck.page.key)


async def _store(
    context: Context, address: str, walked: _Walked, answers: Answers, given: ToStore
) -> Submitted:
    """Store it as a new entry. Nothing is asked of a browser whose submission was stored before."""
    plan, key = walked.plan, given.submission.idempotency_key
    known = await known_state(context, address, walked.id)
    if asks(known, walked.arrival):
        repeated = await sent_before(context, address, plan, key, answers, walked.language)
        if repeated is not None:
            return repeated
        await refuse_programs(context, known, walked.arrival, given.seen)
    try:
        number, hand_offs = await store(context, address, plan, known, given)
    except (AlreadyThere, NotStored):
        return await not_stored(context, address, key, answers, given)
    if walked.arrival.came.staff_id is not None:
        await _entered(context, given.submission, number)
    done = await _ended(context, address, walked, given, number, False)
    finish = walked.whole.finish.key
    onward = [HandOff.model_validate(one) for one in hand_offs if one["finish"] == finish]
    changes = known.gate.changing is not None
    return replace(done, onward=onward[0] if onward else None, changes=changes)


async def _entered(context: Context, stored: Submission, number: int) -> None:
    """The trail says who entered it."""
    came = stored.came
    told: dict[str, Any] = {"number": number, "entered": came.entered}
    async with context.engine.begin() as conn:
        at = (stored.questionnaire_id, stored.id)
        await note(context, conn, came.staff_id, "entry_entered", *at, **told)


async def _walked(context: Context, address: str, answers: Answers) -> _Walked:
    id, plan = await _edition(context, address, answers.edition)
    today = today_in(plan.questionnaire.time_zone, context.clock.now())
    arrival = opened(context, id, answers.arrival)
    filled = read(plan, answers.link, today, arrival, answers.edition, answers.arrival)
    own = arrival.came.own
    if own is not None:
        filled = await _filled_again(context, plan, id, own, today, filled)
    if arrival.came.staff_id is not None:
        async with context.single.connect() as conn:
            await may_still(context, conn, id, plan, arrival.came)
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


async def _to_store(context: Context, walked: _Walked, answers: Answers, key: str) -> ToStore:
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
        body_hash=body_hash(answers, walked.arrival),
        sealed=await _sealed(context, id, restricted, hidden),
        about=about(plan, open_answers),
        came=walked.arrival.came,
        language=walked.language,
        claims=walked.arrival.claims,
        left_empty=left_empty(plan, whole),
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
    values = {**facts_of(walked.filled), **to_keep(plan, walked.whole)}
    said = ending(plan, finish, values, number, walked.language)
    told = Result(walked.id, address, one.id, number, one.finish, one.about, came)
    said = await with_result(context, finish, said, told)
    if came.entry or came.subject_id:
        await end_visits(context, walked.id, came)
    known = came.mail_id is not None or came.own is not None
    return Submitted(one.id, number, said, repeated, known=known)


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


async def _sealed(
    context: Context, entry_id: UUID, restricted: Values, finish: str
) -> Ciphertext | None:
    if not restricted and not finish:
        return None
    answers = {key: as_json(value) for key, value in restricted.items()}
    return await seal(context, entry_id, Restricted(answers, finish))
