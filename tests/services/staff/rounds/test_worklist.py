"""Calls and visits: one contact after the other, nobody twice, and tried again by the rule."""

from datetime import timedelta
from typing import Any

import orjson
import pytest
from sqlalchemy import text

from jotgate.core.common.errors import Invalid, NotFound
from jotgate.core.records.accounts import Account
from jotgate.core.rounds.standing import OUTCOMES, Outcome
from jotgate.services.arrivals import Entrance
from jotgate.services.context import Context
from jotgate.services.public import entering, submitting
from jotgate.services.public.answering import Answers
from jotgate.services.staff.accounts import people
from jotgate.services.staff.entries import one_person
from jotgate.services.staff.rounds import rounds, worklist
from jotgate.services.staff.rounds.worklist import Told, Worklist
from jotgate.store.base import Engine
from tests.services.staff.rounds.conftest import Wells, keepers, step

HOUR = timedelta(hours=1)
CALLS = {"most": 3, "apart": 2, "other_hours": True}


@pytest.fixture
async def ringing(wells: Wells) -> Wells:
    """A letter went, one has answered, and the rest are to be rung."""
    script = {"en": "Hello, is this {contact.name}?"}
    steps = step("first", after=0), step("calls", "call", script=script), step("last")
    await wells.begin(*steps, trying=CALLS)
    await wells.goes()
    await wells.answer(0)
    await wells.goes(24 * HOUR)
    return wells


async def take(wells: Wells, who: Account) -> Worklist:
    return await worklist.look(wells.context, who, wells.id, wells.round, take=True)


async def tell(wells: Wells, who: Account, outcome: Outcome, **more: Any) -> Any:
    found = (await take(wells, who)).up
    assert found is not None
    args = (wells.context, who, wells.id, wells.round, found.contact.id)
    return found.contact, await worklist.tell(*args, Told(outcome, **more))


async def test_two_people_never_get_the_same_contact(ringing: Wells) -> None:
    got = []
    for _ in range(3):
        for who in (ringing.who, ringing.reviewer):
            found = await take(ringing, who)
            if found.up is None:
                continue
            assert found.up.script == f"Hello, is this {found.up.contact.name}?"
            got.append(found.up.contact.name)
            assert (await take(ringing, who)).up == found.up
        for who in (ringing.who, ringing.reviewer):
            if (await take(ringing, who)).up is not None:
                await tell(ringing, who, "refused")
    assert sorted(got) == [f"Keeper {n}" for n in range(1, 6)]
    assert await ringing.stands() == {"answered": 1, "refused": 5}


async def test_who_has_nobody_yet_is_only_told_how_many_wait(ringing: Wells) -> None:
    look = (ringing.context, ringing.reviewer, ringing.id, ringing.round)
    found = await worklist.look(*look, take=False)
    assert (found.up, found.waiting) == (None, 5)
    taken = (await take(ringing, ringing.reviewer)).up
    assert taken is not None
    again = (await worklist.look(*look, take=False)).up
    assert again is not None
    assert again.contact == taken.contact
    await worklist.put_back(*look)
    assert (await worklist.look(*look, take=False)).up is None


async def test_nobody_tells_of_somebody_they_do_not_have(ringing: Wells) -> None:
    taken = (await take(ringing, ringing.reviewer)).up
    assert taken is not None
    args = (ringing.context, ringing.who, ringing.id, ringing.round)
    with pytest.raises(Invalid, match="Somebody else"):
        await worklist.tell(*args, taken.contact.id, Told("refused"))
    with pytest.raises(NotFound):
        await worklist.tell(*args, ringing.round, Told("refused"))
    ringing.clock.move(worklist.HELD_FOR)
    other = (await take(ringing, ringing.who)).up
    assert other is not None
    late = (ringing.context, ringing.reviewer, ringing.id, ringing.round, taken.contact.id)
    with pytest.raises(Invalid):
        await worklist.tell(*late, Told("refused"))


