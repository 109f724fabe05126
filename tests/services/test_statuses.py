"""Statuses with rules: who sets which, what follows what, and what is done when one is reached."""

from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

import pytest
from sqlalchemy import text

from jotgate.core.common.errors import Invalid, NotAllowed
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.handling import Handling
from jotgate.core.records.accounts import Team
from jotgate.core.records.dispatch import Run
from jotgate.core.rights import Role
from jotgate.services import doing
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.dispatch.reaching import dispatch_status
from jotgate.services.handling import Change
from jotgate.services.staff.dispatch import dispatch_rules
from jotgate.services.staff.entries import entries, entry_acts, handling, statuses
from jotgate.services.staff.entries.choosing import Choice
from jotgate.store.accounts import parts
from jotgate.store.base import Engine
from tests.conftest import Clock
from tests.documents import is_
from tests.scenes import Scene

LINE: Any = {
    "first": {"name": "New", "next": ["received"], "role": "reader"},
    "statuses": [
        {"key": "received", "name": "Received", "next": ["sampled", "first"], "role": "reviewer"},
        {"key": "sampled", "name": "Sampled", "next": ["sent"], "role": "reader"},
        {"key": "sent", "name": "Result sent", "final": True, "next": []},
    ],
}


def letter(to: str = "lab@example.org") -> dict[str, Any]:
    address = {"kind": "address", "address": to}
    words = {"subject": {"en": "Entry {entry_number}"}, "body": {"en": "It is there."}}
    return {"kind": "notice", "to": address, **words}


def on(status: str, *acts: Any, **more: Any) -> dict[str, Any]:
    return {"key": f"on_{status}_{len(acts)}", "status": status, "acts": acts, **more}


async def ready(scene: Scene, *rules: Any, line: Any = LINE) -> None:
    await handling.save(
        scene.context, scene.coordinator, scene.id, Handling.model_validate(line), 1
    )
    value = Dispatch.model_validate({"on_status": rules})
    await dispatch_rules.save(scene.context, scene.coordinator, scene.id, value, 2)


async def put(scene: Scene, id: UUID, status: str, role: Role = "owner") -> str:
    account = replace(scene.coordinator, role=role)
    (done,) = await handling.handle(scene.context, account, scene.id, [id], Change(status=status))
    return done.wrong


async def work_off(scene: Scene, owner: Engine) -> int:
    """What was asked for, done as the worker does it, each twice."""
    query = (
        "delete from procrastinate_jobs where task_name = 'dispatch_status' "
        "returning args->>'questionnaire_id', args->>'entry_id', args->>'since', id"
    )
    async with owner.begin() as conn:
        await conn.execute(text("delete from procrastinate_events"))
        jobs = (await conn.execute(text(query))).all()
    for of, entry, since, _ in sorted(jobs, key=lambda job: job[3]):
        for _ in range(2):
            at = datetime.fromisoformat(since)
            await dispatch_status(scene.context, UUID(of), UUID(entry), at)
    return len(jobs)


async def runs(scene: Scene, id: UUID) -> list[Run]:
    return list((await entries.read(scene.context, scene.coordinator, scene.id, id)).runs)


async def test_one_follows_another_as_the_office_says(scene: Scene) -> None:
    await ready(scene)
    id = (await scene.submit("a")).id
    assert await put(scene, id, "sampled") == "Sampled may not follow New."
    assert await put(scene, id, "received") == ""
    assert await put(scene, id, "") == ""
    for status in ("received", "sampled", "sent"):
        assert await put(scene, id, status) == ""
    assert await put(scene, id, "received") == "Received may not follow Result sent."
    with pytest.raises(Invalid):
        await put(scene, id, "gone")


