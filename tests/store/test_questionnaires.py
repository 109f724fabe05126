"""Saving under optimistic locking, and publishing."""

import asyncio
import json

from jotgate.core.document.questionnaire import blank
from jotgate.services.house import House
from jotgate.store import editions, questionnaires
from tests.scenes import Scene


async def test_of_two_saves_over_one_revision_one_is_kept(scene: Scene, house: House) -> None:
    async def save(title: str) -> int | None:
        async with house.engine.begin() as conn:
            return await questionnaires.save(conn, scene.id, "draft", blank(title), 1)

    outcomes = await asyncio.gather(*(save(f"v{n}") for n in range(8)))
    assert sorted(outcomes, key=str) == [2, *[None] * 7]
    async with house.engine.connect() as conn:
        kept = await questionnaires.draft(conn, scene.id)
    assert kept is not None
    assert kept.revision == 2
    assert json.loads(kept.value)["title"]["en"] == f"v{outcomes.index(2)}"


async def test_an_edition_stays_as_it_was(scene: Scene, house: House) -> None:
    async with house.engine.begin() as conn:
        before = await editions.edition(conn, scene.id, 1)
        await questionnaires.save(conn, scene.id, "draft", blank("Other"), 1)
        saved = await questionnaires.draft(conn, scene.id)
        assert saved is not None
        now = house.clock.now()
        number = await editions.publish(conn, scene.id, saved, scene.coordinator.id, now)
        assert number == 2
        assert await editions.edition(conn, scene.id, 1) == before
        assert await editions.edition(conn, scene.id, 2) == saved.value


async def test_only_a_published_one_stands_at_its_address(scene: Scene, house: House) -> None:
    id = house.ids.id()
    async with house.engine.begin() as conn:
        draft = blank("New").model_dump_json()
        await questionnaires.add(conn, id, "fresh2", draft, house.clock.now())
        assert await questionnaires.standing(conn, "fresh2") is None
        found = await questionnaires.standing(conn, scene.address)
    assert found is not None
    assert (found.id, found.edition, found.gate.state) == (scene.id, 1, "open")
