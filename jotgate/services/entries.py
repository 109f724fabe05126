"""Reading entries, and restricted answers for those with clearance."""

from collections.abc import Mapping
from dataclasses import dataclass
from uuid import UUID

from sqlalchemy.ext.asyncio import AsyncConnection

from jotgate.core.entry import Entry, Stored
from jotgate.core.errors import NotAllowed, NotFound
from jotgate.core.items import is_restricted
from jotgate.core.plan import Plan
from jotgate.core.questionnaire import Questionnaire
from jotgate.ports.files import Missing
from jotgate.services.house import House
from jotgate.services.sealing import unseal
from jotgate.services.sending import preview
from jotgate.services.sending import read as read_file
from jotgate.store import accounts, entries, files, questionnaires, runs, trail
from jotgate.store.accounts import Account
from jotgate.store.runs import Run

PER_PAGE = 100


@dataclass(frozen=True)
class EntryPage:
    """Entries from the newest back. `more` tells that older ones follow the last.

    `newest` is the document of the newest edition, `plans` holds every edition in `entries`.
    """

    entries: tuple[Entry, ...]
    newest: Questionnaire | None
    plans: Mapping[int, Plan]
    more: bool
    total: int
    cleared: bool


@dataclass(frozen=True)
class EntryRead:
    """One entry with the edition it answers and what dispatch did with it."""

    entry: Entry
    plan: Plan
    runs: tuple[Run, ...]
    cleared: bool


async def page(
    house: House, account: Account, questionnaire_id: UUID, before: int | None
) -> EntryPage:
    """A page of entries, those with a number under `before` where it is given."""
    async with house.engine.connect() as conn:
        summary = await questionnaires.summary(conn, questionnaire_id)
        if summary is None:
            raise NotFound("There is no such questionnaire.")
        found = await entries.newest(conn, questionnaire_id, before, PER_PAGE + 1)
        cleared = await accounts.is_cleared(conn, account.id, questionnaire_id)
        wanted = {summary.edition, *(entry.edition for entry in found)}
        plans = {n: await house.plan(conn, questionnaire_id, n) for n in wanted if n}
    return EntryPage(
        entries=tuple(found[:PER_PAGE]),
        newest=plans[summary.edition].questionnaire if summary.edition else None,
        plans=plans,
        more=len(found) > PER_PAGE,
        total=summary.entries,
        cleared=cleared,
    )


async def read(house: House, account: Account, questionnaire_id: UUID, id: UUID) -> EntryRead:
    async with house.engine.connect() as conn:
        entry = await entries.entry(conn, questionnaire_id, id)
        if entry is None:
            raise NotFound("There is no such entry.")
        plan = await house.plan(conn, questionnaire_id, entry.edition)
        done = await runs.any_of(conn, questionnaire_id, id)
        cleared = await accounts.is_cleared(conn, account.id, questionnaire_id)
    return EntryRead(entry, plan, tuple(done), cleared)


@dataclass(frozen=True)
class Download:
    """The bytes of a file that came with an entry, or of its preview."""

    name: str
    type: str
    data: bytes


async def file(
    house: House, account: Account, where: tuple[UUID, UUID], file_id: UUID, small: bool
) -> Download:
    """A file of the entry `where` (questionnaire, entry), or its preview as WebP.

    One that answers a restricted question needs clearance, and leaves a mark in the trail.
    Raises NotFound, NotAllowed.
    """
    questionnaire_id, entry_id = where
    async with house.engine.begin() as conn:
        entry = await entries.entry(conn, questionnaire_id, entry_id)
        found = await files.find(conn, file_id)
        if entry is None or found is None or found.entry_id != entry_id or not found.type:
            raise NotFound("There is no such file.")
        plan = await house.plan(conn, questionnaire_id, entry.edition)
        outer = plan.items[plan.owners.get(found.item, found.item)]
        if is_restricted(outer):
            if not await accounts.is_cleared(conn, account.id, questionnaire_id):
                raise NotAllowed("You have no clearance for the restricted answers of this one.")
            await _mark(house, conn, account, entry, [outer.key])
    try:
        if small:
            return Download(f"{found.name}.webp", "image/webp", await preview(house, found))
        return Download(found.name, found.type, await read_file(house, found))
    except Missing:
        raise NotFound("There is no such file.") from None


async def _mark(
    house: House, conn: AsyncConnection, account: Account, entry: Entry, keys: list[str]
) -> None:
    """Note in the trail that restricted answers were seen."""
    now = house.clock.now()
    await trail.add(
        conn,
        now,
        account.id,
        "restricted_seen",
        entry.questionnaire_id,
        entry.id,
        number=entry.number,
        keys=keys,
    )


async def reveal(
    house: House, account: Account, questionnaire_id: UUID, id: UUID
) -> tuple[Plan, Stored]:
    """An entry's edition and restricted answers; the trail has the reading before they are out.

    Raises NotAllowed without clearance, whether or not there is such an entry.
    """
    async with house.engine.begin() as conn:
        if not await accounts.is_cleared(conn, account.id, questionnaire_id):
            raise NotAllowed("You have no clearance for the restricted answers of this one.")
        entry = await entries.entry(conn, questionnaire_id, id)
        if entry is None:
            raise NotFound("There is no such entry.")
        plan = await house.plan(conn, questionnaire_id, entry.edition)
        sealed = await entries.sealed(conn, questionnaire_id, id)
        await _mark(house, conn, account, entry, list(entry.withheld))
    if sealed is None:
        return plan, {}
    return plan, unseal(house, id, sealed)
