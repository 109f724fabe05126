"""The migrations make exactly the tables that the code describes."""

from alembic import command

from jotgate.store.migrate import config


def test_migrations_and_tables_agree(database_url: str) -> None:
    command.check(config(database_url))
