"""Somebody changes what they sent: by their pass, a confirmed address, or the link of a letter."""

import re
from datetime import timedelta
from typing import Any

import pytest
from sqlalchemy import text
from sqlalchemy.exc import ProgrammingError

from jotgate.core.common.errors import (
    InvalidAnswers,
    KeyReused,
    NotFound,
    Shut,
)
from jotgate.core.gate.places import cell_of
from jotgate.core.handling import Handling
from jotgate.core.records.trail import TrailFilter
from jotgate.core.walking.next_page import NextPage, first_page
from jotgate.services.arrivals import Entrance
from jotgate.services.gate import Seen
from jotgate.services.handling import Change
from jotgate.services.keys.sealing import restricted_of, unseal_version
from jotgate.services.public import answering, changing, confirming, started, submitting
from jotgate.services.public.answering import Answers, Turn
from jotgate.services.public.confirming import Asked
from jotgate.services.public.entering import Visit, with_filled
from jotgate.services.public.started import StartedAnswers
from jotgate.services.public.submitted import Submitted
from jotgate.services.staff import trail
from jotgate.services.staff.entries import entries, handling
from jotgate.store.entries import entries as entry_store
from jotgate.store.entries import entry_versions
from tests.documents import item, options, page, questionnaire
from tests.scenes import Scene, letters_asked, published
from tests.services.public.kits import ALL, BY, Kits, reason

MAIL: Any = {"audience": [{"kind": "mail"}], "per_person": {"most": 1, "known_by": ["mail"]}}


async def by_letter(wells: Kits, sent: Submitted, key: str) -> Visit:
    """Whoever sent an entry asks for a letter, and opens its link."""
    where, whole = wells.address, key.rjust(20, "0")
    await changing.ask_letter(wells.context, where, whole, "i@example.org", "en", "127.0.0.1")
    return await wells.come(Entrance(visit=await secret(wells)))


async def secret(wells: Kits) -> str:
    body = (await letters_asked(wells.context))[-1]["body"]
    found = re.search(rf"/c/{wells.address}/([\w-]+)", body)
    assert found
    return found.group(1)


async def send_again(wells: Kits, visit: Visit, key: str, **given: Any) -> Submitted:
    whole = key.rjust(20, "0")
    answers = Answers("", visit.edition, given, arrival=visit.arrival, seen=Seen(whole))
    return await submitting.submit(wells.context, wells.address, answers, whole)


async def answers_now(wells: Kits, sent: Submitted) -> dict[str, Any]:
    found = await entries.read(wells.context, wells.scene.coordinator, wells.id, sent.id)
    return dict(found.entry.answers)


async def test_by_the_link_of_a_letter_with_the_earlier_version_kept(wells: Kits) -> None:
    await wells.set(changing={})
    sent = await wells.send("a", bottles="3")
    assert sent.changes
    visit = await by_letter(wells, sent, "a")
    assert visit.filled.answers["name"] == "Ines"
    assert visit.filled.answers["bottles"] == "3"
    wells.clock.move(timedelta(minutes=5))
    changed = await send_again(wells, visit, "b", bottles="4", more=None)
    assert (changed.id, changed.number, changed.repeated) == (sent.id, sent.number, False)
    now = await answers_now(wells, sent)
    assert (now["bottles"], now["name"], now["district"]) == ("4", "Ines", "saltings")
    assert await wells.entries() == 1
    async with wells.context.restricted.connect() as conn:
        (version,) = await entry_versions.of_entry(conn, wells.id, sent.id)
        sealed = await entry_versions.sealed(conn, wells.id, sent.id, 1)
    assert sealed is not None
    before = await unseal_version(wells.context, sent.id, 1, sealed)
    assert (before.answers["bottles"], before.finish) == ("3", "done")
    assert version.replaced == wells.context.clock.now()
    marks, _ = await trail.page(
        wells.context, wells.scene.coordinator, TrailFilter(entry=sent.id), None
    )
    assert [(one.action, one.account_id) for one in marks] == [("entry_changed", None)]


