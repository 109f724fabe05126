"""Processes that are killed in the middle: nothing acknowledged is lost, nothing is done twice."""

import threading
import time
from collections.abc import AsyncIterator, Callable
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path
from typing import Any
from uuid import UUID, uuid4

import httpx
import psycopg
import pytest
from aiosmtpd.controller import Controller

from jotgate.adapters.simulated.mail_room import MessageHandler, open_mail_room
from jotgate.local import cluster as clusters
from jotgate.local.cluster import Cluster, SetupError, free_port
from jotgate.local.installation import Installation, open_installation
from jotgate.local.processes import MOST_RESTARTS, Processes, web_arguments
from jotgate.wiring import open_context
from tests.scenes import Scene, set_scene

pytestmark = pytest.mark.long

WORKER = ("-m", "jotgate", "worker")


async def staged(installation: Installation) -> tuple[str, UUID]:
    """The address and the id of a questionnaire in a new context."""
    async with open_context(installation.settings) as context:
        scene: Scene = await set_scene(context)
    return scene.address, scene.id


@dataclass
class Served:
    """A context with its mail room, the application and a worker, all running."""

    installation: Installation
    processes: Processes
    address: str

    @property
    def base(self) -> str:
        return self.installation.settings.public_url

    @property
    def folder(self) -> Path:
        return self.installation.folder / "mail-room"


@pytest.fixture
async def served(installation: Installation, processes: Processes) -> AsyncIterator[Served]:
    address, _ = await staged(installation)
    found = Served(installation, processes, address)
    room = open_mail_room(found.folder, "127.0.0.1", installation.settings.smtp_port)
    processes.start("application", web_arguments(installation.settings.port))
    processes.start("worker", WORKER)
    processes.wait_for_web(found.base)
    yield found
    processes.stop()
    room.stop()


def until(true: Callable[[], Any], seconds: float = 40) -> Any:
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        found = true()
        if found:
            return found
        time.sleep(0.1)
    raise AssertionError("it did not come about")


def rows(installation: Installation, query: str) -> list[Any]:
    address = installation.settings.migrations_url.replace("+psycopg", "")
    with psycopg.connect(address) as connection:
        return connection.execute(query).fetchall()


def submit(base: str, address: str, key: str, name: str) -> int:
    body = {
        "edition": 1,
        "link": "district=saltings",
        "answers": {"name": name, "source": "own", "ill": False},
    }
    return httpx.post(
        f"{base}/api/public/{address}/entries",
        json=body,
        headers={"Idempotency-Key": key},
        timeout=10,
    ).status_code


def letters(folder: Path) -> int:
    return len(list(folder.glob("*.eml")))


class Treacherous(MessageHandler):
    """Takes a letter, and has something happen before it says so."""

    def __init__(self, folder: Path, happen: Callable[[], None]) -> None:
        super().__init__(folder)
        self.happen = happen
        self.deliveries = 0

    async def handle_DATA(self, server: Any, session: Any, envelope: Any) -> str:
        answer = await super().handle_DATA(server, session, envelope)
        self.deliveries += 1
        if self.deliveries == 1:
            self.happen()
        return answer


async def test_a_worker_that_comes_late_sends_the_notice_once(served: Served) -> None:
    time.sleep(1.5)
    served.processes.running["worker"].kill()
    assert submit(served.base, served.address, str(uuid4()), "Ines") == 201
    time.sleep(0.5)
    assert letters(served.folder) == 0
    served.processes.start("worker", WORKER)
    until(lambda: letters(served.folder))
    time.sleep(1)
    assert letters(served.folder) == 1


async def test_a_worker_killed_after_delivery_and_before_its_note_of_it(
    installation: Installation, processes: Processes
) -> None:
    """The hardest moment: the mail server has the letter and the worker could not note that.

    The next worker sends it again under the same Message-ID (RFC 5322), and the receiving
    side has one letter.
    """
    address, _ = await staged(installation)
    folder = installation.folder / "mail-room"
    folder.mkdir()
    killed = threading.Event()

    def kill() -> None:
        processes.running["worker"].kill()
        killed.set()

    keeper = Treacherous(folder, kill)
    room = Controller(keeper, hostname="127.0.0.1", port=installation.settings.smtp_port)
    room.start()
    processes.start("application", web_arguments(installation.settings.port))
    processes.start("worker", WORKER)
    processes.wait_for_web(installation.settings.public_url)
    assert submit(installation.settings.public_url, address, str(uuid4()), "Ines") == 201
    assert killed.wait(20)
    assert letters(folder) == 1
    processes.start("worker", WORKER)
    state = "select state, kind from runs where kind = 'notice'"
    until(lambda: rows(installation, state) == [("done", "notice")])
    room.stop()
    assert keeper.deliveries == 2
    assert letters(folder) == 1
    assert rows(installation, "select count(*) from register_rows") == [(1,)]


