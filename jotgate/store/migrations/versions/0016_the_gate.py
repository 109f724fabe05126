"""The gate: places, limits per person, its history; entries wait for no common row.

Numbers of entries come from a sequence for each questionnaire, so they may have gaps. Tallies are
kept in several rows, of which a submission takes one that is free.
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None

JSONB = postgresql.JSONB(astext_type=sa.Text())

NUMBERS = """
create function numbers_of(questionnaire uuid) returns text language sql immutable as
$$ select 'numbers_' || replace(questionnaire::text, '-', '') $$;

create function make_numbers(questionnaire uuid) returns void language plpgsql
security definer set search_path = public, pg_temp as
$$ begin
    execute format('create sequence if not exists %I', numbers_of(questionnaire));
    execute format('grant usage, select on sequence %I to %I', numbers_of(questionnaire),
                   session_user);
end $$;

select make_numbers(id), setval(numbers_of(id)::regclass, greatest(coalesce(
    (select max(number) from entries where questionnaire_id = questionnaires.id), 0), 1),
    exists (select from entries where questionnaire_id = questionnaires.id))
from questionnaires;
"""

UNANNOUNCED = """
alter table procrastinate_jobs disable trigger procrastinate_jobs_notify_queue_job_inserted_v1
"""
"""Transactions that notify commit one after the other, over the whole database: a lock that every
submission would wait for. The worker looks for jobs by itself."""

GATES = """
update questionnaires set gate = (gate - 'shut_words') ||
    case when coalesce(gate->'shut_words', '{}') = '{}' then '{}'::jsonb
    else jsonb_build_object('words', jsonb_build_object('shut', gate->'shut_words')) end;
