"""The gate at the desk: many at once, its history, and what a timeline and a brief tell of it."""

from datetime import datetime, timedelta
from typing import Any

import pytest

from jotgate.core.common.errors import Invalid, NotAllowed, NotFound, Stale
from jotgate.core.gate.settings import Gate
from jotgate.services.staff import desk, questionnaires
from jotgate.services.staff.gate import at_the_gate, gate
from jotgate.services.staff.gate.at_the_gate import Supposed
from jotgate.services.staff.gate.gate_standing import standing
from tests.conftest import Clock
from tests.documents import well_check
from tests.scenes import Scene, published


async def set_gate(scene: Scene, **more: Any) -> None:
    saved = await gate.find(scene.context, scene.coordinator, scene.id)
    value = Gate.model_validate({**saved.value.model_dump(mode="json"), **more})
    await gate.save(scene.context, scene.coordinator, scene.id, value, saved.revision)


async def test_many_at_once_each_for_itself(scene: Scene) -> None:
    context, owner = scene.context, scene.coordinator
    draft = await questionnaires.add(context, owner, "Draft", None)
    other, _ = await published(context, owner, well_check())
    gone = context.ids.id()
    found = await gate.change_many(context, owner, [scene.id, draft, other, gone], "open", "")
    assert [bool(one.wrong) for one in found] == [False, True, False, True]
    found = await gate.change_many(context, owner, [scene.id, other], "held", "Rain")
    assert [one.wrong for one in found] == ["", ""]
    lines = {line.summary.id: line.brief.stands for line in await desk.desk(context, owner)}
    assert lines == {scene.id: "held", other: "held", draft: "shut"}


async def test_who_may_not_write_changes_nothing(scene: Scene) -> None:
    (one,) = await gate.change_many(scene.context, scene.reviewer, [scene.id], "shut", "")
    assert one.wrong
    assert (await gate.find(scene.context, scene.coordinator, scene.id)).value.state == "open"
    with pytest.raises(NotAllowed):
        await gate.save(scene.context, scene.reviewer, scene.id, Gate(state="shut"), 2)


async def test_a_save_over_a_newer_one(scene: Scene) -> None:
    await set_gate(scene, grace=5)
    with pytest.raises(Stale) as stale:
        await gate.save(scene.context, scene.coordinator, scene.id, Gate(state="shut"), 2)
    assert stale.value.params["current"].value.grace == 5


async def test_the_timeline_tells_who_changed_it_and_what_its_times_do(
    scene: Scene, clock: Clock
) -> None:
    """It is Wednesday, 25 November 2026, 09:30 in UTC."""
    start = clock.now()
    clock.move(timedelta(hours=1))
    await set_gate(scene, state="held", note="Rain")
    clock.move(timedelta(hours=1))
    await set_gate(scene, state="open", note="")
    clock.move(timedelta(hours=1))
    await set_gate(scene, times={"hours": [{"days": [3, 4], "opens": "08:00", "shuts": "14:00"}]})
    found = await standing(scene.context, scene.coordinator, scene.id)
    told = [(one.stands, one.since, one.by, one.note) for one in found.stretches[:7]]

    def at(day: int, hour: int) -> datetime:
        return start.replace(day=day, hour=hour, minute=0)

    assert told[1:] == [
        ("held", start + timedelta(hours=1), "Rowan", "Rain"),
        ("open", start + timedelta(hours=2), "Rowan", ""),
        ("closed", at(25, 14), "", ""),
        ("open", at(26, 8), "", ""),
        ("closed", at(26, 14), "", ""),
        ("open", start.replace(month=12, day=2, hour=8, minute=0), "", ""),
    ]
    assert told[0][0] == "open"
    assert (found.opening.open, found.opening.until) == (True, at(25, 14))


async def test_places_their_names_and_their_pace(scene: Scene, clock: Clock) -> None:
    await set_gate(
        scene,
        places=[
            {"key": "all", "name": "Kits", "most": 30},
            {"key": "source", "name": "By source", "by": ["source"], "most": 20},
        ],
    )
    for n in range(6):
        await scene.submit(f"k{n}", source="own" if n % 3 else "mains")
    found = await standing(scene.context, scene.coordinator, scene.id)
    total, divided = found.places
    assert [(cell.labels, cell.count.taken, cell.most) for cell in divided.cells] == [
        (("Own",), 4, 20),
        (("Mains",), 2, 20),
    ]
    assert total.cells[0].count.taken == 6
    assert total.forecast is not None
    assert total.forecast.low < total.forecast.at < total.forecast.high
    (line,) = await desk.desk(scene.context, scene.coordinator)
    assert (line.brief.stands, line.brief.taken, line.brief.most) == ("open", 6, 30)


async def test_a_contact_is_found_by_address_or_not_at_all(scene: Scene) -> None:
    with pytest.raises(NotFound):
        await at_the_gate.ask(
            scene.context, scene.coordinator, scene.id, Supposed(contact="x@example.org")
        )
    with pytest.raises(Invalid, match="day and a time"):
        await at_the_gate.ask(scene.context, scene.coordinator, scene.id, Supposed(moment="soon"))


async def test_every_reason_that_holds_is_told_in_its_order(scene: Scene) -> None:
    await set_gate(
        scene,
        state="shut",
        audience=[{"kind": "passes"}],
        places=[{"key": "all", "name": "Kits", "most": 0}],
        times={"windows": [{"opens": "2031-01-01T08:00"}]},
        words={"shut": {"en": "Ask {ask}."}},
    )
    found = await at_the_gate.ask(scene.context, scene.coordinator, scene.id, Supposed())
    assert [why.reason for why in found.decision.why] == [
        "shut",
        "not_yet",
        "not_invited",
        "full",
    ]
    assert found.words[0].detail.startswith("Ask ")
    assert found.words[1].detail == "It opens on 1 January 2031, 08:00."
    assert found.full == (("Kits",),)
