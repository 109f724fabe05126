"""Who has a draft open"""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "presence",
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("tab", sa.String(), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.String(), nullable=False),
        sa.Column("seen", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["account_id"],
            ["accounts.id"],
            name=op.f("fk_presence_account_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["questionnaires.id"],
            name=op.f("fk_presence_questionnaire_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("questionnaire_id", "tab", name=op.f("pk_presence")),
        prefixes=["UNLOGGED"],
    )


def downgrade() -> None:
    op.drop_table("presence")
