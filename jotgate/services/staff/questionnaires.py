"""Writing a questionnaire: the draft, and publishing."""

import asyncio
from collections.abc import Awaitable, Callable
from dataclasses import dataclass, replace
from typing import Any, TypeVar
from uuid import UUID

import orjson
from pydantic import BaseModel

from jotgate.core.common.errors import Fault, Invalid, NotFound, Stale
from jotgate.core.document.changes import Change, changes
from jotgate.core.document.questionnaire import Questionnaire, blank
from jotgate.core.document.restriction import Restrictions, newly_freed, restricts_more
from jotgate.core.publishing.drafts import DraftJson, kept, taken
from jotgate.core.publishing.faults import faults
from jotgate.core.records.accounts import Account
from jotgate.core.records.questionnaires import PartName, Present, Published, Saved, Summary
from jotgate.core.rights import Right
from jotgate.core.walking.plan import compile_plan
from jotgate.services import office
from jotgate.services.context import Context
from jotgate.services.staff.rights import in_office, needs
from jotgate.services.trail import note
from jotgate.store import editions as edition_store
from jotgate.store import presence, questionnaires
from jotgate.store.base import Connection
from jotgate.store.entries import writing
from jotgate.store.entry_table import rows

P = TypeVar("P", bound=BaseModel)


async def add(
    context: Context, account: Account, title: str, draft: Questionnaire | str | None
) -> UUID:
    """Start a questionnaire, from `draft` where one is given (as JSON, where that is text); its
    id."""
    in_office(account, "begin")
    id, now = context.ids.id(), context.clock.now()
    if draft is None:
        found = await office.current(context)
        draft = blank(title, found.languages[0], found.time_zone)
    document = draft if isinstance(draft, str) else draft.model_dump_json()
    async with context.engine.begin() as conn:
        await questionnaires.add(conn, id, context.ids.address(), document, now)
        await note(context, conn, account.id, "created", id)
    return id


async def summary(context: Context, account: Account, id: UUID) -> Summary:
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id)
        return there(await questionnaires.summary(conn, id))


F = TypeVar("F")


def there(found: F | None) -> F:
    if found is None:
        raise NotFound("There is no such questionnaire.")
    return found


@dataclass(frozen=True)
class DraftState:
    """A draft with what keeps it from being published."""

    revision: int
    document: Questionnaire
    faults: tuple[Fault, ...]


async def _stored(context: Context, account: Account, id: UUID, right: Right) -> Saved[str]:
    async with context.engine.connect() as conn:
        await needs(conn, account, right, id)
        return there(await questionnaires.draft(conn, id))


async def draft(context: Context, account: Account, id: UUID) -> DraftState:
    saved = await _stored(context, account, id, "review")
    document, found = await asyncio.to_thread(_read, saved.value)
    return DraftState(saved.revision, document, found)


def _read(document: str) -> tuple[Questionnaire, tuple[Fault, ...]]:
    found = Questionnaire.model_validate_json(document)
    return found, faults(found)


async def draft_json(context: Context, account: Account, id: UUID) -> DraftJson:
    """The draft as it is sent."""
    saved = await _stored(context, account, id, "review")
    return await context.apart(kept, saved.revision, saved.value)


async def save_part(
    conn: Connection,
    id: UUID,
    name: PartName,
    value: P,
    revision: int,
    read: Callable[[Connection, UUID], Awaitable[Saved[P] | None]],
) -> Saved[P]:
    """Save a part over the `revision` it was read at. Raises Stale with the newer one."""
    saved = await questionnaires.save(conn, id, name, value, revision)
    if saved is None:
        raise _stale(there(await read(conn, id)))
    return Saved(saved, value)


def _stale(current: Any) -> Stale:
    return Stale("Someone saved a newer version in the meantime.", current=current)


