"""What the worker does with an entry, each effect once."""

import asyncio
from datetime import timedelta

import pytest

from jotgate.core.common.errors import AlreadyThere, Invalid, NotFound
from jotgate.core.dispatch.due import TRIES
from jotgate.core.dispatch.effects import NoticePlanned
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.handling import Handling
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.staff.dispatch import dispatch_changes, dispatch_rules, rehearsing, runs
from jotgate.services.staff.entries import entries, handling
from tests.conftest import Clock, Post
from tests.core.dispatch.rules import composed, file, notice, rule
from tests.scenes import SECRET, Scene, rules
from tests.services.dispatching import (
    arrived,
    counted,
    done,
    newest,
    rows,
    ruled,
    send_all,
)


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
    assert (found.number, found.planned.caught_by) == (1, "saltings")
    assert any(isinstance(one.effect, NoticePlanned) for one in found.effects)
    found = await rehearsing.rehearse(context, scene.coordinator, scene.id, tried, None)
    assert (found.number, found.planned.caught_by) == (2, None)
    assert set((await counted(scene)).values()) == {0}
    assert await send_all(context) == 0
    assert post.letters == []


async def test_rules_that_cannot_work_are_refused(scene: Scene, context: Context) -> None:
    wrong = Dispatch.model_validate({"otherwise": [notice("{illness}")]})
    with pytest.raises(Invalid) as refused:
        await dispatch_rules.save(context, scene.coordinator, scene.id, wrong, 2)
    assert [fault.code for fault in refused.value.faults] == ["restricted"]


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
