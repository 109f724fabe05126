"""The gate as visitors meet it: times, grace, places, people, the waiting list, the words."""

import asyncio
from dataclasses import replace
from datetime import timedelta
from typing import Any

import pytest
from sqlalchemy import text

from jotgate.core.common.errors import (
    Invalid,
    InvalidAnswers,
    NotProved,
    Shut,
    TooManyTries,
    TooQuick,
    Trapped,
)
from jotgate.core.gate.places import Count, cell_of
from jotgate.core.gate.robots import is_proved
from jotgate.core.gate.settings import Gate
from jotgate.core.walking.next_page import NextPage
from jotgate.services.public import answering, holding, started, submitting
from jotgate.services.public.answering import Answers, Turn
from jotgate.services.public.started import StartedAnswers
from jotgate.services.public.submitted import Submitted
from jotgate.services.staff import desk
from jotgate.services.staff.entries import removing
from jotgate.services.staff.gate import gate
from jotgate.services.staff.gate.gate_standing import standing
from jotgate.services.watching_gates import watch_gates
from tests.scenes import Scene, letters_asked, save
from tests.services.public.kits import ALL, BY, Kits, kits, reason


async def test_it_opens_and_shuts_by_its_times_with_nobody_there(wells: Kits) -> None:
    """It is 09:30 on 25 November 2026, a Wednesday, in UTC."""
    await wells.set(times={"windows": [{"opens": "2026-11-25T10:00", "shuts": "2026-11-25T12:00"}]})
    assert await reason(wells.come()) == "not_yet"
    assert await reason(wells.send("a")) == "not_yet"
    wells.clock.move(timedelta(minutes=30))
    assert (await wells.come()).decision.shuts is not None
    await wells.send("a")
    wells.clock.move(timedelta(hours=2))
    assert await reason(wells.come()) == "over"
    assert await reason(wells.send("b")) == "over"
    assert (await wells.send("a")).repeated


async def test_the_draft_may_be_in_another_time_zone_than_what_is_published(wells: Kits) -> None:
    """12:30 in Amman, where the draft is by now, is after the window; the public page is in UTC."""
    await wells.set(times={"windows": [{"opens": "2026-11-25T10:00", "shuts": "2026-11-25T12:00"}]})
    moved = kits().model_copy(update={"time_zone": "Asia/Amman"})
    await save(wells.context, wells.scene.coordinator, wells.id, moved, 1)
    listed = await desk.line(wells.context, wells.scene.coordinator, wells.id)
    assert (listed.brief.stands, listed.brief.changes) == ("closed", None)
    wells.clock.move(timedelta(minutes=30))
    assert (await wells.come()).decision.shuts is not None
    assert (await wells.send("a")).number == 1


async def test_who_began_before_it_shut_has_grace(wells: Kits) -> None:
    await wells.set(times={"windows": [{"shuts": "2026-11-25T12:00"}]}, grace=30)
    begun = await wells.come()
    wells.clock.move(timedelta(hours=2, minutes=45))
    assert await reason(wells.come()) == "over"
    assert await reason(wells.send("a")) == "over"
    visitor, _ = await answering.page(
        wells.context,
        wells.address,
        wells.answers("b", begun.arrival),
        Turn("onward", "start"),
    )
    assert visitor.decision.in_grace
    await wells.send("b", begun.arrival)
    wells.clock.move(timedelta(minutes=15))
    assert await reason(wells.send("c", begun.arrival)) == "over"


async def test_shut_by_hand_leaves_grace_and_held_does_not(wells: Kits) -> None:
    await wells.set(grace=10)
    begun = await wells.come()
    wells.clock.move(timedelta(minutes=1))
    await wells.set(state="shut", grace=10)
    await wells.send("a", begun.arrival)
    await wells.set(state="held", grace=10)
    assert await reason(wells.send("b", begun.arrival)) == "held"


