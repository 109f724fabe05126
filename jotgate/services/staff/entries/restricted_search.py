"""Restricted answers that say a mail address: found by opening them, for whoever has clearance."""

import asyncio
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from jotgate.core.entries.entry import Stored
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.keys.sealing import Restricted, each_restricted
from jotgate.services.staff.entries.entries import own_clearance
from jotgate.store.base import Connection
from jotgate.store.entries import one_person

AT_ONCE = 200
"""Entries that are opened together."""


@dataclass(frozen=True)
class Said:
    """Entries, as (questionnaire, entry), with the keys of the restricted answers that say it.
    `unsearched` questionnaires have restricted answers that whoever asked has no clearance for."""

    entries: Mapping[tuple[UUID, UUID], list[str]]
    unsearched: int


async def saying(context: Context, conn: Connection, account: Account, email: str) -> Said:
    """What says `email`, which is written small; `conn` may read restricted answers."""
    found: dict[tuple[UUID, UUID], list[str]] = {}
    unsearched = 0
    for id in await one_person.with_sealed(conn):
        if await own_clearance(context, conn, account, id) is None:
            unsearched += 1
            continue
        after: UUID | None = None
        while some := await one_person.sealed_after(conn, id, after, AT_ONCE):
            after = max(some)
            opened = await each_restricted(context, some)
            for entry_id, keys in await asyncio.to_thread(_saying, opened, email):
                found[id, entry_id] = keys
    return Said(found, unsearched)


def _saying(opened: Mapping[UUID, Restricted], email: str) -> list[tuple[UUID, list[str]]]:
    told = ((id, list(_keys(one.answers, email))) for id, one in opened.items())
    return [(id, keys) for id, keys in told if keys]


def _keys(answers: Stored, email: str) -> Iterator[str]:
    return (key for key, one in answers.items() if _says(one, email))


def _says(stored: Any, email: str) -> bool:
    """Whether some text in it, however deep, is the address."""
    if isinstance(stored, str):
        return stored.strip().lower() == email
    if isinstance(stored, Mapping):
        return any(_says(one, email) for one in stored.values())
    return isinstance(stored, list) and any(_says(one, email) for one in stored)
