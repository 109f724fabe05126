"""Entries that people of the office enter for somebody, and corrections by them."""

from dataclasses import replace
from datetime import timedelta
from typing import Any

import pytest
from sqlalchemy import text

from jotgate.core.common.errors import (
    Invalid,
    InvalidAnswers,
    NotAllowed,
    NotFound,
    PassRefused,
    Shut,
)
from jotgate.core.gate.settings import Gate
from jotgate.core.records.accounts import Account
from jotgate.core.records.trail import TrailFilter
from jotgate.services.arrivals import Entrance
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.dispatch.replaying import dispatch_change
from jotgate.services.public import entering as public
from jotgate.services.public import submitting
from jotgate.services.public.answering import Answers, Turn, page
from jotgate.services.public.entering import Visit
from jotgate.services.public.submitted import Submitted
from jotgate.services.staff import questionnaires, trail
from jotgate.services.staff.accounts import people
from jotgate.services.staff.entries import corrections, entering, entries, versions
from jotgate.services.staff.gate import gate
from tests.conftest import Clock
from tests.documents import item, questionnaire
from tests.documents import page as page_of
from tests.scenes import PASSWORD, SECRET, Scene, clear, published, save
from tests.services.dispatching import counted, rows

OPEN = questionnaire(page_of("p", item("short_text", "name", required=True)))


async def opened(context: Context, path: str) -> Visit:
    _, _, address, secret = path.split("/")
    return await public.visit(context, address, "", entrance=Entrance(way="e", secret=secret))


async def sent(context: Context, path: str, key: str, edition: int = 1, **given: Any) -> Submitted:
    visitor = await opened(context, path)
    answers = Answers("", edition, given, arrival=visitor.arrival)
    return await submitting.submit(context, path.split("/")[2], answers, key.rjust(20, "0"))


async def read(scene: Scene, id: Any) -> entries.EntryRead:
    return await entries.read(scene.context, scene.coordinator, scene.id, id)


async def noted(scene: Scene, action: str) -> list[tuple[str, dict[str, Any]]]:
    marks, _ = await trail.page(scene.context, scene.coordinator, TrailFilter(), None)
    return [(one.who or "", dict(one.detail)) for one in marks if one.action == action]


async def test_entered_whatever_the_gate_says_and_marked(scene: Scene, context: Context) -> None:
    """Times, audience, limits and robots are for visitors; places count for everybody."""
    who = scene.coordinator
    id, _ = await published(context, who, OPEN)
    shut = Gate.model_validate(
        {
            "state": "shut",
            "audience": [{"kind": "signed_in"}],
            "per_person": {"most": 1, "known_by": ["device"]},
            "robots": {"proof": 12, "trap": True},
            "places": [{"key": "all", "name": "All", "most": 2}],
        }
    )
    await gate.save(context, who, id, shut, 2)
    path = await entering.enter(context, who, id, "phone")
    first = await sent(context, path, "a", name="Ines")
    assert (await sent(context, path, "a", name="Ines")).repeated
    second = await sent(context, path, "b", name="Oskar")
    assert first.number != second.number
    with pytest.raises(Shut):
        await sent(context, path, "c", name="Tove")
    found = await entries.read(context, who, id, first.id)
    assert (found.entry.entered, found.entry.staff_id, found.came.staff) == (
        "phone",
        who.id,
        "Rowan",
    )
    told = [("Rowan", {"number": n, "entered": "phone"}) for n in (second.number, first.number)]
    assert await noted(scene, "entry_entered") == told


async def test_under_the_same_checks(scene: Scene, context: Context) -> None:
    path = await entering.enter(context, scene.coordinator, scene.id, "paper")
    with pytest.raises(InvalidAnswers):
        await sent(context, path, "a", name="x" * 9_000)


async def test_only_while_they_may(scene: Scene, context: Context, clock: Clock) -> None:
    reader = await people.add(context, "r@example.org", "R", "reader", PASSWORD)
    with pytest.raises(NotAllowed):
        await entering.enter(context, reader, scene.id, "phone")
    with pytest.raises(PassRefused):
        await opened(context, f"/e/{scene.address}/nothing")
    id, address = await published(context, scene.coordinator, OPEN)
    path = await entering.enter(context, scene.reviewer, id, "phone")
    visitor = await opened(context, path)
    await role(context, scene.reviewer, "reader")
    answers = Answers("", 1, {"name": "Ines"}, arrival=visitor.arrival)
    for refused in (
        opened(context, path),
        submitting.submit(context, address, answers, "a".rjust(20, "0")),
        page(context, address, answers, Turn("begin", "")),
    ):
        with pytest.raises(NotAllowed):
            await refused
    await role(context, scene.reviewer, "reviewer")
    assert (await sent(context, path, "a", name="Ines")).number
    clock.move(timedelta(hours=13))
    with pytest.raises(PassRefused):
        await opened(context, path)


async def role(context: Context, account: Account, name: str) -> None:
    async with context.engine.begin() as conn:
        query = text("update accounts set role = :role where id = :id")
        await conn.execute(query, {"role": name, "id": account.id})