async def test_another_process_that_knows_the_gate_as_it_was_lets_nobody_in(wells: Kits) -> None:
    """Each process has a memory of its own; what one saved holds for the next request of all."""
    other = replace(wells.context, states=type(wells.context.states)(10))
    elsewhere = replace(wells, scene=replace(wells.scene, context=other))
    await elsewhere.send("a")
    assert other.states.find(wells.id) is not None
    await wells.set(state="shut")
    assert await reason(elsewhere.send("b")) == "shut"
    await wells.set()
    await elsewhere.send("c")
    await wells.set(places=[{**ALL, "most": 2}])
    assert await reason(elsewhere.send("d")) == "gone"
    assert await wells.entries() == 2


async def test_places_in_all_and_by_option(wells: Kits) -> None:
    limits = [{"values": ["saltings"], "most": 2}]
    await wells.set(places=[{**ALL, "most": 4}, {**BY, "most": None, "limits": limits}])
    await wells.send("a")
    await wells.send("b")
    with pytest.raises(InvalidAnswers) as refused:
        await wells.send("c")
    assert refused.value.params["page"] == "kit"
    assert [(one.code, one.at) for one in refused.value.faults] == [("option_full", "district")]
    await wells.send("c", district="millbeck")
    await wells.send("d", district="millbeck")
    assert await reason(wells.send("e", district="millbeck")) == "gone"
    assert await reason(wells.come()) == "full"
    assert (await wells.send("d", district="millbeck")).repeated
    found = await wells.counts()
    assert found[cell_of("all")].taken == 4
    assert found[cell_of("district", ("saltings",))].taken == 2


async def test_places_by_combination_counted_by_a_number(wells: Kits) -> None:
    both = {"key": "both", "name": "Both", "by": ["district", "uses"], "most": 5}
    await wells.set(places=[{**both, "amount": "bottles"}])
    await wells.send("a", uses=["garden", "drinking"], bottles="3")
    with pytest.raises(InvalidAnswers) as refused:
        await wells.send("b", uses=["garden"], bottles="3")
    assert refused.value.faults[0].at == "uses"
    await wells.send("b", uses=["garden"], bottles="2")
    await wells.send("c", district="millbeck", uses=["garden"], bottles="5")
    _, following = await wells.turn("d", "start", district="saltings", bottles="1")
    assert isinstance(following, NextPage)


async def test_what_came_before_there_were_places_counts_too(wells: Kits) -> None:
    await wells.send("a")
    await wells.send("b", district="millbeck")
    await wells.set(places=[{**ALL, "most": 3}, {**BY, "most": 1}])
    found = await wells.counts()
    assert {one.taken for one in found.values()} == {1, 2}
    with pytest.raises(InvalidAnswers):
        await wells.send("c")


async def test_two_for_the_last_place(wells: Kits) -> None:
    await wells.set(places=[{**ALL, "most": 1}])
    found = await asyncio.gather(*(wells.send(f"k{n}") for n in range(12)), return_exceptions=True)
    assert sum(isinstance(one, Submitted) for one in found) == 1
    assert {type(one) for one in found} == {Submitted, Shut}


async def test_a_place_is_held_while_somebody_answers(wells: Kits) -> None:
    await wells.set(places=[{**ALL, "most": 1}], hold=10)
    visitor, _ = await wells.turn("a", "start")
    assert visitor.held_until == wells.clock.now() + timedelta(minutes=10)
    assert await reason(wells.send("b")) == "gone"
    assert await reason(wells.come()) == "full"
    so_far = StartedAnswers(1, "", "start", "a".rjust(20, "0"), {"name": "Ines"})
    await started.save(wells.context, wells.address, "a" * 64, so_far, "127.0.0.1")
    wells.clock.move(timedelta(minutes=4))
    visitor, _ = await wells.turn("a", "kit")
    assert visitor.held_until == wells.clock.now() + timedelta(minutes=6)
    await wells.send("a")
    assert (await wells.counts())[cell_of("all")] == Count(1, 0, 0)


async def test_a_place_that_is_held_no_more_goes_to_who_sends(wells: Kits) -> None:
    await wells.set(places=[{**ALL, "most": 1}], hold=10)
    await wells.turn("a", "start")
    wells.clock.move(timedelta(minutes=10))
    await wells.send("b")
    assert await reason(wells.send("a")) == "gone"


