"""Rounds: steps go to those whom the steps before have not moved, and to nobody else."""

from datetime import timedelta

import pytest

from jotgate.core.common.errors import Invalid, NotAllowed, NotFound, Stale
from jotgate.core.contacts.fields import ContactField
from jotgate.core.rounds.round import Round
from jotgate.services import opting_out
from jotgate.services.staff.contacts import contacts, fields
from jotgate.services.staff.rounds import coding, drawing, names, progress, rounds
from jotgate.services.staff.rounds.names import Which
from tests.documents import is_
from tests.services.staff.rounds.conftest import Wells, keepers, step

DAY = timedelta(days=1)


async def test_reminders_go_only_to_who_has_not_answered(wells: Wells) -> None:
    await wells.begin(
        step("first", after=0), step("again"), step("started", to="broken_off"), step("last")
    )
    assert await wells.goes() == keepers(0, 1, 2, 3, 4, 5)
    assert [run.asked for run in (await wells.read()).gone] == [6]
    await wells.answer(0)
    await wells.start(1)
    token = next(one.opt_out for one in wells.post.letters if one.to == "keeper2@example.org")
    await opting_out.choose(wells.context, token.rpartition("/")[2], "everything", "en")
    assert await wells.goes(DAY) == keepers(1, 3, 4, 5)
    await wells.answer(3)
    assert await wells.goes(DAY) == keepers(1)
    await wells.answer(1)
    assert await wells.goes(DAY) == keepers(4, 5)
    assert await wells.goes(10 * DAY) == []
    assert await wells.stands() == {"answered": 3, "refused": 1, "open": 2}
    codes = [await wells.code_of(n) for n in (0, 2, 4)]
    assert codes == ["1.1", "2.112", "3.19"]


async def test_letters_that_wait_are_asked_once_more(wells: Wells) -> None:
    text = {**step("first")["text"], "per_minute": 1}
    await wells.begin(step("first", after=0, text=text), step("again", text=text))
    await wells.goes()
    await wells.goes(DAY - timedelta(hours=1), timedelta(minutes=10))
    assert len(await wells.goes(timedelta(minutes=2), timedelta(minutes=1))) == 2
    for n in range(6):
        if await wells.code_of(n) == "3.19":
            await wells.answer(n)
    assert await wells.goes() == []
    assert (await wells.progress()).steps[1].letters["left_out"] == 4


async def test_a_deleted_entry_leads_to_no_reminder(wells: Wells) -> None:
    await wells.begin(step("first", after=0), step("again"))
    await wells.goes()
    await wells.answer(0)
    async with wells.context.engine.begin() as conn:
        from sqlalchemy import text

        await conn.execute(text("delete from entries"))
    assert await wells.goes(DAY) == keepers(1, 2, 3, 4, 5)


async def test_what_will_go_is_seen_beforehand_and_can_be_held_and_taken_back(
    wells: Wells,
) -> None:
    await wells.begin(step("first", after=0), step("again"), step("third"))
    await wells.goes()
    await wells.answer(0)
    found = await wells.progress()
    assert [(one.planned.step.key, one.people) for one in found.ahead] == [
        ("again", 5),
        ("third", 5),
    ]
    again = found.ahead[0].planned.moment
    assert again is not None
    assert again == wells.clock.now() + DAY - timedelta(hours=1)
    assert await wells.names(ahead="again") == [
        one for one in await wells.names() if one != "Keeper 0"
    ]
    state = await wells.read()
    held = wells.written(step("first", after=0), step("again", held=True), step("third"))
    held = held.model_copy(update={"draw": state.kept.round.draw})
    await rounds.save(wells.context, wells.who, wells.id, wells.round, state.kept.revision, held)
    assert await wells.goes(3 * DAY, timedelta(hours=1)) == []
    assert [one.moment for one in (await wells.read()).ahead] == [None, None]
    gone = wells.written(step("first", after=0), step("third"))
    gone = gone.model_copy(update={"draw": state.kept.round.draw})
    revision = (await wells.read()).kept.revision
    await rounds.save(wells.context, wells.who, wells.id, wells.round, revision, gone)
    assert await wells.goes() == keepers(1, 2, 3, 4, 5)
    with pytest.raises(Stale):
        await rounds.save(wells.context, wells.who, wells.id, wells.round, revision, gone)


async def test_what_has_gone_stays_as_it_went(wells: Wells) -> None:
    await wells.begin(step("first", after=0), step("again"))
    await wells.goes()
    state = await wells.read()
    draw = {"draw": state.kept.round.draw}
    for steps in ([step("again")], [step("new"), step("first")], [step("first", "call")]):
        changed = wells.written(*steps).model_copy(update=draw)
        with pytest.raises(Invalid, match="gone already"):
            await rounds.save(
                wells.context, wells.who, wells.id, wells.round, state.kept.revision, changed
            )
    other = wells.written(step("first"), portions=[1])
    with pytest.raises(Invalid, match="drawn already"):
        await rounds.save(
            wells.context, wells.who, wells.id, wells.round, state.kept.revision, other
        )


