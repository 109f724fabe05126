"""Entries that somebody of the office entered for somebody, and corrections by them."""

import sqlalchemy as sa
from alembic import op

revision = "0026"
down_revision = "0025"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("entry_ways", sa.Column("staff_id", sa.Uuid(), nullable=True))
    op.add_column("entry_ways", sa.Column("entered", sa.String(), nullable=True))
    op.create_foreign_key(
        "fk_entry_ways_staff_id",
        "entry_ways",
        "accounts",
        ["staff_id"],
        ["id"],
        ondelete="SET NULL",
    )
    op.create_index(
        "ix_entry_ways_staff_id",
        "entry_ways",
        ["staff_id"],
        postgresql_where=sa.text("staff_id is not null"),
    )
    op.add_column("entry_versions", sa.Column("account_id", sa.Uuid(), nullable=True))
    op.create_foreign_key(
        "fk_entry_versions_account_id",
        "entry_versions",
        "accounts",
        ["account_id"],
        ["id"],
        ondelete="SET NULL",
    )
    op.add_column(
        "entry_versions", sa.Column("why", sa.String(), nullable=False, server_default="")
    )
    op.add_column(
        "entry_versions",
        sa.Column("waits", sa.Boolean(), nullable=False, server_default=sa.false()),
    )


def downgrade() -> None:
    for column in ("waits", "why", "account_id"):
        op.drop_column("entry_versions", column)
    for column in ("entered", "staff_id"):
        op.drop_column("entry_ways", column)
