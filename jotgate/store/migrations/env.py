"""Alembic's environment: online only, on our metadata."""

from alembic import context
from sqlalchemy import create_engine

from jotgate.store import (
    accounts,
    allowances,
    bank,
    entries,
    factors,
    files,
    identity_providers,
    office,
    parts,
    presence,
    questionnaires,
    rate_limits,
    registers,
    runs,
    sessions,
    started,
    tokens,
    trail,
    work,
)
from jotgate.store.base import metadata
from jotgate.store.contacts import brought, contacts, lists, opt_outs
from jotgate.store.links import link_keys, mailings, named_links, passes, visits

TABLES = (
    accounts,
    allowances,
    bank,
    brought,
    contacts,
    entries,
    factors,
    files,
    identity_providers,
    link_keys,
    lists,
    mailings,
    named_links,
    office,
    opt_outs,
    parts,
    passes,
    presence,
    questionnaires,
    rate_limits,
    registers,
    runs,
    sessions,
    started,
    tokens,
    trail,
    visits,
    work,
)


def ours(obj: object, name: str | None, kind: str, reflected: bool, other: object) -> bool:
    """Leave the queue's own tables out of comparisons."""
    return not (kind == "table" and (name or "").startswith("procrastinate_"))


engine = create_engine(context.config.get_main_option("sqlalchemy.url") or "")
with engine.connect() as connection:
    context.configure(connection=connection, target_metadata=metadata, include_object=ours)
    with context.begin_transaction():
        context.run_migrations()
engine.dispose()
