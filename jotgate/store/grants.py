"""What each role of the database may do.

Requests and the worker use one that can neither read restricted answers nor change the trail; where
clearance was checked, and to seal what is restricted by now, another one is used that can read and
change restricted answers. Both can only add to the trail. Tables belong to a third, which migrates.
"""

from psycopg import Connection, connect, sql

from jotgate.settings import for_libpq

PLAIN = "select, insert, update, delete"

ADDED_ONLY = ("trail", "trail_links")
RESTRICTED = ("restricted_answers", "restricted_versions")
"""Written by everybody who submits, read by one role."""

KEPT = ("row_secrets",)
"""Read and written by that role alone; requests only see which there are."""


def grant(migrations_url: str, requests: str, restricted: str) -> None:
    """Give both roles what they need on every table, and take what they do not. Run it after each
    migration, as the role that the tables belong to; where all three are one role, there is
    nothing to give."""
    if requests == restricted:
        return
    with connect(for_libpq(migrations_url)) as connection:
        for role in (requests, restricted):
            _everything(connection, role)
            for table in ADDED_ONLY:
                _only(connection, role, table, "select, insert")
            _only(connection, role, "alembic_version", "select")
        for table in RESTRICTED:
            _only(connection, requests, table, "insert")
            _only(connection, restricted, table, "select, insert, update")
        for table in KEPT:
            names = {"table": sql.Identifier(table), "role": sql.Identifier(requests)}
            connection.execute(sql.SQL("revoke all on {table} from {role}").format(**names))
            seeing = "grant select (row_id, questionnaire_id, key) on {table} to {role}"
            connection.execute(sql.SQL(seeing).format(**names))


def _everything(connection: Connection, role: str) -> None:
    name = sql.Identifier(role)
    for text in (
        "grant usage on schema public to {}",
        f"grant {PLAIN} on all tables in schema public to {{}}",
        "grant usage, select on all sequences in schema public to {}",
        "grant execute on function index_entry_rows(text, uuid, jsonb) to {}",
        "grant execute on function drop_entry_rows_index(text) to {}",
    ):
        connection.execute(sql.SQL(text).format(name))


def _only(connection: Connection, role: str, table: str, rights: str) -> None:
    names = {"table": sql.Identifier(table), "role": sql.Identifier(role)}
    connection.execute(sql.SQL("revoke all on {table} from {role}").format(**names))
    granting = sql.SQL(f"grant {rights} on {{table}} to {{role}}")
    connection.execute(granting.format(**names))
