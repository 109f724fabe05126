"""Reading entries: restricted answers for people with clearance only, and on the trail."""

from datetime import timedelta

import pytest
from sqlalchemy import text

from jotgate.adapters.secrets import FernetCipher
from jotgate.core.common.errors import NotAllowed, NotFound, Sealed
from jotgate.core.records.trail import TrailFilter
from jotgate.services.context import Context
from jotgate.services.keys.sealing import Restricted
from jotgate.services.public import submitting
from jotgate.services.public.answering import Answers
from jotgate.services.staff import questionnaires, trail
from jotgate.services.staff.accounts import people
from jotgate.services.staff.entries import entries, entry_notes, entry_table, removing
from jotgate.services.staff.entries.entry_table import Asked
from tests.conftest import Clock
from tests.documents import is_, item, page, questionnaire, well_check
from tests.scenes import SECRET, Scene, clear, published, save


async def test_revealing_is_on_the_trail(scene: Scene, context: Context) -> None:
    await scene.submit("a", ill=True, illness=SECRET)
    (entry,) = (await entry_table.page(context, scene.coordinator, scene.id)).entries
    _, found = await entries.reveal(context, scene.coordinator, scene.id, entry.id)
    assert found == Restricted({"ill": True, "illness": SECRET}, "")
    marks, _ = await trail.page(context, scene.coordinator, TrailFilter(), None)
    assert (marks[0].action, marks[0].who, marks[0].entry_id) == (
        "restricted_seen",
        "Rowan",
        entry.id,
    )
    assert marks[0].detail == {"number": 1, "keys": ["ill", "illness"]}
    assert SECRET not in str(marks)


async def test_without_clearance_nothing_is_told_not_even_whether_it_is_there(
    scene: Scene, context: Context
) -> None:
    await scene.submit("a", ill=True, illness=SECRET)
    (entry,) = (await entry_table.page(context, scene.reviewer, scene.id)).entries
    for id in (entry.id, context.ids.id()):
        with pytest.raises(NotAllowed):
            await entries.reveal(context, scene.reviewer, scene.id, id)
    with pytest.raises(NotFound):
        await entries.reveal(context, scene.coordinator, scene.id, context.ids.id())
    marks, _ = await trail.page(context, scene.coordinator, TrailFilter(), None)
    assert "restricted_seen" not in {mark.action for mark in marks}


