"""Keys that other programs make links with."""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "link_keys",
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.String(), nullable=False),
        sa.Column("sealed", sa.LargeBinary(), nullable=False),
        sa.Column("made", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["questionnaires.id"],
            name=op.f("fk_link_keys_questionnaire_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("questionnaire_id", "id", name=op.f("pk_link_keys")),
    )


def downgrade() -> None:
    op.drop_table("link_keys")
