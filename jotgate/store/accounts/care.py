"""Who may take care of a questionnaire's entries, and whose turn it is in a team."""

from collections.abc import Collection
from datetime import datetime
from uuid import UUID

from sqlalchemy import ForeignKey, Select, Table, exists, func, select, union_all, update
from sqlalchemy.dialects.postgresql import insert as upsert

from jotgate.store.accounts.accounts import accounts, open_at
from jotgate.store.accounts.parts import parts, team_members, teams
from jotgate.store.base import Connection, metadata, questionnaire_key, uuid_column
from jotgate.store.entries.entry_tables import entries

care_turns = Table(
    "care_turns",
    metadata,
    questionnaire_key(),
    uuid_column("team_id", ForeignKey("teams.id", ondelete="CASCADE"), primary_key=True),
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="SET NULL"), nullable=True),
)
"""Whose turn it was last, by questionnaire and team."""


def able(questionnaire_id: UUID, now: datetime) -> Select[tuple[UUID, str]]:
    """The people who may see its entries, by id and name, in the order of their names."""
    a, p, m = accounts.c, parts.c, team_members.c
    own = p.questionnaire_id == questionnaire_id
    in_team = exists().where(own, p.team_id == m.team_id, m.account_id == a.id)
    may = a.role.is_not(None) | exists().where(own, p.account_id == a.id) | in_team
    return select(a.id, a.name).where(open_at(now), may).order_by(func.lower(a.name), a.id)


async def who_may(conn: Connection, questionnaire_id: UUID, now: datetime) -> dict[UUID, str]:
    found = await conn.execute(able(questionnaire_id, now))
    return {row.id: row.name for row in found}


async def last_turns(
    conn: Connection, questionnaire_id: UUID, team_ids: Collection[UUID], lock: bool
) -> dict[UUID, UUID | None]:
    """Whose turn it was last in each team. With `lock` nobody else takes one until the transaction
    ends."""
    t = care_turns.c
    if lock and team_ids:
        rows = [{"questionnaire_id": questionnaire_id, "team_id": id} for id in sorted(team_ids)]
        await conn.execute(upsert(care_turns).values(rows).on_conflict_do_nothing())
    query = select(t.team_id, t.account_id).where(
        t.questionnaire_id == questionnaire_id, t.team_id.in_(team_ids)
    )
    query = query.order_by(t.team_id)
    found = await conn.execute(query.with_for_update() if lock else query)
    return {row.team_id: row.account_id for row in found}


async def take_turn(
    conn: Connection, questionnaire_id: UUID, team_id: UUID, account_id: UUID
) -> None:
    row = {"questionnaire_id": questionnaire_id, "team_id": team_id, "account_id": account_id}
    changed = upsert(care_turns).values(**row)
    keys = ["questionnaire_id", "team_id"]
    await conn.execute(
        changed.on_conflict_do_update(index_elements=keys, set_={"account_id": account_id})
    )


async def order(conn: Connection) -> list[UUID]:
    """Everybody in the order of their names, those who have left too."""
    a = accounts.c
    return list((await conn.execute(select(a.id).order_by(func.lower(a.name), a.id))).scalars())


async def names(conn: Connection, ids: Collection[UUID]) -> dict[UUID, str]:
    """The names of people and teams, by their ids."""
    if not ids:
        return {}
    each = (select(one.c.id, one.c.name).where(one.c.id.in_(ids)) for one in (accounts, teams))
    return {row.id: row.name for row in await conn.execute(union_all(*each))}


async def pass_on(conn: Connection, account_id: UUID, to: UUID | None) -> None:
    """What somebody takes care of is taken care of by somebody else, or by nobody."""
    query = update(entries).where(entries.c.carer_id == account_id)
    await conn.execute(query.values(carer_id=to))
