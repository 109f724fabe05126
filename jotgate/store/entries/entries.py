"""Entries and their restricted answers, which stand sealed in a table of their own."""

from collections.abc import Collection, Sequence
from datetime import datetime
from typing import Any
from uuid import UUID

from sqlalchemy import (
    ARRAY,
    Boolean,
    Column,
    ColumnElement,
    DateTime,
    ForeignKey,
    ForeignKeyConstraint,
    Index,
    Integer,
    LargeBinary,
    String,
    Table,
    UniqueConstraint,
    Uuid,
    bindparam,
    case,
    delete,
    false,
    func,
    literal,
    or_,
    select,
    text,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.dialects.postgresql import insert as upsert

from jotgate.core.entries.entry import Entry
from jotgate.core.handling import Care
from jotgate.core.records.ciphertext import Ciphertext
from jotgate.ports.queue import Queue
from jotgate.store.base import (
    Connection,
    entry_key,
    maybe_time_column,
    metadata,
    sealed_columns,
    time_column,
    uuid_column,
)

entries = Table(
    "entries",
    metadata,
    uuid_column(
        "questionnaire_id",
        primary_key=True,
    ),
    uuid_column("id", primary_key=True),
    Column("edition", Integer, nullable=False),
    Column("number", Integer, nullable=False),
    time_column("arrived"),
    Column("finish", String, nullable=False),
    Column("answers", JSONB, nullable=False),
    Column("flags", ARRAY(String), nullable=False),
    Column("idempotency_key", String, nullable=False),
    Column("body_hash", LargeBinary),
    Column("stripe", Integer, nullable=False, server_default="0"),
    Column("status", String, nullable=False, server_default=""),
    maybe_time_column("archived"),
    Column("language", String, nullable=False, server_default=""),
    Column("corrected", Boolean, nullable=False, server_default=false()),
    uuid_column("carer_id", ForeignKey("accounts.id", ondelete="SET NULL"), nullable=True),
    uuid_column("care_team_id", ForeignKey("teams.id", ondelete="SET NULL"), nullable=True),
    Column("person", LargeBinary),
    Column("takes", JSONB(none_as_null=True)),
    maybe_time_column("status_since"),
    maybe_time_column("anonymised"),
    Index("ix_entries_carer_id", "carer_id", postgresql_where=text("carer_id is not null")),
    Index(
        "ix_entries_care_team_id",
        "care_team_id",
        postgresql_where=text("care_team_id is not null"),
    ),
    Index(None, "questionnaire_id", "status", "number", postgresql_where=text("status <> ''")),
    Index(None, "questionnaire_id", "archived", postgresql_where=text("archived is not null")),
    ForeignKeyConstraint(
        ["questionnaire_id", "stripe"],
        ["tallies.questionnaire_id", "tallies.stripe"],
        ondelete="CASCADE",
    ),
    UniqueConstraint("questionnaire_id", "idempotency_key"),
    UniqueConstraint("questionnaire_id", "number"),
)
"""Entries belong to a stripe of their questionnaire's tally, whose row the submission holds anyway:
a key to the questionnaire itself would have all submissions share a lock on its one row. Numbers
rise, and may have gaps. `takes` has the number of places at the gate by cell, `person` the hash by
which whoever sent it is known again (`gate/admissions.py`): in a row of its own that would cost a
submission as much as a place does. The indexes that ask for something have nothing of an entry that
has just arrived."""

restricted_answers = Table(
    "restricted_answers",
    metadata,
    uuid_column("questionnaire_id", primary_key=True),
    uuid_column("entry_id", primary_key=True),
    *sealed_columns(),
    entry_key(),
)
entry_ways = Table(
    "entry_ways",
    metadata,
    uuid_column("questionnaire_id", primary_key=True),
    uuid_column("entry_id", primary_key=True),
    Column("about", String),
    uuid_column("link_id", nullable=True),
    uuid_column("pass_id", nullable=True),
    uuid_column("contact_id", nullable=True),
    uuid_column("subject_id", nullable=True),
    uuid_column("mail_id", nullable=True),
    uuid_column("from_questionnaire", nullable=True),
    uuid_column("from_entry", nullable=True),
    Column("claims", JSONB),
    uuid_column("staff_id", ForeignKey("accounts.id", ondelete="SET NULL"), nullable=True),
    Column("entered", String),
    entry_key(),
    Index(None, "questionnaire_id", "about"),
    Index(None, "questionnaire_id", "pass_id"),
    Index(None, "contact_id", "questionnaire_id"),
    Index(None, "questionnaire_id", "subject_id"),
    Index(None, "questionnaire_id", "mail_id"),
    Index(None, "from_questionnaire", "from_entry"),
    Index("ix_entry_ways_staff_id", "staff_id", postgresql_where=text("staff_id is not null")),
)
"""Of entries that came by more than the plain address: `about` is the id of the thing in another
system, the columns after it say by what the visitor came, and which entry of which questionnaire
handed on to this one; `claims` are those of their sign-in. Apart from entries, which stay as narrow
as most of them need to be."""

ENTRY = (
    entries.c.id,
    entries.c.questionnaire_id,
    entries.c.edition,
    entries.c.number,
    entries.c.arrived,
    entries.c.finish,
    entries.c.answers,
    entries.c.flags,
    entries.c.status,
    entries.c.language,
    entries.c.archived,
    entries.c.corrected,
    entries.c.carer_id,
    entries.c.care_team_id,
    entries.c.status_since,
    entries.c.anonymised,
    entry_ways.c.about,
    entry_ways.c.link_id,
    entry_ways.c.pass_id,
    entry_ways.c.contact_id,
    entry_ways.c.subject_id,
    entry_ways.c.mail_id,
    entry_ways.c.from_questionnaire,
    entry_ways.c.from_entry,
    entry_ways.c.staff_id,
    func.coalesce(entry_ways.c.entered, "").label("entered"),
    func.coalesce(entry_ways.c.claims, text("'{}'::jsonb")).label("claims"),
)


WITH_WAYS = (
    entry_ways,
    (entry_ways.c.questionnaire_id == entries.c.questionnaire_id)
    & (entry_ways.c.entry_id == entries.c.id),
)


def _every() -> Any:
    return select(*ENTRY).outerjoin(*WITH_WAYS)


_FIND = _every().where(
    entries.c.questionnaire_id == bindparam("of", type_=Uuid()),
    entries.c.id == bindparam("wanted", type_=Uuid()),
)
_FIND_LOCKED = _FIND.with_for_update(of=entries)


def entry_of(row: Any) -> Entry:
    """Of a row that begins with the columns of `ENTRY`."""
    return Entry._make(row[: len(ENTRY)])


async def by_idempotency_key(
    conn: Connection, id: UUID, key: str
) -> tuple[Entry, bytes | None] | None:
    """The entry under this key, and the hash of what was sent, where that was kept."""
    query = (
        select(*ENTRY, entries.c.body_hash)
        .outerjoin(*WITH_WAYS)
        .where(entries.c.questionnaire_id == id, entries.c.idempotency_key == key)
    )
    row = (await conn.execute(query)).one_or_none()
    if row is None:
        return None
    return entry_of(row), row.body_hash


async def entry(
    conn: Connection, questionnaire_id: UUID, id: UUID, lock: bool = False
) -> Entry | None:
    wanted = {"of": questionnaire_id, "wanted": id}
    row = (await conn.execute(_FIND_LOCKED if lock else _FIND, wanted)).one_or_none()
    return None if row is None else entry_of(row)


async def id_of(conn: Connection, questionnaire_id: UUID, number: int) -> UUID | None:
    """The id of the entry with this number."""
    query = select(entries.c.id).where(
        entries.c.questionnaire_id == questionnaire_id, entries.c.number == number
    )
    found: UUID | None = (await conn.execute(query)).scalar_one_or_none()
    return found


async def newest(
    conn: Connection,
    questionnaire_id: UUID,
    before: int | None,
    limit: int,
    about: str = "",
    archived: bool = True,
) -> list[Entry]:
    """Entries from the newest back, those with a number under `before` where it is given, and those
    about one thing where its id is; with those that were `archived`, or without them."""
    query = _every().where(entries.c.questionnaire_id == questionnaire_id)
    if not archived:
        query = query.where(entries.c.archived.is_(None))
    if about:
        query = query.where(entry_ways.c.about == about)
    if before is not None:
        query = query.where(entries.c.number < before)
    query = query.order_by(entries.c.number.desc()).limit(limit)
    return [entry_of(row) for row in await conn.execute(query)]


async def count(conn: Connection, questionnaire_id: UUID) -> int:
    query = select(func.count()).where(entries.c.questionnaire_id == questionnaire_id)
    number: int = (await conn.execute(query)).scalar_one()
    return number


async def highest(conn: Connection, questionnaire_id: UUID) -> int:
    """The largest number that an entry has; 0 where there is none."""
    query = select(func.coalesce(func.max(entries.c.number), 0))
    query = query.where(entries.c.questionnaire_id == questionnaire_id)
    found: int = (await conn.execute(query)).scalar_one()
    return found


async def beside(
    conn: Connection, questionnaire_id: UUID, number: int
) -> tuple[int | None, int | None]:
    """The numbers of the entries before and after this one."""
    e = entries.c
    own = e.questionnaire_id == questionnaire_id
    before = select(func.max(e.number)).where(own, e.number < number).scalar_subquery()
    after = select(func.min(e.number)).where(own, e.number > number).scalar_subquery()
    row = (await conn.execute(select(before, after))).one()
    return row[0], row[1]


async def by_passes(
    conn: Connection, questionnaire_id: UUID, ids: Collection[UUID]
) -> dict[UUID, list[int]]:
    """The numbers of the entries that came by each of these passes."""
    query = (
        select(entry_ways.c.pass_id, entries.c.number)
        .join(entries, WITH_WAYS[1])
        .where(entry_ways.c.questionnaire_id == questionnaire_id, entry_ways.c.pass_id.in_(ids))
        .order_by(entries.c.number)
    )
    found: dict[UUID, list[int]] = {}
    for row in await conn.execute(query):
        found.setdefault(row.pass_id, []).append(row.number)
    return found


async def newest_of(
    conn: Connection,
    questionnaire_id: UUID,
    pass_ids: Collection[UUID] = (),
    contact_ids: Collection[UUID] = (),
    subject_id: UUID | None = None,
    mail_id: UUID | None = None,
) -> Entry | None:
    """The newest entry that came by one of these."""
    w = entry_ways.c
    by: list[ColumnElement[bool]] = [w.pass_id.in_(pass_ids), w.contact_id.in_(contact_ids)]
    by += [w.subject_id == subject_id] if subject_id else []
    by += [w.mail_id == mail_id] if mail_id else []
    query = _every().where(entries.c.questionnaire_id == questionnaire_id, or_(*by))
    row = (await conn.execute(query.order_by(entries.c.number.desc()).limit(1))).one_or_none()
    return None if row is None else entry_of(row)


async def by_contact(conn: Connection, contact_id: UUID, limit: int) -> list[Entry]:
    """What a contact sent, to whatever questionnaire, the newest first."""
    query = _every().where(entry_ways.c.contact_id == contact_id)
    query = query.order_by(entries.c.arrived.desc()).limit(limit)
    return [entry_of(row) for row in await conn.execute(query)]


async def move_contact(conn: Connection, kept: UUID, gone: UUID) -> None:
    """What came by one contact came by another."""
    query = update(entry_ways).where(entry_ways.c.contact_id == gone)
    await conn.execute(query.values(contact_id=kept))


async def handed_on(conn: Connection, questionnaire_id: UUID, id: UUID) -> list[Entry]:
    """The entries, of whatever questionnaire, that this one was handed on to."""
    query = _every().where(
        entry_ways.c.from_questionnaire == questionnaire_id, entry_ways.c.from_entry == id
    )
    return [entry_of(row) for row in await conn.execute(query.order_by(entries.c.arrived))]


async def following(
    conn: Connection, questionnaire_id: UUID, after: int, limit: int
) -> list[Entry]:
    """Entries with numbers over `after`, the oldest first, locked until the transaction ends."""
    query = _every().where(entries.c.questionnaire_id == questionnaire_id, entries.c.number > after)
    query = query.order_by(entries.c.number).limit(limit).with_for_update(of=entries)
    return [entry_of(row) for row in await conn.execute(query)]


async def put_sealed(conn: Connection, entry: Entry, sealed: Ciphertext) -> None:
    """Store an entry's open answers and finish as they are, and its sealed ones."""
    whose = {"questionnaire_id": entry.questionnaire_id, "entry_id": entry.id}
    content = {"sealed": sealed.content, "key_id": sealed.key_id}
    await conn.execute(
        upsert(restricted_answers)
        .values(**whose, **content)
        .on_conflict_do_update(index_elements=list(whose), set_=content)
    )
    await conn.execute(
        update(entries)
        .where(entries.c.questionnaire_id == entry.questionnaire_id, entries.c.id == entry.id)
        .values(answers=entry.answers, finish=entry.finish)
    )


async def ask_to_seal(conn: Connection, questionnaire_id: UUID, queue: Queue) -> None:
    """Ask for the answers of earlier editions to be sealed, once this is committed."""
    named = func.jsonb_build_object(literal("questionnaire_id"), literal(str(questionnaire_id)))
    await conn.execute(select(queue.asking("seal_anew", named)))


async def ask_to_dispatch_change(
    conn: Connection, questionnaire_id: UUID, id: UUID, queue: Queue
) -> None:
    """Ask for the rules to be carried out on a corrected entry, once this is committed."""
    named = func.jsonb_build_object(
        literal("questionnaire_id"),
        literal(str(questionnaire_id)),
        literal("entry_id"),
        literal(str(id)),
    )
    await conn.execute(select(queue.asking("dispatch_change", named)))


async def ask_to_dispatch_status(
    conn: Connection, questionnaire_id: UUID, ids: Collection[UUID], since: datetime, queue: Queue
) -> None:
    """Ask for the rules on the status that entries have `since` then, once this is committed."""
    each = func.unnest(literal(list(ids), ARRAY(Uuid))).table_valued("id").render_derived("each")
    named = func.jsonb_build_object(
        literal("questionnaire_id"),
        literal(str(questionnaire_id)),
        literal("entry_id"),
        each.c.id,
        literal("since"),
        literal(since.isoformat()),
    )
    await conn.execute(select(queue.asking("dispatch_status", named)).select_from(each))


async def sealed(
    conn: Connection, questionnaire_id: UUID, ids: Collection[UUID]
) -> dict[UUID, Ciphertext]:
    """The sealed answers of those of `ids` that have some."""
    r = restricted_answers.c
    query = select(r.entry_id, r.sealed, r.key_id).where(
        r.questionnaire_id == questionnaire_id, r.entry_id.in_(ids)
    )
    return {id: Ciphertext(*rest) for id, *rest in await conn.execute(query)}


async def change(conn: Connection, entry: Entry) -> None:
    """Store what a corrected entry says by now in the open."""
    e, w = entries.c, entry_ways.c
    query = update(entries).where(e.questionnaire_id == entry.questionnaire_id, e.id == entry.id)
    await conn.execute(
        query.values(
            edition=entry.edition,
            answers=entry.answers,
            finish=entry.finish,
            flags=list(entry.flags),
            corrected=True,
        )
    )
    row = {"questionnaire_id": entry.questionnaire_id, "entry_id": entry.id, "about": entry.about}
    noting = upsert(entry_ways).values(**row)
    await conn.execute(
        noting.on_conflict_do_update(
            index_elements=[w.questionnaire_id, w.entry_id], set_={"about": entry.about}
        )
    )


async def handle(
    conn: Connection,
    questionnaire_id: UUID,
    id: UUID,
    status: str,
    archived: datetime | None,
    care: Care,
    now: datetime,
) -> None:
    """Note where an entry stands, and who takes care of it; since `now` where its status is
    another one."""
    e = entries.c
    query = update(entries).where(e.questionnaire_id == questionnaire_id, e.id == id)
    since = _since(literal(status), now)
    cared = {"carer_id": care.person, "care_team_id": care.team}
    await conn.execute(query.values(status=status, archived=archived, status_since=since, **cared))


def _since(status: ColumnElement[Any], now: datetime) -> ColumnElement[Any]:
    at = literal(now, DateTime(timezone=True))
    return case((entries.c.status == status, entries.c.status_since), else_=at)


async def by_numbers(
    conn: Connection, questionnaire_id: UUID, numbers: Collection[int]
) -> list[tuple[Entry, bool]]:
    """Those of these entries that are there, locked until the transaction ends, each with whether
    it took anything at the gate."""
    e = entries.c
    query = select(*ENTRY, e.takes.is_not(None)).outerjoin(*WITH_WAYS)
    query = query.where(
        e.questionnaire_id == questionnaire_id, e.number == func.any(_ints(numbers))
    )
    found = await conn.execute(query.order_by(e.number).with_for_update(of=entries))
    return [(entry_of(row), row[-1]) for row in found]


async def numbered(
    conn: Connection, questionnaire_id: UUID, numbers: Collection[int]
) -> list[Entry]:
    """Those of these entries that are there, the largest number first."""
    e = entries.c
    query = _every().where(
        e.questionnaire_id == questionnaire_id, e.number == func.any(_ints(numbers))
    )
    return [entry_of(row) for row in await conn.execute(query.order_by(e.number.desc()))]


def _ints(numbers: Collection[int]) -> ColumnElement[Any]:
    return literal(list(numbers), ARRAY(Integer))


async def handle_each(
    conn: Connection,
    questionnaire_id: UUID,
    changed: Sequence[tuple[UUID, str, datetime | None, Care]],
    now: datetime,
) -> None:
    """As `handle`, several at once."""
    ids, statuses, archived, cares = (list(each) for each in zip(*changed, strict=True))
    some = func.unnest(
        literal(ids, ARRAY(Uuid)),
        literal(statuses, ARRAY(String)),
        literal(archived, ARRAY(DateTime(timezone=True))),
        literal([one.person for one in cares], ARRAY(Uuid)),
        literal([one.team for one in cares], ARRAY(Uuid)),
    ).table_valued("id", "status", "archived", "carer_id", "care_team_id")
    some = some.render_derived(name="some")
    e = entries.c
    query = update(entries).where(e.questionnaire_id == questionnaire_id, e.id == some.c.id)
    names = ("status", "archived", "carer_id", "care_team_id")
    since = {"status_since": _since(some.c.status, now)}
    await conn.execute(query.values({name: some.c[name] for name in names} | since))


async def set_value(
    conn: Connection, questionnaire_id: UUID, id: UUID, key: str, value: str
) -> None:
    """Store another carried value."""
    e = entries.c
    query = update(entries).where(e.questionnaire_id == questionnaire_id, e.id == id)
    changed = e.answers.concat(func.jsonb_build_object(literal(key), literal(value)))
    await conn.execute(query.values(answers=changed))


async def statuses_in_use(conn: Connection, questionnaire_id: UUID) -> frozenset[str]:
    """The statuses that entries have."""
    e = entries.c
    query = select(e.status).where(e.questionnaire_id == questionnaire_id, e.status != "")
    return frozenset(row.status for row in await conn.execute(query.distinct()))


async def stripe_of(conn: Connection, questionnaire_id: UUID, id: UUID) -> int | None:
    """The stripe of the tally that counts an entry, which is locked by that."""
    e = entries.c
    query = select(e.stripe).where(e.questionnaire_id == questionnaire_id, e.id == id)
    found: int | None = (await conn.execute(query.with_for_update())).scalar_one_or_none()
    return found


async def remove(conn: Connection, questionnaire_id: UUID, id: UUID) -> bool:
    """Remove an entry with all that is kept of it; whether it was there."""
    query = delete(entries).where(
        entries.c.questionnaire_id == questionnaire_id, entries.c.id == id
    )
    return (await conn.execute(query)).rowcount > 0