async def test_corrected_with_what_was_there_before(scene: Scene, context: Context) -> None:
    """Who, when, why, from what to what; rows follow only where that is decided."""
    who = scene.coordinator
    first = await scene.submit("a", name="Ines", ill=True, illness=SECRET)
    await dispatch_entry(context, scene.id, first.id)
    where = (scene.id, first.id)
    with pytest.raises(Invalid):
        await entering.correct(context, who, where, "  ")
    path = await entering.correct(context, who, where, "A wrong name.")
    visitor = await opened(context, path)
    assert visitor.filled.answers["name"] == "Ines"
    assert (await sent(context, path, "b", name="Inés")).number == first.number
    found = await read(scene, first.id)
    (version,) = found.versions
    assert (version.account_id, version.why, version.waits) == (who.id, "A wrong name.", True)
    assert (found.correctors[who.id], found.entry.corrected) == ("Rowan", True)
    compared = await versions.read(context, who, where, 1)
    assert (compared.changed, compared.answers["name"], compared.after["name"]) == (
        ("name",),
        "Ines",
        "Inés",
    )
    _, kept = await entries.reveal(context, who, scene.id, first.id)
    assert kept.answers["illness"] == SECRET
    assert ("Rowan", {"number": 1, "why": "A wrong name."}) in await noted(scene, "entry_changed")
    assert await rows(scene, scene.rest) + await rows(scene, scene.saltings) == [{"name": "Ines"}]
    (effect,) = await corrections.meant(context, who, where)
    assert [dict(one.after) for one in effect.rows] == [{"name": "Inés"}]
    await corrections.settle(context, who, where, act=True)
    with pytest.raises(NotFound):
        await corrections.settle(context, who, where, act=True)
    await dispatch_change(context, *where)
    assert sum((await counted(scene)).values()) == 1
    assert await rows(scene, scene.rest) + await rows(scene, scene.saltings) == [{"name": "Inés"}]
    assert await corrections.meant(context, who, where) == ()


async def test_what_is_restricted_needs_clearance_and_is_noted(
    scene: Scene, context: Context
) -> None:
    first = await scene.submit("a", name="Ines", ill=True, illness=SECRET)
    where = (scene.id, first.id)
    other = await people.add(context, "k@example.org", "K", "coordinator", PASSWORD)
    with pytest.raises(NotAllowed, match="clearance"):
        await entering.correct(context, other, where, "No reason.")
    with pytest.raises(NotAllowed):
        await entering.correct(context, scene.reviewer, where, "No reason.")
    await clear(context, other, scene.id, asks_reason=True)
    cleared = replace(other, cleared=True)
    path = await entering.correct(context, cleared, where, "The doctor rang.")
    ((who, seen), *_) = await noted(scene, "restricted_seen")
    assert (who, seen["reason"]) == ("K", "The doctor rang.")
    assert {"ill", "illness"} <= {*seen["keys"]}
    assert (await opened(context, path)).filled.answers["illness"] == SECRET
    async with context.engine.begin() as conn:
        await conn.execute(text("delete from clearances where account_id = :id"), {"id": other.id})
    with pytest.raises(NotAllowed):
        await opened(context, path)
    with pytest.raises(NotAllowed):
        await sent(context, path, "b", name="Inés")


async def test_in_the_edition_of_the_entry(scene: Scene, context: Context, clock: Clock) -> None:
    """Also long after it was replaced, and what is restricted by now is sealed."""
    who = scene.coordinator
    id, address = await published(context, who, OPEN)
    first = await submitting.submit(
        context, address, Answers("", 1, {"name": "Ines"}), "a".rjust(20, "0")
    )
    later = questionnaire(page_of("p", item("short_text", "name", restricted=True)))
    await save(context, who, id, later, 1)
    await questionnaires.publish(context, who, id, 2)
    clock.move(timedelta(days=30))
    with pytest.raises(NotAllowed):
        await entering.correct(context, who, (id, first.id), "A wrong name.")
    await clear(context, who, id)
    path = await entering.correct(context, who, (id, first.id), "A wrong name.")
    visitor = await opened(context, path)
    assert visitor.edition == 1
    with pytest.raises(InvalidAnswers):
        await sent(context, path, "b", name="")
    await sent(context, path, "c", name="Inés")
    found = await entries.read(context, who, id, first.id)
    assert (found.entry.edition, found.entry.answers) == (1, {})
    assert (await entries.reveal(context, who, id, first.id))[1].answers == {"name": "Inés"}


async def test_an_archived_entry_of_a_shut_gate_can_be_corrected(
    scene: Scene, context: Context
) -> None:
    first = await scene.submit("a", name="Ines")
    await gate.save(context, scene.coordinator, scene.id, Gate(state="shut"), 2)
    path = await entering.correct(context, scene.coordinator, (scene.id, first.id), "Why not.")
    assert (await sent(context, path, "b", name="Tove")).number == first.number
