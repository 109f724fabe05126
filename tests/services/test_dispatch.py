"""What the worker does with an entry, each effect once."""

import asyncio
from dataclasses import replace
from datetime import timedelta
from typing import Any
from uuid import UUID

import jsonschema
import orjson
import pytest
from sqlalchemy import text

from jotgate.adapters.calls import HttpCalls
from jotgate.core.common.errors import AlreadyThere, Invalid, NotFound
from jotgate.core.dispatch.call_body import SCHEMA as CALL_SCHEMA
from jotgate.core.dispatch.due import TRIES
from jotgate.core.dispatch.effects import NoticePlanned
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.handling import Handling
from jotgate.core.records.dispatch import Run
from jotgate.core.registers.columns import Register
from jotgate.core.signed_calls import written
from jotgate.ports.calls import Answered, Call, CallFailed
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.dispatch.sending import call_due, send_due
from jotgate.services.staff import (
    dispatch_changes,
    dispatch_rules,
    entries,
    handling,
    hooks,
    registers,
    rehearsing,
    removing,
    runs,
)
from tests.conftest import Clock, Post
from tests.core.dispatch.rules import composed, file, notice, rule
from tests.scenes import SECRET, Scene, rules


async def newest(scene: Scene) -> UUID:
    return (await entries.page(scene.context, scene.coordinator, scene.id, None)).entries[0].id


async def done(scene: Scene) -> tuple[Run, ...]:
    id = await newest(scene)
    return (await entries.read(scene.context, scene.coordinator, scene.id, id)).runs


async def counted(scene: Scene) -> dict[str, int]:
    """How many rows each register has."""
    lines = await registers.every(scene.context, scene.coordinator)
    return {line.register.name: line.rows for line in lines}


async def rows(scene: Scene, register: Register) -> list[dict[str, Any]]:
    """The cells of each row, the oldest first."""
    found = await registers.page(scene.context, scene.coordinator, register.id, None)
    return [row.values for row in reversed(found.rows)]


async def ruled(scene: Scene, *made: Any, otherwise: tuple[Any, ...] = ()) -> None:
    """Save these rules."""
    saved = await dispatch_rules.find(scene.context, scene.coordinator, scene.id)
    value = Dispatch.model_validate({"rules": made, "otherwise": otherwise})
    await dispatch_rules.save(scene.context, scene.coordinator, scene.id, value, saved.revision)


async def arrived(scene: Scene, key: str, link: str = "", **given: Any) -> UUID:
    """An entry that was dispatched."""
    taken = await scene.submit(key, link, **given)
    await dispatch_entry(scene.context, scene.id, taken.id)
    return taken.id


async def send_all(context: Context) -> int:
    count = 0
    while await send_due(context):
        count += 1
    return count


async def test_filed_by_the_carried_value_with_a_notice(
    scene: Scene, context: Context, post: Post
) -> None:
    await arrived(scene, "a", "district=saltings", drinkers="4", ill=True, illness=SECRET)
    assert await rows(scene, scene.saltings) == [{"name": "Ines", "drinkers": "4"}]
    (row, letter) = sorted(await done(scene), key=lambda run: run.position)
    assert (row.kind, row.state, letter.kind, letter.state) == ("row", "done", "notice", "waiting")
    assert await send_all(context) == 1
    assert await send_all(context) == 0
    (sent,) = post.letters
    assert sent.subject == "New from Ines"
    assert sent.body == "Ines in Saltings: Own, 4 people"
    assert "<p>Ines in Saltings: Own, 4 people</p>" in sent.html
    assert SECRET not in str(sent)
    assert {run.state for run in await done(scene)} == {"done"}


async def test_otherwise_to_the_other_register(scene: Scene, context: Context, post: Post) -> None:
    await arrived(scene, "a", "district=millbeck")
    assert await counted(scene) == {"Saltings": 0, "Rest": 1}
    assert await send_all(context) == 0
    assert post.letters == []


