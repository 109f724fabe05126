"""Letters on paper, opting out of some letters, and where contacts came from."""

from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0029"
down_revision = "0028"
branch_labels = None
depends_on = None


def _text(name: str, default: str | None = "") -> sa.Column[Any]:
    return sa.Column(name, sa.String(), nullable=False, server_default=default)


def _time(name: str, nullable: bool = False) -> sa.Column[Any]:
    return sa.Column(name, sa.DateTime(timezone=True), nullable=nullable)


def upgrade() -> None:
    op.add_column("mailings", _text("way", "mail"))
    op.add_column("mailings", _text("kind"))
    _codes()
    _prints()
    _opting()
    op.add_column("contacts", _time("added", nullable=True))
    op.add_column("contacts", _text("came"))


def _codes() -> None:
    op.create_table(
        "typed_codes",
        sa.Column("mark", sa.LargeBinary(), nullable=False),
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("pass_id", sa.Uuid(), nullable=False),
        sa.PrimaryKeyConstraint("mark", name="pk_typed_codes"),
        sa.ForeignKeyConstraint(
            ["questionnaire_id", "pass_id"],
            ["passes.questionnaire_id", "passes.id"],
            name="fk_typed_codes_questionnaire_id",
            ondelete="CASCADE",
        ),
    )
    op.create_index(
        "ix_typed_codes_questionnaire_id_pass_id", "typed_codes", ["questionnaire_id", "pass_id"]
    )


def _prints() -> None:
    op.create_table(
        "prints",
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("mailing_id", sa.Uuid(), nullable=False),
        _time("at"),
        sa.Column("letters", sa.Integer(), nullable=False),
        sa.Column("pages", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("questionnaire_id", "mailing_id", name="pk_prints"),
        sa.ForeignKeyConstraint(
            ["questionnaire_id", "mailing_id"],
            ["mailings.questionnaire_id", "mailings.id"],
            name="fk_prints_questionnaire_id",
            ondelete="CASCADE",
        ),
    )


def _opting() -> None:
    op.add_column("opt_outs", _text("scope"))
    op.add_column("opt_outs", _text("told"))
    op.drop_constraint("pk_opt_outs", "opt_outs")
    op.create_primary_key("pk_opt_outs", "opt_outs", ["email", "scope"])


def downgrade() -> None:
    op.drop_column("contacts", "came")
    op.drop_column("contacts", "added")
    op.execute("delete from opt_outs where scope <> ''")
    op.drop_constraint("pk_opt_outs", "opt_outs")
    op.drop_column("opt_outs", "told")
    op.drop_column("opt_outs", "scope")
    op.create_primary_key("pk_opt_outs", "opt_outs", ["email"])
    op.drop_table("prints")
    op.drop_table("typed_codes")
    op.drop_column("mailings", "kind")
    op.drop_column("mailings", "way")
