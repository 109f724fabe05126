"""Which restricted questions were answered stands with the answers, sealed"""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.drop_column("entries", "withheld")


def downgrade() -> None:
    op.add_column(
        "entries",
        sa.Column("withheld", sa.ARRAY(sa.String()), nullable=False, server_default="{}"),
    )
