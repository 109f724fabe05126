"""Somebody changes what they sent, by their own link or a letter, or somebody of the office
corrects it; the earlier version is kept."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from typing import Any
from urllib.parse import quote
from uuid import UUID

from jotgate.core.common.errors import KeyReused, NotFound, Shut
from jotgate.core.common.formatting import moment
from jotgate.core.common.today import today_in
from jotgate.core.common.wording import closest
from jotgate.core.entries.entry import Entry
from jotgate.core.gate.places import takes_of
from jotgate.core.gate.settings import Gate
from jotgate.core.records.entries import Version
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.walking.arrival import NOTHING_KNOWN, Arrival, Came
from jotgate.core.walking.plan import Plan
from jotgate.core.words import letter as letter_words
from jotgate.core.words import page as page_words
from jotgate.services import gate, letters
from jotgate.services.arrivals import Entrance, begin_visit, by_pass, come
from jotgate.services.by_staff import may_still
from jotgate.services.context import Context
from jotgate.services.keys.resealing import sealed_by_now
from jotgate.services.keys.sealing import NONE, Restricted, restricted_of, seal, seal_version
from jotgate.services.letters import Written
from jotgate.services.public.allowances import allow_letter
from jotgate.services.public.answering import no_place
from jotgate.services.public.entering import public_state, standing
from jotgate.services.public.handing import VISIT_LASTS
from jotgate.services.public.holding import full_of, item_of
from jotgate.services.public.own_entry import Own, find
from jotgate.services.public.storing import NotStored, ToStore
from jotgate.services.trail import note
from jotgate.store import files
from jotgate.store.base import Connection
from jotgate.store.entries import entries, entry_versions, writing
from jotgate.store.gate import admissions, places

LETTER_LASTS = timedelta(days=60)
"""For how long a letter's link works at most."""

A_DAY = {"client": 20, "address": 5, "questionnaire": 5_000}

NOTHING = "There is nothing here that you may change any more."


async def begin(context: Context, entrance: Entrance) -> str:
    """The secret of a visit in which somebody changes what they sent by `entrance`. Raises
    NotFound."""
    async with context.engine.begin() as conn:
        found, held = await standing(conn, entrance.address, entrance)
        plan = await context.plan(conn, found.id, found.edition)
        zone = plan.questionnaire.time_zone
        if held is not None:
            arrival = by_pass(context, held)
        else:
            today = today_in(zone, context.clock.now())
            arrival = await come(context, conn, found.id, plan, entrance, None, today)
        own = await find(context, conn, found, zone, arrival.came)
        if own is None:
            raise NotFound(NOTHING)
        return await _visit(context, conn, found, arrival, own, VISIT_LASTS)


async def _visit(
    context: Context,
    conn: Connection,
    found: PublicState,
    arrival: Arrival,
    own: Own,
    lasts: timedelta,
) -> str:
    whole = replace(arrival, came=replace(arrival.came, own=own.entry.id))
    return await begin_visit(context, conn, found.id, whole, _until(context, own, lasts))


def _until(context: Context, own: Own, lasts: timedelta) -> datetime:
    """When a visit that lasts so long ends: with the time for changing at the latest."""
    last = context.clock.now() + lasts
    return min(last, own.until) if own.until else last


async def ask_letter(
    context: Context, address: str, key: str, email: str, language: str, client: str
) -> None:
    """Send whoever sent the entry under the idempotency key `key` a link by which they can change
    it. Raises NotFound, TooManyTries."""
    async with context.engine.begin() as conn:
        found = await public_state(conn, address)
        plan = await context.plan(conn, found.id, found.edition)
        known = await entries.by_idempotency_key(conn, found.id, key)
        own = None
        if known is not None:
            came = Came(own=known[0].id)
            own = await find(context, conn, found, plan.questionnaire.time_zone, came)
        if own is None:
            raise NotFound(NOTHING)
        says = "Too many letters were asked for today. Try again tomorrow."
        whose = {"client": client, "address": email, "questionnaire": str(found.id)}
        await allow_letter(context, conn, "change", A_DAY, says, **whose)
        secret = await _visit(context, conn, found, NOTHING_KNOWN, own, LETTER_LASTS)
        link = f"{context.public_url}/c/{quote(address)}/{secret}"
        await letters.ask(context, conn, _letter(context, plan, own, email, language, link))


def _letter(context: Context, plan: Plan, own: Own, email: str, wanted: str, link: str) -> Written:
    language = closest(plan.questionnaire.languages, [wanted])
    until = moment(_until(context, own, LETTER_LASTS), language, gate.zone_of(plan))
    words = letter_words(language)
    return letters.worded(plan, email, language, words, "change", link=link, until=until)


