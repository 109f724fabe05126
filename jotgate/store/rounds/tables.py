"""The tables of rounds."""

from sqlalchemy import (
    Column,
    ForeignKey,
    ForeignKeyConstraint,
    Index,
    Integer,
    String,
    Table,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.store.base import (
    maybe_time_column,
    metadata,
    questionnaire_key,
    time_column,
    uuid_column,
)


def _round_key() -> ForeignKeyConstraint:
    return ForeignKeyConstraint(
        ["questionnaire_id", "round_id"],
        ["rounds.questionnaire_id", "rounds.id"],
        ondelete="CASCADE",
    )


rounds = Table(
    "rounds",
    metadata,
    questionnaire_key(),
    uuid_column("id", primary_key=True),
    Column("document", JSONB, nullable=False),
    Column("revision", Integer, nullable=False, server_default="1"),
    Column("state", String, nullable=False),
    time_column("made"),
    uuid_column("by", ForeignKey("accounts.id", ondelete="SET NULL"), nullable=True),
    maybe_time_column("drawn"),
    Column("drawn_from", Integer, nullable=False, server_default="0"),
    maybe_time_column("next_at"),
    Index("ix_rounds_next_at", "next_at", postgresql_where=text("state = 'running'")),
)
"""`state` is `draft`, `running` once people were drawn, or `stopped`. `next_at` is when the
worker looks at it next: when a step is to go, or before."""

portions = Table(
    "round_portions",
    metadata,
    uuid_column("questionnaire_id", primary_key=True),
    uuid_column("round_id", primary_key=True),
    Column("number", Integer, primary_key=True),
    time_column("released"),
    uuid_column("batch_id"),
    _round_key(),
)
"""`batch_id` are the passes of the people in it."""

runs = Table(
    "round_runs",
    metadata,
    uuid_column("questionnaire_id", primary_key=True),
    uuid_column("round_id", primary_key=True),
    Column("portion", Integer, primary_key=True),
    Column("step", String, primary_key=True),
    time_column("began"),
    Column("asked", Integer, nullable=False),
    uuid_column("mailing_id", nullable=True),
    _round_key(),
)
"""That a step went to a portion, to how many, and by which mailing where it is a letter."""

people = Table(
    "round_people",
    metadata,
    uuid_column("questionnaire_id", primary_key=True),
    uuid_column("round_id", primary_key=True),
    uuid_column("contact_id", primary_key=True),
    Column("number", Integer, nullable=False),
    Column("stratum", String, nullable=False),
    Column("zone", String, nullable=False),
    Column("portion", Integer, nullable=False),
    uuid_column("pass_id", nullable=True),
    maybe_time_column("written"),
    maybe_time_column("called"),
    Column("outcome", String, nullable=False, server_default=""),
    maybe_time_column("outcome_at"),
    Column("code", String, nullable=False, server_default=""),
    Column("code_why", String, nullable=False, server_default=""),
    maybe_time_column("code_at"),
    uuid_column("code_by", ForeignKey("accounts.id", ondelete="SET NULL"), nullable=True),
    Column("on_step", String, nullable=False, server_default=""),
    maybe_time_column("next_try"),
    uuid_column("taken_by", ForeignKey("accounts.id", ondelete="SET NULL"), nullable=True),
    maybe_time_column("taken_until"),
    _round_key(),
    Index(None, "questionnaire_id", "round_id", "portion"),
    Index(None, "contact_id"),
    Index(
        "ix_round_people_next_try",
        "questionnaire_id",
        "round_id",
        "next_try",
        postgresql_where=text("next_try is not null"),
    ),
)
"""Who was drawn, in the order of the draw; `zone` is the time zone, `written` and `called` when a
letter first went, and when somebody first rang or came, `outcome` that of the last call or visit,
`code` a disposition by hand. On the worklist of the call or visit `on_step` they are up at
`next_try`, and nobody else gets them while `taken_by` has them. They stay when the contact is taken
out: else the rates would change."""

attempts = Table(
    "round_attempts",
    metadata,
    uuid_column("questionnaire_id", primary_key=True),
    uuid_column("id", primary_key=True),
    uuid_column("round_id"),
    uuid_column("contact_id"),
    Column("step", String, nullable=False),
    Column("way", String, nullable=False),
    time_column("at"),
    Column("outcome", String, nullable=False),
    Column("note", String, nullable=False, server_default=""),
    maybe_time_column("again"),
    uuid_column("by", ForeignKey("accounts.id", ondelete="SET NULL"), nullable=True),
    _round_key(),
    Index(None, "questionnaire_id", "round_id", "contact_id", "at"),
)
"""Calls and visits, with what came of each; letters are in `mailing_letters`."""
