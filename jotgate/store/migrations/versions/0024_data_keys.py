"""Data keys: what is sealed says which key opens it, and what goes asks for its key to be
destroyed."""

import sqlalchemy as sa
from alembic import op

revision = "0024"
down_revision = "0023"
branch_labels = None
depends_on = None

TABLES = ("restricted_answers", "restricted_versions", "row_secrets", "files", "row_files")

LET_GO = """
create function keys_let_go() returns trigger
language plpgsql security definer set search_path = public, pg_temp as $$
begin
  insert into erased_keys (key_id) values (old.key_id) on conflict do nothing;
  return null;
end $$
"""


def upgrade() -> None:
    op.create_table(
        "erased_keys",
        sa.Column("key_id", sa.Uuid(), nullable=False),
        sa.PrimaryKeyConstraint("key_id", name="pk_erased_keys"),
    )
    op.execute(LET_GO)
    for table in TABLES:
        op.add_column(table, sa.Column("key_id", sa.Uuid(), nullable=True))
        op.execute(
            f"create trigger {table}_deleted after delete on {table} for each row "
            "when (old.key_id is not null) execute function keys_let_go()"
        )
        op.execute(
            f"create trigger {table}_changed after update of key_id on {table} for each row "
            "when (old.key_id is not null and old.key_id is distinct from new.key_id) "
            "execute function keys_let_go()"
        )
    for table in ("files", "row_files"):
        op.create_index(
            f"ix_{table}_key_id", table, ["key_id"], postgresql_where=sa.text("key_id is not null")
        )
    op.execute(
        "update files set name = 'sealed/' || translate(encode(convert_to(substr(name, 8), "
        "'UTF8'), 'base64'), E'+/\\n', '-_') where name like 'sealed/%'"
    )


def downgrade() -> None:
    raise NotImplementedError("what was sealed under data keys cannot be opened without them")
