"""Hand-offs, settings of the ways in, and what rows are about."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "hand_offs",
        sa.Column("token_hash", sa.LargeBinary(), nullable=False),
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("from_entry", sa.Uuid(), nullable=False),
        sa.Column("visit_hash", sa.LargeBinary(), nullable=True),
        sa.Column("sealed", sa.LargeBinary(), nullable=False),
        sa.Column("until", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["questionnaires.id"],
            name=op.f("fk_hand_offs_questionnaire_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("token_hash", name=op.f("pk_hand_offs")),
        sa.UniqueConstraint("visit_hash", name=op.f("uq_hand_offs_visit_hash")),
    )
    op.create_index(op.f("ix_hand_offs_until"), "hand_offs", ["until"], unique=False)
    op.add_column(
        "questionnaires",
        sa.Column(
            "links", postgresql.JSONB(astext_type=sa.Text()), server_default="{}", nullable=False
        ),
    )
    op.add_column(
        "questionnaires",
        sa.Column("links_revision", sa.Integer(), server_default="1", nullable=False),
    )
    op.add_column(
        "register_rows", sa.Column("about", postgresql.JSONB(astext_type=sa.Text()), nullable=True)
    )


def downgrade() -> None:
    op.drop_column("register_rows", "about")
    op.drop_column("questionnaires", "links_revision")
    op.drop_column("questionnaires", "links")
    op.drop_index(op.f("ix_hand_offs_until"), table_name="hand_offs")
    op.drop_table("hand_offs")