async def test_picks_that_change_move_what_is_held(wells: Kits) -> None:
    await wells.set(places=[{**BY, "most": 1}], hold=10)
    await wells.turn("a", "kit", district="saltings")
    await wells.turn("a", "kit", district="millbeck")
    found = await wells.counts()
    assert found[cell_of("district", ("saltings",))].held == 0
    assert found[cell_of("district", ("millbeck",))].held == 1
    _, following = await wells.turn("b", "kit", district="millbeck")
    assert following.failed["district"].code == "option_full"
    await wells.send("a", district="saltings")
    found = await wells.counts()
    assert [found[cell_of("district", (one,))] for one in ("saltings", "millbeck")] == [
        Count(1, 0, 0),
        Count(0, 0, 0),
    ]


async def test_two_requests_at_once_hold_no_place_for_good(wells: Kits) -> None:
    """The same submission from two tabs, with other picks: their places are other rows, so that
    neither waits for the other."""
    await wells.set(places=[{**BY, "most": 9}], hold=10)
    for n in range(12):
        await asyncio.gather(
            *(wells.turn(f"k{n}", "kit", district=one) for one in ("saltings", "millbeck"))
        )
    async with wells.context.engine.connect() as conn:
        held = (await conn.execute(text("select count(*) from held_places"))).scalar_one()
    assert sum(one.held for one in (await wells.counts()).values()) == held
    wells.clock.move(timedelta(minutes=11))
    await holding.let_go_over(wells.context)
    assert all(one.held == 0 for one in (await wells.counts()).values())


async def test_one_network_cannot_hold_all_places(wells: Kits) -> None:
    await wells.set(places=[{**ALL, "most": 100}], hold=10)
    for n in range(holding.HOLDS + 5):
        await wells.turn(f"k{n}", "start")
    assert (await wells.counts())[cell_of("all")].held == holding.HOLDS
    await wells.send("z")


async def test_a_deleted_entry_gives_its_place_back(wells: Kits) -> None:
    await wells.set(places=[{**ALL, "most": 1}], per_person={"most": 1, "known_by": ["device"]})
    sent = await wells.send("a", device="d1")
    owner = wells.scene.coordinator
    await removing.remove(wells.context, owner, wells.id, sent.id)
    assert (await wells.counts())[cell_of("all")].taken == 0
    await wells.send("b", device="d1")
    summary = (await standing(wells.context, owner, wells.id)).places[0]
    assert summary.cells[0].count.taken == 1


async def test_one_person_answers_so_often(wells: Kits) -> None:
    await wells.set(per_person={"most": 2, "days": 7, "pause": 2, "known_by": ["device"]})
    await wells.send("a", device="d1")
    assert await reason(wells.send("b", device="d1")) == "answered"
    await wells.send("c", device="d2")
    wells.clock.move(timedelta(hours=2))
    await wells.send("b", device="d1")
    wells.clock.move(timedelta(hours=3))
    with pytest.raises(Shut) as refused:
        await wells.send("d", device="d1")
    assert (
        refused.value.params["until"]
        == (wells.clock.now() - timedelta(hours=5) + timedelta(days=7)).isoformat()
    )
    wells.clock.move(timedelta(days=7))
    await wells.send("d", device="d1")


async def test_one_person_at_the_same_moment_from_many_tabs(wells: Kits) -> None:
    await wells.set(per_person={"most": 2, "known_by": ["device"]})
    sent = (wells.send(f"k{n}", device="d1") for n in range(10))
    found = await asyncio.gather(*sent, return_exceptions=True)
    assert sum(isinstance(one, Submitted) for one in found) == 2