async def test_pages_go_back_without_gap_or_double(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(entry_table, "PER_PAGE", 3)
    for n in range(7):
        await scene.submit(f"k{n}")
    seen: list[int] = []
    before: tuple[str, ...] | None = None
    while True:
        page = await entry_table.page(context, scene.reviewer, scene.id, Asked(after=before))
        seen += [entry.number for entry in page.entries]
        if page.next is None:
            break
        before = page.next
    assert seen == [7, 6, 5, 4, 3, 2, 1]


def test_keys_can_be_rotated_and_a_purpose_binds() -> None:
    from cryptography.fernet import Fernet

    old, new = Fernet.generate_key().decode(), Fernet.generate_key().decode()
    sealed = FernetCipher([old]).seal(b"words", "entry 1")
    assert FernetCipher([new, old]).open(sealed, "entry 1") == b"words"
    for cipher, purpose in ((FernetCipher([new]), "entry 1"), (FernetCipher([old]), "entry 2")):
        with pytest.raises(Sealed):
            cipher.open(sealed, purpose)


async def test_the_trail_names_them_to_people_with_clearance_only(
    scene: Scene, context: Context
) -> None:
    other = await people.add(context, "kim@example.org", "Kim", "coordinator", "x")
    await scene.submit("a", ill=True, illness=SECRET)
    (entry,) = (await entry_table.page(context, scene.coordinator, scene.id)).entries
    await entries.reveal(context, scene.coordinator, scene.id, entry.id)
    marks, _ = await trail.page(context, other, TrailFilter(), None)
    assert (marks[0].action, marks[0].detail) == ("restricted_seen", {"number": 1})


async def test_restricting_a_question_protects_what_was_answered_before(
    scene: Scene, context: Context
) -> None:
    """In the table, in the reading pane, and revealing brings it with a mark on the trail."""
    taken = await scene.submit("a", drinkers="4")
    pages = well_check().pages
    drinkers = pages[1].items[0].model_copy(update={"restricted": True})
    second = pages[1].model_copy(update={"items": (drinkers, *pages[1].items[1:])})
    document = well_check().model_copy(update={"pages": (pages[0], second)})
    await save(context, scene.coordinator, scene.id, document, 1)
    await questionnaires.publish(context, scene.coordinator, scene.id, 2)
    for account, withheld in ((scene.reviewer, None), (scene.coordinator, ("drinkers",))):
        page = await entry_table.page(context, account, scene.id)
        read = await entries.read(context, account, scene.id, taken.id)
        assert "drinkers" not in page.entries[0].answers
        assert "drinkers" not in read.entry.answers
        assert page.withheld.get(taken.id) == withheld
    _, found = await entries.reveal(context, scene.coordinator, scene.id, taken.id)
    assert found.answers == {"drinkers": "4"}


async def test_where_it_ended_is_sealed_where_it_gives_an_answer_away(
    scene: Scene, context: Context
) -> None:
    rule = {"when": is_("ill", True), "to": {"kind": "finish", "finish": "clinic"}}
    document = questionnaire(
        page("p", item("yes_no", "ill", restricted=True), item("short_text", "n"), skips=[rule]),
        finishes=("done", "clinic"),
    )
    id, address = await published(context, scene.coordinator, document)
    answers = Answers("", 1, {"ill": True, "n": "Ines"})
    taken = await submitting.submit(context, address, answers, "k" * 20)
    assert taken.ending.heading == "Clinic"
    again = await submitting.submit(context, address, answers, "k" * 20)
    assert (again.ending, again.repeated) == (taken.ending, True)
    async with context.engine.connect() as conn:
        stored = (await conn.execute(text("select * from entries"))).all()
    assert "clinic" not in str(stored)
    read = await entries.read(context, scene.coordinator, id, taken.id)
    assert (read.entry.finish, read.entry.answers) == ("", {"n": "Ines"})
    await clear(context, scene.coordinator, id)
    _, found = await entries.reveal(context, scene.coordinator, id, taken.id)
    assert (found.finish, found.answers) == ("clinic", {"ill": True})


async def test_setting_free_stands_on_the_trail(scene: Scene, context: Context) -> None:
    when = is_("ill", True)
    free = item("yes_no", "x", shown_when=when, freed=True)
    document = questionnaire(page("p", item("yes_no", "ill", restricted=True), free))
    await published(context, scene.coordinator, document)
    marks, _ = await trail.page(context, scene.coordinator, TrailFilter(), None)
    freed = [mark.detail for mark in marks if mark.action == "set_free"]
    assert freed == [{"edition": 1, "keys": ["x"]}]


async def test_answers_put_into_another_entry_are_refused_as_what_they_are(
    scene: Scene, context: Context
) -> None:
    one = await scene.submit("a", ill=True, illness=SECRET)
    other = await scene.submit("b", ill=False)
    swap = "update restricted_answers set sealed = (select sealed from restricted_answers where "
    async with context.restricted.begin() as conn:
        await conn.execute(text(f"{swap} entry_id = '{one.id}') where entry_id = '{other.id}'"))
    with pytest.raises(Sealed):
        await entries.reveal(context, scene.coordinator, scene.id, other.id)
    _, found = await entries.reveal(context, scene.coordinator, scene.id, one.id)
    assert found.answers == {"ill": True, "illness": SECRET}


async def test_notes_are_read_by_all_and_taken_back_by_whoever_wrote_them(
    scene: Scene, context: Context, clock: Clock
) -> None:
    taken = await scene.submit("a")
    other = await scene.submit("b")
    await entry_notes.add(context, scene.reviewer, scene.id, taken.id, "Rang twice")
    clock.move(timedelta(minutes=1))
    await entry_notes.add(context, scene.coordinator, scene.id, taken.id, "Moved")
    found = await entry_notes.every(context, scene.reviewer, scene.id, taken.id)
    assert [(one.who, one.words) for one in found] == [("Sam", "Rang twice"), ("Rowan", "Moved")]
    for where, note in ((taken.id, found[1].id), (other.id, found[0].id)):
        with pytest.raises(NotFound):
            await entry_notes.remove(context, scene.reviewer, scene.id, where, note)
    await entry_notes.remove(context, scene.reviewer, scene.id, taken.id, found[0].id)
    await removing.remove(context, scene.coordinator, scene.id, taken.id)
    async with context.engine.connect() as conn:
        left = await conn.execute(text("select count(*) from entry_notes"))
        assert left.scalar_one() == 0
    with pytest.raises(NotFound):
        await entry_notes.every(context, scene.reviewer, scene.id, taken.id)
