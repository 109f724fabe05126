"""Entries know which questions were asked and left empty."""

import sqlalchemy as sa
from alembic import op

revision = "0031"
down_revision = "0030"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("entries", sa.Column("left_empty", sa.ARRAY(sa.String())))


def downgrade() -> None:
    op.drop_column("entries", "left_empty")
