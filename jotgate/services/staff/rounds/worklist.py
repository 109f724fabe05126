"""Calls and visits: whoever rings or goes gets one contact after the other, and says what came of
it. They see that contact alone."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotFound
from jotgate.core.common.wording import closest, fill, say
from jotgate.core.contacts.asked import kinds_of
from jotgate.core.contacts.contact import Contact, facts_of
from jotgate.core.entries.facts import Entered
from jotgate.core.records.accounts import Account
from jotgate.core.records.rounds import Attempt
from jotgate.core.rounds.round import Step
from jotgate.core.rounds.standing import Outcome
from jotgate.core.rounds.trying_again import next_try
from jotgate.services.arrivals import Held, begin_visit, by_pass, staff_path
from jotgate.services.by_staff import ENTERS
from jotgate.services.context import Context
from jotgate.services.rounds.state import RoundState, kept_round, state_of
from jotgate.services.rounds.whom import concerned
from jotgate.services.staff.entries.entering import LASTS
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import needs
from jotgate.services.staff.rounds.names import Named, named_one
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts
from jotgate.store.links import passes
from jotgate.store.rounds import people, tries
from jotgate.store.rounds.facts import Known, counted, known

HELD_FOR = timedelta(minutes=45)
"""For how long nobody else gets a contact that somebody has taken."""

LONGEST_NOTE = 1_000
NOT_YOURS = "Somebody else has this contact by now, or you have had it for too long. Take the next."


@dataclass(frozen=True)
class Up:
    """Who is to be rung or visited, with what is known of them by field, the label and the words,
    what happened so far, and what to say."""

    step: Step
    contact: Contact
    known: Mapping[str, tuple[str, str]]
    named: Named
    script: str
    zone: str
    until: datetime


@dataclass(frozen=True)
class Worklist:
    """How many are up by now, and when the next one is, where nobody is."""

    up: Up | None
    waiting: int
    later: datetime | None


async def look(
    context: Context, account: Account, id: UUID, round_id: UUID, take: bool
) -> Worklist:
    """Who `account` has taken; with `take`, whoever is up next where they have nobody."""
    now = context.clock.now()
    async with context.engine.begin() as conn:
        await needs(conn, account, ENTERS, id)
        state = await state_of(conn, await kept_round(conn, id, round_id))
        steps = _steps(state)
        if not steps or state.kept.state != "running":
            return Worklist(None, 0, None)
        found, where = await _listed(conn, state, steps, now)
        waiting, later = await tries.waiting(conn, found, where, now)
        until = now + HELD_FOR
        held = (now, until)
        taken = await tries.take(conn, state.kept, found, where, account.id, held, take)
        up = None if taken is None else await _up(conn, state, taken, until)
    return Worklist(up, waiting, later)


def _steps(state: RoundState) -> list[Step]:
    """The calls and visits that have gone, and are not held."""
    gone = {one.step for one in state.gone}
    return [
        one
        for one in state.kept.round.steps
        if one.way in ("call", "visit") and one.key in gone and not one.held
    ]


async def _listed(
    conn: Connection, state: RoundState, steps: Sequence[Step], now: datetime
) -> tuple[Known, Any]:
    found = known(state.kept, dict.fromkeys(state.released, now))
    counts = await counted(conn, found, ())
    wanted = {one.key: concerned(one, counts) for one in steps}
    return found, tries.on_steps(found, wanted)


async def _up(conn: Connection, state: RoundState, contact_id: UUID, until: datetime) -> Up | None:
    one = state.kept
    row = await people.find(conn, one, contact_id)
    contact = await contacts.find(conn, contact_id)
    step = None if row is None else one.round.step(row.on_step)
    if row is None or contact is None or step is None:
        return None
    named = await named_one(conn, state, contact_id, until - HELD_FOR)
    languages = list(step.script) or list(state.around.languages)
    spoken = closest(languages, [contact.language or state.around.languages[0]])
    said = say(step.script, spoken, state.around.languages[0]) if step.script else ""
    facts = {f"contact.{name}": text for name, text in facts_of(contact).items()}
    labels = kinds_of(state.around.fields)
    told = {name: (labels[name][0], text) for name, text in facts_of(contact).items()}
    return Up(step, contact, told, named, fill(said, facts), row.zone, until)


async def _mine(
    context: Context, conn: Connection, account: Account, state: RoundState, contact_id: UUID
) -> Any:
    """The row of somebody whom `account` has taken. Raises Invalid, NotFound."""
    row = await people.find(conn, state.kept, contact_id, lock=True)
    if row is None:
        raise NotFound("They are not asked in this round.")
    now = context.clock.now()
    if row.taken_by != account.id or row.taken_until is None or row.taken_until <= now:
        raise Invalid(NOT_YOURS)
    return row


@dataclass(frozen=True)
class Told:
    """What came of a call or a visit; `again` is when they want to be tried again."""

    outcome: Outcome
    again: datetime | None = None
    note: str = ""


async def tell(
    context: Context, account: Account, id: UUID, round_id: UUID, contact_id: UUID, told: Told
) -> datetime | None:
    """Keep what came of a call or a visit, and give the contact back; when they are tried again.
    Raises Invalid, NotFound."""
    now = context.clock.now()
    _sound(told, now)
    async with context.engine.begin() as conn:
        await needs(conn, account, ENTERS, id)
        state = await state_of(conn, await kept_round(conn, id, round_id))
        row = await _mine(context, conn, account, state, contact_id)
        step = there(state.kept.round.step(row.on_step))
        again = await _again(conn, state, row, told, now)
        attempt = Attempt(
            context.ids.id(),
            contact_id,
            step.key,
            step.way,
            now,
            told.outcome,
            " ".join(told.note.split()),
            again,
            account.id,
        )
        await tries.tried(conn, state.kept, attempt, again)
    return again


def _sound(told: Told, now: datetime) -> None:
    faults = []
    if len(told.note) > LONGEST_NOTE:
        message = f"This has more than {LONGEST_NOTE:,} characters."
        faults.append(Fault(code="too_long", at="note", message=message))
    if told.outcome == "again" and (told.again is None or told.again <= now):
        message = "Say when to try again: a moment that is still to come."
        faults.append(Fault(code="when", at="again", message=message))
    if faults:
        raise Invalid(faults[0].message, faults)


async def _again(
    conn: Connection, state: RoundState, row: Any, told: Told, now: datetime
) -> datetime | None:
    """When they are tried again: as they said, or as the rule says where nobody was reached."""
    if told.outcome == "again":
        return told.again
    if told.outcome != "not_reached":
        return None
    before = await tries.attempts_of(conn, state.kept, [row.contact_id])
    moments = [*(one.at for one in before if one.step == row.on_step), now]
    return next_try(state.kept.round.trying, row.zone, moments, now)


async def put_back(context: Context, account: Account, id: UUID, round_id: UUID) -> None:
    """Give back whoever `account` has taken, as if nothing had been."""
    async with context.engine.begin() as conn:
        await needs(conn, account, ENTERS, id)
        await tries.let_go(conn, await kept_round(conn, id, round_id), account.id)


_ENTERED: dict[str, Entered] = {"call": "phone", "visit": "in_person"}


async def enter(
    context: Context, account: Account, id: UUID, round_id: UUID, contact_id: UUID
) -> str:
    """The path of a page on which `account` enters what a contact says whom they have taken, with
    the contact's pass. Raises Invalid, NotFound."""
    async with context.engine.begin() as conn:
        await needs(conn, account, ENTERS, id)
        state = await state_of(conn, await kept_round(conn, id, round_id))
        row = await _mine(context, conn, account, state, contact_id)
        summary = there(await questionnaires.summary(conn, id))
        if summary.edition is None:
            raise Invalid("Publish the questionnaire first.")
        held = await passes.find(conn, id, row.pass_id) if row.pass_id else None
        if held is None or held.is_used_up or held.revoked is not None:
            raise Invalid("Their pass lets nobody in any more: it was used, or revoked.")
        step = there(state.kept.round.step(row.on_step))
        arrival = by_pass(context, Held(held, await contacts.find(conn, contact_id)))
        came = replace(arrival.came, staff_id=account.id, entered=_ENTERED[step.way])
        until = context.clock.now() + LASTS
        secret = await begin_visit(context, conn, id, replace(arrival, came=came), until)
        return staff_path(summary.address, secret)