async def save_draft(context: Context, account: Account, id: UUID, body: bytes) -> DraftJson:
    """Save a draft that came as JSON (`core/document`). Raises Unreadable, TooHeavy, Stale."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", id)
    given = await context.apart(taken, body)
    async with context.engine.begin() as conn:
        saved = await questionnaires.save(conn, id, "draft", given.document, given.revision)
        if saved is None:
            current = there(await questionnaires.draft(conn, id))
            raise _stale(Saved(current.revision, orjson.loads(current.value)))
    return replace(given, revision=saved)


@dataclass(frozen=True)
class Presences:
    """Who else has the draft open, and the revision that it is at."""

    revision: int
    others: tuple[Present, ...]


async def be_present(context: Context, account: Account, id: UUID, tab: str, at: str) -> Presences:
    """Say that the draft is open in `tab`, with the item, page or finish `at` selected."""
    now = context.clock.now()
    async with context.engine.begin() as conn:
        await needs(conn, account, "review", id)
        found = there(await questionnaires.summary(conn, id))
        await presence.note(conn, id, tab, account.id, at, now)
        others = await presence.others(conn, id, tab, now)
    return Presences(found.draft_revision, tuple(others))


async def publish(context: Context, account: Account, id: UUID, revision: int) -> int:
    """Freeze the draft at `revision` as the next edition; its number. Raises Invalid, Stale."""
    now = context.clock.now()
    saved = await _stored(context, account, id, "write")
    if saved.revision != revision:
        raise _stale(Saved(saved.revision, orjson.loads(saved.value)))
    document, found = await asyncio.to_thread(_read, saved.value)
    if found:
        raise Invalid("The draft cannot be published yet.", found)
    before, now_restricted = await _restrictions(context, id, document)
    freed = newly_freed(before, now_restricted)
    async with context.engine.begin() as conn:
        number = await edition_store.publish(conn, id, saved, account.id, now)
        await note(context, conn, account.id, "published", id, edition=number)
        if freed:
            await note(context, conn, account.id, "set_free", id, edition=number, keys=list(freed))
        await rows.hide(conn, id, now_restricted.items)
        if before and restricts_more(before, now_restricted):
            await rows.seal(conn, id)
            await writing.ask_to_seal(conn, id, context.queue)
    return number


async def _restrictions(
    context: Context, id: UUID, document: Questionnaire
) -> tuple[Restrictions | None, Restrictions]:
    """What the newest edition restricts, where there is one, and what `document` does."""
    async with context.engine.connect() as conn:
        newest = there(await questionnaires.summary(conn, id)).edition
        before = await context.plan(conn, id, newest) if newest else None
    now = await asyncio.to_thread(compile_plan, document)
    return before.restrictions if before else None, now.restrictions


async def edition(
    context: Context, account: Account, id: UUID, number: int | None = None
) -> tuple[int, Questionnaire]:
    """A published edition, the newest where no number is given."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id)
        wanted = number or there(await questionnaires.summary(conn, id)).edition
        if wanted is None:
            raise NotFound("This questionnaire has not been published yet.")
        plan = await context.plan(conn, id, wanted)
    return wanted, plan.written


async def editions(context: Context, account: Account, id: UUID) -> list[Published]:
    """Every edition, the newest first."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id)
        there(await questionnaires.summary(conn, id))
        return await edition_store.published(conn, id)


@dataclass(frozen=True)
class Changed:
    """What is different from `edition`; None stands for before there was one."""

    edition: int | None
    changes: tuple[Change, ...]


async def changed(
    context: Context, account: Account, id: UUID, number: int | None = None
) -> Changed:
    """What edition `number`, or else the draft, changed since the edition before it."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        newest = there(await questionnaires.summary(conn, id)).edition
        if number is None:
            before, after = newest, there(await questionnaires.draft(conn, id)).value
        else:
            before = number - 1 or None
            after = there(await edition_store.edition(conn, id, number))
        if before is None:
            return Changed(None, ())
        old = there(await edition_store.edition(conn, id, before))
    return Changed(before, await context.apart(_changes, old, after))


def _changes(old: str, new: str) -> tuple[Change, ...]:
    return changes(*(Questionnaire.model_validate_json(one) for one in (old, new)))
