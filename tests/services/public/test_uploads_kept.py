"""Files with entries: sealed, kept, changed, restricted and removed."""

import json
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest

from jotgate.api.public.answering import page_out
from jotgate.core.common.errors import InvalidAnswers, NotAllowed, NotFound, Shut
from jotgate.core.gate.settings import Gate
from jotgate.core.records.files import SentFile
from jotgate.core.walking.arrival import Arrival, Came
from jotgate.core.walking.next_page import first_page
from jotgate.services.arrivals import Entrance, seal
from jotgate.services.context import Context
from jotgate.services.public import entering, submitting, uploads
from jotgate.services.public.answering import Answers
from jotgate.services.public.submitted import Submitted
from jotgate.services.public.uploads import UNSENT_DAYS, AnnouncedFile
from jotgate.services.staff.entries import entries
from jotgate.services.staff.gate import gate
from jotgate.store import files
from tests.conftest import Clock
from tests.services.public.test_uploads import CLIENT, Sender, of, picture, sender

__all__ = ["sender"]


async def test_bytes_at_rest_are_sealed(sender: Sender, tmp_path: Path) -> None:
    await sender.send("papers", "wells.csv", b"name,depth\nOld secret well,12\nBarn,9\n")
    kept = [path for path in (tmp_path / "files").rglob("*") if path.is_file()]
    assert kept
    assert all(b"secret" not in path.read_bytes() for path in kept)


async def test_a_file_belongs_to_one_entry_of_its_question(sender: Sender) -> None:
    sent = await sender.send("photo", "a.png", picture())
    other = await sender.send("papers", "a.csv", b"a,b\n1,2\n")
    refused: Any = ({"photo": [of(other)]}, {"papers": [of(sent)]}, {"photo": [{"id": "x"}]})
    for answers in refused:
        with pytest.raises(InvalidAnswers) as failed:
            await sender.submit(**answers)
        assert failed.value.faults[0].code == "no_such_file"
    first = await sender.submit("a", photo=[of(sent)])
    again = await sender.submit("a", photo=[of(sent)])
    assert (again.id, again.repeated) == (first.id, True)
    with pytest.raises(InvalidAnswers):
        await sender.submit("b", photo=[of(sent)])


async def test_what_a_browser_says_of_a_file_does_not_count(
    sender: Sender, context: Context
) -> None:
    sent = await sender.send("photo", "a.png", picture())
    said = {**of(sent), "name": "evil.exe", "size": 1, "type": "text/html"}
    taken = await sender.submit(photo=[said])
    entry = (
        await entries.read(context, sender.scene.coordinator, sent.questionnaire_id, taken.id)
    ).entry
    assert entry.answers["photo"] == [
        {"id": str(sent.id), "name": "a.png", "size": sent.size, "type": "image/png"}
    ]


async def test_files_inside_a_roster(sender: Sender) -> None:
    sent = await sender.send("head", "a.png", picture())
    taken = await sender.submit(wells=[{"head": [of(sent)]}])
    assert taken.number == 1
    with pytest.raises(InvalidAnswers) as failed:
        await sender.submit("b", wells=[{"head": [of(sent)]}])
    assert failed.value.faults[0].at == "wells/0/head"


async def test_a_restricted_file_needs_clearance_and_marks_the_trail(
    sender: Sender, context: Context
) -> None:
    sent = await sender.send("secret", "a.png", picture())
    taken = await sender.submit(secret=[of(sent)])
    where = (sent.questionnaire_id, taken.id)
    for small in (True, False):
        with pytest.raises(NotAllowed):
            await entries.file(context, sender.scene.reviewer, where, sent.id, small)
    with pytest.raises(NotFound):
        await entries.file(context, sender.scene.reviewer, where, context.ids.id(), False)


async def test_a_shut_gate_takes_no_files(sender: Sender, context: Context) -> None:
    shut = Gate(state="shut")
    await gate.save(context, sender.scene.coordinator, sender.id, shut, 2)
    with pytest.raises(Shut):
        await sender.send("photo", "a.png", picture())


async def test_what_was_never_submitted_is_removed(
    sender: Sender, context: Context, clock: Clock, tmp_path: Path
) -> None:
    kept = await sender.send("photo", "a.png", picture())
    await sender.submit(photo=[of(kept)])
    await sender.send("photo", "b.png", picture())
    clock.move(timedelta(days=UNSENT_DAYS - 1))
    assert await uploads.remove_unsent(context) == 0
    clock.move(timedelta(days=2))
    assert await uploads.remove_unsent(context) == 1
    cut_off = AnnouncedFile(1, "photo", "c.png", 100, "en")
    await uploads.begin(context, sender.address, cut_off, CLIENT)
    clock.move(timedelta(days=1, seconds=1))
    assert await uploads.remove_unsent(context) == 1
    assert [path.name for path in (tmp_path / "files" / "files").iterdir()] == [str(kept.id)]


async def test_files_stay_with_an_entry_that_is_changed(sender: Sender, clock: Clock) -> None:
    """What was sent before can be sent again by whoever changes the entry, and by nobody else."""
    context, owner = sender.context, sender.scene.coordinator
    changing = Gate.model_validate({"state": "open", "changing": {}})
    await gate.save(context, owner, sender.id, changing, 2)
    first = await sender.send("photo", "a.png", picture())
    sent = await sender.submit("a", photo=[of(first)])
    arrival = seal(context, sender.id, Arrival(came=Came(own=sent.id)))
    visit = await entering.visit(context, sender.address, "", entrance=Entrance(arrival=arrival))
    shown = page_out(visit, first_page(visit.plan, visit.filled.answers, {}, visit.today))
    assert json.loads(shown.model_dump_json())["filled"]["photo"][0]["id"] == str(first.id)
    second = await sender.send("photo", "b.png", picture("JPEG"))

    async def change(key: str, *photos: SentFile) -> Submitted:
        given = {"photo": [of(one) for one in photos]}
        answers = Answers("", 1, given, arrival=arrival)
        return await submitting.submit(context, sender.address, answers, key.rjust(20, "0"))

    assert (await change("b", first, second)).id == sent.id
    async with context.engine.connect() as conn:
        assert {one.id for one in await files.of_entry(conn, sent.id)} == {first.id, second.id}
    await change("c", second)
    where = (sender.id, sent.id)
    kept = await entries.file(context, owner, where, first.id, small=False)
    assert kept.name == "a.png"
    with pytest.raises(InvalidAnswers):
        await sender.submit("d", photo=[of(first)])
    other = await sender.submit("e")
    theirs = seal(context, sender.id, Arrival(came=Came(own=other.id)))
    stolen = Answers("", 1, {"photo": [of(first)]}, arrival=theirs)
    with pytest.raises(InvalidAnswers):
        await submitting.submit(context, sender.address, stolen, "f".rjust(20, "0"))
