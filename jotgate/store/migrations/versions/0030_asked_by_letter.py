"""Whoever a rule puts on a list can be asked by letter first whether they want that."""

import sqlalchemy as sa
from alembic import op

revision = "0030"
down_revision = "0029"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("list_consents", sa.Column("confirmed", sa.DateTime(timezone=True)))
    op.create_table(
        "list_questions",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("list_id", sa.Uuid(), nullable=False),
        sa.Column("contact_id", sa.Uuid()),
        sa.Column("email", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("language", sa.String(), nullable=False),
        sa.Column("entry_id", sa.Uuid(), nullable=False),
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("entry_number", sa.Integer(), nullable=False),
        sa.Column("title", sa.String(), nullable=False),
        sa.Column("edition", sa.Integer(), nullable=False),
        sa.Column("question", sa.String(), nullable=False),
        sa.Column("answer", sa.String(), nullable=False),
        sa.Column("given", sa.DateTime(timezone=True), nullable=False),
        sa.Column("asked", sa.DateTime(timezone=True), nullable=False),
        sa.Column("agreed", sa.DateTime(timezone=True)),
        sa.PrimaryKeyConstraint("id", name="pk_list_questions"),
        sa.ForeignKeyConstraint(
            ["list_id"],
            ["contact_lists.id"],
            name="fk_list_questions_list_id_contact_lists",
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["contact_id"],
            ["contacts.id"],
            name="fk_list_questions_contact_id_contacts",
            ondelete="CASCADE",
        ),
    )
    op.create_index("ix_list_questions_list_id_email", "list_questions", ["list_id", "email"])
    op.create_index("ix_list_questions_email", "list_questions", ["email"])
    op.create_index("ix_list_questions_contact_id", "list_questions", ["contact_id"])


def downgrade() -> None:
    op.drop_table("list_questions")
    op.drop_column("list_consents", "confirmed")
