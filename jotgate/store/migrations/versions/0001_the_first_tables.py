"""The first tables"""

import sqlalchemy as sa
from alembic import op
from procrastinate.schema import SchemaManager
from sqlalchemy.dialects import postgresql

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "accounts",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("email", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("role", sa.String(), nullable=False),
        sa.Column("password_hash", sa.String(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_accounts")),
        sa.UniqueConstraint("email", name=op.f("uq_accounts_email")),
    )
    op.create_table(
        "questionnaires",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("address", sa.String(), nullable=False),
        sa.Column("draft", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("draft_revision", sa.Integer(), nullable=False),
        sa.Column("gate", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("gate_revision", sa.Integer(), nullable=False),
        sa.Column("dispatch", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("dispatch_revision", sa.Integer(), nullable=False),
        sa.Column("edition", sa.Integer(), nullable=True),
        sa.Column("created", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_questionnaires")),
        sa.UniqueConstraint("address", name=op.f("uq_questionnaires_address")),
    )
    op.create_table(
        "registers",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("columns", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_registers")),
        sa.UniqueConstraint("name", name=op.f("uq_registers_name")),
    )
    op.create_table(
        "sign_in_tries",
        sa.Column("who", sa.String(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
    )
    op.create_index(op.f("ix_sign_in_tries_who_at"), "sign_in_tries", ["who", "at"], unique=False)
    op.create_table(
        "clearances",
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["account_id"],
            ["accounts.id"],
            name=op.f("fk_clearances_account_id"),
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["questionnaires.id"],
            name=op.f("fk_clearances_questionnaire_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("account_id", "questionnaire_id", name=op.f("pk_clearances")),
    )
    op.create_table(
        "editions",
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("document", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("draft_revision", sa.Integer(), nullable=False),
        sa.Column("published", sa.DateTime(timezone=True), nullable=False),
        sa.Column("published_by", sa.Uuid(), nullable=False),
        sa.ForeignKeyConstraint(
            ["published_by"], ["accounts.id"], name=op.f("fk_editions_published_by")
        ),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["questionnaires.id"],
            name=op.f("fk_editions_questionnaire_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("questionnaire_id", "number", name=op.f("pk_editions")),
    )
    op.create_table(
        "tallies",
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("entries", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["questionnaires.id"],
            name=op.f("fk_tallies_questionnaire_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("questionnaire_id", name=op.f("pk_tallies")),
    )
    op.create_table(
        "entries",
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("edition", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("arrived", sa.DateTime(timezone=True), nullable=False),
        sa.Column("finish", sa.String(), nullable=False),
        sa.Column("answers", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("withheld", sa.ARRAY(sa.String()), nullable=False),
        sa.Column("flags", sa.ARRAY(sa.String()), nullable=False),
        sa.Column("idempotency_key", sa.String(), nullable=False),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["tallies.questionnaire_id"],
            name=op.f("fk_entries_questionnaire_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("questionnaire_id", "id", name=op.f("pk_entries")),
        sa.UniqueConstraint(
            "questionnaire_id",
            "idempotency_key",
            name=op.f("uq_entries_questionnaire_id_idempotency_key"),
        ),
        sa.UniqueConstraint(
            "questionnaire_id", "number", name=op.f("uq_entries_questionnaire_id_number")
        ),
    )
    op.create_table(
        "register_rows",
        sa.Column("id", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        sa.Column("register_id", sa.Uuid(), nullable=False),
        sa.Column("values", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("entry_id", sa.Uuid(), nullable=False),
        sa.Column("entry_number", sa.Integer(), nullable=False),
        sa.Column("filed", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["register_id"],
            ["registers.id"],
            name=op.f("fk_register_rows_register_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_register_rows")),
    )
    op.create_index(
        op.f("ix_register_rows_register_id_id"),
        "register_rows",
        ["register_id", "id"],
        unique=False,
    )
    op.create_table(
        "sessions",
        sa.Column("token_hash", sa.LargeBinary(), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("csrf", sa.String(), nullable=False),
        sa.Column("expires", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["account_id"], ["accounts.id"], name=op.f("fk_sessions_account_id"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("token_hash", name=op.f("pk_sessions")),
    )
    op.create_table(
        "trail",
        sa.Column("id", sa.BigInteger(), sa.Identity(always=False), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("action", sa.String(), nullable=False),
        sa.Column("questionnaire_id", sa.Uuid(), nullable=True),
        sa.Column("entry_id", sa.Uuid(), nullable=True),
        sa.Column("detail", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.ForeignKeyConstraint(["account_id"], ["accounts.id"], name=op.f("fk_trail_account_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_trail")),
    )
    op.create_index(op.f("ix_trail_at"), "trail", ["at"], unique=False)
    op.create_table(
        "restricted_answers",
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("entry_id", sa.Uuid(), nullable=False),
        sa.Column("sealed", sa.LargeBinary(), nullable=False),
        sa.ForeignKeyConstraint(
            ["questionnaire_id", "entry_id"],
            ["entries.questionnaire_id", "entries.id"],
            name=op.f("fk_restricted_answers_questionnaire_id"),
            ondelete="CASCADE",
            initially="DEFERRED",
            deferrable=True,
        ),
        sa.PrimaryKeyConstraint("questionnaire_id", "entry_id", name=op.f("pk_restricted_answers")),
    )
    op.create_table(
        "runs",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("entry_id", sa.Uuid(), nullable=False),
        sa.Column("rule", sa.String(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(), nullable=False),
        sa.Column("state", sa.String(), nullable=False),
        sa.Column("detail", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("tries", sa.Integer(), nullable=False),
        sa.Column("last_error", sa.String(), nullable=True),
        sa.Column("changed", sa.DateTime(timezone=True), nullable=False),
        sa.ForeignKeyConstraint(
            ["questionnaire_id", "entry_id"],
            ["entries.questionnaire_id", "entries.id"],
            name=op.f("fk_runs_questionnaire_id"),
            ondelete="CASCADE",
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_runs")),
        sa.UniqueConstraint(
            "questionnaire_id",
            "entry_id",
            "rule",
            "position",
            name=op.f("uq_runs_questionnaire_id_entry_id_rule_position"),
        ),
    )
    _queue()


def _queue() -> None:
    """The tables of the queue, as the installed Procrastinate describes them."""
    connection = op.get_bind().connection.driver_connection
    assert connection is not None
    connection.execute(SchemaManager.get_schema())


def downgrade() -> None:
    raise NotImplementedError("The first tables are not taken away again.")
