"""Entries that one worker dispatches in a second, each with a row and a letter, against a bare
worker on the same queue; and what it takes to tell what rules would do with past entries."""

import asyncio
import json
import statistics
import time
from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any
from uuid import UUID

from sqlalchemy import text

from bench.submit import BODY, in_a_folder, opened
from bench.support.figure import Figure
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.registers.columns import Column
from jotgate.demo.load import documents
from jotgate.demo.ways import Unasked
from jotgate.local.cluster import free_port
from jotgate.local.installation import Installation, open_installation
from jotgate.local.processes import Processes
from jotgate.services.context import Context
from jotgate.services.public import submitting
from jotgate.services.public.answering import Answers
from jotgate.services.staff import desk
from jotgate.services.staff.accounts import people
from jotgate.services.staff.dispatch import dispatch_changes, dispatch_rules
from jotgate.services.staff.registers import registers
from jotgate.store.accounts import accounts
from jotgate.wiring import open_context

ENTRIES, ROUNDS = 400, 3
AT_LEAST = 0.5

COLUMNS = ("name", "phone", "uses", "drinkers", "kit")
LETTER = {
    "to": "crew@example.org",
    "subject": "Well check 0001: Ines Carvalho",
    "body": "Ines Carvalho asks for a visit.\n\nUses: Drinking and cooking, Washing\n",
    "html": "<p>Ines Carvalho asks for a visit.</p><p>Uses: Drinking and cooking, Washing</p>",
}


def rules(register: UUID, words: str = "{name} asks for a visit.") -> Dispatch:
    columns = {key: {"kind": "entry", "name": key} for key in COLUMNS}
    notice = {
        "kind": "notice",
        "to": {"kind": "address", "address": "crew@example.org"},
        "subject": {"en": "Well check {entry_number}: {name}"},
        "body": {"en": f"{words}\n\nUses: {{uses}}\n"},
    }
    file = {"kind": "file", "register_id": str(register), "columns": columns}
    when = {"op": "is", "item": "source", "value": "own"}
    rule = {"key": "r", "when": when, "acts": [file, notice]}
    return Dispatch.model_validate({"rules": [rule]})


async def staged(context: Context) -> tuple[UUID, UUID, str]:
    """A questionnaire with rules, its register and its address."""
    person = await people.add(context, "a@example.org", "A", "coordinator", "x")
    address = await opened(context, person, documents()["private_well_check"])
    id = (await desk.desk(context, person))[0].summary.id
    columns = [Column(key=key, label=key.title()) for key in COLUMNS]
    register = await registers.add(context, person, "R", columns)
    await dispatch_rules.save(context, person, id, rules(register.id), 1)
    return id, register.id, address


async def entered(context: Context, address: str) -> list[UUID]:
    """Entries that nobody has asked to be dispatched yet."""
    silent = replace(context, queue=Unasked())
    answers: Any = BODY["answers"]
    found = []
    for _ in range(ENTRIES):
        given = Answers("district=saltings", 1, answers)
        taken = await submitting.submit(silent, address, given, str(context.ids.id()))
        found.append(taken.id)
    return found


ASK = text("""
    insert into procrastinate_jobs (queue_name, task_name, priority, args, status)
    select 'default', 'dispatch_entry', 0,
        jsonb_build_object('questionnaire_id', cast(:id as text), 'entry_id', entry), 'todo'
    from unnest(cast(:entries as text[])) as entry
""")


async def took(context: Context, room: Path, id: UUID, entries: list[UUID]) -> float:
    """Seconds until each of these is in the register and a letter of each in the mail room."""
    rows = text("select count(*) from register_rows")
    async with context.engine.begin() as conn:
        before = (await conn.execute(rows)).scalar_one()
        await conn.execute(ASK, {"id": str(id), "entries": [str(one) for one in entries]})
    letters = sum(1 for _ in room.glob("*.eml"))
    began = time.perf_counter()
    while True:
        async with context.engine.connect() as conn:
            filed = (await conn.execute(rows)).scalar_one() - before
        if filed >= len(entries):
            sent = sum(1 for _ in room.glob("*.eml")) - letters
            if sent >= len(entries):
                return time.perf_counter() - began
        await asyncio.sleep(0.05)
        if time.perf_counter() - began > 120:
            raise SystemExit(f"the worker does not get done: {filed} rows")


async def measured(installation: Installation, processes: Processes) -> list[tuple[float, float]]:
    """Entries a second (ours, bare) of each round."""
    room = installation.settings.mail_room
    assert room is not None
    async with open_context(installation.settings) as context:
        id, register, address = await staged(context)
        row = {"register_id": str(register), "values": "{}", "number": 1}
        bare = json.dumps({"row": row, "letter": LETTER})
        workers = {
            "ours": ("-m", "jotgate", "worker"),
            "bare": ("-m", "bench.support.bare_worker", bare),
        }
        rounds = []
        for _ in range(ROUNDS + 1):
            pace = {}
            for name, arguments in workers.items():
                entries = await entered(context, address)
                worker = processes.start(name, arguments)
                await asyncio.sleep(3)
                pace[name] = len(entries) / await took(context, room, id, entries)
                worker.terminate()
                worker.wait(20)
            rounds.append((pace["ours"], pace["bare"]))
    return rounds[1:]


async def told(installation: Installation) -> float:
    """Milliseconds for each past entry, to tell what other rules would have done with it."""
    async with open_context(installation.settings) as context:
        async with context.engine.connect() as conn:
            found = await accounts.by_email(conn, "a@example.org", context.clock.now())
        assert found is not None
        person = found[0]
        id = (await desk.desk(context, person))[0].summary.id
        register = (await registers.every(context, person))[0].register.id
        changed = rules(register, "{name} and {drinkers}")
        began, looked, before = time.perf_counter(), 0, None
        while True:
            page = await dispatch_changes.differences(context, person, id, changed, before)
            looked, before = looked + page.looked_at, page.next
            assert len(page.changed) == page.looked_at
            if before is None:
                return 1000 * (time.perf_counter() - began) / looked


def run(folder: Path) -> Iterator[Figure]:
    installation = open_installation(folder, free_port())
    environment: dict[str, Any] = {**installation.environment(), "JOTGATE_LOG_LEVEL": "warning"}
    processes = Processes(environment, folder / "jotgate.log")
    try:
        processes.start("mail room", ("-m", "jotgate", "mail-room"))
        rounds = asyncio.run(measured(installation, processes))
        each = asyncio.run(told(installation))
    finally:
        processes.stop()
        installation.stop()
    mine, plain = (statistics.median(values) for values in zip(*rounds, strict=True))
    ratio = statistics.median(ours / bare for ours, bare in rounds)
    yield Figure("dispatch", "entries dispatched by one worker", mine, "1/s")
    yield Figure("dispatch", "entries of a bare worker", plain, "1/s")
    yield Figure("dispatch", "share of the bare worker", ratio, "x", AT_LEAST)
    yield Figure("dispatch", "telling what a change means for an entry", each, "ms", 2, least=False)


def figures() -> Iterator[Figure]:
    yield from in_a_folder(run)
