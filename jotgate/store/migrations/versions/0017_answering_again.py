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


def downgrade() -> None:
    raise NotImplementedError("migrations go forward only")
