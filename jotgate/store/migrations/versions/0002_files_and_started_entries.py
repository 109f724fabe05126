"""Files, media and started entries"""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def _of_questionnaire(table: str) -> sa.ForeignKeyConstraint:
    return sa.ForeignKeyConstraint(
        ["questionnaire_id"],
        ["questionnaires.id"],
        name=op.f(f"fk_{table}_questionnaire_id"),
        ondelete="CASCADE",
    )


def upgrade() -> None:
    op.create_table(
        "files",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("edition", sa.Integer(), nullable=False),
        sa.Column("item", sa.String(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("size", sa.Integer(), nullable=False),
        sa.Column("received", sa.Integer(), nullable=False),
        sa.Column("type", sa.String(), nullable=True),
        sa.Column("entry_id", sa.Uuid(), nullable=True),
        sa.Column("begun", sa.DateTime(timezone=True), nullable=False),
        _of_questionnaire("files"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_files")),
    )
    op.create_index(op.f("ix_files_entry_id"), "files", ["entry_id"], unique=False)
    op.create_index(
        "ix_files_unclaimed",
        "files",
        ["questionnaire_id"],
        unique=False,
        postgresql_where=sa.text("entry_id IS NULL"),
    )
    op.create_table(
        "media",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("type", sa.String(), nullable=False),
        sa.Column("size", sa.Integer(), nullable=False),
        sa.Column("added", sa.DateTime(timezone=True), nullable=False),
        _of_questionnaire("media"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_media")),
    )
    op.create_table(
        "started",
        sa.Column("token_hash", sa.String(), nullable=False),
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("edition", sa.Integer(), nullable=False),
        sa.Column("sealed", sa.LargeBinary(), nullable=False),
        sa.Column("letters", sa.Integer(), server_default="0", nullable=False),
        sa.Column("touched", sa.DateTime(timezone=True), nullable=False),
        _of_questionnaire("started"),
        sa.PrimaryKeyConstraint("token_hash", name=op.f("pk_started")),
    )
    op.create_index(op.f("ix_started_touched"), "started", ["touched"], unique=False)


def downgrade() -> None:
    op.drop_table("started")
    op.drop_table("media")
    op.drop_table("files")
