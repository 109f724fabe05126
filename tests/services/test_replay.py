"""Rules carried out on past entries once they were changed: nothing is done twice."""

from typing import Any

import pytest
from pydantic import TypeAdapter
from sqlalchemy import text

from jotgate.core.common.errors import Invalid
from jotgate.core.conditions.condition import Condition
from jotgate.core.handling import Handling
from jotgate.core.records.dispatch import RunKind
from jotgate.core.records.work import Work
from jotgate.core.registers.edits import Edit
from jotgate.core.table_views import TableView
from jotgate.services import doing, entry_rows
from jotgate.services.context import Context
from jotgate.services.dispatch import replay_work
from jotgate.services.staff.dispatch import dispatch_rules, replays
from jotgate.services.staff.dispatch.replays import Extent, Looked
from jotgate.services.staff.entries import handling
from jotgate.services.staff.entries.choosing import Choice
from jotgate.services.staff.registers import writing
from jotgate.services.staff.registers.writing import Writing
from tests.core.dispatch.rules import file, notice
from tests.register_rows import rows_of
from tests.scenes import Scene
from tests.services.dispatching import arrived, rows, ruled, send_all

EVERY = Extent()
CONDITION: TypeAdapter[Condition] = TypeAdapter(Condition)
ALL: tuple[RunKind, ...] = ("row", "notice", "call", "status")


async def looked(scene: Scene, extent: Extent = EVERY, before: int | None = None) -> Looked:
    return await replays.look(scene.context, scene.coordinator, scene.id, extent, before)


async def replayed(
    scene: Scene,
    kinds: tuple[RunKind, ...] = ALL,
    extent: Extent = EVERY,
    take_out: bool = False,
) -> Work:
    context, id = scene.context, scene.id
    revision = (await dispatch_rules.find(context, scene.coordinator, id)).revision
    asked = await replays.ask(context, scene.coordinator, id, extent, kinds, take_out, revision)
    await doing.do(context, asked.id)
    return await replays.progress(context, scene.coordinator, id, asked.id)


async def letters(context: Context) -> list[str]:
    query = (
        "select detail->>'subject' from runs where kind = 'notice' "
        "order by round, changed, position"
    )
    async with context.engine.connect() as conn:
        return list((await conn.execute(text(query))).scalars())


async def test_a_mended_rule_brings_the_rows_of_before_up_to_date(
    scene: Scene, context: Context
) -> None:
    """The drinkers were forgotten; no row stands twice after that, and no letter goes out again."""
    id = scene.rest.id
    await ruled(scene, otherwise=(file(id, name="name"), notice(subject="New")))
    for key, number in (("a", "2"), ("b", "3")):
        await arrived(scene, key, drinkers=number)
    await ruled(
        scene, otherwise=(file(id, name="name", drinkers="drinkers"), notice(subject="New"))
    )
    shown = await looked(scene)
    assert [one.number for one in shown.found] == [2, 1]
    assert [moved.after for one in shown.found for at in one.todo for moved in at.rows] == [
        {"drinkers": "3"},
        {"drinkers": "2"},
    ]
    assert await rows(scene, scene.rest) == [{"name": "Ines"}] * 2
    ended = await replayed(scene)
    assert (ended.state, ended.result) == ("done", {"entries": 2, "stopped": False, "row": 2})
    assert [row["drinkers"] for row in await rows(scene, scene.rest)] == ["2", "3"]
    assert await letters(context) == ["New", "New"]
    assert (await looked(scene)).found == ()
    assert (await replayed(scene)).result["entries"] == 0


async def test_what_goes_elsewhere_is_filed_there_and_taken_out_where_it_was(
    scene: Scene, context: Context
) -> None:
    await ruled(scene, otherwise=(file(scene.rest.id, name="name"),))
    await arrived(scene, "a")
    await ruled(scene, otherwise=(file(scene.saltings.id, name="name"),))
    (found,) = (await looked(scene)).found
    assert [at for at, _ in found.rows] == [scene.rest.id]
    await replayed(scene)
    assert await rows(scene, scene.saltings) == [{"name": "Ines"}]
    assert await rows(scene, scene.rest) == [{"name": "Ines"}]
    await replayed(scene, take_out=True)
    assert await rows(scene, scene.saltings) == [{"name": "Ines"}]
    assert await rows(scene, scene.rest) == []


async def test_only_the_kinds_that_were_chosen_are_carried_out(
    scene: Scene, context: Context
) -> None:
    await ruled(scene, otherwise=(file(scene.rest.id, name="name"), notice(subject="One")))
    await arrived(scene, "a")
    await ruled(
        scene,
        otherwise=(
            file(scene.rest.id, name="name", drinkers="drinkers"),
            notice(subject="Two"),
        ),
    )
    await replayed(scene, kinds=("row",))
    assert await letters(context) == ["One"]
    await replayed(scene, kinds=("notice",))
    await replayed(scene, kinds=("notice",))
    assert await letters(context) == ["One", "Two"]
    assert await send_all(context) == 2