async def test_done_twice_or_at_once_it_takes_effect_once(
    scene: Scene, context: Context, post: Post
) -> None:
    await scene.submit("a", "district=saltings")
    id = await newest(scene)
    tries = (dispatch_entry(context, scene.id, id) for _ in range(6))
    outcomes = await asyncio.gather(*tries, return_exceptions=True)
    assert all(outcome is None or isinstance(outcome, AlreadyThere) for outcome in outcomes)
    await dispatch_entry(context, scene.id, id)
    assert await counted(scene) == {"Saltings": 1, "Rest": 0}
    sent = await asyncio.gather(*(send_all(context) for _ in range(4)))
    assert sum(sent) == 1
    assert len(post.letters) == 1


async def test_a_failed_notice_is_told_and_tried_again(
    scene: Scene, context: Context, post: Post, clock: Clock
) -> None:
    await arrived(scene, "a", "district=saltings")
    post.failures = 2
    for tries in (1, 2):
        assert await send_all(context) == 1
        failing = next(run for run in await done(scene) if run.kind == "notice")
        assert (failing.state, failing.tries) == ("failing", tries)
        assert failing.last_error == "451 try again later"
        assert failing.next_try is not None
        assert failing.next_try > clock.now()
        assert await send_all(context) == 0
        clock.at = failing.next_try
    await send_all(context)
    (letter,) = post.letters
    assert letter.id == str(failing.id)


async def test_what_is_never_taken_waits_for_somebody_and_is_done_once_told_to(
    scene: Scene, context: Context, post: Post, clock: Clock
) -> None:
    await arrived(scene, "a", "district=saltings")
    post.failures = TRIES
    for _ in range(TRIES):
        await send_all(context)
        clock.move(timedelta(hours=3))
    assert await send_all(context) == 0
    page = await runs.page(context, scene.coordinator, scene.id, ["failed"], None)
    ((failed, number),) = page.runs
    assert (failed.tries, number, page.counts) == (TRIES, 1, {"failed": 1})
    (changed,) = await runs.again(context, scene.coordinator, scene.id, [failed.id])
    assert changed.wrong == ""
    assert await send_all(context) == 1
    assert len(post.letters) == 1
    (changed,) = await runs.again(context, scene.coordinator, scene.id, [failed.id])
    assert changed.wrong == "This was done already, or left out."
    assert await send_all(context) == 0


async def test_an_act_that_cannot_be_done_stops_no_other_and_is_done_later(
    scene: Scene, context: Context
) -> None:
    text = composed("{name}")
    await ruled(
        scene,
        rule("number", None, file(scene.rest.id, drinkers=text), catches=False),
        rule("name", None, file(scene.rest.id, name="name"), catches=False),
    )
    id = await arrived(scene, "a")
    assert await rows(scene, scene.rest) == [{"name": "Ines"}]
    failed = next(run for run in await done(scene) if run.state == "failed")
    assert (failed.rule, failed.entry_id) == ("number", id)
    assert "Write a number" in str(failed.last_error)
    same = await runs.again(context, scene.coordinator, scene.id, [failed.id])
    assert [one.wrong for one in same] == [""]
    assert next(run for run in await done(scene) if run.rule == "number").state == "failed"
    await ruled(
        scene,
        rule("number", None, file(scene.rest.id, name=text), catches=False),
        rule("name", None, file(scene.rest.id, name="name"), catches=False),
    )
    await runs.again(context, scene.coordinator, scene.id, [failed.id])
    assert await rows(scene, scene.rest) == [{"name": "Ines"}] * 2
    (changed,) = await runs.again(context, scene.coordinator, scene.id, [failed.id])
    assert changed.wrong
    assert len(await rows(scene, scene.rest)) == 2


async def test_what_is_skipped_is_left_with_its_reason(
    scene: Scene, context: Context, post: Post
) -> None:
    await arrived(scene, "a", "district=saltings")
    letter = next(run for run in await done(scene) if run.kind == "notice")
    await runs.skip(context, scene.coordinator, scene.id, [letter.id], "told by phone")
    assert await send_all(context) == 0
    skipped = next(run for run in await done(scene) if run.kind == "notice")
    assert (skipped.state, skipped.last_error) == ("skipped", "told by phone")
    assert post.letters == []


