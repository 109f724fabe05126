"""The waiting list: joined, offered in order, left; whoever comes back is told their place."""

from datetime import timedelta
from typing import Any

import pytest

from jotgate.core.common.errors import Invalid, Shut
from jotgate.core.gate.places import Count, cell_of
from jotgate.jobs import tasks
from jotgate.services import waiting_list
from jotgate.services.arrivals import Entrance
from jotgate.services.gate import Seen
from jotgate.services.public import entering, waiting
from jotgate.services.public.waiting import Joined
from jotgate.services.staff.entries import removing
from jotgate.services.staff.gate import gate
from tests.scenes import letters_asked
from tests.services.public.kits import ALL, Kits, reason


async def joined(wells: Kits, name: str) -> Joined:
    address = f"{name}@example.org"
    return await waiting.join(wells.context, wells.address, address, "en", "127.0.0.1")


async def test_the_waiting_list_in_its_order(wells: Kits, post: Any) -> None:
    await wells.set(places=[{**ALL, "most": 2}], waiting={"on": True, "hours": 5})
    first, second = await wells.send("a"), await wells.send("b")
    with pytest.raises(Shut) as refused:
        await wells.come()
    assert refused.value.params["waiting"] == "yes"

    async def join(name: str) -> int:
        return (await joined(wells, name)).place

    assert [await join(name) for name in ("ada", "ben", "cy", "ada")] == [1, 2, 3, 1]
    owner = wells.scene.coordinator
    await removing.remove(wells.context, owner, wells.id, first.id)
    assert await reason(wells.send("x")) == "gone"
    assert await waiting_list.offer_places(wells.context) == 1
    assert await waiting_list.offer_places(wells.context) == 0
    await removing.remove(wells.context, owner, wells.id, second.id)
    await tasks.look_at_gates(wells.context)
    found = await gate.waiting_for(wells.context, owner, wells.id)
    assert [(one.email[:3], one.state) for one in found] == [
        ("ada", "offered"),
        ("ben", "offered"),
        ("cy@", "waiting"),
    ]
    assert await reason(wells.send("x")) == "gone"
    secrets = await offered(wells)
    visit = await wells.come(Entrance(way="p", secret=secrets[0]))
    await wells.send("c", visit.arrival)
    wells.clock.move(timedelta(hours=5))
    await tasks.look_at_gates(wells.context)
    found = await gate.waiting_for(wells.context, owner, wells.id)
    assert [(one.email[:3], one.state) for one in found] == [("cy@", "offered")]
    with pytest.raises(Exception, match="until a certain time"):
        await wells.come(Entrance(way="p", secret=secrets[1]))
    assert (await wells.counts())[cell_of("all")] == Count(1, 1, 0)


async def offered(wells: Kits) -> list[str]:
    """The secrets of the passes in the letters that wait, in their order."""
    bodies = [one["body"] for one in await letters_asked(wells.context)]
    return [one.split(f"/p/{wells.address}/")[1][:22] for one in bodies if "/p/" in one]


async def test_nobody_joins_where_there_are_places(wells: Kits) -> None:
    await wells.set(places=[{**ALL, "most": 2}], waiting={"on": True})
    with pytest.raises(Invalid, match="no waiting list"):
        await joined(wells, "a")


async def test_who_leaves_the_list_makes_room(wells: Kits) -> None:
    await wells.set(places=[{**ALL, "most": 0}], waiting={"on": True})
    await joined(wells, "a")
    (one,) = await gate.waiting_for(wells.context, wells.scene.coordinator, wells.id)
    await gate.take_off(wells.context, wells.scene.coordinator, wells.id, one.id)
    assert (await wells.counts())[cell_of("all")].waiting == 0


async def test_whoever_comes_back_is_told_their_place(wells: Kits) -> None:
    await wells.set(places=[{**ALL, "most": 1}], waiting={"on": True})
    sent = await wells.send("a")
    ada, ben = await joined(wells, "ada"), await joined(wells, "ben")

    async def told(secret: str) -> tuple[str, str]:
        seen = Seen(waits=secret)
        with pytest.raises(Shut) as refused:
            await entering.visit(wells.context, wells.address, "", seen=seen)
        return str(refused.value.params["reason"]), str(refused.value)

    assert await told(ben.secret) == (
        "waiting",
        "People before you: 1. We write to you when a place is free.",
    )
    assert (await told(ada.secret))[1].startswith("You are the first.")
    assert (await told("x" * 43))[0] == "full"
    again = await joined(wells, "ada")
    assert (again.place, (await told(ada.secret))[0]) == (1, "full")
    await removing.remove(wells.context, wells.scene.coordinator, wells.id, sent.id)
    await waiting_list.offer_places(wells.context)
    assert (await told(again.secret))[0] == "full"
    assert (await told(ben.secret))[1].startswith("You are the first.")
