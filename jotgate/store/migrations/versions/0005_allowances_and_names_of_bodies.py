"""What is used up in a day; the body that a submission came with"""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "allowances",
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("day", sa.Date(), nullable=False),
        sa.Column("used", sa.BigInteger(), nullable=False),
        sa.PrimaryKeyConstraint("name", "day", name=op.f("pk_allowances")),
    )
    op.add_column("entries", sa.Column("body_hash", sa.LargeBinary()))


def downgrade() -> None:
    op.drop_column("entries", "body_hash")
    op.drop_table("allowances")
