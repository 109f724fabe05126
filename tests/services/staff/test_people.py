"""People, teams, parts and clearance; nobody takes away the last owner."""

import asyncio
from datetime import timedelta

import pytest

from jotgate.core.common.errors import Invalid, NotAllowed, NotFound
from jotgate.core.records.accounts import Account, Client
from jotgate.core.records.trail import TrailFilter
from jotgate.services.context import Context
from jotgate.services.staff import sharing, trail
from jotgate.services.staff.accounts import people, sign_in, tokens
from jotgate.services.staff.accounts.people import PersonSettings
from jotgate.services.staff.entries import entries, entry_table
from jotgate.store.accounts import parts
from tests.conftest import Clock
from tests.scenes import PASSWORD, SECRET, Scene

pytestmark = pytest.mark.long

COORDINATOR = PersonSettings("coordinator", "", None)


async def add(context: Context, name: str, role: str | None) -> Account:
    return await people.add(context, f"{name}@example.org", name, role, PASSWORD)  # type: ignore[arg-type]


async def test_the_last_owner_stays(scene: Scene, context: Context, clock: Clock) -> None:
    owner = await add(context, "o", "owner")
    soon = PersonSettings("owner", "", clock.now() + timedelta(days=1))
    for change in (
        people.change(context, owner, owner.id, COORDINATOR),
        people.change(context, owner, owner.id, soon),
        people.leave(context, owner, owner.id, None),
    ):
        with pytest.raises(Invalid) as refused:
            await change
        assert refused.value.faults[0].code == "last_owner"
    other = await add(context, "p", "owner")
    await people.change(context, owner, other.id, soon)
    with pytest.raises(Invalid):
        await people.change(context, owner, owner.id, COORDINATOR)


async def test_two_owners_cannot_take_away_each_other(scene: Scene, context: Context) -> None:
    one, two = await add(context, "o", "owner"), await add(context, "p", "owner")
    done = await asyncio.gather(
        people.change(context, one, two.id, COORDINATOR),
        people.change(context, two, one.id, COORDINATOR),
        return_exceptions=True,
    )
    assert sum(isinstance(outcome, Invalid) for outcome in done) == 1


async def test_who_leaves_passes_on_what_they_had(scene: Scene, context: Context) -> None:
    owner = await add(context, "o", "owner")
    leaver, heir = await add(context, "l", None), await add(context, "h", None)
    await sharing.give(context, owner, "questionnaire", scene.id, "coordinator", person=leaver.id)
    await sharing.give(context, owner, "questionnaire", scene.id, "reader", person=heir.id)
    await sharing.give(context, owner, "register", scene.rest.id, "owner", person=leaver.id)
    await sharing.clear(context, owner, scene.id, leaver.id, None, False)
    signed = await sign_in.sign_in(context, leaver.email, PASSWORD, Client("10.0.0.1"))
    made = await tokens.make(
        context,
        leaver,
        "t",
        ["read_entries"],
        False,
        context.clock.now() + timedelta(days=2),
    )
    assert signed
    await people.leave(context, owner, leaver.id, heir.id)
    async with context.engine.connect() as conn:
        assert await parts.role_in(conn, heir.id, "questionnaire", scene.id) == "coordinator"
        assert await parts.role_in(conn, heir.id, "register", scene.rest.id) == "owner"
        assert await parts.role_in(conn, leaver.id, "questionnaire", scene.id) is None
        now = context.clock.now()
        assert await parts.clearance(conn, leaver.id, scene.id, now) is None
        assert await parts.clearance(conn, heir.id, scene.id, now) is None
    with pytest.raises(Exception, match="not known"):
        await tokens.use(context, made.secret)
    marks, _ = await trail.page(context, owner, TrailFilter(person=leaver.id), None)
    assert marks[0].action == "person_left"
    assert (marks[0].about, marks[0].detail) == ("l", {"to": "h"})
    with pytest.raises(Invalid, match="closed"):
        await people.change(context, owner, leaver.id, COORDINATOR)
    await people.come_back(context, owner, leaver.id, "reader")
    with pytest.raises(Invalid, match="here already"):
        await people.invite(context, owner, "L", leaver.email, COORDINATOR, "")


async def test_a_team_brings_its_part(scene: Scene, context: Context) -> None:
    owner = await add(context, "o", "owner")
    member = await add(context, "m", None)
    team = await people.save_team(context, owner, None, " The  Crew ", "c@example.org", [member.id])
    assert team.name == "The Crew"
    with pytest.raises(NotFound):
        await entry_table.page(context, member, scene.id)
    await sharing.give(context, owner, "questionnaire", scene.id, "reader", team=team.id)
    await entry_table.page(context, member, scene.id)
    await people.save_team(context, owner, team.id, team.name, "", [])
    with pytest.raises(NotFound):
        await entry_table.page(context, member, scene.id)
    with pytest.raises(Invalid, match="There is a team"):
        await people.save_team(context, owner, None, "The Crew", "", [])
    await people.remove_team(context, owner, team.id)
    assert (await sharing.shared(context, owner, "questionnaire", scene.id)).parts == ()


