"""Acts that set who takes care, a field of the contact or a carried value, and put on lists."""

import asyncio
from collections import Counter
from typing import Any
from uuid import UUID

import pytest
from sqlalchemy import insert

from jotgate.core.common.errors import Invalid
from jotgate.core.contacts.contact import Contact, Origin
from jotgate.core.contacts.lists import Consent
from jotgate.core.gate.settings import Gate
from jotgate.core.handling import NOBODY, Care
from jotgate.core.records.accounts import Account, Part, Team
from jotgate.core.records.trail import TrailFilter
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.dispatch.replaying import dispatch_change
from jotgate.services.handling import Change
from jotgate.services.staff import trail
from jotgate.services.staff.accounts import people
from jotgate.services.staff.dispatch import dispatch_rules, runs
from jotgate.services.staff.entries import entries, handling
from jotgate.services.staff.gate import gate
from jotgate.store.accounts import parts
from jotgate.store.contacts import consents, contacts, lists, opt_outs
from jotgate.store.entries import entries as stored
from jotgate.store.entries import writing
from jotgate.store.entries.entry_tables import entry_ways
from tests.core.dispatch.rules import composed, file, item, rule
from tests.scenes import PASSWORD, Scene
from tests.services.dispatching import arrived, done, rows, ruled
from tests.services.test_replay import looked, replayed

MEMBERS = UUID(int=900)


def care(**who: Any) -> dict[str, Any]:
    return {"kind": "care", "who": who}


def value(source: Any, key: str = "district") -> dict[str, Any]:
    return {"kind": "value", "key": key, "source": source}


def field(source: Any, key: str = "phone") -> dict[str, Any]:
    return {"kind": "contact", "field": key, "source": source}


def listed(**more: str) -> dict[str, Any]:
    given = {"consent": "source", "option": "own", "email": "name", **more}
    return {"kind": "list", "list_id": str(MEMBERS), **given}


async def crew(scene: Scene, *members: Account) -> UUID:
    id = scene.context.ids.id()
    async with scene.context.engine.begin() as conn:
        await parts.add_team(conn, Team(id, "Crew", "", tuple(one.id for one in members)))
    return id


async def a_list(context: Context) -> None:
    async with context.engine.begin() as conn:
        await lists.add(conn, MEMBERS, "Letters", context.clock.now())


async def came_by(scene: Scene, key: str, **values: str) -> tuple[UUID, UUID]:
    """An entry that came by a contact, dispatched."""
    contact = scene.context.ids.id()
    taken = await scene.submit(key)
    way = {"questionnaire_id": scene.id, "entry_id": taken.id, "contact_id": contact}
    async with scene.context.engine.begin() as conn:
        origin = Origin(scene.context.clock.now(), "a test")
        await contacts.add(conn, contact, {"name": "Cyd", **values}, None, origin)
        await conn.execute(insert(entry_ways).values(**way))
    await dispatch_entry(scene.context, scene.id, taken.id)
    return taken.id, contact


async def carer(scene: Scene, id: UUID) -> Care:
    read = await entries.read(scene.context, scene.coordinator, scene.id, id)
    return Care(read.entry.carer_id, read.entry.care_team_id)


async def an_owner(context: Context) -> None:
    """Without whom nobody may leave."""
    await people.add(context, "oda@example.org", "Oda", "owner", PASSWORD)


async def by_address(context: Context, email: str) -> list[Contact]:
    async with context.engine.connect() as conn:
        return await contacts.by_email(conn, email)


async def agreed(context: Context, id: UUID) -> list[Consent]:
    async with context.engine.connect() as conn:
        return await consents.of_contact(conn, id)


