"""Figures are shared with people who have no account: pages of them, each at an address."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0033"
down_revision = "0032"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "shared_pages",
        sa.Column(
            "questionnaire_id",
            sa.Uuid(),
            sa.ForeignKey("questionnaires.id", ondelete="CASCADE"),
            nullable=False,
        ),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("token", sa.String(), nullable=False),
        sa.Column("content", postgresql.JSONB(), nullable=False),
        sa.Column("frozen", postgresql.JSONB(), nullable=True),
        sa.Column("closed", sa.DateTime(timezone=True), nullable=True),
        sa.Column("made", sa.DateTime(timezone=True), nullable=False),
        sa.Column(
            "made_by",
            sa.Uuid(),
            sa.ForeignKey("accounts.id", ondelete="SET NULL"),
            nullable=True,
        ),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("questionnaire_id", "id", name="pk_shared_pages"),
        sa.UniqueConstraint("token", name="uq_shared_pages_token"),
    )


def downgrade() -> None:
    op.drop_table("shared_pages")
