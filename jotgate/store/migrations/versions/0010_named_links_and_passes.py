"""Named links, passes, the tables that they are made of, and by what entries came."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None


def upgrade() -> None:
    _links()
    _work()
    _entries()


def _links() -> None:
    op.create_table(
        "named_links",
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("code", sa.String(), nullable=False),
        sa.Column("values", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("made", sa.DateTime(timezone=True), nullable=False),
        sa.Column("shut", sa.DateTime(timezone=True), nullable=True),
        sa.Column("entries", sa.Integer(), server_default="0", nullable=False),
        sa.Column("latest", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["questionnaires.id"],
            name=op.f("fk_named_links_questionnaire_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("questionnaire_id", "id", name=op.f("pk_named_links")),
        sa.UniqueConstraint(
            "questionnaire_id", "code", name=op.f("uq_named_links_questionnaire_id_code")
        ),
        sa.UniqueConstraint(
            "questionnaire_id", "name", name=op.f("uq_named_links_questionnaire_id_name")
        ),
    )
    op.create_table(
        "pass_batches",
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("made", sa.DateTime(timezone=True), nullable=False),
        sa.Column("by", sa.Uuid(), nullable=True),
        sa.Column("passes", sa.Integer(), nullable=False),
        sa.Column("expires", sa.DateTime(timezone=True), nullable=True),
        sa.Column("uses", sa.Integer(), nullable=True),
        sa.ForeignKeyConstraint(
            ["by"], ["accounts.id"], name=op.f("fk_pass_batches_by"), ondelete="SET NULL"
        ),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["questionnaires.id"],
            name=op.f("fk_pass_batches_questionnaire_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("questionnaire_id", "id", name=op.f("pk_pass_batches")),
    )
    op.create_table(
        "passes",
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("batch_id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("hash", sa.LargeBinary(), nullable=True),
        sa.Column("contact_id", sa.Uuid(), nullable=True),
        sa.Column("sealed", sa.LargeBinary(), nullable=True),
        sa.Column("expires", sa.DateTime(timezone=True), nullable=True),
        sa.Column("uses", sa.Integer(), nullable=True),
        sa.Column("used", sa.Integer(), server_default="0", nullable=False),
        sa.Column("revoked", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(
            ["questionnaire_id", "batch_id"],
            ["pass_batches.questionnaire_id", "pass_batches.id"],
            name=op.f("fk_passes_questionnaire_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("questionnaire_id", "id", name=op.f("pk_passes")),
    )
    op.create_index(
        "ix_passes_batch", "passes", ["questionnaire_id", "batch_id", "number"], unique=True
    )
    op.create_index("ix_passes_hash", "passes", ["questionnaire_id", "hash"], unique=True)


def _work() -> None:
    op.create_table(
        "uploaded_tables",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("columns", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("sample", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("rows", sa.Integer(), nullable=False),
        sa.Column("chunks", sa.Integer(), nullable=False),
        sa.Column("made", sa.DateTime(timezone=True), nullable=False),
        sa.Column("kept", sa.Boolean(), server_default=sa.text("false"), nullable=False),
        sa.ForeignKeyConstraint(
            ["account_id"],
            ["accounts.id"],
            name=op.f("fk_uploaded_tables_account_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_uploaded_tables")),
    )
    op.create_table(
        "work",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("questionnaire_id", sa.Uuid(), nullable=True),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("state", sa.String(), nullable=False),
        sa.Column("done", sa.Integer(), nullable=False),
        sa.Column("total", sa.Integer(), nullable=False),
        sa.Column("arguments", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("result", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("changed", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["account_id"], ["accounts.id"], name=op.f("fk_work_account_id"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["questionnaires.id"],
            name=op.f("fk_work_questionnaire_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_work")),
    )
    op.create_index(op.f("ix_work_changed"), "work", ["changed"], unique=False)


def _entries() -> None:
    whose = ("questionnaire_id", "entry_id")
    names = ("link_id", "pass_id", "contact_id", "from_questionnaire", "from_entry")
    op.create_table(
        "entry_ways",
        *(sa.Column(name, sa.Uuid(), nullable=False) for name in whose),
        sa.Column("about", sa.String(), nullable=True),
        *(sa.Column(name, sa.Uuid(), nullable=True) for name in names),
        sa.ForeignKeyConstraint(
            whose,
            ["entries.questionnaire_id", "entries.id"],
            name=op.f("fk_entry_ways_questionnaire_id"),
            ondelete="CASCADE",
            initially="DEFERRED",
            deferrable=True,
        ),
        sa.PrimaryKeyConstraint(*whose, name=op.f("pk_entry_ways")),
    )
    for columns in (
        ("questionnaire_id", "about"),
        ("questionnaire_id", "pass_id"),
        ("questionnaire_id", "contact_id"),
        ("from_questionnaire", "from_entry"),
    ):
        op.create_index(op.f(f"ix_entry_ways_{'_'.join(columns)}"), "entry_ways", columns)


def downgrade() -> None:
    op.drop_table("entry_ways")
    op.drop_index("ix_passes_hash", table_name="passes")
    op.drop_index("ix_passes_batch", table_name="passes")
    op.drop_table("passes")
    op.drop_index(op.f("ix_work_changed"), table_name="work")
    op.drop_table("work")
    op.drop_table("uploaded_tables")
    op.drop_table("pass_batches")
    op.drop_table("named_links")
