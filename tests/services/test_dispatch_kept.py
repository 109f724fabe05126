"""Restricted answers beside rows of registers that are for cleared eyes."""

from dataclasses import replace
from typing import Any

import pytest
from sqlalchemy import text
from sqlalchemy.exc import ProgrammingError

from jotgate.core.common.errors import Invalid, NotAllowed, NotFound
from jotgate.core.records.accounts import Account
from jotgate.core.records.trail import TrailFilter
from jotgate.services.context import Context
from jotgate.services.staff import trail
from jotgate.services.staff.accounts import people
from jotgate.services.staff.dispatch import dispatch_rules, rehearsing
from jotgate.services.staff.entries import entries, removing
from jotgate.services.staff.registers import columns, kept, registers
from jotgate.services.staff.registers.columns import ColumnsGiven
from tests.core.dispatch.rules import file
from tests.register_rows import rows_of
from tests.scenes import PASSWORD, SECRET, Scene, clear
from tests.services.dispatching import arrived, ruled
from tests.services.test_replay import looked, replayed


async def mark(scene: Scene, account: Account, cleared: bool) -> None:
    found = (await registers.read(scene.context, account, scene.rest.id)).register
    given = ColumnsGiven(found.revision, found.name, found.columns, False, cleared)
    await columns.put(scene.context, account, scene.rest.id, given)


async def an_owner(scene: Scene) -> Account:
    return await people.add(scene.context, "oda@example.org", "Oda", "owner", PASSWORD)


def keeping(scene: Scene, *keys: str) -> dict[str, Any]:
    made: dict[str, Any] = file(scene.rest.id, {"kept": list(keys)}, name="name")
    return made


async def the_row(scene: Scene) -> int:
    (row,) = await rows_of(scene.context, scene.coordinator, scene.rest.id)
    return row.id


async def shown(scene: Scene, account: Account, reason: str = "") -> dict[str, str]:
    id = await the_row(scene)
    found = await kept.reveal(scene.context, account, scene.rest.id, id, reason)
    return {one.key: one.words for one in found}


async def beside(scene: Scene, account: Account) -> list[str]:
    found = await registers.row(scene.context, account, scene.rest.id, await the_row(scene))
    return [one.label for one in found.kept]


async def test_cleared_eyes_see_what_is_kept_beside_a_row(scene: Scene, context: Context) -> None:
    """Nobody else sees that there is anything; each reading is on the trail. It is in no cell, no
    run and no rehearsal, and stays when the entry is deleted, as its row does."""
    owner = await an_owner(scene)
    await mark(scene, owner, cleared=True)
    await ruled(scene, otherwise=(keeping(scene, "ill", "illness"),))
    id = await arrived(scene, "a", ill=True, illness=SECRET)
    assert await beside(scene, scene.coordinator) == ["Ill", "Illness"]
    assert await shown(scene, scene.coordinator) == {"ill": "Yes", "illness": SECRET}
    wanted = TrailFilter(questionnaire=scene.id, actions=("restricted_seen",))
    marks, _ = await trail.page(context, scene.coordinator, wanted, None)
    assert [one.detail["keys"] for one in marks] == [["ill", "illness"]]
    for account in (owner, replace(scene.coordinator, cleared=False)):
        assert await beside(scene, account) == []
        with pytest.raises(NotAllowed):
            await shown(scene, account)
    read = await registers.row(context, scene.coordinator, scene.rest.id, await the_row(scene))
    assert SECRET not in str((read.row, read.changes))
    runs = (await entries.read(context, scene.coordinator, scene.id, id)).runs
    rules = (await dispatch_rules.find(context, scene.coordinator, scene.id)).rules
    rehearsed = await rehearsing.rehearse(context, scene.coordinator, scene.id, rules, None)
    assert SECRET not in str((runs, rehearsed))
    await removing.remove(context, scene.coordinator, scene.id, id)
    assert (await shown(scene, scene.coordinator))["illness"] == SECRET


async def test_it_is_sealed_and_out_of_reach_of_ordinary_requests(
    scene: Scene, context: Context
) -> None:
    await mark(scene, await an_owner(scene), cleared=True)
    await ruled(scene, otherwise=(keeping(scene, "illness"),))
    await arrived(scene, "a", ill=True, illness=SECRET)
    query = text("select sealed from row_secrets")
    async with context.restricted.connect() as conn:
        (sealed,) = (await conn.execute(query)).scalars()
    assert SECRET.encode() not in sealed
    async with context.engine.connect() as conn:
        with pytest.raises(ProgrammingError, match="permission denied"):
            await conn.execute(query)


async def test_only_registers_for_cleared_eyes_keep_what_is_restricted(
    scene: Scene, context: Context
) -> None:
    """Owners of a register say so; once it is no more, what was kept is gone."""
    with pytest.raises(NotAllowed):
        await mark(scene, scene.coordinator, cleared=True)
    for key, code in (("illness", "restricted"), ("drinkers", "open"), ("nothing", "no_item")):
        with pytest.raises(Invalid) as refused:
            await ruled(scene, otherwise=(keeping(scene, key),))
        assert [one.code for one in refused.value.faults] == [code]
    owner = await an_owner(scene)
    await mark(scene, owner, cleared=True)
    await ruled(scene, otherwise=(keeping(scene, "illness"),))
    await arrived(scene, "a", ill=True, illness=SECRET)
    await mark(scene, owner, cleared=False)
    await mark(scene, owner, cleared=True)
    assert await beside(scene, scene.coordinator) == []


async def test_a_replay_brings_what_is_kept_and_a_reason_is_asked_for(
    scene: Scene, context: Context
) -> None:
    """To rows of before the rule kept anything; once, also where nothing was answered."""
    await mark(scene, await an_owner(scene), cleared=True)
    await ruled(scene, otherwise=(file(scene.rest.id, name="name"),))
    await arrived(scene, "a", ill=True, illness=SECRET)
    await ruled(scene, otherwise=(keeping(scene, "ill", "illness"),))
    assert [len(one.todo) for one in (await looked(scene)).found] == [1]
    assert (await replayed(scene)).result["row"] == 1
    assert (await replayed(scene)).result["entries"] == 0
    await clear(context, scene.reviewer, scene.id, asks_reason=True)
    with pytest.raises(Invalid, match="Say why"):
        await shown(scene, scene.reviewer)
    assert (await shown(scene, scene.reviewer, "A visit"))["ill"] == "Yes"
    with pytest.raises(NotFound):
        await kept.reveal(context, scene.coordinator, scene.rest.id, 10**9, "")
