"""Who gets no letters: brought in from a table, added by hand, looked up; and contacts that nothing
was done with for long."""

from datetime import timedelta

import pytest

from jotgate.core.common.errors import Invalid, NotAllowed, NotFound
from jotgate.services import doing
from jotgate.services.context import Context
from jotgate.services.staff.contacts import bringing, contacts, no_letters
from jotgate.store import work
from tests.conftest import Clock
from tests.scenes import Scene

TABLE = (
    b"Who,Address\nA,ada@stop.example.org\nB,not one\nC,BO@Stop.Example.org\nD,\n"
    b"E,ada@stop.example.org\n"
)


async def brought(context: Context, scene: Scene, body: bytes = TABLE) -> dict[str, object]:
    table, _ = await bringing.take_table(context, scene.coordinator, "blocked.csv", body)
    asked = await no_letters.bring(context, scene.coordinator, table.id, 1)
    await doing.do(context, asked.id)
    async with context.engine.connect() as conn:
        done = await work.find(conn, asked.id)
    assert done is not None
    return done.result


async def test_a_table_stops_letters_to_contacts_there_and_to_come(
    scene: Scene, context: Context
) -> None:
    who = scene.coordinator
    there = await contacts.add(context, who, {"email": "ada@stop.example.org"})
    result = await brought(context, scene)
    assert (result["stopped"], result["wrong"]) == (2, 1)
    assert result["rows"] == [{"number": 2, "written": "not one"}]
    assert (await contacts.whole(context, who, there)).contact.opted_out is not None
    later = await contacts.add(context, who, {"email": "bo@stop.example.org"})
    assert (await contacts.whole(context, who, later)).contact.opted_out is not None
    found = await no_letters.page(context, who, "@stop.", "")
    assert [(one.email, one.told) for one in found.found] == [
        ("ada@stop.example.org", "the table blocked.csv"),
        ("bo@stop.example.org", "the table blocked.csv"),
    ]
    assert (await brought(context, scene))["stopped"] == 0


async def test_addresses_are_added_found_and_taken_out_by_hand(
    scene: Scene, context: Context
) -> None:
    who = scene.coordinator
    assert await no_letters.put(context, who, " Cy@By-Hand.example.org", True) == (
        "cy@by-hand.example.org"
    )
    with pytest.raises(Invalid, match="already"):
        await no_letters.put(context, who, "cy@by-hand.example.org", True)
    with pytest.raises(Invalid):
        await no_letters.put(context, who, "nobody", True)
    assert [one.told for one in (await no_letters.page(context, who, "CY@", "")).found] == [
        who.name
    ]
    assert not (await no_letters.page(context, who, "dora", "")).found
    await no_letters.put(context, who, "cy@by-hand.example.org", False)
    with pytest.raises(NotFound):
        await no_letters.put(context, who, "cy@by-hand.example.org", False)
    with pytest.raises(NotAllowed):
        await no_letters.page(context, scene.reviewer, "", "")


async def test_more_than_a_page_is_read_on(scene: Scene, context: Context) -> None:
    rows = b"".join(b"X,a%03d@many.example.org\n" % n for n in range(150))
    await brought(context, scene, b"Who,Address\n" + rows)
    first = await no_letters.page(context, scene.coordinator, "@many.", "")
    assert (len(first.found), first.more) == (100, True)
    assert first.count >= 150
    rest = await no_letters.page(context, scene.coordinator, "@many.", first.found[-1].email)
    assert (len(rest.found), rest.more) == (50, False)


async def test_contacts_that_nothing_was_done_with_are_found(
    scene: Scene, context: Context, clock: Clock
) -> None:
    who = scene.coordinator
    old = await contacts.add(context, who, {"name": "Old"})
    clock.move(timedelta(days=400))
    new = await contacts.add(context, who, {"name": "New"})
    page = await contacts.page(context, who, "", None, None, unused=365)
    assert [one.id for one in page.contacts] == [old]
    assert page.count == 1
    one = (await contacts.whole(context, who, new)).contact
    assert one.came == who.name
    assert one.added == clock.now()
