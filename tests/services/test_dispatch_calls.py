"""Calls of other systems, and the systems that are called."""

from dataclasses import replace
from datetime import timedelta

import jsonschema
import orjson
import pytest

from jotgate.core.common.errors import Invalid, NotAllowed, NotFound
from jotgate.core.dispatch.call_body import SCHEMA as CALL_SCHEMA
from jotgate.core.records.trail import TrailFilter
from jotgate.core.signed_calls import written
from jotgate.services.context import Context
from jotgate.services.staff import trail
from jotgate.services.staff.accounts import people
from jotgate.services.staff.dispatch import hooks, runs
from tests.conftest import Clock
from tests.core.dispatch.rules import notice
from tests.scenes import PASSWORD, SECRET, Scene
from tests.services.dispatching import (
    OtherSystem,
    arrived,
    call_all,
    called,
    done,
    ruled,
)


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


async def test_a_cleared_system_is_told_what_is_restricted(scene: Scene, context: Context) -> None:
    """Its runs are not, nor is a rehearsal; the trail has each time. Only those with clearance have
    such a system called, or change one."""
    other = OtherSystem()
    context = replace(context, calls=other)
    address = "https://lab.example.org/calls"
    made = await hooks.add(context, scene.coordinator, scene.id, "Lab", address, cleared=True)
    await ruled(scene, otherwise=({"kind": "call", "hook_id": str(made.hook.id)},))
    id = await arrived(scene, "a", ill=True, illness=SECRET)
    other.failures = 1
    for _ in range(2):
        await call_all(context)
        (run,) = await done(scene)
        assert SECRET not in orjson.dumps(run.detail).decode()
        await runs.again(context, scene.coordinator, scene.id, [run.id])
    for call in other.calls:
        body = orjson.loads(call.body)
        jsonschema.Draft202012Validator(CALL_SCHEMA).validate(body)
        assert body["data"]["restricted"]["answers"] == {"ill": True, "illness": SECRET}
        assert "illness" not in body["data"]["answers"]
    wanted = TrailFilter(entry=id, actions=("restricted_sent",))
    marks, _ = await trail.page(context, scene.coordinator, wanted, None)
    assert [one.detail["keys"] for one in marks] == [["ill", "illness"]] * len(other.calls)
    stranger = await people.add(context, "kit@example.org", "Kit", "coordinator", PASSWORD)
    marks, _ = await trail.page(context, stranger, wanted, None)
    assert all("keys" not in one.detail for one in marks)
    for trying in (
        hooks.add(context, stranger, scene.id, "Other", address, cleared=True),
        hooks.change(context, stranger, scene.id, made.hook.id, "Lab", "https://x.example.org/"),
        hooks.rotate(context, stranger, scene.id, made.hook.id),
    ):
        with pytest.raises(NotAllowed):
            await trying
