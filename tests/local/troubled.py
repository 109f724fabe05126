"""Entries sent and dispatched while the application, the worker and PostgreSQL are killed at chance
moments, and the mail room and the webhook bench fail, are slow and cut the connection."""

import asyncio
import json
import threading
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager, suppress
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from random import Random
from typing import Any
from uuid import UUID

import httpx
import psycopg
import uvicorn
from aiosmtpd.controller import Controller

from jotgate.adapters.simulated.mail_room import MessageHandler
from jotgate.adapters.simulated.webhook_bench import Bench, Told, bench_app
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.handling import Handling
from jotgate.core.records.accounts import Team
from jotgate.local.cluster import Cluster
from jotgate.local.installation import Installation
from jotgate.local.processes import Processes, web_arguments
from jotgate.services.context import Context
from jotgate.services.staff.contacts import lists
from jotgate.services.staff.dispatch import dispatch_rules, hooks
from jotgate.services.staff.entries import handling
from jotgate.store.accounts import parts
from jotgate.wiring import open_context
from tests.core.dispatch.rules import file, notice
from tests.local.test_failures import WORKER, kill, rows, submit, until
from tests.scenes import Scene, set_scene

MEMBERS = """
    select count(distinct c.email)
    from contact_list_members m join contacts c on c.id = m.contact_id
"""
CARERS = """
    select max(n) - min(n) from (select count(*) n from entries group by carer_id) each
"""

AGAIN = 0.2
"""Seconds until somebody whose answers were not taken sends them again."""


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


MILLBECK = {"kind": "fixed", "text": "millbeck"}
CONSENT = {"consent": "source", "option": "own", "email": "name"}

ACTS = 7


async def crew(context: Context, scene: Scene) -> dict[str, Any]:
    """The people of a team, in turn."""
    id = context.ids.id()
    async with context.engine.begin() as conn:
        members = (scene.coordinator.id, scene.reviewer.id)
        await parts.add_team(conn, Team(id, "Crew", "", members))
    return {"kind": "team", "team_id": str(id), "in_turn": True}


async def staged(installation: Installation) -> str:
    """The address of a questionnaire whose one rule has every kind of act that needs no contact."""
    async with open_context(installation.settings) as context:
        scene = await set_scene(context)
        who, id = scene.coordinator, scene.id
        statuses = Handling.model_validate({"statuses": [{"key": "in", "name": "In"}]})
        await handling.save(context, who, id, statuses, 1)
        address = f"http://127.0.0.1:{installation.settings.webhook_bench_port}/calls"
        listed = await lists.add(context, who, "Letters")
        called = (await hooks.add(context, who, id, "Lab", address)).hook.id
        acts = [
            file(scene.rest.id, name="name"),
            notice("{name}", "Entry {entry_number}"),
            {"kind": "call", "hook_id": str(called)},
            {"kind": "status", "status": "in"},
            {"kind": "care", "who": await crew(context, scene)},
            {"kind": "value", "key": "district", "source": MILLBECK},
            {"kind": "list", "list_id": str(listed), **CONSENT},
        ]
        rules = Dispatch.model_validate({"rules": [{"key": "all", "acts": acts}]})
        await dispatch_rules.save(context, who, id, rules, 2)
    return scene.address


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


@dataclass(frozen=True)
class Outcome:
    """How many there are at the end, of what there should be one for each entry: entries with
    different answers, rows and entries that they are of, entries with the status and the carried
    value, contacts on the list, consents, letters, and calls with the entries that they are of;
    `carers` is how many more entries one of the crew has than another, `troubled` are letters and
    calls that were tried again."""

    entries: int
    rows: tuple[int, int]
    statuses: int
    listed: tuple[int, int]
    carers: int
    letters: int
    calls: tuple[int, int]
    troubled: int


@dataclass
class Trouble:
    """`kills` of processes while `entries` are sent and dispatched."""

    installation: Installation
    processes: Processes
    random: Random
    entries: int
    kills: int

    def __post_init__(self) -> None:
        self.cluster: Cluster = self.installation.server

    def through(self, address: str, seconds: float) -> Outcome:
        """What has come of it once everything is done, which `seconds` are given for."""
        with outside(self.installation, self.random) as (keeper, bench):
            self._start("application")
            self._start("worker")
            self.processes.wait_for_web(self.installation.settings.public_url)
            sending = threading.Thread(target=self._send_all, args=(address,))
            sending.start()
            try:
                for number in range(self.kills):
                    bench.told = Told(mode=("fail", "garbage", "cut")[number % 3], share=1 / 3)
                    self._kill(number)
                keeper.troubled, bench.told = False, Told()
                sending.join()
                until(self._all_done, seconds)
                return self._outcome(bench)
            finally:
                self.processes.stop()
                self.cluster.stop()

    def _start(self, name: str) -> None:
        port = self.installation.settings.port
        self.processes.start(name, WORKER if name == "worker" else web_arguments(port))

    def _kill(self, number: int) -> None:
        """The worker each time something was tried, every other time the application, and in
        between PostgreSQL."""
        so_far = 2 * self.entries // (self.kills + 1) * (number + 1)
        until(partial(has_tried, self.installation, so_far), 120)
        time.sleep(self.random.random() / 2)
        victims = ("worker", "application") if number % 2 else ("worker",)
        for name in victims:
            process = self.processes.running[name]
            process.kill()
            process.wait()
        if number % 5 == 2:
            kill(self.cluster)
            self.cluster = self.cluster.start_again()
        for name in victims:
            self._start(name)

    def _send_all(self, address: str) -> None:
        with ThreadPoolExecutor(4) as pool:
            list(pool.map(partial(self._send, address), range(self.entries)))

    def _send(self, address: str, number: int) -> None:
        """Send one as often as it takes, under the same key."""
        base = self.installation.settings.public_url
        while True:
            with suppress(httpx.TransportError):
                if submit(base, address, f"entry-{number:020}", f"n{number}@example.org") == 201:
                    return
            time.sleep(AGAIN)

    def _all_done(self) -> bool:
        hurry(self.installation)
        return states(self.installation) == {"done": ACTS * self.entries}

    def _outcome(self, bench: Bench) -> Outcome:
        def counted(query: str) -> tuple[int, ...]:
            (found,) = rows(self.installation, query)
            return tuple(found)

        told = [UUID(json.loads(one["body"])["data"]["entry"]) for one in bench.received()]
        filed = counted("select count(*), count(distinct entry_id) from register_rows")
        return Outcome(
            entries=counted("select count(distinct answers ->> 'name') from entries")[0],
            rows=(filed[0], filed[1]),
            statuses=counted(
                "select count(*) from entries"
                " where status = 'in' and answers ->> 'district' = 'millbeck'"
            )[0],
            listed=(counted(MEMBERS)[0], counted("select count(*) from list_consents")[0]),
            carers=counted(CARERS)[0],
            letters=len(list((self.installation.folder / "mail-room").glob("*.eml"))),
            calls=(len(told), len(set(told))),
            troubled=counted("select count(*) from runs where tries > 1")[0],
        )
