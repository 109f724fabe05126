"""Many visitors race for few places, through two application processes, one of which is killed in
the middle, and every request comes twice."""

import threading
import time
from collections import Counter
from concurrent.futures import ThreadPoolExecutor
from typing import Any
from uuid import uuid4

import httpx
import pytest

from jotgate.core.gate.settings import Gate
from jotgate.local.cluster import free_port
from jotgate.local.installation import Installation
from jotgate.local.processes import Processes, web_arguments
from jotgate.services.staff.gate import gate
from jotgate.wiring import open_context
from tests.local.test_failures import WORKER, rows, until
from tests.scenes import published, set_scene
from tests.services.public.kits import kits

pytestmark = pytest.mark.long

VISITORS, CONNECTIONS, PLACES = 400, 40, 25
KILLED_AFTER = 60


async def staged(installation: Installation) -> str:
    """The address of a questionnaire with places in all, by district and by district and use."""
    async with open_context(installation.settings) as context:
        scene = await set_scene(context)
        id, address = await published(context, scene.coordinator, kits())
        value = Gate.model_validate(
            {
                "state": "open",
                "places": [
                    {"key": "all", "name": "All", "most": PLACES},
                    {"key": "district", "name": "D", "by": ["district"], "most": 20},
                    {"key": "both", "name": "B", "by": ["district", "uses"], "most": 18},
                ],
                "hold": 10,
                "waiting": {"on": True, "hours": 1},
            }
        )
        await gate.save(context, scene.coordinator, id, value, 2)
    return address


class Race:
    """Visitors: each turns pages, holds a place where there is one, and sends all twice."""

    def __init__(self, bases: list[str], address: str) -> None:
        self.bases, self.address = bases, address
        self.got: dict[str, dict[str, Any]] = {}
        self.refused: Counter[str] = Counter()
        self.lock = threading.Lock()
        self.done = threading.Semaphore(0)
        self.client = httpx.Client(timeout=20, limits=httpx.Limits(max_connections=CONNECTIONS))

    def ask(self, path: str, body: dict[str, Any], key: str, number: int) -> httpx.Response:
        """The same request twice, to either process, until one of them answers."""
        headers = {"Idempotency-Key": key}
        found: httpx.Response | None = None
        for twice in range(2):
            end = time.monotonic() + 60
            while time.monotonic() < end:
                base = self.bases[(number + twice) % len(self.bases)]
                try:
                    found = self.client.post(f"{base}{path}", json=body, headers=headers)
                except httpx.TransportError:
                    number += 1
                    continue
                if found.status_code != 503:
                    break
                time.sleep(0.05)
        assert found is not None
        return found

    def visit(self, number: int) -> None:
        key, path = f"{number:04}-{uuid4()}", f"/api/public/{self.address}"
        uses = [["garden"], ["drinking"], ["garden", "drinking"]][number % 3]
        district = ["saltings", "millbeck"][number % 2]
        answers = {"name": f"n{number}", "district": district, "uses": uses}
        body = {"edition": 1, "answers": answers}
        turn = {**body, "move": "onward", "at": "kit", "submission": key}
        self.ask(f"{path}/page", turn, key, number)
        if number % 5 == 0:
            self.done.release()
            return  # Somebody who goes away: what is held for them has to come back.
        reply = self.ask(f"{path}/entries", body, key, number)
        with self.lock:
            if reply.status_code == 201:
                self.got[key] = answers
            else:
                self.refused[reply.json()["code"]] += 1
        self.done.release()


async def test_exactly_as_many_entries_as_places(
    installation: Installation, processes: Processes
) -> None:
    address = await staged(installation)
    ports = [installation.settings.port, free_port()]
    bases = [f"http://127.0.0.1:{port}" for port in ports]
    started = [processes.start(f"application {port}", web_arguments(port)) for port in ports]
    for base in bases:
        processes.wait_for_web(base)
    race = Race(bases, address)
    with ThreadPoolExecutor(CONNECTIONS) as pool:
        visits = [pool.submit(race.visit, number) for number in range(VISITORS)]
        for _ in range(KILLED_AFTER):
            race.done.acquire()
        started[1].kill()
        started[1].wait()
        race.bases = bases[:1]
        for one in visits:
            one.result()
    assert set(race.refused) <= {"shut", "invalid_answers"}
    _sums_hold(installation, len(race.got))
    _the_rest_goes_on(installation, processes, race)
    stored = rows(installation, "select idempotency_key from entries")
    assert sorted(key for (key,) in stored) == sorted(race.got)
    _sums_hold(installation, PLACES)
    (held,) = rows(installation, "select sum(held) from places")
    assert held == (0,)


def _sums_hold(installation: Installation, entries: int) -> None:
    """What is counted is what is there, and nothing is past a limit."""
    assert rows(installation, "select count(*) from entries") == [(entries,)]
    assert rows(installation, "select sum(entries) from tallies") == [(entries,)]
    query = "select cell, taken, held from places"
    counted = {cell: (taken, held) for cell, taken, held in rows(installation, query)}
    sums = """
        select key, sum(value::int) from entries, jsonb_each_text(takes) group by key
    """
    assert {cell: taken for cell, (taken, _) in counted.items() if taken} == dict(
        rows(installation, sums)
    )
    most = {1: PLACES, 2: 20, 3: 18}
    for cell, (taken, held) in counted.items():
        assert taken + held <= most[cell.count('","') + 1]


def _the_rest_goes_on(installation: Installation, processes: Processes, race: Race) -> None:
    """Held places run out, and go to others until all are taken; then people wait in order."""
    rows(installation, "update held_places set until = now() returning 1")
    processes.start("worker", WORKER)
    left = "select coalesce(sum(held), 0) from places"
    until(lambda: rows(installation, left) == [(0,)], 120)
    for number in range(VISITORS, VISITORS + 60):
        if number % 5 and len(race.got) < PLACES:
            race.visit(number)
    assert len(race.got) == PLACES
    base, path = race.bases[0], f"/api/public/{race.address}/waiting"
    places = [
        httpx.post(f"{base}{path}", json={"email": f"p{n}@example.org"}).json()["place"]
        for n in range(5)
    ]
    assert places == [1, 2, 3, 4, 5]
    order = rows(installation, "select email from waiting order by number")
    assert [email for (email,) in order] == [f"p{n}@example.org" for n in range(5)]
