"""Of started entries it is known on which page they were saved last."""

import sqlalchemy as sa
from alembic import op

revision = "0032"
down_revision = "0031"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("started", sa.Column("page", sa.String(), nullable=False, server_default=""))


def downgrade() -> None:
    op.drop_column("started", "page")
