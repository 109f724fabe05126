"""Dispatch rules say whether they catch, and where each column and letter comes from. Entries know
their language and the claims of their visitor; rows have a history; runs are due at a moment."""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None

JSONB = postgresql.JSONB()


def upgrade() -> None:
    op.add_column("entries", sa.Column("language", sa.String(), server_default="", nullable=False))
    op.add_column("entry_ways", sa.Column("claims", JSONB))
    op.add_column("questionnaires", sa.Column("sending_paused", sa.DateTime(timezone=True)))
    _hooks()
    _runs()
    _rows()
    _rules()


def _hooks() -> None:
    op.create_table(
        "hooks",
        sa.Column("id", sa.Uuid(), nullable=False),
        sa.Column("questionnaire_id", sa.Uuid(), nullable=False),
        sa.Column("name", sa.String(), nullable=False),
        sa.Column("address", sa.String(), nullable=False),
        sa.Column("sealed", sa.LargeBinary(), nullable=False),
        sa.Column("before", sa.LargeBinary()),
        sa.Column("before_until", sa.DateTime(timezone=True)),
        sa.Column("made", sa.DateTime(timezone=True), nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_hooks"),
        sa.ForeignKeyConstraint(
            ["questionnaire_id"],
            ["questionnaires.id"],
            name="fk_hooks_questionnaire_id",
            ondelete="CASCADE",
        ),
        sa.UniqueConstraint("questionnaire_id", "name", name="uq_hooks_questionnaire_id_name"),
    )


def _runs() -> None:
    op.add_column("runs", sa.Column("part", sa.Integer(), server_default="0", nullable=False))
    op.add_column("runs", sa.Column("next_try", sa.DateTime(timezone=True)))
    op.add_column("runs", sa.Column("batch", sa.Uuid()))
    op.drop_constraint("uq_runs_questionnaire_id_entry_id_rule_position", "runs", type_="unique")
    op.create_unique_constraint(
        "uq_runs_questionnaire_id_entry_id_rule_position_part",
        "runs",
        ["questionnaire_id", "entry_id", "rule", "position", "part"],
    )
    some = "state in ('waiting', 'failing', 'failed')"
    for name, columns, where in (
        ("ix_runs_due", ["kind", "next_try"], "next_try is not null"),
        ("ix_runs_open", ["questionnaire_id", "changed"], some),
        ("ix_runs_failed", ["questionnaire_id"], "state = 'failed'"),
        ("ix_runs_batch", ["batch"], "batch is not null"),
    ):
        op.create_index(name, "runs", columns, postgresql_where=sa.text(where))
    op.execute("update runs set next_try = now() where state in ('waiting', 'failing')")
    op.execute(
        "update runs set detail = (detail - 'body') || jsonb_build_object('plain', detail->'body',"
        " 'html', '', 'language', '') where kind = 'notice'"
    )
    op.execute("delete from procrastinate_jobs where task_name = 'send_notice'")


def _rows() -> None:
    op.create_index(
        "ix_register_rows_values",
        "register_rows",
        ["values"],
        postgresql_using="gin",
        postgresql_ops={"values": "jsonb_path_ops"},
    )
    op.create_table(
        "row_changes",
        sa.Column("id", sa.BigInteger(), sa.Identity(), nullable=False),
        sa.Column("row_id", sa.BigInteger(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("account_id", sa.Uuid()),
        sa.Column("rule", sa.String(), nullable=False),
        sa.Column("entry_number", sa.Integer()),
        sa.Column("before", JSONB),
        sa.Column("after", JSONB, nullable=False),
        sa.PrimaryKeyConstraint("id", name="pk_row_changes"),
        sa.ForeignKeyConstraint(
            ["row_id"], ["register_rows.id"], name="fk_row_changes_row_id", ondelete="CASCADE"
        ),
    )
    op.create_index("ix_row_changes_row_id_id", "row_changes", ["row_id", "id"])
    op.execute(
        "insert into row_changes (row_id, at, rule, entry_number, after)"
        " select id, filed, '', entry_number, values from register_rows"
    )


def _rules() -> None:
    """A rule that filed caught, and no other; letters were in the first language."""
    table = sa.table(
        "questionnaires", sa.column("id"), sa.column("dispatch", JSONB), sa.column("draft", JSONB)
    )
    found = op.get_bind().execute(sa.select(table.c.id, table.c.dispatch, table.c.draft))
    for id, dispatch, draft in found.all():
        language = (draft.get("languages") or ["en"])[0]
        query = sa.update(table).where(table.c.id == id)
        op.get_bind().execute(query.values(dispatch=rewritten(dispatch, language)))


def rewritten(dispatch: dict[str, Any], language: str) -> dict[str, Any]:
    """Rules as they are written from now on."""
    rules = [
        {
            **rule,
            "catches": any(act["kind"] == "file" for act in rule.get("acts", [])),
            "acts": [_act(act, language) for act in rule.get("acts", [])],
        }
        for rule in dispatch.get("rules", [])
    ]
    otherwise = [_act(act, language) for act in dispatch.get("otherwise", [])]
    return {"rules": rules, "otherwise": otherwise}


def _act(act: dict[str, Any], language: str) -> dict[str, Any]:
    if act["kind"] == "file":
        sources = act.get("columns", {}).items()
        columns = {column: {"kind": "entry", "name": name} for column, name in sources}
        return {**act, "columns": columns}
    return {
        **act,
        "to": {"kind": "address", "address": act["to"]},
        "subject": {language: act["subject"]},
        "body": {language: act["body"]},
    }


def downgrade() -> None:
    raise NotImplementedError
