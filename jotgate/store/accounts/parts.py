"""Teams, parts in questionnaires and registers, and clearance."""

from collections.abc import Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    Boolean,
    CheckConstraint,
    Column,
    ForeignKey,
    Select,
    String,
    Table,
    UniqueConstraint,
    delete,
    insert,
    or_,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import insert as upsert

from jotgate.core.records.accounts import Clearance, Part, Team
from jotgate.core.rights import Role, Thing, strongest
from jotgate.store.base import (
    Connection,
    maybe_time_column,
    metadata,
    questionnaire_key,
    time_column,
    uuid_column,
)

teams = Table(
    "teams",
    metadata,
    uuid_column("id", primary_key=True),
    Column("name", String, nullable=False, unique=True),
    Column("address", String, nullable=False),
)
team_members = Table(
    "team_members",
    metadata,
    uuid_column("team_id", ForeignKey("teams.id", ondelete="CASCADE"), primary_key=True),
    uuid_column(
        "account_id", ForeignKey("accounts.id", ondelete="CASCADE"), primary_key=True, index=True
    ),
)
parts = Table(
    "parts",
    metadata,
    uuid_column("id", primary_key=True),
    Column("role", String, nullable=False),
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="CASCADE"), nullable=True),
    uuid_column("team_id", ForeignKey("teams.id", ondelete="CASCADE"), nullable=True),
    uuid_column(
        "questionnaire_id", ForeignKey("questionnaires.id", ondelete="CASCADE"), nullable=True
    ),
    uuid_column("register_id", ForeignKey("registers.id", ondelete="CASCADE"), nullable=True),
    UniqueConstraint(
        "account_id",
        "team_id",
        "questionnaire_id",
        "register_id",
        name="uq_parts_one",
        postgresql_nulls_not_distinct=True,
    ),
    CheckConstraint("num_nonnulls(account_id, team_id) = 1", name="ck_parts_whose"),
    CheckConstraint("num_nonnulls(questionnaire_id, register_id) = 1", name="ck_parts_where"),
)
clearances = Table(
    "clearances",
    metadata,
    uuid_column("account_id", ForeignKey("accounts.id", ondelete="CASCADE"), primary_key=True),
    questionnaire_key(),
    time_column("given"),
    uuid_column("given_by", ForeignKey("accounts.id")),
    maybe_time_column("until"),
    Column("asks_reason", Boolean, nullable=False),
)


def _where(thing: Thing) -> Any:
    return parts.c.questionnaire_id if thing == "questionnaire" else parts.c.register_id


def _of(account_id: UUID) -> Any:
    own = select(team_members.c.team_id).where(team_members.c.account_id == account_id)
    return or_(parts.c.account_id == account_id, parts.c.team_id.in_(own))


async def role_in(conn: Connection, account_id: UUID, thing: Thing, id: UUID) -> Role | None:
    """The strongest role that somebody has in one thing, in person or through a team."""
    query = select(parts.c.role).where(_where(thing) == id, _of(account_id))
    return strongest((await conn.execute(query)).scalars())


async def roles_in(conn: Connection, account_id: UUID, thing: Thing) -> dict[UUID, Role]:
    """The strongest role of somebody in each thing that they have a part in."""
    where = _where(thing)
    query = select(where, parts.c.role).where(where.is_not(None), _of(account_id))
    found: dict[UUID, Role] = {}
    for id, role in await conn.execute(query):
        found[id] = strongest((found.get(id), role)) or role
    return found


async def of_thing(conn: Connection, thing: Thing, id: UUID) -> list[Part]:
    p = parts.c
    query = select(p.id, p.role, p.account_id, p.team_id).where(_where(thing) == id)
    return [Part(*row) for row in await conn.execute(query)]


async def give(conn: Connection, part: Part, thing: Thing, id: UUID) -> None:
    """Give a part, or another role to who has one."""
    query = upsert(parts).values(
        {
            "id": part.id,
            "role": part.role,
            "account_id": part.account_id,
            "team_id": part.team_id,
            _where(thing).name: id,
        }
    )
    await conn.execute(
        query.on_conflict_do_update(constraint="uq_parts_one", set_={"role": part.role})
    )


async def take(conn: Connection, thing: Thing, id: UUID, part_id: UUID) -> Part | None:
    """Take a part away: what it was, None where there is none."""
    p = parts.c
    query = delete(parts).where(p.id == part_id, _where(thing) == id)
    row = (await conn.execute(query.returning(p.id, p.role, p.account_id, p.team_id))).one_or_none()
    return row and Part(*row)


