"""Reading entries, and restricted answers for those with clearance."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import NotAllowed, NotFound
from jotgate.core.common.values import FileFacts
from jotgate.core.entries.clearance import needs_clearance, opened
from jotgate.core.entries.entry import Entry, Stored
from jotgate.core.records.accounts import Account, Clearance
from jotgate.core.records.dispatch import Run
from jotgate.core.records.entries import Version
from jotgate.core.walking.plan import Plan
from jotgate.ports.files import Missing
from jotgate.services.context import Context
from jotgate.services.keys.sealing import Restricted, name_of_file, restricted_keys, restricted_of
from jotgate.services.public.uploads import preview
from jotgate.services.public.uploads import read as read_file
from jotgate.services.staff.links.came_by import CameBy, came_by
from jotgate.services.staff.rights import NO_CLEARANCE, clearance, needs, needs_reason, told_why
from jotgate.services.trail import note
from jotgate.store import files, questionnaires, runs
from jotgate.store.accounts import care
from jotgate.store.base import Connection
from jotgate.store.entries import entries, entry_versions

NONE: Mapping[str, str] = {}


@dataclass(frozen=True)
class EntryRead:
    """One entry with the edition it answers, what dispatch did with it, and the versions that were
    replaced, with the names of those of the office who corrected them."""

    entry: Entry
    plan: Plan
    newest: Plan
    runs: tuple[Run, ...]
    cleared: bool
    asks_reason: bool
    withheld: tuple[str, ...]
    came: CameBy
    versions: tuple[Version, ...]
    carers: Mapping[UUID, str]
    correctors: Mapping[UUID, str]


async def carers_of(
    conn: Connection, found: Sequence[Entry], known: Mapping[str, str] = NONE
) -> dict[UUID, str]:
    """The names of the people and teams that take care of entries, by id; some are `known`."""
    both = {id for entry in found for id in (entry.carer_id, entry.care_team_id) if id}
    there = {id: known[str(id)] for id in both if str(id) in known}
    return there | await care.names(conn, both - there.keys())


async def withheld_of(
    context: Context, questionnaire_id: UUID, hidden: Mapping[UUID, Stored]
) -> dict[UUID, tuple[str, ...]]:
    """The keys of the restricted questions that each of these entries answered, for a reader whose
    clearance was checked. `hidden` is what of them stands open and is restricted by now."""
    if not hidden:
        return {}
    async with context.restricted.connect() as conn:
        sealed = await entries.sealed(conn, questionnaire_id, list(hidden))
    keys = await restricted_keys(context, sealed)
    return {id: tuple(sorted({*keys.get(id, ()), *more})) for id, more in hidden.items()}


async def cleared_now(context: Context, account: Account, questionnaire_id: UUID) -> bool:
    """Whether `account` may read what is restricted."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", questionnaire_id)
        return await own_clearance(context, conn, account, questionnaire_id) is not None


async def own_clearance(
    context: Context, conn: Connection, account: Account, questionnaire_id: UUID
) -> Clearance | None:
    return await clearance(conn, account, questionnaire_id, context.clock.now())


async def read(context: Context, account: Account, questionnaire_id: UUID, id: UUID) -> EntryRead:
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", questionnaire_id)
        entry, plan, newest = await there_with_plans(context, conn, questionnaire_id, id)
        done = await runs.any_of(conn, questionnaire_id, id)
        leave = await own_clearance(context, conn, account, questionnaire_id)
        came = await came_by(conn, account, entry)
        versions = tuple(await entry_versions.of_entry(conn, questionnaire_id, id))
        carers = await carers_of(conn, [entry])
        correctors = await care.names(conn, {one.account_id for one in versions if one.account_id})
    shown, hidden = opened(entry, plan, newest)
    found = await withheld_of(context, questionnaire_id, {id: hidden} if leave else {})
    withheld = found.get(id, ())
    asks = leave is not None and leave.asks_reason
    return EntryRead(
        shown,
        plan,
        newest,
        tuple(done),
        leave is not None,
        asks,
        withheld,
        came,
        versions,
        carers,
        correctors,
    )


