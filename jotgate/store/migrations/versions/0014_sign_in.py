"""Visitors who sign in: their providers, their visits, and what came by them."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "identity_providers",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("settings", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("sealed", sa.LargeBinary(), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_identity_providers")),
    )
    _renamed("hand_offs", "visits")
    op.alter_column("visits", "from_entry", nullable=True)
    op.add_column("visits", sa.Column("subject_id", sa.Uuid(), nullable=True))
    op.create_index(
        op.f("ix_visits_questionnaire_id_subject_id"), "visits", ["questionnaire_id", "subject_id"]
    )
    op.add_column("entry_ways", sa.Column("subject_id", sa.Uuid(), nullable=True))
    op.create_index(
        op.f("ix_entry_ways_questionnaire_id_subject_id"),
        "entry_ways",
        ["questionnaire_id", "subject_id"],
    )


def _renamed(old: str, new: str) -> None:
    op.rename_table(old, new)
    for name in ("pk_{}", "fk_{}_questionnaire_id", "uq_{}_visit_hash"):
        op.execute(f"alter table {new} rename constraint {name.format(old)} to {name.format(new)}")
    op.execute(f"alter index ix_{old}_until rename to ix_{new}_until")


def downgrade() -> None:
    op.drop_index(op.f("ix_entry_ways_questionnaire_id_subject_id"), "entry_ways")
    op.drop_column("entry_ways", "subject_id")
    op.drop_index(op.f("ix_visits_questionnaire_id_subject_id"), "visits")
    op.drop_column("visits", "subject_id")
    op.execute("delete from visits where from_entry is null")
    op.alter_column("visits", "from_entry", nullable=False)
    _renamed("visits", "hand_offs")
    op.drop_table("identity_providers")
