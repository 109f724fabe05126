"""Started entries: saved under a secret, found again, sent by letter, forgotten."""

from datetime import timedelta

import pytest
from sqlalchemy import select

from jotgate.core.common.errors import NotFound, Shut, TooLarge, TooManyTries
from jotgate.core.gate.settings import Gate
from jotgate.jobs.tasks import clear_away
from jotgate.services import letters
from jotgate.services.context import Context
from jotgate.services.public import started
from jotgate.services.public.started import KEPT_DAYS, LETTERS, StartedAnswers
from jotgate.services.staff.gate import gate
from jotgate.store.entries.started import started as started_table
from tests.conftest import Clock, Post
from tests.scenes import Scene

CLIENT = "192.0.2.7"
TOKEN = "ab" * 32
GOING = StartedAnswers(1, "district=saltings", "health", "s" * 20, {"name": "Ines", "ill": True})


async def test_what_is_saved_is_found_again_and_only_with_the_secret(
    scene: Scene, context: Context
) -> None:
    await started.save(context, scene.address, TOKEN, GOING, CLIENT)
    assert await started.find(context, scene.address, TOKEN) == GOING
    later = StartedAnswers(1, "", "start", "s" * 20, {"name": "Ines C"})
    await started.save(context, scene.address, TOKEN, later, CLIENT)
    assert await started.find(context, scene.address, TOKEN) == later
    with pytest.raises(NotFound):
        await started.find(context, scene.address, "cd" * 32)


async def test_neither_the_secret_nor_an_answer_stands_in_the_database(
    scene: Scene, context: Context
) -> None:
    await started.save(context, scene.address, TOKEN, GOING, CLIENT)
    async with context.engine.connect() as conn:
        (row,) = (await conn.execute(select(started_table))).all()
    assert TOKEN not in str(row)
    assert "Ines" not in str(row)


async def test_a_shut_gate_saves_nothing(scene: Scene, context: Context) -> None:
    await gate.save(context, scene.coordinator, scene.id, Gate(state="shut"), 2)
    with pytest.raises(Shut):
        await started.save(context, scene.address, TOKEN, GOING, CLIENT)


async def test_it_is_forgotten_when_asked_and_after_its_time(
    scene: Scene, context: Context, clock: Clock
) -> None:
    await started.save(context, scene.address, TOKEN, GOING, CLIENT)
    await started.forget(context, TOKEN)
    with pytest.raises(NotFound):
        await started.find(context, scene.address, TOKEN)
    await started.save(context, scene.address, TOKEN, GOING, CLIENT)
    clock.move(timedelta(days=KEPT_DAYS, minutes=1))
    with pytest.raises(NotFound):
        await started.find(context, scene.address, TOKEN)
    assert await clear_away(context) == 1


async def letter(scene: Scene, context: Context, language: str = "en") -> None:
    base = "https://jotgate.example.org"
    await started.ask_letter(
        context, scene.address, TOKEN, "ines@example.org", base, language, CLIENT
    )


async def asked(context: Context) -> list[str]:
    async with context.engine.connect() as conn:
        rows = await conn.exec_driver_sql(
            "select args ->> 'sealed' from procrastinate_jobs where task_name = 'send_letter'"
        )
        return [row[0] for row in rows]


async def test_a_letter_leads_back_and_waits_in_the_queue_sealed(
    scene: Scene, context: Context, post: Post
) -> None:
    await started.save(context, scene.address, TOKEN, GOING, CLIENT)
    await letter(scene, context)
    (sealed,) = await asked(context)
    assert TOKEN not in sealed
    assert post.letters == []
    await letters.send(context, sealed)
    (sent,) = post.letters
    link = f"https://jotgate.example.org/q/{scene.address}#on={TOKEN}"
    assert sent.to == "ines@example.org"
    assert link in sent.body
    assert "25 December 2026" in sent.body


async def test_letters_are_limited_and_need_something_saved(scene: Scene, context: Context) -> None:
    with pytest.raises(NotFound):
        await letter(scene, context)
    await started.save(context, scene.address, TOKEN, GOING, CLIENT)
    for _ in range(LETTERS):
        await letter(scene, context)
    with pytest.raises(TooManyTries):
        await letter(scene, context)
    assert len(await asked(context)) == LETTERS


async def test_letters_to_one_address_by_one_client_at_one_questionnaire_are_few(
    scene: Scene, context: Context, clock: Clock, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Counted in the database, so over all processes, whichever entries they are asked for."""

    async def ask(token: str, to: str, client: str) -> None:
        await started.save(context, scene.address, token, GOING, client)
        await started.ask_letter(context, scene.address, token, to, "https://a", "en", client)

    monkeypatch.setattr(started, "LETTERS_A_DAY", {"address": 2, "client": 3, "questionnaire": 5})
    for number in range(2):
        await ask(f"{number}" * 64, "ines@example.org", "a")
    with pytest.raises(TooManyTries):
        await ask("2" * 64, "Ines@Example.org", "b")
    await ask("3" * 64, "sam@example.org", "a")
    with pytest.raises(TooManyTries):
        await ask("4" * 64, "rowan@example.org", "a")
    for number in (5, 6):
        await ask(f"{number}" * 64, f"n{number}@example.org", f"c{number}")
    with pytest.raises(TooManyTries):
        await ask("7" * 64, "n7@example.org", "c7")
    clock.move(timedelta(days=1))
    await ask("8" * 64, "ines@example.org", "a")


async def test_what_is_saved_is_of_this_questionnaire_and_not_too_large(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch
) -> None:
    strange = StartedAnswers(1, "", "start", "s" * 20, {"name": "Ines", "other": ["x"] * 1000})
    await started.save(context, scene.address, TOKEN, strange, CLIENT)
    assert (await started.find(context, scene.address, TOKEN)).answers == {"name": "Ines"}
    large = StartedAnswers(1, "", "start", "s" * 20, {"name": "x" * started.LARGEST})
    with pytest.raises(TooLarge):
        await started.save(context, scene.address, TOKEN, large, CLIENT)
    monkeypatch.setattr(started, "NEW_A_DAY", 1)
    with pytest.raises(TooManyTries):
        await started.save(context, scene.address, "cd" * 32, GOING, CLIENT)
    await started.save(context, scene.address, TOKEN, GOING, CLIENT)
