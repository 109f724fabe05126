"""Somebody takes care of an entry: a person or a team, whose people may have their turns. Consent
to be on a contact list is kept with what was asked and answered. Systems that are called may be
told what is restricted."""

import sqlalchemy as sa
from alembic import op

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None


def upgrade() -> None:
    for name, table in (("carer_id", "accounts"), ("care_team_id", "teams")):
        op.add_column("entries", sa.Column(name, sa.Uuid()))
        named = f"fk_entries_{name}"
        op.create_foreign_key(named, "entries", table, [name], ["id"], ondelete="SET NULL")
        where = sa.text(f"{name} is not null")
        op.create_index(f"ix_entries_{name}", "entries", [name], postgresql_where=where)
    _turns()
    _consents()
    op.add_column(
        "hooks", sa.Column("cleared", sa.Boolean(), server_default=sa.false(), nullable=False)
    )


def _turns() -> None:
    op.create_table(
        "care_turns",
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("team_id", sa.Uuid(), nullable=False),
        sa.Column("account_id", sa.Uuid()),
        sa.PrimaryKeyConstraint("questionnaire_id", "team_id", name="pk_care_turns"),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["questionnaires.id"],
            name="fk_care_turns_questionnaire_id",
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["team_id"], ["teams.id"], name="fk_care_turns_team_id", ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["account_id"], ["accounts.id"], name="fk_care_turns_account_id", ondelete="SET NULL"
        ),
    )


def _consents() -> None:
    op.create_table(
        "list_consents",
        sa.Column("contact_id", sa.Uuid(), nullable=False),
        sa.Column("list_id", sa.Uuid(), nullable=False),
        sa.Column("entry_id", sa.Uuid(), nullable=False),
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("entry_number", sa.Integer(), nullable=False),
        sa.Column("title", sa.String(), nullable=False),
        sa.Column("edition", sa.Integer(), nullable=False),
        sa.Column("question", sa.String(), nullable=False),
        sa.Column("answer", sa.String(), nullable=False),
        sa.Column("given", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("contact_id", "list_id", "entry_id", name="pk_list_consents"),
        sa.ForeignKeyConstraint(
            ["contact_id"], ["contacts.id"], name="fk_list_consents_contact_id", ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["list_id"], ["contact_lists.id"], name="fk_list_consents_list_id", ondelete="CASCADE"
        ),
    )
    op.create_index("ix_list_consents_list_id", "list_consents", ["list_id"])