async def test_people_of_a_team_take_care_in_turn(scene: Scene, context: Context) -> None:
    """Also of entries that are dispatched at once; a replay gives nothing to somebody else, and
    what somebody took care of goes to whoever follows them."""
    third = await people.add(context, "kit@example.org", "Kit", "reader", PASSWORD)
    outside = await people.add(context, "lou@example.org", "Lou", None, PASSWORD)
    members = (scene.coordinator, scene.reviewer, third, outside)
    team = await crew(scene, *members)
    await ruled(scene, otherwise=(care(kind="team", team_id=str(team), in_turn=True),))
    taken = [await scene.submit(f"k{n}") for n in range(9)]
    await asyncio.gather(*(dispatch_entry(context, scene.id, one.id) for one in taken))
    found = Counter([(await carer(scene, one.id)).person for one in taken])
    assert found == {one.id: 3 for one in members[:3]}
    before = [await carer(scene, one.id) for one in taken]
    assert not (await looked(scene)).found
    await replayed(scene, ("care",))
    assert [await carer(scene, one.id) for one in taken] == before
    await an_owner(context)
    await people.leave(context, third, third.id, scene.reviewer.id)
    after = Counter([(await carer(scene, one.id)).person for one in taken])
    assert after == {scene.coordinator.id: 3, scene.reviewer.id: 6}


async def test_who_takes_care_is_set_by_hand_and_by_rules(scene: Scene, context: Context) -> None:
    team = await crew(scene)
    await ruled(scene, otherwise=(care(kind="person", person_id=str(scene.reviewer.id)),))
    id = await arrived(scene, "a")
    assert await carer(scene, id) == Care(scene.reviewer.id)
    act = (context, scene.coordinator, scene.id)
    await handling.handle(*act, [id], Change(care=Care(team=team)))
    assert await carer(scene, id) == Care(team=team)
    await handling.handle(*act, [id], Change(care=NOBODY))
    assert await carer(scene, id) == NOBODY
    stranger = await people.add(context, "lou@example.org", "Lou", None, PASSWORD)
    with pytest.raises(Invalid, match="who may see the entries"):
        await handling.handle(*act, [id], Change(care=Care(stranger.id)))
    told, _ = await trail.page(
        context, scene.coordinator, TrailFilter(questionnaire=scene.id), None
    )
    names = [one.detail["care"] for one in told if "care" in one.detail]
    assert names == ["", "Crew", "Sam"]


async def test_somebody_who_left_takes_care_of_nothing(scene: Scene, context: Context) -> None:
    """The rule says so, the act waits for somebody, and is done again once it names another."""
    await ruled(scene, otherwise=(care(kind="person", person_id=str(scene.reviewer.id)),))
    await an_owner(context)
    await people.leave(context, scene.reviewer, scene.reviewer.id, None)
    id = await arrived(scene, "a")
    (run,) = await done(scene)
    assert (run.kind, run.state) == ("care", "failed")
    assert run.last_error is not None
    assert "may not see these entries" in run.last_error
    await ruled(scene, otherwise=(care(kind="person", person_id=str(scene.coordinator.id)),))
    await runs.again(context, scene.coordinator, scene.id, [run.id])
    assert await carer(scene, id) == Care(scene.coordinator.id)


async def test_a_carried_value_is_set_for_what_follows(scene: Scene, context: Context) -> None:
    """Later acts see it, conditions do not; the gate's own values stay."""
    act = value({"kind": "fixed", "text": "millbeck"})
    filed = file(scene.rest.id, name=composed("{name} of {district:code}"))
    late = rule(
        "late", {"op": "is", "item": "district", "value": "millbeck"}, file(scene.saltings.id)
    )
    late["acts"][0]["columns"] = {"name": item("name")}
    await ruled(scene, rule("first", None, act, filed, catches=False), late)
    id = await arrived(scene, "a", "district=saltings")
    read = await entries.read(context, scene.coordinator, scene.id, id)
    assert read.entry.answers["district"] == "millbeck"
    assert await rows(scene, scene.rest) == [{"name": "Ines of millbeck"}]
    assert await rows(scene, scene.saltings) == []
    places = [{"key": "each", "name": "Each", "by": ["district"], "most": 5}]
    counting = Gate.model_validate({"state": "open", "places": places})
    await gate.save(context, scene.coordinator, scene.id, counting, 2)
    await arrived(scene, "b", "district=saltings")
    failed = next(run for run in await done(scene) if run.kind == "value")
    assert failed.state == "failed"
    assert "gate counts places" in str(failed.last_error)
    state = await dispatch_rules.find(context, scene.coordinator, scene.id)
    assert [one.code for one in state.checked.faults] == ["counted"]


