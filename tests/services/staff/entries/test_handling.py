"""Statuses and the archive: kept, noted on the trail, and what they free at the gate."""

from typing import Any
from uuid import UUID

import pytest

from jotgate.core.common.errors import Invalid, NotAllowed, Stale
from jotgate.core.gate.places import cell_of
from jotgate.core.handling import Handling
from jotgate.core.records.trail import TrailFilter
from jotgate.services.handling import Change
from jotgate.services.staff import trail
from jotgate.services.staff.accounts import people
from jotgate.services.staff.entries import entry_table, handling
from jotgate.services.staff.entries.entry_table import Asked
from tests.conftest import Clock
from tests.scenes import PASSWORD, Scene, published
from tests.services.public.kits import ALL, BY, Kits, kits, reason


@pytest.fixture
async def wells(scene: Scene, clock: Clock) -> Kits:
    id, address = await published(scene.context, scene.coordinator, kits())
    return Kits(scene, clock, id, address)


def statuses(*names: str) -> Handling:
    found = [{"key": name.lower(), "name": name} for name in names]
    return Handling.model_validate({"statuses": found})


async def save(wells: Kits, value: Handling, revision: int = 1) -> int:
    saved = await handling.save(wells.context, wells.scene.coordinator, wells.id, value, revision)
    return saved.saved.revision


async def handle(wells: Kits, id: UUID, **change: Any) -> str:
    owner = wells.scene.coordinator
    (done,) = await handling.handle(wells.context, owner, wells.id, [id], Change(**change))
    return done.wrong


async def test_a_status_frees_places_and_takes_them_again_while_there_are_some(wells: Kits) -> None:
    await save(wells, statuses("Sampled", "Cancelled"))
    more: Any = {"places": [{**ALL, "most": 1}, {**BY, "most": 1}], "freed_by": ["cancelled"]}
    await wells.set(**more)
    first = await wells.send("a")
    assert await handle(wells, first.id, status="sampled") == ""
    assert await reason(wells.send("b")) == "gone"
    assert await handle(wells, first.id, status="cancelled") == ""
    counts = await wells.counts()
    assert (counts[cell_of("all")].taken, counts[cell_of("district", ("saltings",))].taken) == (
        0,
        0,
    )
    second = await wells.send("b")
    assert await handle(wells, first.id, status="") == "No place is left for this entry by now."
    assert await handle(wells, second.id, status="cancelled") == ""
    assert await handle(wells, first.id, status="sampled") == ""
    assert (await wells.counts())[cell_of("all")].taken == 1


async def test_what_frees_places_can_be_set_later_and_is_counted_anew(wells: Kits) -> None:
    await save(wells, statuses("Cancelled"))
    await wells.set(places=[{**ALL, "most": 1}])
    sent = await wells.send("a")
    await handle(wells, sent.id, status="cancelled")
    assert await reason(wells.send("b")) == "gone"
    await wells.set(places=[{**ALL, "most": 1}], freed_by=["cancelled"])
    await wells.send("b")
    assert (await wells.counts())[cell_of("all")].taken == 1


@pytest.mark.parametrize("later", [True, False])
async def test_archived_entries_count_for_their_person_or_not(wells: Kits, later: bool) -> None:
    limit = {"most": 1, "known_by": ["device"]}
    await wells.set(per_person={**limit, "archived": later})
    first = await wells.send("a", device="x")
    await handle(wells, first.id, archived=True)
    if later:
        assert await reason(wells.send("b", device="x")) == "answered"
        await wells.set(per_person={**limit, "archived": False})
    await wells.send("b", device="x")
    await handle(wells, first.id, archived=False)
    await wells.set(per_person={"most": 3, "known_by": ["device"], "archived": False})
    await wells.send("c", device="x")
    assert await reason(wells.send("d", device="x")) == "answered"


async def test_a_status_that_is_used_stays(wells: Kits) -> None:
    revision = await save(wells, statuses("Sampled", "Cancelled", "Lost"))
    await wells.set(places=[{**ALL, "most": 9}], freed_by=["cancelled"])
    sent = await wells.send("a")
    await handle(wells, sent.id, status="sampled")
    for kept in ("Sampled", "Cancelled"):
        with pytest.raises(Invalid, match="Entries have this status, or the gate"):
            await save(wells, statuses(kept, "Lost"), revision)
    revision = await save(wells, statuses("Cancelled", "Sampled"), revision)
    with pytest.raises(Stale):
        await save(wells, statuses("Cancelled", "Sampled"), 1)
    with pytest.raises(Invalid, match="no such status"):
        await handle(wells, sent.id, status="lost")
    with pytest.raises(Invalid, match="cannot be saved"):
        await wells.set(freed_by=["lost"])


async def test_the_table_leaves_archived_ones_out_and_the_trail_has_all(wells: Kits) -> None:
    context, owner = wells.context, wells.scene.coordinator
    await save(wells, statuses("Sampled"))
    await wells.set()
    first, second = await wells.send("a"), await wells.send("b")
    await handle(wells, first.id, archived=True, status="sampled")
    await handle(wells, first.id, archived=True)
    found = await entry_table.page(context, owner, wells.id)
    assert [one.id for one in found.entries] == [second.id]
    whole = await entry_table.page(context, owner, wells.id, Asked(archived=True))
    assert [(one.id, one.status) for one in whole.entries] == [
        (second.id, ""),
        (first.id, "sampled"),
    ]
    marks, _ = await trail.page(context, owner, TrailFilter(entry=first.id), None)
    assert [(one.action, one.detail) for one in marks] == [
        ("entry_handled", {"number": first.number, "status": "sampled", "archived": True})
    ]


async def test_readers_change_nothing(wells: Kits) -> None:
    await wells.set()
    sent = await wells.send("a")
    reader = await people.add(wells.context, "r@example.org", "R", "reader", PASSWORD)
    with pytest.raises(NotAllowed):
        await handling.handle(wells.context, reader, wells.id, [sent.id], Change(archived=True))
    with pytest.raises(NotAllowed):
        await handling.save(wells.context, reader, wells.id, statuses("A"), 1)
    assert (await handling.find(wells.context, reader, wells.id)).saved.value == Handling()