async def test_nothing_is_sent_while_that_is_paused(
    scene: Scene, context: Context, post: Post
) -> None:
    await runs.pause(context, scene.coordinator, scene.id, True)
    await arrived(scene, "a", "district=saltings")
    assert await send_all(context) == 0
    assert await rows(scene, scene.saltings) == [{"name": "Ines"}]
    page = await runs.page(context, scene.coordinator, scene.id, ["waiting"], None)
    assert page.paused is not None
    assert page.counts == {"waiting": 1}
    await runs.pause(context, scene.coordinator, scene.id, False)
    assert await send_all(context) == 1
    assert len(post.letters) == 1


async def test_letters_that_are_gathered_go_out_as_one(
    scene: Scene, context: Context, post: Post, clock: Clock
) -> None:
    await ruled(scene, otherwise=(notice("From {name}", "Entry", gathered="hourly"),))
    for key in "abc":
        await arrived(scene, key)
    assert await send_all(context) == 0
    clock.move(timedelta(hours=1))
    assert await send_all(context) == 1
    (letter,) = post.letters
    assert letter.body.count("From Ines") == 3
    assert letter.html.count("From Ines") == 3
    assert {run.state for run in await done(scene)} == {"done"}


NAMED = {"matching": {"columns": ["name"], "none": "add", "several": "ask"}}


async def test_a_row_is_brought_up_to_date(scene: Scene, context: Context) -> None:
    """Only what differs is changed, and noted; two that come at once do not both add one."""
    act = file(scene.rest.id, NAMED, name="name", drinkers="drinkers")
    await ruled(scene, otherwise=(act,))
    first = [await scene.submit(key, drinkers="2") for key in "ab"]
    await asyncio.gather(*(dispatch_entry(context, scene.id, one.id) for one in first))
    assert await rows(scene, scene.rest) == [{"name": "Ines", "drinkers": "2"}]
    taken = await scene.submit("c", drinkers="5")
    tried = Dispatch.model_validate({"otherwise": [act]})
    shown = await rehearsing.rehearse(context, scene.coordinator, scene.id, tried, 3)
    ((moved,),) = (one.rows for one in shown.effects)
    assert (moved.before, moved.after) == ({"drinkers": "2"}, {"drinkers": "5"})
    await dispatch_entry(context, scene.id, taken.id)
    assert await rows(scene, scene.rest) == [{"name": "Ines", "drinkers": "5"}]
    async with context.engine.connect() as conn:
        query = 'select "before", "after", entry_number from row_changes order by id'
        noted = [tuple(one) for one in await conn.execute(text(query))]
    assert noted[1:] == [({"drinkers": "2"}, {"drinkers": "5"}, 3)]
    assert noted[0][:2] == (None, {"name": "Ines", "drinkers": "2"})


@pytest.mark.parametrize(
    ("several", "wanted"),
    [
        ("first", ["9", "2"]),
        ("last", ["1", "9"]),
        ("all", ["9", "9"]),
        ("add", ["1", "2", "9"]),
        ("leave", ["1", "2"]),
        ("ask", ["1", "2"]),
    ],
)
async def test_several_rows_that_are_alike(
    scene: Scene, context: Context, several: str, wanted: list[str]
) -> None:
    plain = file(scene.rest.id, name="name", drinkers="drinkers")
    await ruled(scene, otherwise=(plain,))
    for key, number in (("a", "1"), ("b", "2")):
        await arrived(scene, key, drinkers=number)
    matching = {"matching": {"columns": ["name"], "none": "ask", "several": several}}
    await ruled(scene, otherwise=({**plain, **matching},))
    await arrived(scene, "c", drinkers="9")
    assert [row["drinkers"] for row in await rows(scene, scene.rest)] == wanted
    (run,) = await done(scene)
    states = {"ask": "failed", "leave": "left_out"}
    assert run.state == states.get(several, "done")


