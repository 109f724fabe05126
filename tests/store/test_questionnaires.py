"""Saving under optimistic locking, and publishing."""

import asyncio
import json

from jotgate.core.document.questionnaire import blank
from jotgate.services.context import Context
from jotgate.store import editions, questionnaires
from tests.scenes import Scene


async def test_of_two_saves_over_one_revision_one_is_kept(scene: Scene, context: Context) -> None:
    async def save(title: str) -> int | None:
        async with context.engine.begin() as conn:
            return await questionnaires.save(conn, scene.id, "draft", blank(title), 1)

    outcomes = await asyncio.gather(*(save(f"v{n}") for n in range(8)))
    assert sorted(outcomes, key=str) == [2, *[None] * 7]
    async with context.engine.connect() as conn:
        kept = await questionnaires.draft(conn, scene.id)
    assert kept is not None
    assert kept.revision == 2
    assert json.loads(kept.value)["title"]["en"] == f"v{outcomes.index(2)}"


async def test_an_edition_stays_as_it_was(scene: Scene, context: Context) -> None:
    async with context.engine.begin() as conn:
        before = await editions.edition(conn, scene.id, 1)
        await questionnaires.save(conn, scene.id, "draft", blank("Other"), 1)
        saved = await questionnaires.draft(conn, scene.id)
        assert saved is not None
        now = context.clock.now()
        number = await editions.publish(conn, scene.id, saved, scene.coordinator.id, now)
        assert number == 2
        assert await editions.edition(conn, scene.id, 1) == before
        assert await editions.edition(conn, scene.id, 2) == saved.value


async def test_only_a_published_one_stands_at_its_address(scene: Scene, context: Context) -> None:
    id = context.ids.id()
    async with context.engine.begin() as conn:
        draft = blank("New").model_dump_json()
        await questionnaires.add(conn, id, "fresh2", draft, context.clock.now())
        assert await questionnaires.public_state(conn, "fresh2") is None
        found = await questionnaires.public_state(conn, scene.address)
    assert found is not None
    assert (found.id, found.edition, found.gate.state) == (scene.id, 1, "open")