async def test_a_field_of_the_contact_follows_what_is_answered(
    scene: Scene, context: Context
) -> None:
    """What people changed by hand since stays; a correction of the entry comes through."""
    await ruled(scene, otherwise=(field(composed("071{drinkers}55")),))
    id, contact = await came_by(scene, "a", phone="none 000")
    assert await phone(context, contact) == "07155"
    assert not (await looked(scene)).found
    async with context.engine.begin() as conn:
        found = await stored.entry(conn, scene.id, id, lock=True)
        assert found is not None
        answers = {**found.answers, "drinkers": "4"}
        await writing.change(conn, found._replace(answers=answers), [])
    await dispatch_change(context, scene.id, id)
    assert await phone(context, contact) == "071455"
    await arrived(scene, "b")
    (run,) = await done(scene)
    assert (run.state, run.kind) == ("left_out", "contact")


async def phone(context: Context, id: UUID) -> str:
    async with context.engine.connect() as conn:
        found = await contacts.find(conn, id)
    assert found is not None
    return found.phone


async def test_a_value_that_does_not_fit_the_field_waits(scene: Scene, context: Context) -> None:
    await ruled(scene, otherwise=(field(item("name")),))
    await came_by(scene, "a")
    (run,) = await done(scene)
    assert run.state == "failed"
    assert run.last_error == (
        "Phone: This is not a phone number. Change the rule or the field, then do this again."
    )


async def test_consent_puts_on_a_list_once(scene: Scene, context: Context) -> None:
    """Two entries at once with a new address make one contact; who said no, or asked not to be
    written to, is not put there."""
    await a_list(context)
    await ruled(scene, otherwise=(listed(name="name"),))
    taken = [await scene.submit(f"k{n}", name="Ada@Example.org") for n in range(4)]
    await asyncio.gather(*(dispatch_entry(context, scene.id, one.id) for one in taken))
    (ada,) = await by_address(context, "ada@example.org")
    known = await agreed(context, ada.id)
    assert {one.entry_number for one in known} == {1, 2, 3, 4}
    assert {(one.question, one.answer, one.edition) for one in known} == {("Source", "Own", 1)}
    async with context.engine.begin() as conn:
        assert await lists.reachable(conn, MEMBERS) == [ada.id]
        await opt_outs.add(conn, "out@example.org", context.clock.now())
    for key, given in (
        ("no", {"source": "mains", "name": "bo@example.org"}),
        ("out", {"name": "out@example.org"}),
        ("nobody", {"name": "Ines"}),
    ):
        await arrived(scene, key, **given)
        (run,) = await done(scene)
        assert (run.kind, run.state) == ("list", "left_out"), key
    assert await by_address(context, "bo@example.org") == []
    assert await by_address(context, "out@example.org") == []


async def test_the_contact_that_came_is_put_on_the_list(scene: Scene, context: Context) -> None:
    await a_list(context)
    await ruled(scene, otherwise=(listed(email=""),))
    _, contact = await came_by(scene, "a")
    (one,) = await agreed(context, contact)
    assert (one.list_id, one.title, one.answer) == (MEMBERS, "Test", "Own")


async def test_contacts_are_for_those_who_reach_them(scene: Scene, context: Context) -> None:
    """A coordinator of one questionnaire has no rule change contacts, and knows of no lists; what
    is there already stays."""
    await a_list(context)
    local = await people.add(context, "kit@example.org", "Kit", None, PASSWORD)
    part = Part(context.ids.id(), "coordinator", local.id, None)
    async with context.engine.begin() as conn:
        await parts.give(conn, part, "questionnaire", scene.id)
    one = Scene(**{**vars(scene), "coordinator": local})
    assert (await dispatch_rules.find(context, local, scene.id)).known.lists == {}
    for act, code in ((listed(), "no_list"), (field(item("name")), "not_allowed")):
        with pytest.raises(Invalid) as refused:
            await ruled(one, otherwise=(act,))
        assert [fault.code for fault in refused.value.faults] == [code]
        await ruled(scene, otherwise=(act,))
        await ruled(one, otherwise=(act,))
        await ruled(scene)