async def pass_on(conn: Connection, account_id: UUID, to: UUID) -> None:
    """Give the parts of somebody to somebody else, who keeps the stronger role where both have
    one."""
    p = parts.c
    taken = delete(parts).where(p.account_id == account_id)
    rows = await conn.execute(taken.returning(p.id, p.role, p.questionnaire_id, p.register_id))
    for id, role, questionnaire_id, register_id in rows.all():
        thing: Thing = "questionnaire" if questionnaire_id else "register"
        where = questionnaire_id or register_id
        query = select(p.role).where(p.account_id == to, _where(thing) == where)
        own = (await conn.execute(query)).scalar_one_or_none()
        best = strongest((own, role)) or role
        await give(conn, Part(id, best, to, None), thing, where)


async def forget_of(conn: Connection, account_id: UUID) -> None:
    """Take every part, team and clearance of somebody."""
    for table in (parts, team_members, clearances):
        await conn.execute(delete(table).where(table.c.account_id == account_id))


async def every_team(conn: Connection) -> list[Team]:
    """All teams in the order of their names."""
    m = team_members.c
    members: dict[UUID, list[UUID]] = {}
    for team_id, account_id in await conn.execute(select(m.team_id, m.account_id)):
        members.setdefault(team_id, []).append(account_id)
    query = select(teams.c.id, teams.c.name, teams.c.address).order_by(teams.c.name)
    return [Team(*row, tuple(members.get(row[0], ()))) for row in await conn.execute(query)]


def team_names() -> Select[tuple[UUID, str]]:
    return select(teams.c.id, teams.c.name).order_by(teams.c.name)


async def add_team(conn: Connection, team: Team) -> None:
    await conn.execute(insert(teams).values(id=team.id, name=team.name, address=team.address))
    await set_members(conn, team.id, team.members)


async def change_team(conn: Connection, team: Team) -> bool:
    query = update(teams).where(teams.c.id == team.id).values(name=team.name, address=team.address)
    if (await conn.execute(query.returning(teams.c.id))).one_or_none() is None:
        return False
    await set_members(conn, team.id, team.members)
    return True


async def set_members(conn: Connection, team_id: UUID, members: Sequence[UUID]) -> None:
    await conn.execute(delete(team_members).where(team_members.c.team_id == team_id))
    rows = [{"team_id": team_id, "account_id": one} for one in dict.fromkeys(members)]
    if rows:
        await conn.execute(insert(team_members), rows)


async def remove_team(conn: Connection, id: UUID) -> str | None:
    """Remove a team with its parts: its name, None where there is none."""
    query = delete(teams).where(teams.c.id == id).returning(teams.c.name)
    name: str | None = (await conn.execute(query)).scalar_one_or_none()
    return name


_CLEARANCE = (
    clearances.c.account_id,
    clearances.c.questionnaire_id,
    clearances.c.given,
    clearances.c.given_by,
    clearances.c.until,
    clearances.c.asks_reason,
)


async def clear(conn: Connection, given: Clearance) -> None:
    """Give clearance, or give it anew with another end."""
    values = dict(vars(given))
    query = upsert(clearances).values(values)
    await conn.execute(
        query.on_conflict_do_update(
            index_elements=["account_id", "questionnaire_id"],
            set_={name: query.excluded[name] for name in values},
        )
    )


async def end_clearance(conn: Connection, account_id: UUID, questionnaire_id: UUID) -> bool:
    c = clearances.c
    query = delete(clearances).where(
        c.account_id == account_id, c.questionnaire_id == questionnaire_id
    )
    return (await conn.execute(query.returning(c.account_id))).one_or_none() is not None


def _valid(now: datetime) -> Any:
    return or_(clearances.c.until.is_(None), clearances.c.until > now)


async def clearance(
    conn: Connection, account_id: UUID, questionnaire_id: UUID, now: datetime
) -> Clearance | None:
    """The clearance of somebody that holds now."""
    c = clearances.c
    query = select(*_CLEARANCE).where(
        c.account_id == account_id, c.questionnaire_id == questionnaire_id, _valid(now)
    )
    row = (await conn.execute(query)).one_or_none()
    return row and Clearance(*row)


async def clearances_in(conn: Connection, questionnaire_id: UUID) -> list[Clearance]:
    """Every clearance for a questionnaire, those that have ended too."""
    query = select(*_CLEARANCE).where(clearances.c.questionnaire_id == questionnaire_id)
    return [Clearance(*row) for row in await conn.execute(query)]


async def clearances_of(conn: Connection, account_id: UUID, now: datetime) -> dict[UUID, bool]:
    """The questionnaires whose restricted answers somebody may read now, and whether that needs a
    reason each time."""
    c = clearances.c
    query = select(c.questionnaire_id, c.asks_reason).where(c.account_id == account_id, _valid(now))
    return {row.questionnaire_id: row.asks_reason for row in await conn.execute(query)}