@dataclass(frozen=True)
class Changed:
    """The number of the entry; whether this change had been made before."""

    number: int
    repeated: bool


async def change(
    context: Context, address: str, plan: Plan, language: str, given: ToStore
) -> Changed:
    """Store the answers in place of those that the visitor sent before, once for their key. The
    entry keeps its number, its moment, and its time of its person.

    Raises Shut where it may not be changed any more, InvalidAnswers where a place has gone,
    KeyReused, NotStored.
    """
    submission, came = given.submission, given.arrival.came
    id, key, zone = submission.questionnaire_id, submission.idempotency_key, gate.zone_of(plan).key
    async with context.restricted.begin() as conn:
        await gate.keep(conn, id)
        found = await public_state(conn, address)
        entry = came.own and await entries.entry(conn, id, came.own, lock=True)
        if not entry:
            raise Shut(page_words(language)["own_over"])
        before = await entry_versions.by_key(conn, id, entry.id, key)
        if before is not None:
            if before != submission.body_hash:
                raise KeyReused("Something else was sent under this key before.")
            return Changed(entry.number, True)
        if await find(context, conn, found, zone, came) is None:
            raise Shut(page_words(language)["own_over"])
        await may_still(context, conn, id, plan, came)
        await _keep_version(context, conn, entry, given)
        await _take_places(conn, found.gate, plan, language, entry, given)
        changed = await _put(context, conn, entry, given)
        await sealed_by_now(context, conn, changed, await context.plan(conn, id, found.edition))
        if came.staff_id is None:
            await writing.ask_to_dispatch_change(conn, id, entry.id, context.queue)
        told: dict[str, Any] = {"number": entry.number}
        told |= {"why": given.arrival.why} if given.arrival.why else {}
        await note(context, conn, came.staff_id, "entry_changed", id, entry.id, **told)
    return Changed(entry.number, False)


async def _keep_version(context: Context, conn: Connection, entry: Entry, given: ToStore) -> None:
    """Everything that the entry said, sealed."""
    id, submission = entry.questionnaire_id, given.submission
    sealed = await entries.sealed(conn, id, [entry.id])
    kept = await restricted_of(context, entry.id, sealed)
    whole = Restricted({**entry.answers, **kept.answers}, kept.finish or entry.finish)
    number = len(await entry_versions.of_entry(conn, id, entry.id)) + 1
    staff_id, why = given.arrival.came.staff_id, given.arrival.why
    by = (staff_id, why, staff_id is not None)
    version = Version(number, submission.arrived, entry.edition, *by)
    await entry_versions.add(
        conn,
        id,
        entry.id,
        version,
        submission.idempotency_key,
        submission.body_hash,
        await seal_version(context, entry.id, number, whole),
    )


async def _take_places(
    conn: Connection, found: Gate, plan: Plan, language: str, entry: Entry, given: ToStore
) -> None:
    """Take what the new answers take, and give back what they do not. Raises InvalidAnswers at the
    question whose place has gone."""
    id, takes = entry.questionnaire_id, takes_of(found.places, given.kept)
    taken = await admissions.of_entry(conn, id, entry.id)
    before: Mapping[str, int] = taken.takes if taken else {}
    after = {one.cell: one.amount for one in takes}
    if after == before:
        return
    if not found.frees(entry.status):
        cells = {*before, *after}
        await places.there(conn, id, cells)
        full = full_of(takes, await places.locked(conn, id, cells), before)
        if full:
            item = item_of(found, plan, full[0], given.kept) or _first(plan)
            raise no_place(plan, item, language, given.kept)
        moved = {cell: after.get(cell, 0) - before.get(cell, 0) for cell in cells}
        await places.change(conn, id, taken=moved)
    await admissions.put_takes(conn, id, entry.id, after)


def _first(plan: Plan) -> str:
    """The first question, where places in all are full."""
    return plan.questionnaire.pages[0].items[0].key


async def _put(context: Context, conn: Connection, entry: Entry, given: ToStore) -> Entry:
    """The new answers in place of the old ones: the entry by then. Raises NotStored where another
    entry has got the files."""
    submission = given.submission
    changed = entry._replace(
        edition=submission.edition,
        answers=submission.answers,
        finish=submission.finish,
        flags=submission.flags,
        about=submission.about,
    )
    await writing.change(conn, changed, submission.left_empty)
    if submission.sealed or await entries.sealed(conn, entry.questionnaire_id, [entry.id]):
        sealed = submission.sealed or await seal(context, entry.id, NONE)
        await writing.put_sealed(conn, changed, sealed)
    own = {one.id for one in await files.of_entry(conn, entry.id)}
    new: list[UUID] = [one for one in given.sent if one not in own]
    if new and await files.claim(conn, entry.id, new) != len(new):
        raise NotStored
    return changed