async def test_what_it_left_empty_is_noted_anew(wells: Kits) -> None:
    await wells.set(changing={})
    sent = await wells.send("a", bottles="3")
    noted = text("select left_empty from entries")

    async def left() -> set[str]:
        async with wells.context.engine.connect() as conn:
            return set((await conn.execute(noted)).scalar_one())

    before = await left()
    assert "bottles" not in before
    visit = await by_letter(wells, sent, "a")
    await send_again(wells, visit, "b", bottles=None)
    assert await left() == before | {"bottles"}


async def test_a_change_is_made_once_for_its_key(wells: Kits) -> None:
    await wells.set(changing={})
    sent = await wells.send("a")
    visit = await by_letter(wells, sent, "a")
    await send_again(wells, visit, "b", name="Tove")
    assert (await send_again(wells, visit, "b", name="Tove")).repeated
    with pytest.raises(KeyReused):
        await send_again(wells, visit, "b", name="Ada")
    await send_again(wells, visit, "c", name="Ada")
    async with wells.context.engine.connect() as conn:
        assert len(await entry_versions.of_entry(conn, wells.id, sent.id)) == 2


async def test_only_while_it_may_be_changed(wells: Kits) -> None:
    await wells.set(changing={"until": "2026-11-25T10:00"})
    sent = await wells.send("a")
    visit = await by_letter(wells, sent, "a")
    await wells.set(state="shut", changing={"until": "2026-11-25T10:00"})
    await send_again(wells, visit, "b", name="Tove")
    await wells.set(state="held", changing={"until": "2026-11-25T10:00"})
    for tried in (
        send_again(wells, visit, "c", name="X"),
        wells.come(Entrance(arrival=visit.arrival)),
    ):
        with pytest.raises(Shut, match="cannot be changed any more"):
            await tried
    await wells.set(changing={"until": "2026-11-25T10:00"})
    await send_again(wells, visit, "d", name="Ada")
    wells.clock.move(timedelta(minutes=30))
    with pytest.raises(Shut, match="cannot be changed any more"):
        await send_again(wells, visit, "e", name="X")
    with pytest.raises(NotFound):
        await by_letter(wells, sent, "a")
    assert (await answers_now(wells, sent))["name"] == "Ada"


async def test_only_while_it_has_a_status_and_is_not_archived(wells: Kits) -> None:
    context, owner = wells.context, wells.scene.coordinator
    made = Handling.model_validate({"statuses": [{"key": "sampled", "name": "Sampled"}]})
    await handling.save(context, owner, wells.id, made, 1)
    await wells.set(changing={"statuses": [""]})
    sent = await wells.send("a")
    visit = await by_letter(wells, sent, "a")
    await send_again(wells, visit, "b", name="Tove")
    back = Change(status="", archived=False)
    for change in (Change(status="sampled"), Change(archived=True)):
        await handling.handle(context, owner, wells.id, [sent.id], change)
        with pytest.raises(Shut):
            await send_again(wells, visit, "c", name="X")
        await handling.handle(context, owner, wells.id, [sent.id], back)
    await send_again(wells, visit, "c", name="Ada")


async def test_places_follow_what_is_changed(wells: Kits) -> None:
    more: Any = {"places": [{**ALL, "most": 2}, {**BY, "most": 1}], "changing": {}}
    await wells.set(**more)
    first = await wells.send("a")
    second = await wells.send("b", district="millbeck")
    visit = await by_letter(wells, first, "a")
    assert not (await wells.come(Entrance(arrival=visit.arrival))).decision.why
    _, following = await answering.page(
        wells.context,
        wells.address,
        Answers("", 1, {"district": "millbeck"}, arrival=visit.arrival),
        Turn("onward", "kit"),
    )
    assert isinstance(following, NextPage)
    assert following.failed["district"].code == "option_full"
    with pytest.raises(InvalidAnswers) as refused:
        await send_again(wells, visit, "c", district="millbeck")
    assert [one.code for one in refused.value.faults] == ["option_full"]
    await send_again(wells, visit, "d", name="Tove")
    other = await by_letter(wells, second, "b")
    await wells.set(places=[{**ALL, "most": 2}, {**BY, "most": 2}], changing={})
    await send_again(wells, other, "e", district="saltings")
    counts = await wells.counts()
    assert [counts[cell_of("district", (one,))].taken for one in ("saltings", "millbeck")] == [2, 0]
    assert counts[cell_of("all")].taken == 2


