"""People are known by a mail address that they confirmed, and while they wait for a place. Entries
have a status, and are archived."""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("entry_ways", sa.Column("mail_id", sa.Uuid()))
    op.create_index(
        op.f("ix_entry_ways_questionnaire_id_mail_id"),
        "entry_ways",
        ["questionnaire_id", "mail_id"],
    )
    op.add_column("waiting", sa.Column("secret_hash", sa.LargeBinary()))
    op.create_index(
        op.f("ix_waiting_questionnaire_id_secret_hash"),
        "waiting",
        ["questionnaire_id", "secret_hash"],
    )
    op.add_column(
        "questionnaires",
        sa.Column("handling", postgresql.JSONB(), server_default="{}", nullable=False),
    )
    op.add_column(
        "questionnaires",
        sa.Column("handling_revision", sa.Integer(), server_default="1", nullable=False),
    )
    op.add_column("entries", sa.Column("status", sa.String(), server_default="", nullable=False))
    op.add_column("entries", sa.Column("archived", sa.DateTime(timezone=True)))
    _key_last()
    _versions()


LOOKED_AT_LAST: dict[str, Any] = {"deferrable": True, "initially": "DEFERRED"}
OF_ENTRIES: dict[str, dict[str, Any]] = {
    "runs": {},
    **dict.fromkeys(("restricted_answers", "entry_ways", "admissions"), LOOKED_AT_LAST),
}
"""Tables whose rows belong to an entry, and how their keys are looked at."""


def _key_last() -> None:
    """Make the primary key of entries the youngest of its indexes. Of those that seem equally good,
    as all do while there are no statistics, PostgreSQL takes the youngest; by that of numbers it
    read every entry of a questionnaire to find one by its id, as foreign keys do."""
    for table in OF_ENTRIES:
        op.drop_constraint(op.f(f"fk_{table}_questionnaire_id"), table, type_="foreignkey")
    op.drop_constraint(op.f("pk_entries"), "entries", type_="primary")
    op.create_primary_key(op.f("pk_entries"), "entries", ["questionnaire_id", "id"])
    for table, more in OF_ENTRIES.items():
        op.create_foreign_key(
            op.f(f"fk_{table}_questionnaire_id"),
            table,
            "entries",
            ["questionnaire_id", "entry_id"],
            ["questionnaire_id", "id"],
            ondelete="CASCADE",
            **more,
        )


KEY = ["questionnaire_id", "entry_id", "version"]


def _keys() -> list[sa.Column[object]]:
    return [
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("entry_id", sa.Uuid(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
    ]


def _versions() -> None:
    op.create_table(
        "entry_versions",
        *_keys(),
        sa.Column("replaced", sa.DateTime(timezone=True), nullable=False),
        sa.Column("edition", sa.Integer(), nullable=False),
        sa.Column("idempotency_key", sa.String(), nullable=False),
        sa.Column("body_hash", sa.LargeBinary(), nullable=False),
        sa.ForeignKeyConstraint(
            ["questionnaire_id", "entry_id"],
            ["entries.questionnaire_id", "entries.id"],
            name=op.f("fk_entry_versions_questionnaire_id"),
            ondelete="CASCADE",
            deferrable=True,
            initially="DEFERRED",
        ),
        sa.PrimaryKeyConstraint(*KEY, name=op.f("pk_entry_versions")),
        sa.UniqueConstraint(
            "questionnaire_id",
            "entry_id",
            "idempotency_key",
            name=op.f("uq_entry_versions_questionnaire_id_entry_id_idempotency_key"),
        ),
    )
    op.create_table(
        "restricted_versions",
        *_keys(),
        sa.Column("sealed", sa.LargeBinary(), nullable=False),
        sa.ForeignKeyConstraint(
            KEY,
            [f"entry_versions.{name}" for name in KEY],
            name=op.f("fk_restricted_versions_questionnaire_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint(*KEY, name=op.f("pk_restricted_versions")),
    )


def downgrade() -> None:
    raise NotImplementedError("migrations go forward only")