async def test_an_application_killed_amid_200_submissions(
    installation: Installation, processes: Processes
) -> None:
    """Every acknowledged submission is stored once, and trying again never doubles one."""
    address, _ = await staged(installation)
    base = installation.settings.public_url
    arguments = web_arguments(installation.settings.port)
    application = processes.start("application", arguments)
    processes.wait_for_web(base)
    acknowledged: list[str] = []
    unsure: list[str] = []

    def send(number: int) -> None:
        key = f"{number:04}-{uuid4()}"
        try:
            assert submit(base, address, key, f"n{number}") == 201
            acknowledged.append(key)
        except httpx.TransportError:
            unsure.append(key)
        if len(acknowledged) == 60:
            application.kill()

    with ThreadPoolExecutor(8) as pool:
        for future in [pool.submit(send, number) for number in range(200)]:
            future.result()
    application.wait()
    assert len(acknowledged) >= 60
    assert unsure
    stored = {key for (key,) in rows(installation, "select idempotency_key from entries")}
    assert set(acknowledged) <= stored
    processes.start("application", arguments)
    processes.wait_for_web(base)
    for key in unsure:
        assert submit(base, address, key, f"n{int(key[:4])}") == 201
    numbers = rows(installation, "select count(*), count(distinct number) from entries")
    assert numbers == [(200, 200)]
    names = rows(installation, "select count(distinct answers ->> 'name') from entries")
    assert names == [(200,)]
    jobs = "select count(*) from procrastinate_jobs where task_name = 'dispatch_entry'"
    assert rows(installation, jobs) == [(200,)]


def test_a_left_over_server_is_ended_and_the_data_are_there(installation: Installation) -> None:
    with psycopg.connect(
        installation.settings.migrations_url.replace("+psycopg", ""), autocommit=True
    ) as connection:
        connection.execute("create table kept (n int)")
    again = open_installation(installation.folder, free_port())
    try:
        installation.server.process.wait(10)
        assert rows(again, "select count(*) from kept") == [(0,)]
        assert again.settings.keys == installation.settings.keys
    finally:
        with suppress(Exception):
            again.stop()


async def test_the_database_away_for_a_moment(served: Served) -> None:
    """What is asked meanwhile says so; afterwards application and worker go on by themselves."""
    base, address, cluster = served.base, served.address, served.installation.server
    key = str(uuid4())
    assert submit(base, address, str(uuid4()), "before") == 201
    until(lambda: letters(served.folder) == 1)
    cluster.stop()
    assert submit(base, address, key, "meanwhile") == 503
    page = httpx.get(f"{base}/q/{address}")
    assert page.status_code == 503
    assert "The database is not answering at the moment." in page.text
    assert page.text.startswith("<!doctype html>")
    again = clusters.start(served.installation.folder / "postgres", port=cluster.port)
    try:
        until(lambda: submit(base, address, key, "meanwhile") == 201)
        assert served.processes.ended() is None
        until(lambda: letters(served.folder) == 2)
        filed = "select answers ->> 'name' from entries order by number"
        assert rows(served.installation, filed) == [("before",), ("meanwhile",)]
    finally:
        served.processes.stop()
        again.stop()


def kill(cluster: Cluster) -> None:
    """As a machine that goes down: nothing is shut down in order."""
    cluster.process.kill()
    cluster.process.wait()


async def test_postgresql_killed_again_and_again_under_load(served: Served) -> None:
    """Nothing acknowledged is lost, nothing is done twice, and no process ends for it."""
    installation, worker = served.installation, served.processes.running["worker"]
    left = threading.Semaphore(0)

    def send(number: int) -> None:
        key = f"{number:04}-{uuid4()}"
        until(lambda: _went_well(served.base, served.address, key, f"n{number}"), 90)
        left.release()

    cluster = installation.server
    try:
        with ThreadPoolExecutor(4) as pool:
            sent = [pool.submit(send, number) for number in range(120)]
            for _ in range(4):
                for _ in range(20):
                    left.acquire()
                kill(cluster)
                time.sleep(0.3)
                cluster = cluster.start_again()
            for one in sent:
                one.result()
        until(lambda: letters(served.folder) == 120, 90)
        assert worker.poll() is None
        assert served.processes.ended() is None
        assert rows(installation, "select count(*) from entries") == [(120,)]
        filed = "select count(*), count(distinct entry_id) from register_rows"
        assert rows(installation, filed) == [(120, 120)]
        done = "select count(*) from runs where state = 'done' and kind = 'notice'"
        until(lambda: rows(installation, done) == [(120,)])
        assert letters(served.folder) == 120
    finally:
        served.processes.stop()
        cluster.stop()


def _went_well(base: str, address: str, key: str, name: str) -> bool:
    try:
        status = submit(base, address, key, name)
    except httpx.TransportError:
        return False
    assert status in (201, 503)
    return status == 201


async def test_a_worker_waits_for_a_database_that_is_not_there_yet(
    installation: Installation, processes: Processes
) -> None:
    await staged(installation)
    kill(installation.server)
    worker = processes.start("worker", WORKER)
    time.sleep(4)
    assert worker.poll() is None
    cluster = installation.server.start_again()
    try:
        worked = "select count(*) from procrastinate_workers"
        until(lambda: rows(installation, worked) == [(1,)], 60)
        worker.terminate()
        assert worker.wait(20) == 0
    finally:
        cluster.stop()


def test_what_ended_is_started_again_but_not_for_ever(
    installation: Installation, processes: Processes
) -> None:
    processes.start("brief", ("-c", "import time; time.sleep(0.05)"))
    for _ in range(MOST_RESTARTS):
        assert until(processes.ended) == "brief"
        processes.start_again("brief")
    until(processes.ended)
    with pytest.raises(SetupError, match="again and again"):
        processes.start_again("brief")
