"""Submitting: once, whole, with restricted answers sealed."""

import asyncio
from datetime import timedelta

import pytest
from sqlalchemy import text

from jotgate.core.common.errors import InvalidAnswers, NotFound, Replaced, Shut
from jotgate.core.gate.settings import Gate
from jotgate.core.walking.next_page import NextPage
from jotgate.services.context import Context
from jotgate.services.public import answering, entering, started, submitting
from jotgate.services.public.answering import Answers, Turn
from jotgate.services.public.started import StartedAnswers
from jotgate.services.staff import questionnaires
from jotgate.services.staff.entries import entries, entry_table
from jotgate.services.staff.gate import gate
from tests.conftest import Clock
from tests.documents import well_check
from tests.scenes import SECRET, Scene, save


async def count(context: Context, table: str) -> int:
    async with context.restricted.connect() as conn:
        found: int = (await conn.execute(text(f"select count(*) from {table}"))).scalar_one()
        return found


async def shut(scene: Scene, words: str = "") -> None:
    shut_words = {"en": words} if words else {}
    value = Gate(state="shut", words={"shut": shut_words})
    await gate.save(scene.context, scene.coordinator, scene.id, value, 2)


async def test_an_entry_is_stored_with_its_work(scene: Scene, context: Context) -> None:
    taken = await scene.submit("a", "district=Saltings", drinkers="4", ill=True, illness=SECRET)
    assert (taken.number, taken.ending.heading, taken.repeated) == (1, "Booked", False)
    page = await entry_table.page(context, scene.coordinator, scene.id)
    (entry,) = page.entries
    assert page.withheld[entry.id] == ("ill", "illness")
    assert entry.answers == {
        "name": "Ines",
        "source": "own",
        "district": "saltings",
        "drinkers": "4",
    }
    assert await count(context, "procrastinate_jobs") == 1


async def test_one_key_is_one_entry_however_often_it_comes(scene: Scene, context: Context) -> None:
    taken = await asyncio.gather(*(scene.submit("same") for _ in range(30)))
    assert len({one.number for one in taken}) == 1
    assert sum(not one.repeated for one in taken) == 1
    assert await count(context, "entries") == 1
    assert await count(context, "procrastinate_jobs") == 1


async def test_numbers_are_given_once(scene: Scene) -> None:
    taken = await asyncio.gather(*(scene.submit(f"k{n}") for n in range(40)))
    assert len({one.number for one in taken}) == 40
    summary = await questionnaires.summary(scene.context, scene.coordinator, scene.id)
    assert summary.entries == 40
    assert sum(summary.days.values()) == 40


async def test_answers_off_the_path_are_not_stored(scene: Scene, context: Context) -> None:
    await scene.submit("a", source="mains", drinkers="4", ill=True, illness=SECRET)
    page = await entry_table.page(context, scene.coordinator, scene.id)
    (entry,) = page.entries
    assert entry.finish == "none"
    assert set(entry.answers) == {"name", "source"}
    assert page.withheld[entry.id] == ()
    assert await count(context, "restricted_answers") == 0


async def test_restricted_answers_lie_sealed(scene: Scene, context: Context) -> None:
    await scene.submit("a", ill=True, illness=SECRET)
    async with context.restricted.connect() as conn:
        for table in ("entries", "restricted_answers", "procrastinate_jobs"):
            for row in await conn.execute(text(f"select * from {table}")):
                assert SECRET not in str(row)
                assert SECRET.encode() not in b"".join(v for v in row if isinstance(v, bytes))


async def test_failures_name_their_page_and_store_nothing(scene: Scene, context: Context) -> None:
    with pytest.raises(InvalidAnswers) as refused:
        await scene.submit("a", drinkers="0", ill=True)
    assert refused.value.params == {"page": "health"}
    assert [(f.at, f.code) for f in refused.value.faults] == [
        ("drinkers", "too_small"),
        ("illness", "required"),
    ]
    assert await count(context, "entries") == 0
    assert await count(context, "procrastinate_jobs") == 0


async def test_a_shut_gate_says_its_words(scene: Scene, context: Context) -> None:
    await shut(scene, "Back in spring.")
    with pytest.raises(Shut, match="Back in spring"):
        await scene.submit("a")
    with pytest.raises(Shut, match="Back in spring"):
        await entering.visit(context, scene.address, "")


async def test_a_submission_that_was_stored_is_acknowledged_after_the_gate_shut(
    scene: Scene, context: Context
) -> None:
    first = await scene.submit("a")
    await shut(scene)
    again = await scene.submit("a")
    assert (again.number, again.repeated) == (first.number, True)
    assert await count(context, "entries") == 1


