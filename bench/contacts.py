"""Contacts: 100,000 brought in from a file, looked at and written, against a bare COPY of the same
rows with the same columns; and the memory that it takes."""

import asyncio
import resource
import statistics
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from uuid import UUID

from sqlalchemy import select, text
from sqlalchemy.dialects import postgresql

from bench.submit import in_a_folder
from bench.support.figure import Figure
from jotgate.core.contacts.fields import ContactField
from jotgate.core.formats.table import write
from jotgate.core.records.accounts import Account
from jotgate.local.cluster import free_port
from jotgate.local.installation import Installation, open_installation
from jotgate.services import doing
from jotgate.services.context import Context
from jotgate.services.staff.accounts import people
from jotgate.services.staff.contacts import bringing, fields
from jotgate.services.staff.contacts.bringing import Bringing
from jotgate.store.base import copy_into
from jotgate.store.contacts.contacts import contacts
from jotgate.store.contacts.lists import members
from jotgate.wiring import open_context

CONTACTS = 100_000
ROUNDS = 3
AT_MOST, MEMORY = 3.0, 40.0
HEAD = ("Key", "Name", "Mail address", "Phone", "Language", "District", "Wells")
DISTRICTS = ("Saltings", "Millbeck", "Upper Fell", "Long Moss")


def _rows(count: int, begin: int = 0) -> bytes:
    rows = [
        (
            f"W-{n}",
            f"Household {n}",
            f"household.{n}@example.org",
            f"+44 20 7946 {n:06}",
            ("en", "es")[n % 2],
            DISTRICTS[n % 4],
            str(n % 3),
        )
        for n in range(begin, begin + count)
    ]
    return write(HEAD, rows).encode()


async def _done(context: Context, owner: Account, id: UUID) -> dict[str, Any]:
    await doing.do(context, id)
    found = await bringing.progress(context, owner, id)
    assert found.state == "done", found.result
    return found.result


async def _bring(
    context: Context, owner: Account, body: bytes, count: int, name: str
) -> tuple[float, float]:
    """Seconds that the worker takes to look at so many, and to write them."""
    table, columns = await bringing.take_table(context, owner, "t.csv", body)
    looking = await bringing.look(context, owner, table.id, columns)
    began = time.perf_counter()
    seen = await _done(context, owner, looking.id)
    looked = time.perf_counter() - began
    assert seen["new"] == count
    asked = await bringing.bring(context, owner, Bringing(table.id, "update", None, name))
    began = time.perf_counter()
    assert (await _done(context, owner, asked.id))["added"] == count
    return looked, time.perf_counter() - began


async def _emptied(context: Context) -> None:
    async with context.engine.begin() as conn:
        await conn.execute(text("delete from contact_list_members"))
        await conn.execute(text("delete from contacts"))
        await conn.execute(text("delete from contact_lists"))


async def _bare(context: Context) -> float:
    """Seconds of a COPY of the same contacts, and of who is on the list."""
    async with context.engine.begin() as conn:
        whole = [tuple(row) for row in await conn.execute(contacts.select())]
        on = [tuple(row) for row in await conn.execute(select(members))]
        assert len(whole) == len(on) == CONTACTS
        await conn.execute(text("delete from contact_list_members"))
        await conn.execute(text("delete from contacts"))
        names = [one.name for one in contacts.columns]
        types = [one.type.compile(postgresql.dialect()).lower() for one in contacts.columns]
        began = time.perf_counter()
        await copy_into(conn, "contacts", names, types, whole, tuple)
        pair = ("list_id", "contact_id")
        await copy_into(conn, "contact_list_members", pair, ("uuid", "uuid"), on, tuple)
        return time.perf_counter() - began


def _resident() -> float:
    """Megabytes that the process has had at most."""
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1000


async def _measured(installation: Installation) -> dict[str, float]:
    async with open_context(installation.settings) as context:
        owner = await people.add(context, "a@example.org", "A", "coordinator", "x")
        district = ContactField(key="district", label="District", kind="pick", options=DISTRICTS)
        await fields.add(context, owner, district)
        await fields.add(context, owner, ContactField(key="wells", label="Wells", kind="number"))
        body = _rows(CONTACTS)
        await _bring(context, owner, _rows(CONTACTS // 10), CONTACTS // 10, "Warm")
        before = _resident()
        looked, written, bare = [], [], []
        for number in range(ROUNDS):
            await _emptied(context)
            look, wrote = await _bring(context, owner, body, CONTACTS, f"List {number}")
            looked.append(look)
            written.append(wrote)
        grown = _resident() - before
        bare = [await _bare(context) for _ in range(ROUNDS)]
    middle = statistics.median
    return {
        "looked": middle(looked),
        "written": middle(written),
        "bare": middle(bare),
        "grown": grown,
    }


def run(folder: Path) -> Iterator[Figure]:
    installation = open_installation(folder, free_port(), safe=False)
    try:
        found = asyncio.run(_measured(installation))
    finally:
        installation.stop()
    ratio = (found["looked"] + found["written"]) / found["bare"]
    yield Figure("contacts", "100,000 looked at", found["looked"] * 1000, "ms")
    yield Figure("contacts", "and written", found["written"] * 1000, "ms")
    yield Figure("contacts", "a bare COPY of the same rows", found["bare"] * 1000, "ms")
    yield Figure("contacts", "both against that", ratio, "x", AT_MOST, False)
    yield Figure("contacts", "memory more than for a tenth", found["grown"], "MB", MEMORY, False)


def figures() -> Iterator[Figure]:
    yield from in_a_folder(run)
