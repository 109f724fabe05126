"""What the worker does with an entry, each effect once."""

import asyncio
from uuid import UUID

import pytest
from sqlalchemy import text

from jotgate.core.common.errors import AlreadyThere, Invalid, NotFound
from jotgate.core.entries.dispatch import Dispatch, NoticePlanned
from jotgate.core.records.dispatch import Run
from jotgate.ports.mail import MailFailed
from jotgate.services import dispatch
from jotgate.services.context import Context
from jotgate.services.staff import dispatch_rules, entries, registers
from tests.conftest import Post
from tests.scenes import SECRET, Scene, rules


async def newest(scene: Scene) -> UUID:
    return (await entries.page(scene.context, scene.coordinator, scene.id, None)).entries[0].id


async def runs(scene: Scene) -> tuple[Run, ...]:
    id = await newest(scene)
    return (await entries.read(scene.context, scene.coordinator, scene.id, id)).runs


async def counted(scene: Scene) -> dict[str, int]:
    """How many rows each register has."""
    lines = await registers.every(scene.context, scene.coordinator)
    return {line.register.name: line.rows for line in lines}


async def test_filed_by_the_carried_value_with_a_notice(
    scene: Scene, context: Context, post: Post
) -> None:
    await scene.submit("a", "district=saltings", drinkers="4", ill=True, illness=SECRET)
    await dispatch.dispatch_entry(context, scene.id, await newest(scene))
    rows = (await registers.page(context, scene.coordinator, scene.saltings.id, None)).rows
    assert [row.values for row in rows] == [{"name": "Ines", "drinkers": "4"}]
    (row, notice) = sorted(await runs(scene), key=lambda run: run.position)
    assert (row.kind, row.state, notice.kind, notice.state) == ("row", "done", "notice", "waiting")
    await dispatch.send_notice(context, notice.id)
    await dispatch.send_notice(context, notice.id)
    (letter,) = post.letters
    assert letter.subject == "New from Ines"
    assert letter.body == "Ines in Saltings: Own, 4 people"
    assert SECRET not in str(letter)
    assert {run.state for run in await runs(scene)} == {"done"}


async def test_otherwise_to_the_other_register(scene: Scene, context: Context, post: Post) -> None:
    await scene.submit("a", "district=millbeck")
    await dispatch.dispatch_entry(context, scene.id, await newest(scene))
    assert await counted(scene) == {"Saltings": 0, "Rest": 1}
    assert post.letters == []


async def test_done_twice_or_at_once_it_takes_effect_once(scene: Scene, context: Context) -> None:
    await scene.submit("a", "district=saltings")
    id = await newest(scene)
    tries = (dispatch.dispatch_entry(context, scene.id, id) for _ in range(6))
    outcomes = await asyncio.gather(*tries, return_exceptions=True)
    assert all(outcome is None or isinstance(outcome, AlreadyThere) for outcome in outcomes)
    await dispatch.dispatch_entry(context, scene.id, id)
    assert await counted(scene) == {"Saltings": 1, "Rest": 0}
    async with context.engine.connect() as conn:
        query = "select count(*) from procrastinate_jobs where task_name = 'send_notice'"
        assert (await conn.execute(text(query))).scalar_one() == 1


async def test_a_failed_notice_is_told_and_tried_again(
    scene: Scene, context: Context, post: Post
) -> None:
    await scene.submit("a", "district=saltings")
    await dispatch.dispatch_entry(context, scene.id, await newest(scene))
    notice = next(run for run in await runs(scene) if run.kind == "notice")
    post.failures = 2
    for _ in range(2):
        with pytest.raises(MailFailed):
            await dispatch.send_notice(context, notice.id)
    failing = next(run for run in await runs(scene) if run.kind == "notice")
    assert (failing.state, failing.tries, failing.last_error) == (
        "failing",
        2,
        "451 try again later",
    )
    await dispatch.send_notice(context, notice.id)
    assert len(post.letters) == 1
    assert post.letters[0].id == str(notice.id)


async def test_rehearsal_shows_and_does_nothing(scene: Scene, context: Context, post: Post) -> None:
    with pytest.raises(NotFound):
        await dispatch_rules.rehearse(context, scene.coordinator, scene.id, Dispatch(), None)
    await scene.submit("a", "district=saltings")
    await scene.submit("b")
    tried = rules(scene.saltings, scene.rest)
    entry, result = await dispatch_rules.rehearse(context, scene.coordinator, scene.id, tried, 1)
    assert (entry.number, result.caught_by) == (1, "saltings")
    assert any(isinstance(effect, NoticePlanned) for effect in result.effects)
    entry, result = await dispatch_rules.rehearse(context, scene.coordinator, scene.id, tried, None)
    assert (entry.number, result.caught_by) == (2, None)
    assert set((await counted(scene)).values()) == {0}
    assert post.letters == []


async def test_rules_that_cannot_work_are_refused(scene: Scene, context: Context) -> None:
    wrong = Dispatch.model_validate(
        {
            "otherwise": [
                {"kind": "notice", "to": "a@example.org", "subject": "s", "body": "{illness}"}
            ]
        }
    )
    with pytest.raises(Invalid) as refused:
        await dispatch_rules.save(context, scene.coordinator, scene.id, wrong, 2)
    assert [fault.code for fault in refused.value.faults] == ["restricted"]
