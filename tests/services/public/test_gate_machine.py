"""Places on a real database, in any order of what can happen to them: never past a limit, and no
place lost for good."""

import asyncio
from collections import Counter
from collections.abc import Coroutine
from datetime import timedelta
from typing import Any, TypeVar
from uuid import UUID

import pytest
from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule
from hypothesis.stateful import run_state_machine_as_test as run

from jotgate.core.common.errors import InvalidAnswers, JotGateError
from jotgate.core.gate.places import Count, cell_of
from jotgate.core.handling import Handling, Status
from jotgate.core.walking.arrival import Arrival, Came
from jotgate.services import waiting_list
from jotgate.services.arrivals import seal
from jotgate.services.handling import Change
from jotgate.services.public import holding, waiting
from jotgate.services.staff.entries import entry_table, handling, removing
from tests.conftest import Clock
from tests.scenes import Scene, published
from tests.services.public.kits import ALL, BY, Kits, kits

T = TypeVar("T")
DISTRICTS = ("saltings", "millbeck")
CANCELLED = Handling(statuses=(Status(key="cancelled", name="Cancelled"),))
MOST = {cell_of("all"): 4, cell_of("district", ("saltings",)): 2}
DONE: Counter[str] = Counter()


def machine(scene: Scene, clock: Clock, loop: asyncio.AbstractEventLoop) -> type[Any]:
    """The machine on one database: each run has a questionnaire of its own."""

    class Places(RuleBasedStateMachine):
        def do(self, what: Coroutine[Any, Any, T]) -> T:
            return asyncio.run_coroutine_threadsafe(what, loop).result(30)

        def tried(self, name: str, what: Coroutine[Any, Any, Any]) -> Any:
            try:
                found = self.do(what)
            except InvalidAnswers:
                DONE[f"{name}, full"] += 1
                return None
            except JotGateError:
                DONE[f"{name}, refused"] += 1
                return None
            DONE[name] += 1
            return found

        @initialize(waits=st.booleans(), begins=st.sampled_from(("empty", "crowded", "lively")))
        def begin(self, waits: bool, begins: str) -> None:
            id, address = self.do(published(scene.context, scene.coordinator, kits()))
            self.wells = Kits(scene, clock, id, address)
            self.sent: dict[str, tuple[UUID, str]] = {}
            self.freed: set[UUID] = set()
            owner = scene.coordinator
            self.do(handling.save(scene.context, owner, id, CANCELLED, 1))
            self.number = 0
            self.set(True, waits=waits)
            if begins == "crowded":
                self.fill("saltings")
            if begins == "lively":
                self.set(True)
                self.one_steps_back_and_returns(opens=True)
                self.set(False)
                self.correct_one("k1", "saltings")

        def set(self, is_open: bool, hold: int = 10, waits: bool = False) -> None:
            limit = [{"values": ["saltings"], "most": 2}]
            places = [{**ALL, "most": 4}, {**BY, "limits": limit}]
            more = {"places": places, "hold": hold, "freed_by": ["cancelled"], "changing": {}}
            state, waiting = "open" if is_open else "shut", {"on": waits, "hours": 1}
            self.do(self.wells.set(state=state, waiting=waiting, **more))

        @rule(key=st.integers(0, 7), district=st.sampled_from(DISTRICTS))
        def hold(self, key: int, district: str) -> None:
            self.tried("hold", self.wells.turn(f"k{key}", "kit", district=district))

        @rule(key=st.integers(0, 7), district=st.sampled_from(DISTRICTS))
        def submitted(self, key: int, district: str) -> None:
            self.submit(key, district)

        def submit(self, key: int, district: str) -> None:
            name = f"k{key}"
            taken = self.tried("submit", self.wells.send(name, district=district))
            if name in self.sent:
                assert taken is None or (taken.repeated and taken.id == self.sent[name][0])
            elif taken is not None:
                assert not taken.repeated
                self.sent[name] = (taken.id, district)

        @rule(district=st.sampled_from(DISTRICTS))
        def fill(self, district: str) -> None:
            for key in range(8, 12):
                self.submit(key, district)

        @rule()
        def one_goes_and_another_comes(self) -> None:
            """What takes several steps in their order to come about at all."""
            self.set(True, hold=0, waits=True)
            self.fill("millbeck")
            self.join()
            self.delete(0)
            self.offer()

        @rule(opens=st.booleans())
        def one_steps_back_and_returns(self, opens: bool) -> None:
            """Others take its place meanwhile, and one of them moves away."""
            self.set(True, hold=0)
            self.submit(0, "saltings")
            self.submit(1, "millbeck")
            self.handle_one("k0")
            self.fill("saltings")
            self.correct_one("k1", "saltings")
            self.handle_one("k0")
            self.set(opens, hold=0)
            self.correct_one("k8", "millbeck")
            self.handle_one("k0")

        @rule(number=st.integers(0, 10))
        def delete(self, number: int) -> None:
            if not self.sent:
                return
            name = sorted(self.sent)[number % len(self.sent)]
            id, _ = self.sent.pop(name)
            owner = scene.coordinator
            self.do(removing.remove(scene.context, owner, self.wells.id, id))
            self.freed.discard(id)
            DONE["delete"] += 1

        @rule(number=st.integers(0, 10), district=st.sampled_from(DISTRICTS))
        def correct(self, number: int, district: str) -> None:
            """Whoever sent an entry changes its district, while the gate is open and there is
            room."""
            if self.sent:
                self.correct_one(sorted(self.sent)[number % len(self.sent)], district)

        def correct_one(self, name: str, district: str) -> None:
            if name not in self.sent:
                return
            id, before = self.sent[name]
            arrival = seal(scene.context, self.wells.id, Arrival(came=Came(own=id)))
            self.number += 1
            sent = self.wells.send(f"c{self.number}", arrival, district=district)
            if self.tried("correct", sent) is not None:
                self.sent[name] = (id, district)
                DONE["moved"] += before != district and id not in self.freed

        @rule(number=st.integers(0, 10))
        def handle(self, number: int) -> None:
            """An entry gets the status that frees its place, or is as it was, if there is room."""
            if self.sent:
                self.handle_one(sorted(self.sent)[number % len(self.sent)])

        def handle_one(self, name: str) -> None:
            if name not in self.sent:
                return
            id, _ = self.sent[name]
            back = id in self.freed
            change = Change(status="" if back else "cancelled")
            owner = scene.coordinator
            (done,) = self.do(handling.handle(scene.context, owner, self.wells.id, [id], change))
            if done.wrong:
                assert back
                DONE["no room"] += 1
            elif back:
                self.freed.discard(id)
                DONE["back"] += 1
            else:
                self.freed.add(id)
                DONE["free"] += 1

        @rule(minutes=st.sampled_from([1, 9, 10, 70]))
        def expire(self, minutes: int) -> None:
            clock.move(timedelta(minutes=minutes))
            DONE["expire"] += bool(self.do(holding.let_go_over(scene.context)))

        @rule(
            is_open=st.sampled_from([True, True, False]),
            hold=st.sampled_from([0, 10]),
            waits=st.booleans(),
        )
        def turn(self, is_open: bool, hold: int, waits: bool) -> None:
            self.set(is_open, hold, waits)
            DONE["open" if is_open else "shut"] += 1

        @rule()
        def join(self) -> None:
            self.number += 1
            address = f"p{self.number}@example.org"
            asked = waiting.join(scene.context, self.wells.address, address, "en", f"{self.number}")
            self.tried("join", asked)

        @rule()
        def offer(self) -> None:
            DONE["offer"] += bool(self.do(waiting_list.offer_places(scene.context)))

        @invariant()
        def nothing_is_past_a_limit(self) -> None:
            counts = self.do(self.wells.counts())
            there = [one for one in self.sent.values() if one[0] not in self.freed]
            taken = Counter(district for _, district in there)
            assert counts.get(cell_of("all"), Count()).taken == len(there)
            for district in DISTRICTS:
                cell = cell_of("district", (district,))
                assert counts.get(cell, Count()).taken == taken[district]
            for cell, most in MOST.items():
                found = counts.get(cell, Count())
                assert found.taken + found.held <= most

        @invariant()
        def what_is_stored_is_what_was_acknowledged(self) -> None:
            found = self.do(entry_table.page(scene.context, scene.coordinator, self.wells.id))
            assert {one.id for one in found.entries} == {id for id, _ in self.sent.values()}
            assert found.opened.total == len(self.sent)

        def teardown(self) -> None:
            """Once everything is given back, nothing is left taken or held."""
            if not hasattr(self, "wells"):
                return
            for id, _ in self.sent.values():
                owner = scene.coordinator
                self.do(removing.remove(scene.context, owner, self.wells.id, id))
            clock.move(timedelta(hours=3))
            self.do(holding.let_go_over(scene.context))
            counts = self.do(self.wells.counts())
            assert all((one.taken, one.held) == (0, 0) for one in counts.values())

    return Places


@pytest.mark.long
async def test_any_order_of_what_can_happen(scene: Scene, clock: Clock) -> None:
    DONE.clear()
    kind = machine(scene, clock, asyncio.get_running_loop())
    asked = settings(
        max_examples=20,
        stateful_step_count=35,
        deadline=None,
        derandomize=True,
        suppress_health_check=list(HealthCheck),
    )
    await asyncio.to_thread(run, kind, settings=asked)
    wanted = (
        "hold",
        "hold, refused",
        "submit",
        "submit, full",
        "submit, refused",
        "delete",
        "expire",
        "open",
        "shut",
        "join",
        "offer",
        "free",
        "back",
        "no room",
        "correct",
        "correct, full",
        "correct, refused",
        "moved",
    )
    assert not [name for name in wanted if DONE[name] == 0]