async def test_who_may_set_which(scene: Scene, context: Context) -> None:
    """Reviewers set what is theirs, and archive nothing; of a team, whoever is in it."""
    await ready(scene)
    id = (await scene.submit("a")).id
    with pytest.raises(NotAllowed):
        await put(scene, id, "received", "reader")
    assert await put(scene, id, "received", "reviewer") == ""
    with pytest.raises(NotAllowed):
        await put(scene, id, "sent", "reviewer")
    assert await put(scene, id, "sampled", "reader") == ""
    reader = replace(scene.coordinator, role="reader")
    for change in (Change(archived=True), Change(status="sent", archived=True)):
        with pytest.raises(NotAllowed):
            await handling.handle(context, reader, scene.id, [id], change)
        with pytest.raises(NotAllowed):
            await entry_acts.ask(context, reader, scene.id, Choice((1,)), change)
    team = Team(context.ids.id(), "Lab", "", (scene.reviewer.id,))
    async with context.engine.begin() as conn:
        await parts.add_team(conn, team)
    of_team = [{**one, "teams": [str(team.id)]} for one in LINE["statuses"]]
    await ready_again(scene, {**LINE, "statuses": of_team})
    lost = [{**one, "teams": [str(scene.id)]} for one in LINE["statuses"]]
    with pytest.raises(Invalid, match="team"):
        await ready_again(scene, {**LINE, "statuses": lost}, 3)
    with pytest.raises(NotAllowed):
        await put(scene, id, "sent", "coordinator")
    (done,) = await handling.handle(context, scene.reviewer, scene.id, [id], Change(status="sent"))
    assert done.wrong == ""
    found = await handling.find(context, scene.reviewer, scene.id)
    assert found.may_set == {"first", "received", "sampled", "sent"}
    assert (await handling.find(context, reader, scene.id)).may_set == {"first"}


async def ready_again(scene: Scene, line: Any, revision: int = 2) -> None:
    value = Handling.model_validate(line)
    await handling.save(scene.context, scene.coordinator, scene.id, value, revision)


async def test_reaching_one_acts_once_each_time(
    scene: Scene, context: Context, clock: Clock, owner: Engine
) -> None:
    await ready(scene, on("received", letter()))
    id = (await scene.submit("a")).id
    await dispatch_entry(context, scene.id, id)
    assert await runs(scene, id) == []
    await put(scene, id, "received")
    assert await work_off(scene, owner) == 1
    (first,) = await runs(scene, id)
    assert (first.kind, first.status, first.detail["subject"]) == (
        "notice",
        "received",
        "Entry 0001",
    )
    clock.move(timedelta(minutes=1))
    await put(scene, id, "")
    assert await work_off(scene, owner) == 0
    clock.move(timedelta(minutes=1))
    await put(scene, id, "received")
    assert await work_off(scene, owner) == 1
    assert [run.round for run in await runs(scene, id)] == [0, 1]


async def test_it_does_not_keep_an_entry_from_being_dispatched(
    scene: Scene, context: Context, owner: Engine
) -> None:
    """Somebody was quicker than the worker."""
    await ready(scene, on("received", letter()))
    saved = await dispatch_rules.find(context, scene.coordinator, scene.id)
    both = Dispatch.model_validate(
        {"on_status": [on("received", letter())], "otherwise": [letter("first@example.org")]}
    )
    await dispatch_rules.save(context, scene.coordinator, scene.id, both, saved.revision)
    id = (await scene.submit("a")).id
    await put(scene, id, "received")
    await work_off(scene, owner)
    await dispatch_entry(context, scene.id, id)
    found = {run.detail["to"]: run.status for run in await runs(scene, id)}
    assert found == {"lab@example.org": "received", "first@example.org": ""}


async def test_where_it_has_gone_on_meanwhile_nothing_is_done(
    scene: Scene, clock: Clock, owner: Engine
) -> None:
    await ready(scene, on("received", letter()))
    id = (await scene.submit("a")).id
    await put(scene, id, "received")
    clock.move(timedelta(seconds=1))
    await put(scene, id, "sampled")
    await work_off(scene, owner)
    assert await runs(scene, id) == []


async def test_conditions_and_who_caught_it(scene: Scene, owner: Engine) -> None:
    rules = [
        {**on("received", letter("a@example.org")), "when": is_("name", "Ines")},
        {**on("received", letter("b@example.org")), "key": "else"},
        {**on("sampled", letter("c@example.org")), "key": "other"},
    ]
    await ready(scene, *rules)
    for key, name, to in (("a", "Ines", "a@example.org"), ("b", "Oskar", "b@example.org")):
        id = (await scene.submit(key, name=name)).id
        await put(scene, id, "received")
        await work_off(scene, owner)
        assert [run.detail["to"] for run in await runs(scene, id)] == [to]


