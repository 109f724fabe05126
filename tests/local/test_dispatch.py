"""Entries dispatched while the worker and PostgreSQL are killed at chance moments and the mail room
and the webhook bench fail, are slow and cut the connection: nothing is lost, nothing is doubled."""

import asyncio
import json
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from functools import partial
from pathlib import Path
from random import Random
from typing import Any
from uuid import UUID

import psycopg
import pytest
import uvicorn
from aiosmtpd.controller import Controller

from jotgate.adapters.simulated.mail_room import MessageHandler
from jotgate.adapters.simulated.webhook_bench import Bench, Told, bench_app
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.handling import Handling
from jotgate.local.installation import Installation
from jotgate.local.processes import Processes
from jotgate.services.staff import dispatch_rules, handling, hooks
from jotgate.wiring import open_context
from tests.core.dispatch.rules import file, notice
from tests.local.test_failures import WORKER, kill, rows, until
from tests.scenes import set_scene

pytestmark = pytest.mark.long

ENTRIES, KILLS = 60, 5
TRIES_BETWEEN = 20
"""Letters and calls that are tried before the worker is killed again."""

EVERYTHING = {"done": 4 * ENTRIES}


class Unreliable(MessageHandler):
    """Takes a letter, or is slow, refuses it for now, or cuts the connection, before or after it
    took it: a third of the time, while `troubled`."""

    def __init__(self, folder: Path, random: Random) -> None:
        super().__init__(folder)
        self.random, self.troubled = random, True

    async def handle_DATA(self, server: Any, session: Any, envelope: Any) -> str:
        trouble = self.troubled and self.random.random() < 1 / 3
        kind = self.random.choice(["slow", "refuse", "cut", "cut late"]) if trouble else ""
        if kind == "refuse":
            return "451 later"
        if kind == "slow":
            await asyncio.sleep(0.4)
        if kind == "cut":
            server.transport.abort()
            return "451 cut off"
        answer = await super().handle_DATA(server, session, envelope)
        if kind == "cut late":
            server.transport.abort()
        return answer


@contextmanager
def outside(installation: Installation, random: Random) -> Iterator[tuple[Unreliable, Bench]]:
    settings = installation.settings
    mail_room = installation.folder / "mail-room"
    mail_room.mkdir()
    keeper = Unreliable(mail_room, random)
    room = Controller(keeper, hostname="127.0.0.1", port=settings.smtp_port)
    bench = Bench(installation.folder / "calls")
    port = settings.webhook_bench_port
    config = uvicorn.Config(bench_app(bench), port=port, log_level="critical")
    server = uvicorn.Server(config)
    thread = threading.Thread(target=server.run)
    room.start()
    thread.start()
    try:
        yield keeper, bench
    finally:
        room.stop()
        server.should_exit = True
        thread.join()


async def staged(installation: Installation) -> None:
    """A questionnaire whose one rule has every kind of act, and its entries."""
    async with open_context(installation.settings) as context:
        scene = await set_scene(context)
        who, id = scene.coordinator, scene.id
        statuses = Handling.model_validate({"statuses": [{"key": "in", "name": "In"}]})
        await handling.save(context, who, id, statuses, 1)
        address = f"http://127.0.0.1:{installation.settings.webhook_bench_port}/calls"
        called = (await hooks.add(context, who, id, "Lab", address)).hook.id
        acts = [
            file(scene.rest.id, name="name"),
            notice("{name}", "Entry {entry_number}"),
            {"kind": "call", "hook_id": str(called)},
            {"kind": "status", "status": "in"},
        ]
        rules = Dispatch.model_validate({"otherwise": acts})
        await dispatch_rules.save(context, who, id, rules, 2)
        for number in range(ENTRIES):
            await scene.submit(f"entry-{number:04}")


def states(installation: Installation) -> dict[str, int]:
    """How many runs are in each state; nothing while the database is away."""
    with suppress(psycopg.OperationalError):
        return dict(rows(installation, "select state, count(*) from runs group by state"))
    return {}


def has_tried(installation: Installation, wanted: int) -> bool:
    """Whether so much was sent by now, well or not. What failed is tried again at once."""
    hurry(installation)
    query = "select coalesce(sum(tries), 0) from runs where kind in ('notice', 'call')"
    with suppress(psycopg.OperationalError):
        return int(rows(installation, query)[0][0]) >= wanted
    return False


def hurry(installation: Installation) -> None:
    """What waits for its next try does not wait."""
    address = installation.settings.migrations_url.replace("+psycopg", "")
    with suppress(psycopg.OperationalError), psycopg.connect(address) as connection:
        connection.execute("update runs set next_try = now() where state = 'failing'")


async def test_nothing_is_lost_and_nothing_doubled(
    installation: Installation, processes: Processes
) -> None:
    random = Random(15)
    await staged(installation)
    cluster = installation.server
    with outside(installation, random) as (keeper, bench):
        bench.told = Told(mode="cut", share=1 / 3)
        worker = processes.start("worker", WORKER)
        try:
            for number in range(KILLS):
                until(partial(has_tried, installation, TRIES_BETWEEN * (number + 1)), 90)
                time.sleep(random.random() / 2)
                bench.told = Told(mode=("fail", "garbage", "cut")[number % 3], share=1 / 3)
                worker.kill()
                if number == KILLS // 2:
                    kill(cluster)
                    cluster = cluster.start_again()
                worker = processes.start("worker", WORKER)
            keeper.troubled, bench.told = False, Told()

            def all_done() -> bool:
                hurry(installation)
                return states(installation) == EVERYTHING

            until(all_done, 90)
            ((troubled,),) = rows(installation, "select count(*) from runs where tries > 1")
            assert troubled > ENTRIES // 6
            assert rows(
                installation, "select count(*), count(distinct entry_id) from register_rows"
            ) == [(ENTRIES, ENTRIES)]
            assert rows(installation, "select count(*) from entries where status = 'in'") == [
                (ENTRIES,)
            ]
            assert len(list((installation.folder / "mail-room").glob("*.eml"))) == ENTRIES
            told = {UUID(json.loads(one["body"])["data"]["entry"]) for one in bench.received()}
            assert (len(told), len(bench.received())) == (ENTRIES, ENTRIES)
        finally:
            processes.stop()
            cluster.stop()