@pytest.mark.parametrize(("none", "state"), [("ask", "failed"), ("leave", "left_out")])
async def test_no_row_that_is_alike(scene: Scene, context: Context, none: str, state: str) -> None:
    matching = {"matching": {"columns": ["name"], "none": none, "several": "ask"}}
    await ruled(scene, otherwise=(file(scene.rest.id, matching, name="name"),))
    await arrived(scene, "a")
    assert await rows(scene, scene.rest) == []
    (run,) = await done(scene)
    assert run.state == state


async def test_a_status_is_set_and_one_that_is_gone_is_told(scene: Scene, context: Context) -> None:
    statuses = Handling.model_validate({"statuses": [{"key": "received", "name": "Received"}]})
    await handling.save(context, scene.coordinator, scene.id, statuses, 1)
    await ruled(scene, otherwise=({"kind": "status", "status": "received"},))
    with pytest.raises(Invalid):
        await handling.save(context, scene.coordinator, scene.id, Handling(), 2)
    await arrived(scene, "a")
    read = await entries.read(context, scene.coordinator, scene.id, await newest(scene))
    assert read.entry.status == "received"
    assert [run.state for run in read.runs] == ["done"]


async def test_rehearsal_shows_and_does_nothing(scene: Scene, context: Context, post: Post) -> None:
    with pytest.raises(NotFound):
        await rehearsing.rehearse(context, scene.coordinator, scene.id, Dispatch(), None)
    await scene.submit("a", "district=saltings")
    await scene.submit("b")
    tried = rules(scene.saltings, scene.rest)
    found = await rehearsing.rehearse(context, scene.coordinator, scene.id, tried, 1)
    assert (found.entry.number, found.planned.caught_by) == (1, "saltings")
    assert any(isinstance(one.effect, NoticePlanned) for one in found.effects)
    found = await rehearsing.rehearse(context, scene.coordinator, scene.id, tried, None)
    assert (found.entry.number, found.planned.caught_by) == (2, None)
    assert set((await counted(scene)).values()) == {0}
    assert await send_all(context) == 0
    assert post.letters == []


async def test_rules_that_cannot_work_are_refused(scene: Scene, context: Context) -> None:
    wrong = Dispatch.model_validate({"otherwise": [notice("{illness}")]})
    with pytest.raises(Invalid) as refused:
        await dispatch_rules.save(context, scene.coordinator, scene.id, wrong, 2)
    assert [fault.code for fault in refused.value.faults] == ["restricted"]


async def called(scene: Scene, address: str) -> Any:
    """A system at an address, that every entry is told to."""
    made = await hooks.add(scene.context, scene.coordinator, scene.id, "Lab", address)
    await ruled(scene, otherwise=({"kind": "call", "hook_id": str(made.hook.id)},))
    return made


async def call_all(context: Context) -> int:
    count = 0
    while await call_due(context):
        count += 1
    return count


class OtherSystem:
    """Takes calls, or refuses as many as it is told to."""

    def __init__(self) -> None:
        self.calls: list[Call] = []
        self.failures = 0

    def fault_of(self, address: str) -> str:
        return HttpCalls(private=True).fault_of(address)

    async def send(self, call: Call) -> Answered:
        self.calls.append(call)
        if self.failures:
            self.failures -= 1
            raise CallFailed("It answered with status 503.", Answered(503, "later\0"))
        return Answered(200, "thank you")


async def test_another_system_is_called_with_what_is_open(
    scene: Scene, context: Context, clock: Clock
) -> None:
    """The body is as its schema says; the same id each time; both secrets while both are good."""
    other = OtherSystem()
    context = replace(context, calls=other)
    made = await called(scene, "https://lab.example.org/calls")
    await arrived(scene, "a", "district=saltings", drinkers="4", ill=True, illness=SECRET)
    other.failures = 1
    assert await call_all(context) == 1
    failing = (await done(scene))[0]
    assert (failing.state, failing.last_error) == ("failing", "It answered with status 503.")
    assert failing.detail["answered"] == {"status": 503, "words": "later\ufffd"}
    newer = await hooks.rotate(scene.context, scene.coordinator, scene.id, made.hook.id)
    clock.move(timedelta(minutes=1))
    assert await call_all(context) == 1
    assert (await done(scene))[0].state == "done"
    first, second = other.calls
    assert first.id == second.id == str(failing.id)
    assert [written(one) for one in second.secrets] == [newer.secret, made.secret]
    body = orjson.loads(second.body)
    jsonschema.Draft202012Validator(CALL_SCHEMA).validate(body)
    assert body["data"]["answers"]["drinkers"] == "4"
    assert SECRET not in second.body.decode()
    clock.move(timedelta(hours=25))
    await arrived(scene, "b")
    await call_all(context)
    assert [written(one) for one in other.calls[-1].secrets] == [newer.secret]


