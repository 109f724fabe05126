"""Entries that are kept without whoever sent them."""

import sqlalchemy as sa
from alembic import op

revision = "0027"
down_revision = "0026"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("entries", sa.Column("anonymised", sa.DateTime(timezone=True), nullable=True))


def downgrade() -> None:
    op.drop_column("entries", "anonymised")
