"""Statuses with rules: since when an entry has its own, and what was done when it was reached."""

import sqlalchemy as sa
from alembic import op

revision = "0025"
down_revision = "0024"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("entries", sa.Column("status_since", sa.DateTime(timezone=True), nullable=True))
    op.add_column("runs", sa.Column("status", sa.String(), nullable=False, server_default=""))


def downgrade() -> None:
    op.drop_column("runs", "status")
    op.drop_column("entries", "status_since")