async def test_everything_is_stopped_in_one_action(wells: Wells) -> None:
    text = {**step("first")["text"], "per_minute": 1}
    await wells.begin(step("first", after=0, text=text), step("again"))
    assert len(await wells.goes(timedelta(minutes=3))) == 3
    await rounds.stop(wells.context, wells.who, wells.id, wells.round, True)
    assert await wells.goes(5 * DAY, timedelta(hours=1)) == []
    with pytest.raises(Invalid, match="stopped already"):
        await rounds.stop(wells.context, wells.who, wells.id, wells.round, True)
    await rounds.stop(wells.context, wells.who, wells.id, wells.round, False)
    assert len(await wells.goes(timedelta(minutes=1), timedelta(minutes=1))) >= 1


async def test_strata_portions_and_conditions(wells: Wells) -> None:
    only = {"op": "is_not", "item": "key", "value": "W-0"}
    more = {
        "people": {"list_id": str(wells.list), "only": only},
        "draw": {"by": "district", "sizes": {"Fell": 2, "Saltings": 2}},
        "portions": [1],
    }
    steps = step("first", after=0), step("salt", only=is_("district", "Saltings"))
    seen = await drawing.seen(wells.context, wells.who, wells.id, wells.written(*steps, **more))
    assert (seen.of, seen.drawn) == ({"Fell": 2, "Saltings": 3}, {"Fell": 2, "Saltings": 2})
    await wells.begin(*steps, **more)
    first = await wells.goes()
    assert len(first) == 1
    assert "keeper0" not in first
    await wells.release()
    rest = await wells.goes()
    assert len(rest) == 3
    assert not set(first) & set(rest)
    asked = {one: int(one[-1]) % 2 for one in (*first, *rest)}
    assert sorted(asked.values()) == [0, 0, 1, 1]
    assert await wells.goes(DAY) == sorted(one for one, side in asked.items() if side)
    with pytest.raises(Invalid, match="Everybody who was drawn"):
        await drawing.ask_release(wells.context, wells.who, wells.id, wells.round)


async def test_the_same_seed_draws_the_same(wells: Wells) -> None:
    drawn = []
    for _ in range(2):
        await wells.begin(step("first", held=True), draw={"size": 3})
        drawn.append(sorted(await wells.names()))
    assert drawn[0] == drawn[1]
    assert len(drawn[0]) == 3
    found = await wells.read()
    assert (found.kept.drawn_from, found.kept.round.draw.seed) == (6, "a seed")


async def test_what_was_before_decides(wells: Wells) -> None:
    await wells.begin(step("first", after=0), draw={"size": 3})
    asked = await wells.goes()
    await wells.answer(int(asked[0][-1]))
    for only, expected in (
        ({"op": "is", "item": "before.asked", "value": "0"}, 3),
        ({"op": "at_least", "item": "before.answered", "value": "1"}, 1),
        ({"op": "answered", "item": "before.last_asked"}, 3),
        ({"op": "at_most", "item": "before.last_answered", "value": "today"}, 1),
        ({"op": "unanswered", "item": "before.last_answered"}, 5),
    ):
        more = {"people": {"list_id": str(wells.list), "only": only}}
        seen = await drawing.seen(wells.context, wells.who, wells.id, wells.written(**more))
        assert sum(seen.drawn.values()) == expected, only


async def test_letters_keep_the_pace_of_receiving_domains(wells: Wells) -> None:
    text = {**step("first")["text"], "per_minute": 600, "per_domain": 6}
    await wells.begin(step("first", after=0, text=text))
    second = timedelta(seconds=1)
    assert len(await wells.goes(timedelta(seconds=10), second)) == 1
    assert len(await wells.goes(timedelta(seconds=20), second)) == 2
    await rounds.stop(wells.context, wells.who, wells.id, wells.round, True)
    wells.clock.move(timedelta(hours=1))
    await rounds.stop(wells.context, wells.who, wells.id, wells.round, False)
    assert len(await wells.goes(timedelta(seconds=10), second)) == 1
    assert len(await wells.goes(timedelta(seconds=20), second)) == 2