async def test_what_people_changed_by_hand_stays(scene: Scene, context: Context) -> None:
    await ruled(scene, otherwise=(file(scene.rest.id, name="name"),))
    await arrived(scene, "a", drinkers="2")
    await arrived(scene, "b", drinkers="3")
    newer, older = await rows_of(context, scene.coordinator, scene.rest.id)
    edits = [Edit(newer.id, "drinkers", "9", None)]
    await writing.write(context, scene.coordinator, scene.rest.id, Writing(edits, [], False))
    await writing.remove(context, scene.coordinator, scene.rest.id, [older.id], back=False)
    await ruled(scene, otherwise=(file(scene.rest.id, name="name", drinkers="drinkers"),))
    assert (await looked(scene)).found == ()
    await replayed(scene)
    assert await rows(scene, scene.rest) == [{"name": "Ines", "drinkers": "9"}]


async def test_entries_are_chosen_by_number_or_by_a_condition(
    scene: Scene, context: Context
) -> None:
    await ruled(scene)
    for key, number in (("a", "2"), ("b", "7"), ("c", "9")):
        await arrived(scene, key, drinkers=number)
    await ruled(scene, otherwise=(file(scene.rest.id, drinkers="drinkers"),))
    many = Extent(
        when=CONDITION.validate_python({"op": "at_least", "item": "drinkers", "value": "7"})
    )
    assert [one.number for one in (await looked(scene, many)).found] == [3, 2]
    await replayed(scene, extent=Extent(Choice((1,))))
    assert await rows(scene, scene.rest) == [{"drinkers": "2"}]
    await replayed(scene, extent=many)
    assert [row["drinkers"] for row in await rows(scene, scene.rest)] == ["2", "9", "7"]
    wrong = Extent(when=CONDITION.validate_python({"op": "answered", "item": "health"}))
    with pytest.raises(Invalid) as told:
        await looked(scene, wrong)
    assert told.value.faults[0].code in ("restricted", "no_item")


async def test_entries_are_chosen_in_the_table(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch
) -> None:
    """All that a view shows but some, over several answers and steps of the work."""
    monkeypatch.setattr(replays, "AT_ONCE", 2)
    monkeypatch.setattr(replay_work, "AT_ONCE", 2)
    await ruled(scene)
    for n, number in enumerate(("7", "2", "8", "9", "3", "7", "8")):
        await arrived(scene, f"k{n}", drinkers=number)
    await entry_rows.catch_up_with(context, scene.id)
    await ruled(scene, otherwise=(file(scene.rest.id, drinkers="drinkers"),))
    many = {"op": "at_least", "item": "drinkers", "value": "7"}
    chosen = Extent(Choice((4,), all=True, view=TableView.model_validate({"filter": many})))
    shown, before = [], None
    while (at := await looked(scene, chosen, before)).next:
        shown += [one.number for one in at.found]
        before = at.next
    assert [*shown, *(one.number for one in at.found)] == [7, 6, 3, 1]
    ended = await replayed(scene, extent=chosen)
    assert (ended.total, ended.result["entries"]) == (4, 4)
    assert [row["drinkers"] for row in await rows(scene, scene.rest)] == ["8", "7", "8", "7"]
    await replayed(scene, extent=Extent(Choice((5, 4, 99))))
    assert len(await rows(scene, scene.rest)) == 6
    none = Choice(all=True, view=TableView(search="nothing like it"))
    with pytest.raises(Invalid, match="No entry is chosen"):
        await replayed(scene, extent=Extent(none))
    monkeypatch.setattr(replays, "MOST_CHOSEN", 3)
    with pytest.raises(Invalid, match="at most 3"):
        await replayed(scene, extent=chosen)


async def test_what_failed_is_done_by_a_replay_and_waits_for_nobody(
    scene: Scene, context: Context
) -> None:
    """An act whose row could not be found: once the rule adds one, the failed run is closed."""
    matching = {"columns": ["name"], "none": "ask", "several": "ask"}
    await ruled(scene, otherwise=(file(scene.rest.id, {"matching": matching}, name="name"),))
    await arrived(scene, "a")
    await ruled(
        scene,
        otherwise=(file(scene.rest.id, {"matching": {**matching, "none": "add"}}, name="name"),),
    )
    await replayed(scene)
    assert await rows(scene, scene.rest) == [{"name": "Ines"}]
    async with context.engine.connect() as conn:
        found = await conn.execute(text("select state, round from runs order by round"))
        assert [tuple(one) for one in found] == [("skipped", 0), ("done", 1)]


