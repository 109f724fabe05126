"""People are known by a mail address that they confirmed, and while they wait for a place. Entries
have a status, and are archived."""

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
    _versions()


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
