"""Questionnaires: the draft, the gate and the dispatch rules, each with its revision."""

from collections import OrderedDict
from collections.abc import Collection, Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from pydantic import BaseModel
from sqlalchemy import (
    Boolean,
    Column,
    ForeignKey,
    Integer,
    String,
    Table,
    Text,
    Uuid,
    bindparam,
    cast,
    false,
    insert,
    select,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.gate.settings import Gate
from jotgate.core.handling import Handling
from jotgate.core.links import Links
from jotgate.core.records.questionnaires import PartName, PublicState, Saved, Summary
from jotgate.core.sign_in import VisitorSignIn
from jotgate.store.base import (
    Connection,
    as_column,
    dumped,
    maybe_time_column,
    metadata,
    questionnaire_key,
    time_column,
    uuid_column,
)
from jotgate.store.entries import tallies

questionnaires = Table(
    "questionnaires",
    metadata,
    uuid_column("id", primary_key=True),
    Column("address", String, nullable=False, unique=True),
    Column("draft", JSONB, nullable=False),
    Column("draft_revision", Integer, nullable=False),
    Column("gate", JSONB, nullable=False),
    Column("gate_revision", Integer, nullable=False),
    Column("dispatch", JSONB, nullable=False),
    Column("dispatch_revision", Integer, nullable=False),
    Column("links", JSONB, nullable=False, server_default="{}"),
    Column("links_revision", Integer, nullable=False, server_default="1"),
    Column("handling", JSONB, nullable=False, server_default="{}"),
    Column("handling_revision", Integer, nullable=False, server_default="1"),
    Column("edition", Integer),
    Column("folder", String),
    Column("template", Boolean, nullable=False, server_default=false()),
    time_column("created"),
    maybe_time_column("sending_paused"),
)
editions = Table(
    "editions",
    metadata,
    questionnaire_key(),
    Column("number", Integer, primary_key=True),
    Column("document", JSONB, nullable=False),
    Column("draft_revision", Integer, nullable=False),
    time_column("published"),
    uuid_column("published_by", ForeignKey("accounts.id")),
)


async def add(conn: Connection, id: UUID, address: str, draft: str, now: datetime) -> None:
    """Start one with `draft`, which is JSON."""
    await conn.execute(
        insert(questionnaires).values(
            id=id,
            address=address,
            draft=as_column(draft),
            draft_revision=1,
            gate=dumped(Gate(state="shut")),
            gate_revision=1,
            dispatch=dumped(Dispatch()),
            dispatch_revision=1,
            created=now,
        )
    )
    await tallies.begin(conn, id, gate_revision=1)


def _summaries() -> Any:
    q = questionnaires.c
    published = (
        select(editions.c.draft_revision)
        .where(editions.c.questionnaire_id == q.id, editions.c.number == q.edition)
        .scalar_subquery()
    )
    counted = tallies.counted()
    return select(
        q.id,
        q.address,
        q.draft["title"],
        q.draft["languages"],
        q.gate,
        q.edition,
        q.draft_revision,
        published,
        counted.c.entries,
        q.folder,
        q.template,
        counted.c.days,
        q.gate_revision,
        q.draft["time_zone"].astext,
    ).join(counted, counted.c.questionnaire_id == q.id)


def _summary(row: Any) -> Summary:
    values: list[Any] = list(row)
    values[4] = Gate.model_validate(values[4])
    values[8] = int(values[8])
    values[11] = tallies.summed(values[11])
    values[13] = values[13] or "UTC"
    return Summary(*values)


async def summaries(conn: Connection) -> list[Summary]:
    """All questionnaires, the newest first."""
    query = _summaries().order_by(questionnaires.c.created.desc(), questionnaires.c.id)
    return [_summary(row) for row in await conn.execute(query)]


async def summary(conn: Connection, id: UUID) -> Summary | None:
    row = (await conn.execute(_summaries().where(questionnaires.c.id == id))).one_or_none()
    return None if row is None else _summary(row)


_PARTS: dict[PartName, type[BaseModel]] = {
    "gate": Gate,
    "dispatch": Dispatch,
    "links": Links,
    "handling": Handling,
}


async def _part(conn: Connection, id: UUID, name: PartName) -> Saved[Any] | None:
    columns = questionnaires.c[f"{name}_revision"], questionnaires.c[name]
    row = (await conn.execute(select(*columns).where(questionnaires.c.id == id))).one_or_none()
    return row and Saved(row[0], _PARTS[name].model_validate(row[1]))


async def draft(conn: Connection, id: UUID) -> Saved[str] | None:
    """The draft as JSON: reading it can take long."""
    columns = questionnaires.c.draft_revision, cast(questionnaires.c.draft, Text)
    row = (await conn.execute(select(*columns).where(questionnaires.c.id == id))).one_or_none()
    return None if row is None else Saved(*row)


async def gate(conn: Connection, id: UUID, keep: bool = False) -> Saved[Gate] | None:
    """With `keep` nobody saves another one until the transaction ends."""
    if keep:
        query = select(questionnaires.c.id).where(questionnaires.c.id == id)
        await conn.execute(query.with_for_update(read=True))
    return await _part(conn, id, "gate")


async def dispatch(conn: Connection, id: UUID) -> Saved[Dispatch] | None:
    return await _part(conn, id, "dispatch")


_DISPATCHING = select(
    questionnaires.c.dispatch_revision, questionnaires.c.dispatch, questionnaires.c.edition
).where(questionnaires.c.id == bindparam("wanted", type_=Uuid()))


async def dispatching(conn: Connection, id: UUID) -> tuple[Dispatch, int | None] | None:
    """The rules and the newest edition."""
    row = (await conn.execute(_DISPATCHING, {"wanted": id})).one_or_none()
    return row and (_part_at("dispatch", id, row[0], row[1]), row[2])


async def handling(conn: Connection, id: UUID) -> Saved[Handling] | None:
    return await _part(conn, id, "handling")


async def links(conn: Connection, id: UUID) -> Saved[Links] | None:
    return await _part(conn, id, "links")


async def by_addresses(conn: Connection, addresses: Collection[str]) -> dict[str, tuple[UUID, int]]:
    """Published questionnaires by their addresses: id, and the newest edition."""
    q = questionnaires.c
    query = select(q.address, q.id, q.edition).where(
        q.address.in_(addresses), q.edition.is_not(None)
    )
    return {row.address: (row.id, row.edition) for row in await conn.execute(query)}


async def save(
    conn: Connection, id: UUID, name: PartName, value: BaseModel | str, revision: int
) -> int | None:
    """Save a part that was read at `revision`: its new revision, or None where it is stale."""
    current = questionnaires.c[f"{name}_revision"]
    query = (
        update(questionnaires)
        .where(questionnaires.c.id == id, current == revision)
        .values({name: as_column(value), current.name: current + 1})
        .returning(current)
    )
    new: int | None = (await conn.execute(query)).scalar_one_or_none()
    return new


async def put(conn: Connection, id: UUID, folder: str | None, template: bool | None) -> bool:
    """Change its folder, an empty one for none, or whether it is a template; if it is there."""
    changed: dict[str, Any] = {} if folder is None else {"folder": folder or None}
    if template is not None:
        changed["template"] = template
    query = (
        update(questionnaires)
        .where(questionnaires.c.id == id)
        .values(changed or {"folder": questionnaires.c.folder})
        .returning(questionnaires.c.id)
    )
    return (await conn.execute(query)).one_or_none() is not None


STANDING: tuple[Any, ...] = (
    questionnaires.c.id,
    questionnaires.c.gate,
    questionnaires.c.gate_revision,
    questionnaires.c.edition,
    questionnaires.c.links["frames"],
    questionnaires.c.links["sign_in"],
)
_STANDING = select(*STANDING).where(
    questionnaires.c.address == bindparam("wanted", type_=String()),
    questionnaires.c.edition.is_not(None),
)


async def public_state(conn: Connection, address: str) -> PublicState | None:
    """The published questionnaire at this public address."""
    row = (await conn.execute(_STANDING, {"wanted": address})).one_or_none()
    return None if row is None else as_public_state(row)


def as_public_state(row: Sequence[Any]) -> PublicState:
    """What the columns `STANDING` say."""
    id, gate, revision, edition, frames, sign_in = row
    return PublicState(
        id,
        _part_at("gate", id, revision, gate),
        revision,
        edition,
        tuple(frames or ()),
        VisitorSignIn.model_validate(sign_in) if sign_in else VisitorSignIn(),
    )


_parts: OrderedDict[tuple[PartName, UUID, int], Any] = OrderedDict()
PARTS_KEPT = 1_000


def _part_at(name: PartName, id: UUID, revision: int, stored: Any) -> Any:
    """A part at a revision, which never changes: it is read once."""
    at = (name, id, revision)
    known = _parts.get(at)
    if known is None:
        known = _parts[at] = _PARTS[name].model_validate(stored)
        if len(_parts) > PARTS_KEPT:
            _parts.popitem(last=False)
    return known


async def sign_in(conn: Connection, id: UUID) -> VisitorSignIn:
    """Where visitors of a questionnaire may sign in, or have to."""
    query = select(questionnaires.c.links["sign_in"]).where(questionnaires.c.id == id)
    found = (await conn.execute(query)).scalar_one_or_none()
    return VisitorSignIn.model_validate(found) if found else VisitorSignIn()


async def sending_paused(conn: Connection, id: UUID) -> datetime | None:
    """Since when nothing is sent of a questionnaire, if that was paused."""
    query = select(questionnaires.c.sending_paused).where(questionnaires.c.id == id)
    found: datetime | None = (await conn.execute(query)).scalar_one_or_none()
    return found


async def pause_sending(conn: Connection, id: UUID, since: datetime | None) -> None:
    query = update(questionnaires).where(questionnaires.c.id == id)
    await conn.execute(query.values(sending_paused=since))