async def test_many_at_once_act_and_undone_they_do_not(
    scene: Scene, context: Context, clock: Clock, owner: Engine
) -> None:
    await ready(scene, on("received", letter()), on("sampled", letter("s@example.org")))
    ids = [(await scene.submit(f"k{n}")).id for n in range(4)]
    change, choice = Change(status="received"), Choice((1, 2, 3))
    asked = await entry_acts.ask(context, scene.coordinator, scene.id, choice, change)
    await doing.do(context, asked.id)
    assert await work_off(scene, owner) == 3
    clock.move(timedelta(minutes=1))
    more = await entry_acts.ask(
        context, scene.coordinator, scene.id, Choice(all=True), Change(status="sampled")
    )
    await doing.do(context, more.id)
    done = await entry_acts.progress(context, scene.coordinator, scene.id, more.id)
    assert (done.result["entries"], done.result["named"]) == (
        3,
        [{"number": 4, "wrong": "Sampled may not follow New."}],
    )
    clock.move(timedelta(minutes=1))
    back = await entry_acts.undo(context, scene.coordinator, scene.id, more.id)
    await doing.do(context, back.id)
    assert await work_off(scene, owner) == 3  # of the change; none of what undid it
    assert [len(await runs(scene, id)) for id in ids] == [1, 1, 1, 0]


async def test_a_rule_may_set_what_may_follow_and_that_acts(
    scene: Scene, context: Context, owner: Engine
) -> None:
    await ready(scene, on("received", letter()))
    for status, state in (("received", "done"), ("sent", "failed")):
        saved = await dispatch_rules.find(context, scene.coordinator, scene.id)
        setting = {"kind": "status", "status": status}
        rules = {"on_status": [on("received", letter())], "otherwise": [setting]}
        value = Dispatch.model_validate(rules)
        await dispatch_rules.save(context, scene.coordinator, scene.id, value, saved.revision)
        id = (await scene.submit(status)).id
        await dispatch_entry(context, scene.id, id)
        await work_off(scene, owner)
        found = {run.kind: run.state for run in await runs(scene, id)}
        assert found == {"status": state} | ({"notice": "waiting"} if state == "done" else {})


@pytest.mark.parametrize(
    ("rule", "code"),
    [
        (on("gone", letter()), "no_status"),
        (on("first", letter()), "no_status"),
        (on("received"), "no_act"),
        (on("received", {"kind": "status", "status": "sampled"}), "leads_on"),
        ({**on("received", letter()), "when": is_("illness", "x")}, "restricted"),
    ],
)
async def test_what_cannot_be_said(scene: Scene, rule: Any, code: str) -> None:
    with pytest.raises(Invalid) as refused:
        await ready(scene, rule)
    assert code in {fault.code for fault in refused.value.faults}


async def test_statuses_that_rules_name_stay(scene: Scene) -> None:
    await ready(scene, on("sent", letter()))
    with pytest.raises(Invalid, match="Result sent"):
        await ready_again(scene, {"statuses": []})
    with pytest.raises(Invalid, match="Two statuses"):
        await ready_again(scene, {**LINE, "first": {"name": "Sampled"}})


async def test_how_many_stand_where_and_how_many_for_too_long(
    scene: Scene, context: Context, clock: Clock
) -> None:
    """A limit counts from the moment that a status was reached; what is archived or final is not
    late, and nobody is told of questionnaires that they may not read."""
    line = {
        "first": {"days": 2},
        "statuses": [
            {"key": "received", "name": "Received", "days": 1},
            {"key": "sent", "name": "Sent", "final": True, "days": 1},
        ],
    }
    await ready(scene, line=line)
    ids = [(await scene.submit(f"k{n}")).id for n in range(5)]
    clock.move(timedelta(days=2))
    await put(scene, ids[0], "received")
    await put(scene, ids[1], "sent")
    change = Change(archived=True)
    await handling.handle(context, scene.coordinator, scene.id, [ids[2]], change)

    async def stands() -> dict[str, tuple[int, int]]:
        found = await statuses.standing(context, scene.reviewer, scene.id)
        return {one.key: (one.entries, one.late) for one in found}

    assert await stands() == {"first": (2, 0), "received": (1, 0), "sent": (1, 0)}
    clock.move(timedelta(hours=1))
    assert await stands() == {"first": (2, 2), "received": (1, 0), "sent": (1, 0)}
    clock.move(timedelta(days=1))
    assert await stands() == {"first": (2, 2), "received": (1, 1), "sent": (1, 0)}
    assert await statuses.late(context, scene.coordinator) == {scene.id: 3}
    stranger = replace(scene.reviewer, id=context.ids.id(), role=None)
    assert await statuses.late(context, stranger) == {}