insert into gate_versions (questionnaire_id, revision, at, gate)
select id, gate_revision, created, gate from questionnaires;
"""


def _of_questionnaire(table: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint(
        ["questionnaire_id"],
        ["questionnaires.id"],
        name=op.f(f"fk_{table}_questionnaire_id"),
        ondelete="CASCADE",
    )


def _table(name: str, *parts: sa.schema.SchemaItem, key: tuple[str, ...]) -> None:
    op.create_table(
        name,
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        *parts,
        sa.PrimaryKeyConstraint("questionnaire_id", *key, name=op.f(f"pk_{name}")),
    )


def upgrade() -> None:
    _striped()
    op.execute(NUMBERS)
    op.execute(UNANNOUNCED)
    _new_tables()
    _waiting()
    _watched()
    op.execute(GATES)


def _counting(name: str) -> sa.Column[int]:
    return sa.Column(name, sa.Integer(), nullable=False, server_default="0")


def _striped() -> None:
    op.drop_constraint("fk_entries_questionnaire_id", "entries")
    op.drop_constraint("pk_tallies", "tallies")
    op.add_column("tallies", _counting("stripe"))
    op.add_column("tallies", _counting("gate_revision"))
    op.execute("""
        update tallies set gate_revision = questionnaires.gate_revision from questionnaires
        where questionnaires.id = questionnaire_id
    """)
    op.alter_column("tallies", "gate_revision", server_default=None)
    op.create_primary_key(op.f("pk_tallies"), "tallies", ["questionnaire_id", "stripe"])
    op.add_column("entries", _counting("stripe"))
    op.create_foreign_key(
        op.f("fk_entries_questionnaire_id"),
        "entries",
        "tallies",
        ["questionnaire_id", "stripe"],
        ["questionnaire_id", "stripe"],
        ondelete="CASCADE",
    )
    _table(
        "link_tallies",
        sa.Column("link_id", sa.Uuid(), nullable=False),
        sa.Column("stripe", sa.Integer(), nullable=False),
        sa.Column("entries", sa.Integer(), nullable=False),
        sa.Column("latest", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["questionnaire_id", "link_id"],
            ["named_links.questionnaire_id", "named_links.id"],
            name=op.f("fk_link_tallies_questionnaire_id"),
            ondelete="CASCADE",
        ),
        key=("link_id", "stripe"),
    )
    op.execute("""
        insert into link_tallies (questionnaire_id, link_id, stripe, entries, latest)
        select questionnaire_id, id, 0, entries, latest from named_links where entries > 0
    """)
    op.drop_column("named_links", "entries")
    op.drop_column("named_links", "latest")


def _new_tables() -> None:
    _table(
        "gate_versions",
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("by", sa.Uuid(), nullable=True),
        sa.Column("gate", JSONB, nullable=False),
        _of_questionnaire("gate_versions"),
        sa.ForeignKeyConstraint(
            ["by"], ["accounts.id"], name=op.f("fk_gate_versions_by"), ondelete="SET NULL"
        ),
        key=("revision",),
    )
    _table(
        "places",
        sa.Column("cell", sa.String(), nullable=False),
        *(
            sa.Column(name, sa.BigInteger(), server_default="0", nullable=False)
            for name in ("taken", "held", "waiting")
        ),
        sa.CheckConstraint("taken >= 0 and held >= 0 and waiting >= 0", name="none_below_zero"),
        _of_questionnaire("places"),
        key=("cell",),
    )
    op.create_index(
        "ix_places_waited_for",
        "places",
        ["questionnaire_id"],
        postgresql_where=sa.text("waiting > 0"),
    )
    _table(
        "held_places",
        sa.Column("name", sa.LargeBinary(), nullable=False),
        sa.Column("takes", JSONB, nullable=False),
        sa.Column("until", sa.DateTime(timezone=True), nullable=False),
        sa.Column("client", sa.String(), nullable=False),
        _of_questionnaire("held_places"),
        key=("name",),
    )
    op.create_index(op.f("ix_held_places_until"), "held_places", ["until"])
    _table(
        "admissions",
        sa.Column("entry_id", sa.Uuid(), nullable=False),
        sa.Column("person", sa.LargeBinary(), nullable=True),
        sa.Column("takes", JSONB, nullable=False),
        sa.ForeignKeyConstraint(
            ["questionnaire_id", "entry_id"],
            ["entries.questionnaire_id", "entries.id"],
            name=op.f("fk_admissions_questionnaire_id"),
            ondelete="CASCADE",
            deferrable=True,
            initially="DEFERRED",
        ),
        key=("entry_id",),
    )
    _table(
        "persons",
        sa.Column("person", sa.LargeBinary(), nullable=False),
        sa.Column("times", sa.ARRAY(sa.DateTime(timezone=True)), nullable=False),
        _of_questionnaire("persons"),
        key=("person",),
    )


def _watched() -> None:
    op.create_table(
        "gate_watch",
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("open", sa.Boolean(), nullable=False),
        sa.Column("low", sa.Boolean(), nullable=False),
        _of_questionnaire("gate_watch"),
        sa.PrimaryKeyConstraint("questionnaire_id", name=op.f("pk_gate_watch")),
    )


def _waiting() -> None:
    _table(
        "waiting",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        sa.Column("email", sa.String(), nullable=False),
        sa.Column("language", sa.String(), nullable=False),
        sa.Column("state", sa.String(), nullable=False),
        sa.Column("joined", sa.DateTime(timezone=True), nullable=False),
        sa.Column("pass_id", sa.Uuid(), nullable=True),
        sa.Column("until", sa.DateTime(timezone=True), nullable=True),
        _of_questionnaire("waiting"),
        key=("id",),
    )
    columns = ["questionnaire_id", "state", "number"]
    op.create_index(op.f(f"ix_waiting_{'_'.join(columns)}"), "waiting", columns)
    op.create_index(
        "uq_waiting_one_of_each",
        "waiting",
        ["questionnaire_id", "email"],
        unique=True,
        postgresql_where=sa.text("state in ('waiting', 'offered')"),
    )


def downgrade() -> None:
    raise NotImplementedError("migrations go forward only")
