"""Contacts, the fields of the office's own, lists, and who must not be written to."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None

JSON = postgresql.JSONB(astext_type=sa.Text())


def upgrade() -> None:
    _contacts()
    _lists()
    _found_by_contact()
    op.create_table(
        "opt_outs",
        sa.Column("email", sa.String(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("email", name=op.f("pk_opt_outs")),
    )
    op.create_table(
        "contact_rows",
        sa.Column("table_id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        *_plain(),
        sa.Column("state", sa.String(), nullable=True),
        sa.Column("found", sa.Uuid(), nullable=True),
        sa.Column("of_number", sa.Integer(), nullable=True),
        sa.PrimaryKeyConstraint("table_id", "number", name=op.f("pk_contact_rows")),
        prefixes=["UNLOGGED"],
    )


def _found_by_contact() -> None:
    op.create_index("ix_passes_contact", "passes", ["contact_id"])
    op.drop_index(op.f("ix_entry_ways_questionnaire_id_contact_id"), "entry_ways")
    op.create_index(
        op.f("ix_entry_ways_contact_id_questionnaire_id"),
        "entry_ways",
        ["contact_id", "questionnaire_id"],
    )


def _plain() -> tuple[sa.Column[object], ...]:
    return (
        sa.Column("key", sa.String(), nullable=True),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("email", sa.String(), nullable=True),
        sa.Column("phone", sa.String(), nullable=False),
        sa.Column("language", sa.String(), nullable=False),
        sa.Column("fields", JSON, nullable=False),
    )


def _contacts() -> None:
    op.create_table(
        "contact_fields",
        sa.Column("key", sa.String(), nullable=False),
        sa.Column("label", sa.String(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("options", JSON, nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("key", name=op.f("pk_contact_fields")),
    )
    op.create_table(
        "contacts",
        sa.Column("id", sa.Uuid(), nullable=False),
        *_plain(),
        sa.Column("opted_out", sa.DateTime(timezone=True), nullable=True),
        sa.Column("revision", sa.Integer(), server_default="1", nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_contacts")),
    )
    op.create_index("ix_contacts_key", "contacts", ["key"], unique=True)
    op.create_index("ix_contacts_email", "contacts", ["email"])
    op.create_index("ix_contacts_name", "contacts", [sa.text("lower(name)"), "id"])


def _lists() -> None:
    op.create_table(
        "contact_lists",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("made", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_contact_lists")),
    )
    op.create_index("ix_contact_lists_name", "contact_lists", [sa.text("lower(name)")], unique=True)
    op.create_table(
        "contact_list_members",
        sa.Column("list_id", sa.Uuid(), nullable=False),
        sa.Column("contact_id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["list_id"],
            ["contact_lists.id"],
            name=op.f("fk_contact_list_members_list_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["contact_id"],
            ["contacts.id"],
            name=op.f("fk_contact_list_members_contact_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("list_id", "contact_id", name=op.f("pk_contact_list_members")),
    )
    op.create_index(
        op.f("ix_contact_list_members_contact_id"), "contact_list_members", ["contact_id"]
    )


def downgrade() -> None:
    op.drop_index(op.f("ix_entry_ways_contact_id_questionnaire_id"), "entry_ways")
    op.create_index(
        op.f("ix_entry_ways_questionnaire_id_contact_id"),
        "entry_ways",
        ["questionnaire_id", "contact_id"],
    )
    op.drop_index("ix_passes_contact", "passes")
    for table in (
        "contact_rows",
        "opt_outs",
        "contact_list_members",
        "contact_lists",
        "contacts",
        "contact_fields",
    ):
        op.drop_table(table)
