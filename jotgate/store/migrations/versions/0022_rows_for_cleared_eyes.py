"""Registers that are marked for it hold restricted answers beside their rows, sealed."""

import sqlalchemy as sa
from alembic import op

revision = "0022"
down_revision = "0021"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column(
        "registers", sa.Column("cleared", sa.Boolean(), server_default=sa.false(), nullable=False)
    )
    op.create_table(
        "row_secrets",
        sa.Column("row_id", sa.BigInteger(), nullable=False),
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("label", sa.String(), nullable=False),
        sa.Column("sealed", sa.LargeBinary(), nullable=False),
        sa.PrimaryKeyConstraint("row_id", "questionnaire_id", "key", name="pk_row_secrets"),
        sa.ForeignKeyConstraint(
            ["row_id"], ["register_rows.id"], name="fk_row_secrets_row_id", ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["questionnaires.id"],
            name="fk_row_secrets_questionnaire_id",
            ondelete="CASCADE",
        ),
    )
    op.create_index("ix_row_secrets_questionnaire_id", "row_secrets", ["questionnaire_id"])
