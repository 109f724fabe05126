"""Entries that are let go by themselves: deleted, or kept without whoever sent them."""

from datetime import timedelta
from typing import Any

import pytest
from sqlalchemy import text

from jotgate.core.common.errors import NotFound
from jotgate.core.handling import Handling
from jotgate.core.records.trail import TrailFilter
from jotgate.core.table_views import TableView
from jotgate.ports.files import Missing
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.handling import Change
from jotgate.services.keys.erasing import destroy_keys
from jotgate.services.letting_go import let_go_due
from jotgate.services.public import uploads
from jotgate.services.staff import trail
from jotgate.services.staff.entries import entries, entry_notes, entry_table, handling, statuses
from jotgate.services.staff.entries.entry_table import Asked
from jotgate.store.base import Engine
from tests.conftest import Clock
from tests.scenes import SECRET, Scene, clear
from tests.services.dispatching import counted
from tests.services.public.test_uploads import Sender, of, picture, sender

__all__ = ["sender"]

ENDS: Any = {"key": "over", "name": "Over", "final": True}


def kept(days: int = 10, **more: Any) -> Handling:
    keeping = {"days": days, **more}
    return Handling.model_validate({"statuses": [ENDS], "keeping": keeping})


async def over(scene: Scene, *ids: Any) -> None:
    change = Change(status="over")
    await handling.handle(scene.context, scene.coordinator, scene.id, ids, change)


async def left(scene: Scene) -> list[int]:
    asked = Asked(archived=True)
    page = await entry_table.page(scene.context, scene.coordinator, scene.id, asked)
    return [one.number for one in page.entries]


async def test_deleted_once_kept_for_long_enough(
    scene: Scene, context: Context, clock: Clock
) -> None:
    """Days count from the final status; what has none stays. It is shown ahead of time."""
    who = scene.coordinator
    first, second, third = [(await scene.submit(f"k{n}")).id for n in range(3)]
    await dispatch_entry(context, scene.id, first)
    await handling.save(context, who, scene.id, kept(), 1)
    clock.move(timedelta(days=30))
    await over(scene, first)
    clock.move(timedelta(days=5))
    await over(scene, second)
    assert await statuses.going(context, who, scene.id, kept()) == statuses.Going(0, 1)
    assert await statuses.going(context, who, scene.id, kept(days=2)) == statuses.Going(1, 2)
    soon = {"filter": {"op": "at_most", "item": "entry.kept_until", "value": "today+7"}}
    asked = Asked(TableView.model_validate(soon))
    found = await entry_table.page(context, who, scene.id, asked)
    assert [one.id for one in found.entries] in ([first], [])  # the copy may not know it yet
    assert await let_go_due(context) == 0
    clock.move(timedelta(days=5))
    assert await let_go_due(context) == 1
    assert await left(scene) == [3, 2]
    assert sum((await counted(scene)).values()) == 1  # its row stays
    clock.move(timedelta(days=5))
    assert await let_go_due(context) == 1
    assert await let_go_due(context) == 0
    assert await left(scene) == [3]
    marks, _ = await trail.page(context, who, TrailFilter(), None)
    gone = [one.detail["number"] for one in marks if one.action == "entry_deleted"]
    assert (gone, third) == ([2, 1], (await entries.read(context, who, scene.id, third)).entry.id)


async def test_without_keeping_nothing_goes(scene: Scene, context: Context, clock: Clock) -> None:
    who = scene.coordinator
    plain = Handling.model_validate({"statuses": [ENDS]})
    await handling.save(context, who, scene.id, plain, 1)
    await over(scene, (await scene.submit("a")).id)
    clock.move(timedelta(days=9_000))
    assert await let_go_due(context) == 0
    assert await statuses.going(context, who, scene.id, plain) == statuses.Going(0, 0)


async def test_anonymised(scene: Scene, context: Context, clock: Clock, owner: Engine) -> None:
    """Chosen answers go, restricted ones too, with notes, earlier versions, and what letters said;
    the others stay, and it happens once."""
    who = scene.coordinator
    id = (await scene.submit("a", name="Ines", ill=True, illness=SECRET)).id
    await dispatch_entry(context, scene.id, id)
    await entry_notes.add(context, who, scene.id, id, "Ines rang.")
    value = kept(then="anonymise", drop=["name", "illness"])
    await handling.save(context, who, scene.id, value, 1)
    await over(scene, id)
    clock.move(timedelta(days=11))
    assert await let_go_due(context) == 1
    assert await let_go_due(context) == 0
    read = await entries.read(context, who, scene.id, id)
    assert read.entry.anonymised == clock.now()
    assert (read.entry.answers.get("name"), read.entry.answers["source"]) == (None, "own")
    assert (await entries.reveal(context, who, scene.id, id))[1].answers == {"ill": True}
    assert await entry_notes.every(context, who, scene.id, id) == []
    assert read.runs
    assert not {run.state for run in read.runs} & {"waiting", "failing", "failed"}
    async with owner.connect() as conn:
        found = (await conn.execute(text("select row_to_json(runs)::text from runs"))).scalars()
        assert "Ines" not in "".join(found)
        rows = await conn.execute(text("select row_to_json(e)::text from entries e"))
        copies = await conn.execute(text("select row_to_json(r)::text from entry_rows r"))
        assert "Ines" not in "".join([*rows.scalars(), *copies.scalars()])
    assert await destroy_keys(context) == 1  # of the answers as they were


async def test_files_of_what_is_dropped_go(sender: Sender, context: Context, clock: Clock) -> None:
    who, id = sender.scene.coordinator, sender.id
    photo, secret = [await sender.send(key, "w.png", picture()) for key in ("photo", "secret")]
    taken = await sender.submit(photo=[of(photo)], secret=[of(secret)])
    value = kept(then="anonymise", drop=["secret"])
    await handling.save(context, who, id, value, 1)
    await handling.handle(context, who, id, [taken.id], Change(status="over"))
    clock.move(timedelta(days=11))
    assert await let_go_due(context) == 1
    assert await uploads.read(context, photo.id, photo.size) == picture()
    assert await destroy_keys(context) == 2
    await clear(context, who, id)
    with pytest.raises(NotFound):
        await entries.file(context, who, (id, taken.id), secret.id, False)
    with pytest.raises(Missing):
        await uploads.read(context, secret.id, secret.size)