async def test_letters_go_in_office_hours_where_the_contact_is(wells: Wells) -> None:
    zones = {0: "Pacific/Auckland", 1: "America/Lima", 2: "nowhere"}
    for n, zone in zones.items():
        found = (await contacts.whole(wells.context, wells.who, wells.ids[n])).contact
        values = {"language": "en", "name": zone}
        await contacts.put(wells.context, wells.who, found.id, found.revision, values)
    hours = {"hours": [{"days": [1, 2, 3, 4, 5, 6, 7], "opens": "09:00", "shuts": "17:00"}]}
    await wells.begin(step("first", after=0), hours=hours, zone_field="name")
    assert await wells.goes() == keepers(2, 3, 4, 5)
    assert await wells.goes(timedelta(hours=3)) == []
    assert await wells.goes(timedelta(hours=3)) == keepers(1)
    assert await wells.goes(timedelta(hours=12), timedelta(minutes=10)) == keepers(0)


async def test_who_is_asked_cannot_be_drawn_from_nothing(wells: Wells) -> None:
    empty = Round.model_validate({"name": "Spring"})
    made = await rounds.make(wells.context, wells.who, wells.id, empty)
    with pytest.raises(Invalid, match="a list"):
        await drawing.draw(wells.context, wells.who, wells.id, made, "")
    with pytest.raises(Invalid, match="Draw who is asked first"):
        await drawing.ask_release(wells.context, wells.who, wells.id, made)
    await rounds.remove(wells.context, wells.who, wells.id, made)
    with pytest.raises(NotFound):
        await rounds.read(wells.context, wells.who, wells.id, made)


async def test_a_faulty_step_waits_and_says_why(wells: Wells) -> None:
    bad = {"subject": {"en": "Your well"}, "body": {"en": "Dear {contact.shoe}"}, "per_minute": 60}
    await wells.begin(step("first", after=0, text=bad))
    assert await wells.goes() == []
    (fault,) = (await wells.read()).faults
    assert fault.at == "steps/first/text/body/en"


async def test_a_step_goes_once_what_it_speaks_of_is_there_again(wells: Wells) -> None:
    """Fields of contacts and languages change elsewhere; nobody has to touch the round."""
    only = is_("village", "Fell")
    village = ContactField(key="village", label="Village", kind="text")
    await fields.add(wells.context, wells.who, village)
    one = (await contacts.whole(wells.context, wells.who, wells.ids[0])).contact
    await wells.begin(step("first", after=24, only=only))
    await fields.remove(wells.context, wells.who, "village")
    assert await wells.goes(timedelta(hours=30)) == []
    await fields.add(wells.context, wells.who, village)
    await contacts.put(wells.context, wells.who, one.id, one.revision, {"village": "Fell"})
    assert await wells.goes(timedelta(minutes=30)) == ["keeper0"]


async def test_dispositions_by_hand(wells: Wells) -> None:
    await wells.begin(step("first", after=0), step("again"))
    await wells.goes()
    at = (wells.context, wells.who, wells.id, wells.round, wells.ids[4])
    with pytest.raises(Invalid, match="Say why"):
        await coding.code(*at, ("2.31", " "))
    with pytest.raises(Invalid, match="no such disposition"):
        await coding.code(*at, ("9.9", "so"))
    await coding.code(*at, ("2.31", "Their daughter rang"))
    assert await wells.goes(DAY) == keepers(0, 1, 2, 3, 5)
    found = await names.person(*at)
    assert (found.code, found.asked.code_why) == ("2.31", "Their daughter rang")
    assert await wells.names(code="2.31") == ["Keeper 4"]
    await coding.code(*at, ("", ""))
    assert await wells.code_of(4) == "3.19"


async def test_bars_show_how_each_step_left_them(wells: Wells) -> None:
    await wells.begin(step("first", after=0), step("again"))
    await wells.goes()
    await wells.answer(0)
    await wells.answer(1)
    await wells.goes(DAY)
    await wells.answer(2)
    found = await wells.progress()
    assert [dict(one.stands) for one in found.steps] == [
        {"answered": 2, "open": 4},
        {"answered": 3, "open": 3},
    ]
    assert found.lately == 3
    assert found.reached == 3
    assert await wells.names(stands="answered", after_step="first") == [
        one for one in await wells.names() if one in ("Keeper 0", "Keeper 1")
    ]
    rates = {rate: value and float(value) for rate, value in found.rates.items()}
    assert rates["RR1"] == 0.5
    assert rates["REF1"] == 0.0
    assert rates["COOP1"] == 1.0


async def test_rights(wells: Wells) -> None:
    await wells.begin(step("first", after=0))
    args = (wells.context, wells.reviewer, wells.id, wells.round)
    with pytest.raises(NotAllowed):
        await rounds.stop(*args, True)
    with pytest.raises(NotAllowed):
        await names.names(*args, Which())
    assert (await progress.progress(*args)).released == 6
