"""The tables of entries: what is open, what is sealed, and by what they came."""

from typing import Any

from sqlalchemy import (
    ARRAY,
    Boolean,
    Column,
    ForeignKey,
    ForeignKeyConstraint,
    Index,
    Integer,
    LargeBinary,
    String,
    Table,
    UniqueConstraint,
    false,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.entries.entry import Entry
from jotgate.store.base import (
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
    Column("left_empty", ARRAY(String)),
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
has just arrived. `left_empty` are the open questions that were asked and not answered, null where
that was not noted."""


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


def entry_of(row: Any) -> Entry:
    """Of a row that begins with the columns of `ENTRY`."""
    return Entry._make(row[: len(ENTRY)])