async def test_the_strongest_of_several_parts_counts(scene: Scene, context: Context) -> None:
    owner = await add(context, "o", "owner")
    member = await add(context, "m", None)
    team = await people.save_team(context, owner, None, "T", "", [member.id])
    await sharing.give(context, owner, "questionnaire", scene.id, "coordinator", team=team.id)
    await sharing.give(context, owner, "questionnaire", scene.id, "reader", person=member.id)
    async with context.engine.connect() as conn:
        assert await parts.role_in(conn, member.id, "questionnaire", scene.id) == "coordinator"
        assert await parts.roles_in(conn, member.id, "questionnaire") == {scene.id: "coordinator"}


async def test_an_owner_of_one_questionnaire_gives_parts_in_it(
    scene: Scene, context: Context
) -> None:
    """And in nothing else; nor do they see the office."""
    owner, own, other = [
        await add(context, name, role) for name, role in (("o", "owner"), ("q", None), ("x", None))
    ]
    await sharing.give(context, owner, "questionnaire", scene.id, "owner", person=own.id)
    await sharing.give(context, own, "questionnaire", scene.id, "reader", person=other.id)
    await sharing.clear(context, own, scene.id, other.id, None, True)
    with pytest.raises(NotFound):
        await sharing.give(context, own, "register", scene.rest.id, "reader", person=other.id)
    with pytest.raises(NotAllowed):
        await people.every(context, own)
    marks, _ = await trail.page(context, own, TrailFilter(questionnaire=scene.id), None)
    assert marks[0].action == "clearance_given"
    with pytest.raises(NotAllowed):
        await trail.page(context, own, TrailFilter(), None)
    with pytest.raises(NotAllowed):
        await trail.page(context, other, TrailFilter(questionnaire=scene.id), None)


async def test_clearance_ends_with_its_day_with_its_part_and_at_once(
    scene: Scene, context: Context, clock: Clock
) -> None:
    owner, person = await add(context, "o", "owner"), await add(context, "x", None)
    await scene.submit("a", ill=True, illness=SECRET)
    (entry,) = (await entry_table.page(context, scene.coordinator, scene.id)).entries
    with pytest.raises(Invalid, match="part in the questionnaire first"):
        await sharing.clear(context, owner, scene.id, person.id, None, False)
    await sharing.give(context, owner, "questionnaire", scene.id, "reader", person=person.id)
    until = clock.now() + timedelta(days=1)
    await sharing.clear(context, owner, scene.id, person.id, until, False)
    _, found = await entries.reveal(context, person, scene.id, entry.id)
    assert found.answers["illness"] == SECRET
    clock.move(timedelta(days=1))
    with pytest.raises(NotAllowed):
        await entries.reveal(context, person, scene.id, entry.id)
    await sharing.clear(context, owner, scene.id, person.id, None, False)
    await entries.reveal(context, person, scene.id, entry.id)
    await sharing.end_clearance(context, owner, scene.id, person.id)
    with pytest.raises(NotAllowed):
        await entries.reveal(context, person, scene.id, entry.id)
    assert not await entries.cleared_now(context, person, scene.id)
    with pytest.raises(Invalid, match="past"):
        await sharing.clear(context, owner, scene.id, person.id, clock.now(), False)


async def test_a_reason_is_asked_for_and_stands_on_the_trail(
    scene: Scene, context: Context
) -> None:
    owner = await add(context, "o", "owner")
    await scene.submit("a", ill=True, illness=SECRET)
    (entry,) = (await entry_table.page(context, owner, scene.id)).entries
    await sharing.clear(context, owner, scene.id, owner.id, None, True)
    with pytest.raises(Invalid) as refused:
        await entries.reveal(context, owner, scene.id, entry.id, "  ")
    assert refused.value.faults[0].at == "reason"
    await entries.reveal(context, owner, scene.id, entry.id, "  the  doctor asks ")
    wanted = TrailFilter(questionnaire=scene.id, entry=entry.id, key="illness")
    (mark,), _ = await trail.page(context, owner, wanted, None)
    assert mark.detail["reason"] == "the doctor asks"


async def test_a_token_reads_what_is_restricted_only_if_that_was_said(
    scene: Scene, context: Context
) -> None:
    await scene.submit("a", ill=True, illness=SECRET)
    (entry,) = (await entry_table.page(context, scene.coordinator, scene.id)).entries
    until = context.clock.now() + timedelta(days=3)
    for cleared in (False, True):
        made = await tokens.make(
            context, scene.coordinator, f"t{cleared}", ["read_entries"], cleared, until
        )
        account, _ = await tokens.use(context, made.secret)
        if cleared:
            await entries.reveal(context, account, scene.id, entry.id)
        else:
            with pytest.raises(NotAllowed):
                await entries.reveal(context, account, scene.id, entry.id)
    marks, _ = await trail.page(
        context, scene.coordinator, TrailFilter(actions=("restricted_seen",)), None
    )
    assert [mark.detail["token"] for mark in marks] == ["tTrue"]
