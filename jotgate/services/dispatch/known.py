"""What dispatch rules of a questionnaire speak of, as it is now."""

from collections.abc import Collection
from datetime import datetime
from uuid import UUID

from jotgate.core.contacts.contact import Contact
from jotgate.core.dispatch.known import Known
from jotgate.core.dispatch.rules import Dispatch, Needs
from jotgate.core.dispatch.subject import Subject, subject_of
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.facts import NOTHING_AROUND, Around
from jotgate.core.registers.cells import Person
from jotgate.services.context import Context
from jotgate.services.keys.resealing import sealed_by_now
from jotgate.store import hooks, questionnaires
from jotgate.store.accounts import accounts, care, parts
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts, lists
from jotgate.store.links import named_links
from jotgate.store.registers import registers


async def known_to(conn: Connection, questionnaire_id: UUID, now: datetime) -> Known:
    """What rules of a questionnaire can name: every register, whoever may see it."""
    teams = await _teams(conn, now)
    gate = await questionnaires.gate(conn, questionnaire_id)
    carers = await care.who_may(conn, questionnaire_id, now)
    return Known(
        await registers.every(conn),
        await hooks.every(conn, questionnaire_id),
        teams,
        await around(conn, questionnaire_id),
        await people(conn, now),
        carers,
        await _turns(conn, questionnaire_id, teams, carers),
        await contacts.fields(conn),
        await lists.names(conn),
        gate.value.counts_by if gate else frozenset(),
        questionnaire_id=questionnaire_id,
    )


async def _turns(
    conn: Connection,
    questionnaire_id: UUID,
    team_ids: Collection[UUID],
    carers: Collection[UUID],
    lock: bool = False,
) -> dict[UUID, tuple[UUID, ...]]:
    """The people of teams who may take care, the one whose turn it is first. With `lock` nobody
    else takes a turn until the transaction ends."""
    if not team_ids:
        return {}
    last = await care.last_turns(conn, questionnaire_id, team_ids, lock)
    everybody = {id: at for at, id in enumerate(await care.order(conn))}
    found: dict[UUID, tuple[UUID, ...]] = {}
    for team in await parts.every_team(conn):
        if team.id in team_ids:
            before = last.get(team.id)
            after = everybody[before] if before else -1
            able = sorted((one for one in team.members if one in carers), key=everybody.__getitem__)
            later = [one for one in able if everybody[one] > after]
            found[team.id] = (*later, *(one for one in able if everybody[one] <= after))
    return found


async def around(conn: Connection, questionnaire_id: UUID) -> Around:
    handling = await questionnaires.handling(conn, questionnaire_id)
    links = await named_links.every(conn, questionnaire_id)
    statuses = handling.value.names if handling else {}
    return Around({str(one.id): one.name for one in links}, statuses)


async def _known_for(
    conn: Connection, questionnaire_id: UUID, needs: Needs, now: datetime
) -> Known:
    """What rules that need this speak of, and nothing else."""
    id = questionnaire_id
    carers = await care.who_may(conn, id, now) if needs.care else {}
    found = await registers.every(conn, needs.registers) if needs.registers else {}
    return Known(
        found,
        await hooks.every(conn, id) if needs.hooks else {},
        await _teams(conn, now) if needs.teams else {},
        await around(conn, id) if needs.around else NOTHING_AROUND,
        await people(conn, now) if any(one.names_people for one in found.values()) else {},
        carers,
        await _turns(conn, id, needs.turns, carers, lock=True),
        await contacts.fields(conn) if needs.fields else (),
        await lists.names(conn) if needs.lists else {},
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


async def subject(
    context: Context, conn: Connection, entry: Entry, known: Known, lock: bool = False
) -> Subject:
    """An entry that has open answers only, with all that rules may know of it. With `lock` its
    contact stays as it is until the transaction ends."""
    plan = await context.plan(conn, entry.questionnaire_id, entry.edition)
    contact: Contact | None = None
    if entry.contact_id is not None:
        contact = await contacts.find(conn, entry.contact_id, lock)
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
    return await subject(context, conn, entry, known, lock=rules.needs.fields)