async def test_what_robots_do_not_do(wells: Kits) -> None:
    await wells.set(robots={"proof": 8, "least": 20, "trap": True, "pace": 2})
    begun = (await wells.come()).arrival

    def proof_of(key: str) -> str:
        return next(str(n) for n in range(10_000) if is_proved(key, str(n), 8))

    proof = proof_of("k".rjust(20, "0"))

    def answers(key: str = "k", **seen: str) -> Answers:
        given = wells.answers(key, begun)
        return replace(given, seen=replace(given.seen, **seen))

    async def send(given: Answers) -> Submitted:
        key = given.seen.submission
        return await submitting.submit(wells.context, wells.address, given, key)

    with pytest.raises(TooQuick):
        await send(answers(proof=proof))
    wells.clock.move(timedelta(seconds=20))
    with pytest.raises(NotProved):
        await send(answers(proof="x"))
    with pytest.raises(Trapped):
        await send(answers(proof=proof, trap="buy"))
    await send(answers(proof=proof))
    for _ in range(3):
        assert (await send(answers(proof="lost on the way"))).repeated
    await send(answers("l", proof=proof_of("l".rjust(20, "0"))))
    with pytest.raises(TooManyTries):
        await send(answers("m", proof=proof_of("m".rjust(20, "0"))))


async def test_answers_on_their_way_are_saved_while_it_is_shut(wells: Kits) -> None:
    def so_far(name: str) -> StartedAnswers:
        return StartedAnswers(1, "", "start", "s" * 20, {"name": name})

    await started.save(wells.context, wells.address, "a" * 64, so_far("Ines"), "127.0.0.1")
    await wells.set(state="shut")
    await started.save(wells.context, wells.address, "a" * 64, so_far("Ines B"), "127.0.0.1")
    kept = await started.find(wells.context, wells.address, "a" * 64)
    assert kept.answers == {"name": "Ines B"}
    assert (
        await reason(
            started.save(wells.context, wells.address, "b" * 64, so_far("Jo"), "127.0.0.1")
        )
        == "shut"
    )


async def test_letters_when_it_shuts_by_itself_and_places_run_low(wells: Kits, post: Any) -> None:
    await wells.set(
        times={"windows": [{"shuts": "2026-11-25T12:00"}]},
        places=[{**ALL, "most": 3}],
        tell=["crew@example.org"],
        low=1,
    )
    await watch_gates(wells.context)
    await wells.send("a")
    await watch_gates(wells.context)
    assert await subjects(wells) == []
    await wells.send("b")
    for _ in range(3):
        await watch_gates(wells.context)
    assert await subjects(wells) == ["Test: 1 place left"]
    wells.clock.move(timedelta(hours=3))
    for _ in range(3):
        await watch_gates(wells.context)
    assert await subjects(wells) == ["Test: 1 place left", "Test shut by its times"]


async def subjects(wells: Kits) -> list[str]:
    return [one["subject"] for one in await letters_asked(wells.context)]


@pytest.mark.parametrize(
    ("wrong", "code"),
    [
        ({"places": [{**ALL, "by": ["name"], "most": 1}]}, "unknown_item"),
        ({"places": [{**ALL, "by": ["gone"], "most": 1}]}, "unknown_item"),
        ({"places": [{**ALL, "amount": "district", "most": 1}]}, "unknown_item"),
        ({"places": [{**ALL, "by": ["from"], "most": 1}]}, "no_options"),
        ({"places": [{**ALL, "by": ["spot", "district"], "most": 1}]}, "too_many"),
        ({"words": {"shut": {"en": "{name}"}}}, "unknown_slot"),
        ({"waiting": {"on": True}}, "no_places"),
    ],
)
async def test_what_cannot_be_set(wells: Kits, wrong: dict[str, Any], code: str) -> None:
    with pytest.raises(Invalid) as refused:
        await wells.set(**wrong)
    assert [one.code for one in refused.value.faults] == [code]


async def test_what_is_full_does_not_tell_of_restricted_answers(scene: Scene) -> None:
    value = Gate.model_validate(
        {"state": "open", "places": [{"key": "ill", "name": "Ill", "by": ["ill"], "most": 3}]}
    )
    with pytest.raises(Invalid) as refused:
        await gate.save(scene.context, scene.coordinator, scene.id, value, 2)
    assert refused.value.faults[0].code == "restricted"
