"""Reading entries, and restricted answers for those with clearance."""

from collections.abc import Mapping
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.entry import Entry, Stored
from jotgate.core.errors import NotAllowed, NotFound
from jotgate.core.plan import Plan
from jotgate.core.questionnaire import Questionnaire
from jotgate.services.house import House
from jotgate.services.sealing import unseal
from jotgate.store import accounts, entries, questionnaires, runs, trail
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
        await trail.add(
            conn,
            house.clock.now(),
            account.id,
            "restricted_seen",
            questionnaire_id,
            id,
            number=entry.number,
            keys=list(entry.withheld),
        )
    if sealed is None:
        return plan, {}
    return plan, unseal(house, id, sealed)