async def there_with_plans(
    context: Context, conn: Connection, questionnaire_id: UUID, id: UUID
) -> tuple[Entry, Plan, Plan]:
    """An entry with its edition and the newest one. Raises NotFound."""
    entry = await entries.entry(conn, questionnaire_id, id)
    summary = await questionnaires.summary(conn, questionnaire_id)
    if entry is None or summary is None:
        raise NotFound("There is no such entry.")
    plan = await context.plan(conn, questionnaire_id, entry.edition)
    newest = await context.plan(conn, questionnaire_id, summary.edition or entry.edition)
    return entry, plan, newest


@dataclass(frozen=True)
class Download:
    """The bytes of a file that came with an entry, or of its preview."""

    name: str
    type: str
    data: bytes


async def file(
    context: Context,
    account: Account,
    where: tuple[UUID, UUID],
    file_id: UUID,
    small: bool,
    reason: str = "",
) -> Download:
    """A file of the entry `where` (questionnaire, entry), or its preview as WebP.

    One that answers a restricted question needs clearance, and a `reason` where that asks for one;
    it leaves a mark in the trail. Raises NotFound, NotAllowed, Invalid.
    """
    questionnaire_id, entry_id = where
    async with context.engine.begin() as conn:
        await needs(conn, account, "read", questionnaire_id)
        entry, plan, newest = await there_with_plans(context, conn, questionnaire_id, entry_id)
        found = await files.find(conn, file_id)
        if found is None or found.entry_id != entry_id or not found.type:
            raise NotFound("There is no such file.")
        key = plan.owners.get(found.item, found.item)
        if needs_clearance(plan, newest, key):
            await may_see(context, conn, account, questionnaire_id, reason)
            await mark(context, conn, account, entry, [key], reason)
    name = await name_of_file(context, found)
    facts = FileFacts(str(found.id), name, found.received, found.type)
    return await download(context, facts, small)


async def download(context: Context, file: FileFacts, small: bool) -> Download:
    """A file, or its preview as WebP. Raises NotFound where its bytes are gone, or it has none."""
    id = UUID(file.id)
    try:
        if small:
            return Download(f"{file.name}.webp", "image/webp", await preview(context, file))
        return Download(file.name, file.type, await read_file(context, id, file.size))
    except Missing:
        raise NotFound("There is no such file.") from None


async def may_see(
    context: Context, conn: Connection, account: Account, questionnaire_id: UUID, reason: str
) -> None:
    """Raise NotAllowed without clearance, Invalid where it asks for a reason and none is given."""
    found = await clearance(conn, account, questionnaire_id, context.clock.now())
    if found is None:
        raise NotAllowed(NO_CLEARANCE)
    needs_reason(found.asks_reason, reason)


async def mark(
    context: Context,
    conn: Connection,
    account: Account,
    entry: Entry,
    keys: list[str],
    reason: str,
) -> None:
    """Note in the trail that restricted answers were seen."""
    await note(
        context,
        conn,
        account.id,
        "restricted_seen",
        entry.questionnaire_id,
        entry.id,
        number=entry.number,
        keys=keys,
        **told_why(account, reason),
    )


async def reveal(
    context: Context, account: Account, questionnaire_id: UUID, id: UUID, reason: str = ""
) -> tuple[Plan, Restricted]:
    """An entry's edition and what of it is restricted; the trail has the reading before it is out.

    Raises NotAllowed without clearance, whether or not there is such an entry, and Invalid where
    the clearance asks for a reason and none is given.
    """
    async with context.restricted.begin() as conn:
        await needs(conn, account, "read", questionnaire_id)
        await may_see(context, conn, account, questionnaire_id, reason)
        entry, plan, newest = await there_with_plans(context, conn, questionnaire_id, id)
        sealed = await entries.sealed(conn, questionnaire_id, [id])
        kept = await restricted_of(context, id, sealed)
        shown, hidden = opened(entry, plan, newest)
        finish = kept.finish or ("" if shown.finish else entry.finish)
        found = Restricted({**kept.answers, **hidden}, finish)
        await mark(context, conn, account, entry, sorted(found.answers), reason)
    return plan, found
