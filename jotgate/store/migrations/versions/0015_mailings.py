"""Letters to contacts; when the holder of a pass started."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("passes", sa.Column("started", sa.DateTime(timezone=True), nullable=True))
    op.create_table(
        "mailings",
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("text", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("state", sa.String(), nullable=False),
        sa.Column("made", sa.DateTime(timezone=True), nullable=False),
        sa.Column("by", sa.Uuid(), nullable=True),
        sa.Column("batch_id", sa.Uuid(), nullable=True),
        sa.Column("next_at", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["questionnaires.id"],
            name=op.f("fk_mailings_questionnaire_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["by"], ["accounts.id"], name=op.f("fk_mailings_by"), ondelete="SET NULL"
        ),
        sa.PrimaryKeyConstraint("questionnaire_id", "id", name=op.f("pk_mailings")),
    )
    op.create_index(op.f("ix_mailings_state_next_at"), "mailings", ["state", "next_at"])
    op.create_table(
        "mailing_letters",
        *(
            sa.Column(name, sa.Uuid(), nullable=False)
            for name in ("id", "questionnaire_id", "mailing_id", "pass_id", "contact_id")
        ),
        sa.Column("email", sa.String(), nullable=False),
        sa.Column("state", sa.String(), nullable=False),
        sa.Column("tries", sa.Integer(), server_default="0", nullable=False),
        sa.Column("error", sa.String(), server_default="", nullable=False),
        sa.Column("changed", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["questionnaire_id", "mailing_id"],
            ["mailings.questionnaire_id", "mailings.id"],
            name=op.f("fk_mailing_letters_questionnaire_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_mailing_letters")),
    )
    columns = ["questionnaire_id", "mailing_id", "state", "changed"]
    op.create_index(op.f(f"ix_mailing_letters_{'_'.join(columns)}"), "mailing_letters", columns)
    op.create_index(op.f("ix_mailing_letters_contact_id"), "mailing_letters", ["contact_id"])


def downgrade() -> None:
    op.drop_column("passes", "started")
    op.drop_table("mailing_letters")
    op.drop_table("mailings")