async def test_a_system_that_is_called_stays_until_no_rule_does(
    scene: Scene, context: Context
) -> None:
    made = await called(scene, "https://lab.example.org/calls")
    with pytest.raises(Invalid, match="A rule calls it"):
        await hooks.remove(context, scene.coordinator, scene.id, made.hook.id)
    await ruled(scene, otherwise=(notice("x"),))
    await hooks.remove(context, scene.coordinator, scene.id, made.hook.id)
    assert await hooks.every(context, scene.coordinator, scene.id) == {}
    with pytest.raises(NotFound):
        await hooks.rotate(context, scene.coordinator, scene.id, made.hook.id)


@pytest.mark.parametrize(
    ("name", "address", "code"),
    [("Lab", "https://x.example.org/", "taken"), ("New", "ftp://x.example.org/", "no_address")],
)
async def test_a_name_is_taken_once_and_an_address_has_to_be_one(
    scene: Scene, context: Context, name: str, address: str, code: str
) -> None:
    await called(scene, "https://lab.example.org/calls")
    with pytest.raises(Invalid) as refused:
        await hooks.add(context, scene.coordinator, scene.id, name, address)
    assert [fault.code for fault in refused.value.faults] == [code]


async def test_what_a_change_means_is_told_and_nothing_is_done(
    scene: Scene, context: Context, post: Post
) -> None:
    for key, link in (("a", "district=saltings"), ("b", "district=millbeck")):
        await arrived(scene, key, link)
    kept = rules(scene.saltings, scene.rest)
    same = await dispatch_changes.differences(context, scene.coordinator, scene.id, kept, None)
    assert (same.looked_at, same.changed, same.next) == (2, (), None)
    moved = rules(scene.rest, scene.rest)
    found = await dispatch_changes.differences(context, scene.coordinator, scene.id, moved, None)
    (one,) = found.changed
    assert (one.number, len(one.difference.gone), len(one.difference.new)) == (1, 1, 1)
    older = await dispatch_changes.differences(context, scene.coordinator, scene.id, moved, 1)
    assert older.looked_at == 0
    assert await counted(scene) == {"Saltings": 1, "Rest": 1}
    assert await send_all(context) == 1


async def test_a_row_knows_what_became_of_it_and_where_it_came_from(
    scene: Scene, context: Context
) -> None:
    act = file(scene.rest.id, NAMED, name="name", drinkers="drinkers")
    await ruled(scene, otherwise=(act,))
    first = await arrived(scene, "a", drinkers="2")
    await arrived(scene, "b", drinkers="5")
    (row,) = (await registers.page(context, scene.coordinator, scene.rest.id, None)).rows
    read = await registers.row(context, scene.coordinator, scene.rest.id, row.id)
    assert read.source == (scene.id, first)
    changed, filed = read.changes
    assert (changed.before, changed.after) == ({"drinkers": "2"}, {"drinkers": "5"})
    assert (changed.entry_number, changed.rule) == (2, "otherwise")
    assert (filed.before, filed.after) == (None, {"name": "Ines", "drinkers": "2"})
    await removing.remove(context, scene.coordinator, scene.id, first)
    read = await registers.row(context, scene.coordinator, scene.rest.id, row.id)
    assert (read.source, read.gone) == (None, True)
    with pytest.raises(NotFound):
        await registers.row(context, scene.coordinator, scene.saltings.id, row.id)
