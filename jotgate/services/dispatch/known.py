"""What dispatch rules of a questionnaire speak of, as it is now."""

from datetime import datetime
from uuid import UUID

from jotgate.core.contacts.contact import Contact
from jotgate.core.dispatch.facts import NOTHING_AROUND, Around
from jotgate.core.dispatch.known import Known
from jotgate.core.dispatch.planning import Subject, subject_of
from jotgate.core.dispatch.rules import Dispatch, Needs
from jotgate.core.entries.entry import Entry
from jotgate.core.registers.cells import Person
from jotgate.services.context import Context
from jotgate.services.resealing import sealed_by_now
from jotgate.store import accounts, hooks, parts, questionnaires
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts
from jotgate.store.links import named_links
from jotgate.store.registers import registers


async def known_to(conn: Connection, questionnaire_id: UUID, now: datetime) -> Known:
    """What rules of a questionnaire can name: every register, whoever may see it."""
    return Known(
        await registers.every(conn),
        await hooks.every(conn, questionnaire_id),
        await _teams(conn, now),
        await _around(conn, questionnaire_id),
        await people(conn, now),
    )


async def _around(conn: Connection, questionnaire_id: UUID) -> Around:
    handling = await questionnaires.handling(conn, questionnaire_id)
    links = await named_links.every(conn, questionnaire_id)
    statuses = {one.key: one.name for one in handling.value.statuses} if handling else {}
    return Around({str(one.id): one.name for one in links}, statuses)


async def _known_for(
    conn: Connection, questionnaire_id: UUID, needs: Needs, now: datetime
) -> Known:
    """What rules that need this speak of, and nothing else."""
    found = await registers.every(conn, needs.registers) if needs.registers else {}
    return Known(
        found,
        await hooks.every(conn, questionnaire_id) if needs.hooks else {},
        await _teams(conn, now) if needs.teams else {},
        await _around(conn, questionnaire_id) if needs.around else NOTHING_AROUND,
        await people(conn, now) if any(one.names_people for one in found.values()) else {},
    )


async def people(conn: Connection, now: datetime) -> dict[str, Person]:
    """The people of the office as columns name them, by id, in the order of their names; those who
    have left too."""
    return {
        str(one.id): Person(one.name, one.email, one.state(now) == "active")
        for one in await accounts.people(conn)
    }


async def _teams(conn: Connection, now: datetime) -> dict[UUID, tuple[str, ...]]:
    """The mail addresses of teams: their own, or else those of their people who have an account."""
    found = await parts.every_team(conn)
    if all(team.address for team in found):
        return {team.id: (team.address,) for team in found}
    addresses = {
        one.id: one.email for one in await accounts.people(conn) if one.state(now) == "active"
    }
    return {
        team.id: (team.address,)
        if team.address
        else tuple(sorted(addresses[one] for one in team.members if one in addresses))
        for team in found
    }


async def subject(context: Context, conn: Connection, entry: Entry, known: Known) -> Subject:
    """An entry that has open answers only, with all that rules may know of it."""
    plan = await context.plan(conn, entry.questionnaire_id, entry.edition)
    contact: Contact | None = None
    if entry.contact_id is not None:
        contact = await contacts.find(conn, entry.contact_id)
    return subject_of(plan, entry, contact, known)


async def subject_by_now(
    context: Context, conn: Connection, entry: Entry, rules: Dispatch, edition: int | None
) -> Subject:
    """An entry, which is locked, as `rules` may know it: what the newest `edition` restricts is
    sealed by then."""
    id = entry.questionnaire_id
    newest = await context.plan(conn, id, edition) if edition else None
    entry = await sealed_by_now(context, conn, entry, newest)
    known = await _known_for(conn, id, rules.needs, context.clock.now())
    return await subject(context, conn, entry, known)