async def test_who_was_not_reached_is_tried_again_at_another_hour(ringing: Wells) -> None:
    hours, names = set(), []
    for _ in range(3):
        contact, again = await tell(ringing, ringing.who, "not_reached")
        names.append(contact.name)
        hours.add(ringing.clock.now().hour)
        while (found := await take(ringing, ringing.who)).up is not None:
            if found.up.contact.id == contact.id:
                break
            await tell(ringing, ringing.who, "language")
        if again is not None:
            assert again >= ringing.clock.now() + 2 * HOUR
            assert again.hour not in hours
            ringing.clock.move(again - ringing.clock.now())
    assert (len(set(names)), again) == (1, None)
    assert (await take(ringing, ringing.who)).up is None
    assert (await ringing.progress()).codes == {"1.1": 1, "2.20": 1, "2.332": 4}


async def test_call_again_is_when_they_said(ringing: Wells) -> None:
    with pytest.raises(Invalid, match="when to try again"):
        await tell(ringing, ringing.who, "again")
    at = ringing.clock.now() + timedelta(minutes=50)
    contact, again = await tell(ringing, ringing.who, "again", again=at, note="after lunch")
    assert again == at
    while (found := (await take(ringing, ringing.who)).up) is not None:
        await tell(ringing, ringing.who, "wrong_number")
    found_none = await take(ringing, ringing.who)
    assert (found_none.waiting, found_none.later) == (0, at)
    ringing.clock.move(timedelta(minutes=50))
    found = (await take(ringing, ringing.who)).up
    assert found is not None
    assert found.contact == contact
    assert [(one.outcome, one.note) for one in found.named.attempts] == [("again", "after lunch")]


@pytest.mark.parametrize("outcome", OUTCOMES)
async def test_what_came_of_a_call_decides_what_follows(ringing: Wells, outcome: Outcome) -> None:
    more = {"again": ringing.clock.now() + 300 * HOUR} if outcome == "again" else {}
    contact, _ = await tell(ringing, ringing.who, outcome, **more)
    n = ringing.ids.index(contact.id)
    goes_on = outcome in ("again", "not_reached", "wrong_number", "moved", "language")
    expected = sorted(one for one in range(1, 6) if one != n or goes_on)
    assert await ringing.goes(25 * HOUR) == keepers(*expected)


async def test_what_they_say_is_entered_with_their_pass(ringing: Wells) -> None:
    taken = (await take(ringing, ringing.reviewer)).up
    assert taken is not None
    args = (ringing.context, ringing.reviewer, ringing.id, ringing.round, taken.contact.id)
    path = await worklist.enter(*args)
    secret = path.rpartition("/")[2]
    where = Entrance(way="e", secret=secret)
    visit = await entering.visit(ringing.context, ringing.address, "", entrance=where)
    answers = Answers("", 1, {"name": "Ines"}, arrival=visit.arrival)
    await submitting.submit(ringing.context, ringing.address, answers, "a key of the phone call")
    assert await ringing.code_of(ringing.ids.index(taken.contact.id)) == "1.1"
    assert (await worklist.tell(*args, Told("answered"))) is None
    assert taken.contact.name not in await ringing.names(stands="open")
    following = (await take(ringing, ringing.reviewer)).up
    assert following is not None
    assert following.contact.id != taken.contact.id


async def test_nobody_is_rung_once_it_is_stopped_or_they_answered(ringing: Wells) -> None:
    for n in range(1, 6):
        await ringing.answer(n)
    assert (await take(ringing, ringing.who)).up is None
    await rounds.stop(ringing.context, ringing.who, ringing.id, ringing.round, True)
    assert (await take(ringing, ringing.who)).waiting == 0


async def test_of_who_is_taken_out_only_what_rates_count_stays(
    ringing: Wells, context: Context, owner: Engine
) -> None:
    contact, _ = await tell(ringing, ringing.who, "refused", note="Deaf, shout")
    runs = await people.add(context, "owner@example.org", "Owner", "owner", "a long password")
    file = orjson.loads(await one_person.as_file(context, runs, contact.email))
    (told,) = file["contacts"][0]["rounds"]
    assert (told["round"], [one["note"] for one in told["tried"]]) == ("Autumn", ["Deaf, shout"])
    await one_person.erase(context, runs, contact.email, contact.email)
    async with owner.connect() as conn:
        left = (await conn.execute(text("select outcome, note from round_attempts"))).all()
    assert [tuple(one) for one in left] == [("refused", "")]
    assert (await ringing.stands())["refused"] == 1
