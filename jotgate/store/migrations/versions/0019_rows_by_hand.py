"""Rows of registers are written by hand, taken out and put back; who looks on finds what is new.
Views of registers have names. Who is where is known of registers as of questionnaires. Entries are
replayed. Files go along into rows.
Of entries it is known whether they were corrected."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None


def upgrade() -> None:
    _rows()
    _views()
    _presence()
    _rounds()
    _files()
    op.add_column(
        "entries",
        sa.Column("corrected", sa.Boolean(), server_default=sa.false(), nullable=False),
    )
    op.execute(
        "update entries e set corrected = true from entry_versions v"
        " where v.questionnaire_id = e.questionnaire_id and v.entry_id = e.id"
    )


def _files() -> None:
    op.create_table(
        "row_files",
        sa.Column("row_id", sa.BigInteger(), nullable=False),
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("size", sa.Integer(), nullable=False),
        sa.Column("type", sa.String(), nullable=False),
        sa.PrimaryKeyConstraint("row_id", "id", name="pk_row_files"),
        sa.ForeignKeyConstraint(
            ["row_id"], ["register_rows.id"], name="fk_row_files_row_id", ondelete="CASCADE"
        ),
    )
    op.create_index("ix_row_files_id", "row_files", ["id"])


def _rounds() -> None:
    op.add_column("runs", sa.Column("round", sa.Integer(), server_default="0", nullable=False))
    before = ["questionnaire_id", "entry_id", "rule", "position", "part"]
    op.drop_constraint("uq_runs_" + "_".join(before), "runs", type_="unique")
    named = [*before, "round"]
    op.create_unique_constraint("uq_runs_" + "_".join(named), "runs", named)


def _rows() -> None:
    op.add_column(
        "registers", sa.Column("revision", sa.Integer(), server_default="1", nullable=False)
    )
    for name in ("questionnaire_id", "entry_id", "entry_number"):
        op.alter_column("register_rows", name, nullable=True)
    op.add_column("register_rows", sa.Column("removed", sa.DateTime(timezone=True)))
    touched = sa.Column("touched", sa.BigInteger(), server_default="0", nullable=False)
    op.add_column("register_rows", touched)
    now = sa.text("(pg_current_xact_id()::text::bigint)")
    op.alter_column("register_rows", "touched", server_default=now)
    op.create_index(
        "ix_register_rows_register_id_touched", "register_rows", ["register_id", "touched"]
    )
    op.add_column(
        "row_changes", sa.Column("did", sa.String(), server_default="changed", nullable=False)
    )
    op.alter_column("row_changes", "did", server_default=None)
    op.execute("update row_changes set did = 'filed', before = '{}' where before is null")
    op.alter_column("row_changes", "before", nullable=False)


def _views() -> None:
    op.create_table(
        "register_views",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("register_id", sa.Uuid(), nullable=False),
        sa.Column("account_id", sa.Uuid()),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("view", postgresql.JSONB(), nullable=False),
        sa.Column("made", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_register_views"),
        sa.ForeignKeyConstraint(
            ["register_id"],
            ["registers.id"],
            name="fk_register_views_register_id",
            ondelete="CASCADE",
        ),
        sa.ForeignKeyConstraint(
            ["account_id"],
            ["accounts.id"],
            name="fk_register_views_account_id",
            ondelete="CASCADE",
        ),
        sa.UniqueConstraint(
            "register_id",
            "account_id",
            "name",
            name="uq_register_views_register_id_account_id_name",
            postgresql_nulls_not_distinct=True,
        ),
    )


def _presence() -> None:
    op.drop_table("presence")
    op.create_table(
        "presence",
        sa.Column("thing_id", sa.Uuid(), nullable=False),
        sa.Column("tab", sa.String(), nullable=False),
        sa.Column("account_id", sa.Uuid(), nullable=False),
        sa.Column("at", sa.String(), nullable=False),
        sa.Column("seen", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("thing_id", "tab", name="pk_presence"),
        sa.ForeignKeyConstraint(
            ["account_id"],
            ["accounts.id"],
            name="fk_presence_account_id",
            ondelete="CASCADE",
        ),
        prefixes=["UNLOGGED"],
    )


def downgrade() -> None:
    raise NotImplementedError
