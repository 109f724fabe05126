"""The question bank, folders, templates"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "bank",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("item", postgresql.JSONB(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("changed", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_bank")),
    )
    op.add_column("questionnaires", sa.Column("folder", sa.String()))
    op.add_column(
        "questionnaires",
        sa.Column("template", sa.Boolean(), nullable=False, server_default=sa.false()),
    )


def downgrade() -> None:
    op.drop_column("questionnaires", "template")
    op.drop_column("questionnaires", "folder")
    op.drop_table("bank")