async def test_somebody_in_the_middle_stays_with_their_edition(
    scene: Scene, context: Context
) -> None:
    state = await questionnaires.draft(context, scene.coordinator, scene.id)
    pages = state.document.pages
    changed = state.document.model_copy(
        update={"pages": (pages[0], pages[1].model_copy(update={"title": {"en": "New"}}))}
    )
    await save(context, scene.coordinator, scene.id, changed, 1)
    await questionnaires.publish(context, scene.coordinator, scene.id, 2)
    answers = Answers("", 1, {"name": "Ines", "source": "own"})
    visitor, following = await answering.page(
        context, scene.address, answers, Turn("onward", "start")
    )
    assert isinstance(following, NextPage)
    assert following.step.page.title == {"en": "Health"}
    assert visitor.edition == 1
    assert (await entering.visit(context, scene.address, "")).edition == 2
    for wrong in (0, 3):
        with pytest.raises(NotFound):
            await entering.visit(context, scene.address, "", edition=wrong)


async def test_an_edition_that_was_replaced_takes_what_was_begun_for_a_day(
    scene: Scene, context: Context, clock: Clock
) -> None:
    """Then people go on in the new one, with the answers that still fit."""
    pages = well_check().pages
    renamed = pages[0].model_copy(update={"title": {"en": "New"}})
    less = pages[1].model_copy(update={"items": pages[1].items[1:]})
    changed = well_check().model_copy(update={"pages": (renamed, less)})
    await save(context, scene.coordinator, scene.id, changed, 1)
    await questionnaires.publish(context, scene.coordinator, scene.id, 2)
    given = {"name": "Ines", "source": "own", "drinkers": "4"}
    assert (await scene.submit("a", drinkers="4")).number == 1
    clock.move(timedelta(hours=24, seconds=1))
    with pytest.raises(Replaced):
        await scene.submit("b", drinkers="4")
    assert (await scene.submit("a", drinkers="4")).repeated
    answers = Answers("", 1, given)
    visitor, following = await answering.page(
        context, scene.address, answers, Turn("onward", "start")
    )
    assert isinstance(following, NextPage)
    assert (visitor.edition, visitor.replaced, following.step.page.key) == (2, True, "start")
    assert following.step.page.title == {"en": "New"}
    answers = Answers("", 2, given)
    taken = await submitting.submit(context, scene.address, answers, "c" * 20)
    read = await entries.read(context, scene.coordinator, scene.id, taken.id)
    assert (read.entry.edition, read.entry.answers) == (2, {"name": "Ines", "source": "own"})
    answers = Answers("", 1, {"source": "own"})
    _, following = await answering.page(context, scene.address, answers, Turn("onward", "health"))
    assert isinstance(following, NextPage)
    assert (following.step.page.key, list(following.failed)) == ("start", [])
    await started.save(
        context, scene.address, "ab" * 32, StartedAnswers(1, "", "start", "s", given), "c"
    )
    found = await started.find(context, scene.address, "ab" * 32)
    assert (found.edition, found.answers) == (2, {"name": "Ines", "source": "own"})


async def test_a_shut_gate_comes_before_any_word_on_answers(scene: Scene, context: Context) -> None:
    wrong = Answers("", 1, {"name": "", "source": "own"})
    with pytest.raises(InvalidAnswers):
        await submitting.submit(context, scene.address, wrong, "w" * 20)
    await shut(scene)
    with pytest.raises(Shut):
        await submitting.submit(context, scene.address, wrong, "w" * 20)


async def test_what_a_link_fills_in_counts_on_later_pages_until_it_is_taken_back(
    scene: Scene, context: Context
) -> None:
    link = "name=Ines&source=own&ill=yes&illness=Nothing"

    async def shown(**given: str | bool | None) -> list[str]:
        answers = Answers(link, 1, given)
        _, following = await answering.page(
            context, scene.address, answers, Turn("onward", "start")
        )
        assert isinstance(following, NextPage)
        return [item.key for item in following.step.shown]

    assert await shown() == ["drinkers", "ill", "illness"]
    assert await shown(ill=None) == ["drinkers", "ill"]
    assert await shown(ill=False) == ["drinkers", "ill"]
    taken = await submitting.submit(
        context, scene.address, Answers(link, 1, {"ill": None}), "k" * 20
    )
    read = await entries.read(context, scene.coordinator, scene.id, taken.id)
    assert (read.entry.answers, read.withheld) == ({"name": "Ines", "source": "own"}, ())
