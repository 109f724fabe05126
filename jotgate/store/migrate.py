"""Bringing a database to the newest schema."""

from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory

MIGRATIONS = Path(__file__).parent / "migrations"


def config(database_url: str) -> Config:
    found = Config()
    found.set_main_option("script_location", str(MIGRATIONS))
    found.set_main_option("sqlalchemy.url", database_url.replace("%", "%%"))
    return found


def migrate(database_url: str) -> None:
    command.upgrade(config(database_url), "head")


def newest_revision() -> str:
    """What a database is at once it was brought to the newest schema."""
    return str(ScriptDirectory.from_config(config("")).get_current_head())
