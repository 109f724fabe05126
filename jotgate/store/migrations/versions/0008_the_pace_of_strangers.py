"""How fast strangers go, over all processes"""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "paces",
        sa.Column("client", sa.String(), nullable=False),
        sa.Column("until", sa.Double(), nullable=False),
        sa.PrimaryKeyConstraint("client", name=op.f("pk_paces")),
        prefixes=["UNLOGGED"],
    )


def downgrade() -> None:
    op.drop_table("paces")
