"""Alembic's environment: online only, on our metadata."""

from importlib import import_module
from pkgutil import walk_packages

from alembic import context
from sqlalchemy import create_engine

from jotgate import store
from jotgate.store.base import metadata

for module in walk_packages(store.__path__, "jotgate.store."):
    if not module.name.startswith("jotgate.store.migrations"):
        import_module(module.name)  # Every table is known once its module is.


def ours(obj: object, name: str | None, kind: str, reflected: bool, other: object) -> bool:
    """Leave the queue's own tables out of comparisons."""
    return not (kind == "table" and (name or "").startswith("procrastinate_"))


engine = create_engine(context.config.get_main_option("sqlalchemy.url") or "")
with engine.connect() as connection:
    context.configure(connection=connection, target_metadata=metadata, include_object=ours)
    with context.begin_transaction():
        context.run_migrations()
engine.dispose()