async def test_a_row_that_is_left_alone_by_the_rule_is_not_left_to_do(
    scene: Scene, context: Context
) -> None:
    """Nor is one that another entry brought up to date already; one that would change is."""
    matching = {"columns": ["name"], "none": "leave", "several": "ask"}
    await ruled(scene)
    await arrived(scene, "a", drinkers="2")
    by_name = file(scene.rest.id, {"matching": matching}, name="name", drinkers="drinkers")
    await ruled(scene, otherwise=(by_name,))
    assert (await looked(scene)).found == ()
    added = Writing([], [{"name": "Ines", "drinkers": "2"}], False)
    (row,) = (await writing.write(context, scene.coordinator, scene.rest.id, added)).rows
    assert (await looked(scene)).found == ()
    edits = [Edit(row.id, "drinkers", "3", "2")]
    await writing.write(context, scene.coordinator, scene.rest.id, Writing(edits, [], False))
    assert len((await looked(scene)).found) == 1
    await replayed(scene)
    assert await rows(scene, scene.rest) == [{"name": "Ines", "drinkers": "2"}]


async def test_an_act_that_cannot_be_done_is_told_once(scene: Scene, context: Context) -> None:
    await ruled(scene)
    await arrived(scene, "a")
    matching = {"columns": ["name"], "none": "ask", "several": "ask"}
    await ruled(scene, otherwise=(file(scene.rest.id, {"matching": matching}, name="name"),))
    for _ in range(2):
        await replayed(scene)
    async with context.engine.connect() as conn:
        states = (await conn.execute(text("select state from runs order by round"))).scalars()
        assert list(states) == ["failed"]


async def test_a_replay_can_be_stopped_and_goes_by_one_set_of_rules(
    scene: Scene, context: Context
) -> None:
    await ruled(scene)
    for number in range(25):
        await arrived(scene, str(number))
    await ruled(scene, otherwise=(file(scene.rest.id, name="name"),))
    revision = (await dispatch_rules.find(context, scene.coordinator, scene.id)).revision
    asked = await replays.ask(context, scene.coordinator, scene.id, Extent(), ALL, False, revision)
    await replays.stop(context, scene.coordinator, scene.id, asked.id)
    await doing.do(context, asked.id)
    ended = await replays.progress(context, scene.coordinator, scene.id, asked.id)
    assert (ended.result["stopped"], ended.result["entries"]) == (True, 20)
    other = await replays.ask(context, scene.coordinator, scene.id, Extent(), ALL, False, revision)
    await ruled(scene, otherwise=(file(scene.saltings.id, name="name"),))
    await doing.do(context, other.id)
    failed = await replays.progress(context, scene.coordinator, scene.id, other.id)
    assert (failed.state, failed.result["faults"][0]["code"]) == ("failed", "changed")
    assert len(await rows(scene, scene.rest)) == 20
    with pytest.raises(Invalid):
        await replays.ask(context, scene.coordinator, scene.id, Extent(), ALL, False, revision)


CHOICES: list[tuple[Any, ...]] = [
    (),
    ("rest",),
    ("rest", "saltings"),
    ("notice two", "rest drinkers", "notice one"),
    ("rest", "rest drinkers", "status", "notice one", "notice one"),
]


def acts_of(scene: Scene, choice: tuple[str, ...]) -> tuple[Any, ...]:
    def act(said: str) -> Any:
        name, _, more = said.partition(" ")
        if name == "notice":
            return notice(subject=more)
        if name == "status":
            return {"kind": "status", "status": "received"}
        id = scene.rest.id if name == "rest" else scene.saltings.id
        return file(id, name="name", drinkers="drinkers") if more else file(id, name="name")

    return tuple(act(one) for one in choice)


@pytest.mark.parametrize("first", CHOICES)
async def test_a_replay_leads_to_what_the_rules_say_and_a_second_one_to_nothing(
    scene: Scene, context: Context, first: tuple[str, ...]
) -> None:
    """From any of these rules over any other: rows and letters are those of the rules in force,
    with letters that were sent before among them, and nothing is left to do."""
    statuses = Handling.model_validate({"statuses": [{"key": "received", "name": "Received"}]})
    await handling.save(context, scene.coordinator, scene.id, statuses, 1)
    sent: set[str] = set()
    for second in CHOICES:
        await ruled(scene, otherwise=acts_of(scene, first))
        await replayed(scene, take_out=True)
        if second == CHOICES[0]:
            await arrived(scene, "a", drinkers="4")
        await ruled(scene, otherwise=acts_of(scene, second))
        await replayed(scene, take_out=True)
        wanted: dict[str, list[dict[str, str]]] = {"rest": [], "saltings": []}
        for said in second:
            name, _, more = said.partition(" ")
            if name in wanted:
                wanted[name].append({"name": "Ines", **({"drinkers": "4"} if more else {})})
            elif name == "notice":
                sent.add(more)
        for name, register in (("rest", scene.rest), ("saltings", scene.saltings)):
            names = [row["name"] for row in await rows(scene, register)]
            assert names == ["Ines"] * len(wanted[name]), (first, second)
        assert sent <= set(await letters(context))
        assert (await looked(scene)).found == ()
        assert (await replayed(scene, take_out=True)).result["entries"] == 0
