"""What dispatch rules of a questionnaire speak of, as it is now."""

from datetime import datetime
from uuid import UUID

from jotgate.core.contacts.contact import Contact
from jotgate.core.dispatch.facts import Around
from jotgate.core.dispatch.known import Known
from jotgate.core.dispatch.needs import Needs
from jotgate.core.dispatch.planning import Subject, subject_of
from jotgate.core.entries.entry import Entry
from jotgate.services.context import Context
from jotgate.store import accounts, hooks, parts, questionnaires, registers
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts
from jotgate.store.links import named_links


async def known_to(conn: Connection, questionnaire_id: UUID, now: datetime) -> Known:
    """What rules of a questionnaire can name: every register, whoever may see it."""
    handling = await questionnaires.handling(conn, questionnaire_id)
    links = await named_links.every(conn, questionnaire_id)
    statuses = {one.key: one.name for one in handling.value.statuses} if handling else {}
    around = Around({str(one.id): one.name for one in links}, statuses)
    return Known(
        await registers.every(conn),
        await hooks.every(conn, questionnaire_id),
        await _teams(conn, now),
        around,
    )


async def known_for(conn: Connection, questionnaire_id: UUID, rules: Needs, now: datetime) -> Known:
    """What these rules speak of, and nothing else."""
    around = Around()
    if rules.around:
        around = (await known_to(conn, questionnaire_id, now)).around
    return Known(
        await registers.every(conn, rules.registers) if rules.registers else {},
        await hooks.every(conn, questionnaire_id) if rules.hooks else {},
        await _teams(conn, now) if rules.teams else {},
        around,
    )


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
