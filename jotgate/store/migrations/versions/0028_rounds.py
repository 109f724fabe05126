"""Rounds of outreach, and addresses that letters come back from."""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0028"
down_revision = "0027"
branch_labels = None
depends_on = None


def _id(name: str, nullable: bool = False) -> sa.Column[Any]:
    return sa.Column(name, sa.Uuid(), nullable=nullable)


def _time(name: str, nullable: bool = True) -> sa.Column[Any]:
    return sa.Column(name, sa.DateTime(timezone=True), nullable=nullable)


def _text(name: str, default: str | None = None) -> sa.Column[Any]:
    return sa.Column(name, sa.String(), nullable=False, server_default=default)


def _of_round(table: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint(
        ["questionnaire_id", "round_id"],
        ["rounds.questionnaire_id", "rounds.id"],
        name=f"fk_{table}_questionnaire_id",
        ondelete="CASCADE",
    )


def _by(table: str, column: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint(
        [column], ["accounts.id"], name=f"fk_{table}_{column}", ondelete="SET NULL"
    )


def upgrade() -> None:
    op.add_column("contacts", _time("bounced"))
    op.create_table(
        "rounds",
        _id("questionnaire_id"),
        _id("id"),
        sa.Column("document", postgresql.JSONB(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False, server_default="1"),
        _text("state"),
        _time("made", nullable=False),
        _id("by", nullable=True),
        _time("drawn"),
        sa.Column("drawn_from", sa.Integer(), nullable=False, server_default="0"),
        _time("next_at"),
        sa.PrimaryKeyConstraint("questionnaire_id", "id", name="pk_rounds"),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["questionnaires.id"],
            name="fk_rounds_questionnaire_id",
            ondelete="CASCADE",
        ),
        _by("rounds", "by"),
    )
    op.create_index(
        "ix_rounds_next_at", "rounds", ["next_at"], postgresql_where=sa.text("state = 'running'")
    )
    op.create_table(
        "round_portions",
        _id("questionnaire_id"),
        _id("round_id"),
        sa.Column("number", sa.Integer(), nullable=False),
        _time("released", nullable=False),
        _id("batch_id"),
        sa.PrimaryKeyConstraint("questionnaire_id", "round_id", "number", name="pk_round_portions"),
        _of_round("round_portions"),
    )
    op.create_table(
        "round_runs",
        _id("questionnaire_id"),
        _id("round_id"),
        sa.Column("portion", sa.Integer(), nullable=False),
        _text("step"),
        _time("began", nullable=False),
        sa.Column("asked", sa.Integer(), nullable=False),
        _id("mailing_id", nullable=True),
        sa.PrimaryKeyConstraint(
            "questionnaire_id", "round_id", "portion", "step", name="pk_round_runs"
        ),
        _of_round("round_runs"),
    )
    _people()
    _attempts()
    op.add_column("mailings", _id("round_id", nullable=True))
    op.add_column("mailings", _text("step", ""))
    op.create_foreign_key(
        "fk_mailings_questionnaire_id_rounds",
        "mailings",
        "rounds",
        ["questionnaire_id", "round_id"],
        ["questionnaire_id", "id"],
        ondelete="CASCADE",
    )
    op.create_table(
        "mailing_domains",
        _id("questionnaire_id"),
        _id("mailing_id"),
        _text("domain"),
        _time("next_at", nullable=False),
        sa.PrimaryKeyConstraint(
            "questionnaire_id", "mailing_id", "domain", name="pk_mailing_domains"
        ),
        sa.ForeignKeyConstraint(
            ["questionnaire_id", "mailing_id"],
            ["mailings.questionnaire_id", "mailings.id"],
            name="fk_mailing_domains_questionnaire_id",
            ondelete="CASCADE",
        ),
    )
    op.execute(
        "create index ix_mailing_letters_domain on mailing_letters (questionnaire_id, mailing_id, "
        "split_part(email::text, '@', 2), changed) where state = 'waiting'"
    )


def _people() -> None:
    op.create_table(
        "round_people",
        _id("questionnaire_id"),
        _id("round_id"),
        _id("contact_id"),
        sa.Column("number", sa.Integer(), nullable=False),
        _text("stratum"),
        _text("zone"),
        sa.Column("portion", sa.Integer(), nullable=False),
        _id("pass_id", nullable=True),
        _time("written"),
        _time("called"),
        _text("outcome", ""),
        _time("outcome_at"),
        _text("code", ""),
        _text("code_why", ""),
        _time("code_at"),
        _id("code_by", nullable=True),
        _text("on_step", ""),
        _time("next_try"),
        _id("taken_by", nullable=True),
        _time("taken_until"),
        sa.PrimaryKeyConstraint(
            "questionnaire_id", "round_id", "contact_id", name="pk_round_people"
        ),
        _of_round("round_people"),
        _by("round_people", "code_by"),
        _by("round_people", "taken_by"),
    )
    op.create_index(
        "ix_round_people_questionnaire_id_round_id_portion",
        "round_people",
        ["questionnaire_id", "round_id", "portion"],
    )
    op.create_index("ix_round_people_contact_id", "round_people", ["contact_id"])
    op.create_index(
        "ix_round_people_next_try",
        "round_people",
        ["questionnaire_id", "round_id", "next_try"],
        postgresql_where=sa.text("next_try is not null"),
    )


def _attempts() -> None:
    op.create_table(
        "round_attempts",
        _id("questionnaire_id"),
        _id("id"),
        _id("round_id"),
        _id("contact_id"),
        _text("step"),
        _text("way"),
        _time("at", nullable=False),
        _text("outcome"),
        _text("note", ""),
        _time("again"),
        _id("by", nullable=True),
        sa.PrimaryKeyConstraint("questionnaire_id", "id", name="pk_round_attempts"),
        _of_round("round_attempts"),
        _by("round_attempts", "by"),
    )
    op.create_index(
        "ix_round_attempts_questionnaire_id_round_id_contact_id_at",
        "round_attempts",
        ["questionnaire_id", "round_id", "contact_id", "at"],
    )


def downgrade() -> None:
    op.drop_index("ix_mailing_letters_domain", "mailing_letters")
    op.drop_table("mailing_domains")
    op.drop_constraint("fk_mailings_questionnaire_id_rounds", "mailings", type_="foreignkey")
    op.drop_column("mailings", "step")
    op.drop_column("mailings", "round_id")
    for table in ("round_attempts", "round_people", "round_runs", "round_portions", "rounds"):
        op.drop_table(table)
    op.drop_column("contacts", "bounced")