async def test_whoever_answered_is_offered_to_change_it(wells: Kits) -> None:
    """By an address that was confirmed: the letter goes out although they have answered."""
    await wells.set(**MAIL, changing={})
    entrance = Entrance(address=wells.address)
    ask = confirming.ask(wells.context, Asked("i@example.org", entrance, "", "en", "127.0.0.1"))
    await ask
    visit = await secret(wells)
    sent = await wells.send("a", (await wells.come(Entrance(visit=visit))).arrival)
    with pytest.raises(Shut) as refused:
        await wells.come(Entrance(visit=visit))
    assert (refused.value.params["reason"], refused.value.params["own"]) == ("answered", "yes")
    again = Asked("i@example.org", entrance, "", "en", "127.0.0.1")
    await confirming.ask(wells.context, again)
    own = await changing.begin(
        wells.context, Entrance(address=wells.address, visit=await secret(wells))
    )
    changed = await send_again(wells, await wells.come(Entrance(visit=own)), "b", name="Tove")
    assert changed.id == sent.id
    await wells.set(**MAIL)
    assert await reason(confirming.ask(wells.context, again)) == "answered"
    with pytest.raises(NotFound):
        await changing.begin(wells.context, Entrance(address=wells.address, visit=visit))


async def test_nobody_changes_what_is_another_s(wells: Kits) -> None:
    await wells.set(changing={})
    await wells.send("a", device="x")
    with pytest.raises(NotFound):
        await changing.begin(wells.context, Entrance(address=wells.address))
    where = wells.address
    with pytest.raises(NotFound):
        await changing.ask_letter(wells.context, where, "z" * 20, "i@example.org", "en", "c")


async def test_what_is_changed_can_be_saved_for_later(wells: Kits) -> None:
    await wells.set(changing={"until": "2026-11-25T12:00"})
    sent = await wells.send("a")
    visit = await by_letter(wells, sent, "a")
    await wells.set(state="shut", changing={"until": "2026-11-25T12:00"})
    going = StartedAnswers(1, "", "kit", "s" * 32, {"name": "Tove"}, visit.arrival)
    await started.save(wells.context, wells.address, "f" * 64, going, "127.0.0.1")
    found = await started.find(wells.context, wells.address, "f" * 64)
    assert found.answers == {"name": "Tove"}


async def test_restricted_answers_and_values_that_a_link_brought(scene: Scene, clock: Any) -> None:
    document = questionnaire(
        page("p", item("short_text", "name"), item("short_text", "ill", restricted=True)),
        page("q", item("pick_one", "again", options=options("a", "b")), item("carried", "from")),
    )
    context, owner = scene.context, scene.coordinator
    id, address = await published(context, owner, document)
    wells = Kits(scene, clock, id, address)
    await wells.set(changing={})
    whole = "a".rjust(20, "0")
    given = Answers("from=poster", 1, {"name": "Ines", "ill": "since May"}, seen=Seen(whole))
    sent = await submitting.submit(context, address, given, whole)
    visit = await by_letter(wells, sent, "a")
    first = first_page(visit.plan, with_filled(visit.filled, {}), visit.filled.carried, visit.today)
    assert first.kept == {"name": "Ines", "ill": "since May", "from": "poster"}
    await send_again(wells, visit, "b", ill="since June")
    assert await answers_now(wells, sent) == {"name": "Ines", "from": "poster"}
    async with context.restricted.connect() as conn:
        sealed = await entry_store.sealed(conn, id, [sent.id])
    assert (await restricted_of(context, sent.id, sealed)).answers == {"ill": "since June"}
    with pytest.raises(ProgrammingError):
        async with context.engine.connect() as conn:
            await conn.execute(text("select * from restricted_versions"))
    await send_again(wells, visit, "c", ill=None)
    async with context.restricted.connect() as conn:
        sealed = await entry_store.sealed(conn, id, [sent.id])
    assert (await restricted_of(context, sent.id, sealed)).answers == {}
