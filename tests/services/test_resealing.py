"""Questions that are restricted only later: what was answered before is sealed where it lies."""

from typing import Any

import pytest
from sqlalchemy import text

from jotgate.core.dispatch.effects import RowPlanned
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.keys import resealing
from jotgate.services.staff import questionnaires
from jotgate.services.staff.dispatch import dispatch_rules, rehearsing
from jotgate.services.staff.entries import entries, entry_table
from jotgate.store import questionnaires as store
from tests.documents import is_, item, page, questionnaire, well_check
from tests.register_rows import rows_of
from tests.scenes import Scene, clear, published, save
from tests.services.public.test_uploads import Sender, of, picture, sender

__all__ = ["sender"]


async def restrict(scene: Scene, *keys: str) -> None:
    """Publish the second edition, in which these are restricted."""
    document = well_check()
    pages = [
        one.model_copy(
            update={
                "items": tuple(
                    asked.model_copy(update={"restricted": True}) if asked.key in keys else asked
                    for asked in one.items
                )
            }
        )
        for one in document.pages
    ]
    changed = document.model_copy(update={"pages": tuple(pages)})
    await save(scene.context, scene.coordinator, scene.id, changed, 1)
    await questionnaires.publish(scene.context, scene.coordinator, scene.id, 2)


async def lying(context: Context) -> list[dict[str, Any]]:
    """What lies open in the database."""
    async with context.engine.connect() as conn:
        found = await conn.execute(text("select answers from entries order by number"))
        return [row.answers for row in found]


async def left_empty(context: Context) -> list[list[str]]:
    async with context.engine.connect() as conn:
        found = await conn.execute(text("select left_empty from entries order by number"))
        return [sorted(one) for one in found.scalars()]


async def test_whether_it_was_left_empty_is_forgotten_too(scene: Scene, context: Context) -> None:
    await scene.submit("a")
    assert await left_empty(context) == [["drinkers"]], "ill is restricted"
    await restrict(scene, "drinkers")
    await resealing.seal_anew(context, scene.id)
    assert await left_empty(context) == [[]]
    late = await scene.submit("late")
    await dispatch_entry(context, scene.id, late.id)
    assert await left_empty(context) == [[], []]


async def asked(context: Context) -> int:
    query = "select count(*) from procrastinate_jobs where task_name = 'seal_anew'"
    async with context.engine.connect() as conn:
        return int((await conn.execute(text(query))).scalar_one())


async def test_what_is_restricted_later_is_sealed_where_it_lies(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(resealing, "AT_ONCE", 2)
    taken = [await scene.submit(f"{n}", drinkers="4", ill=True, illness="x") for n in range(5)]
    assert await asked(context) == 0
    await restrict(scene, "drinkers")
    assert await asked(context) == 1
    for _ in range(2):
        await resealing.seal_anew(context, scene.id)
        assert await lying(context) == [{"name": "Ines", "source": "own"}] * 5
    for one in taken:
        _, found = await entries.reveal(context, scene.coordinator, scene.id, one.id)
        assert found.answers == {"drinkers": "4", "ill": True, "illness": "x"}
        read = await entries.read(context, scene.coordinator, scene.id, one.id)
        assert "drinkers" in read.withheld


async def test_an_entry_of_the_edition_before_is_sealed_when_it_arrives(
    scene: Scene, context: Context
) -> None:
    """It was begun in time, and nothing of it goes into registers or letters."""
    await restrict(scene, "drinkers")
    taken = await scene.submit("late", link="district=saltings", drinkers="4")
    await dispatch_entry(context, scene.id, taken.id)
    assert "drinkers" not in (await lying(context))[0]
    rows = await rows_of(context, scene.coordinator, scene.saltings.id)
    assert [row.values.get("drinkers") for row in rows] == [None]
    async with context.engine.connect() as conn:
        (letter,) = await conn.execute(text("select detail from runs where kind = 'notice'"))
    assert "4" not in letter.detail["plain"]
    _, found = await entries.reveal(context, scene.coordinator, scene.id, taken.id)
    assert found.answers["drinkers"] == "4"


async def test_a_rehearsal_shows_nothing_of_it(scene: Scene, context: Context) -> None:
    await scene.submit("a", drinkers="4")
    saved = await dispatch_rules.find(context, scene.coordinator, scene.id)
    await restrict(scene, "drinkers")
    found = await rehearsing.rehearse(context, scene.coordinator, scene.id, saved.rules, None)
    assert found.effects
    for one in found.effects:
        assert isinstance(one.effect, RowPlanned)
        assert "4" not in one.effect.values.values()


async def test_where_it_ended_is_sealed_too(scene: Scene, context: Context) -> None:
    skip = {"when": is_("ill", True), "to": {"kind": "finish", "finish": "other"}}
    ends: Any = [{"key": key, "title": {"en": key}} for key in ("end", "other")]
    open_one = questionnaire(page("p", item("yes_no", "ill"), skips=[skip]), finishes=ends)
    id, address = await published(context, scene.coordinator, open_one)
    own = Scene(context, scene.coordinator, scene.reviewer, id, address, scene.saltings, scene.rest)
    await own.submit("a", ill=True)
    closed = questionnaire(
        page("p", item("yes_no", "ill", restricted=True), skips=[skip]), finishes=ends
    )
    await save(context, scene.coordinator, id, closed, 1)
    await questionnaires.publish(context, scene.coordinator, id, 2)
    await resealing.seal_anew(context, id)
    async with context.engine.connect() as conn:
        (entry,) = await conn.execute(text("select answers, finish from entries"))
        assert (entry.answers, entry.finish) == ({}, "")
        assert (await store.public_state(conn, address)) is not None
    await clear(context, scene.coordinator, id)
    page_found = await entry_table.page(context, scene.coordinator, id)
    _, found = await entries.reveal(context, scene.coordinator, id, page_found.entries[0].id)
    assert (found.answers, found.finish) == ({"ill": True}, "other")


async def test_names_of_files_are_sealed_too(sender: Sender, context: Context) -> None:
    sent = await sender.send("photo", "my-own-well.png", picture())
    taken = await sender.submit(photo=[of(sent)])
    document = (await questionnaires.draft(context, sender.scene.coordinator, sender.id)).document
    first = document.pages[0]
    items = tuple(
        one.model_copy(update={"restricted": True}) if one.key == "photo" else one
        for one in first.items
    )
    changed = document.model_copy(
        update={"pages": (first.model_copy(update={"items": items}), *document.pages[1:])}
    )
    await save(context, sender.scene.coordinator, sender.id, changed, 1)
    await questionnaires.publish(context, sender.scene.coordinator, sender.id, 2)
    await resealing.seal_anew(context, sender.id)
    async with context.engine.connect() as conn:
        names = [row.name for row in await conn.execute(text("select name from files"))]
    assert not any("my-own-well" in name for name in names)
    await clear(context, sender.scene.coordinator, sender.id)
    where = (sender.id, taken.id)
    found = await entries.file(context, sender.scene.coordinator, where, sent.id, small=False)
    assert found.name == "my-own-well.png"
