"""Contacts and lists on real PostgreSQL: brought in, looked for, changed, made one, opted out."""

from collections.abc import Mapping
from typing import Any
from uuid import UUID

import pytest

from jotgate.core.common.errors import Invalid, NotAllowed, NotFound, Stale
from jotgate.core.contacts.contact import facts_of
from jotgate.core.contacts.fields import ContactField
from jotgate.services import doing
from jotgate.services.context import Context
from jotgate.services.staff.contacts import bringing, contacts, export, fields, lists
from jotgate.services.staff.contacts.bringing import Bringing, Known
from jotgate.services.tables import tables
from tests.conftest import Clock
from tests.scenes import Scene

TABLE = """Key,Name,Email,District
W-1,Ines Moor,ines@example.org,Millbeck
W-2,Tove Lind,tove@example.com,Saltings
,Sam Reed,sam@example.net,Millbeck
"""
DISTRICT = ContactField(
    key="district", label="District", kind="pick", options=("Millbeck", "Saltings")
)


class Desk:
    """What a coordinator does with contacts."""

    def __init__(self, scene: Scene, context: Context) -> None:
        self.who, self.context = scene.coordinator, context

    async def look(self, table: str) -> tuple[UUID, dict[str, Any]]:
        brought, columns = await bringing.take_table(
            self.context, self.who, "t.csv", table.encode()
        )
        asked = await bringing.look(self.context, self.who, brought.id, columns)
        await doing.do(self.context, asked.id)
        found = await bringing.progress(self.context, self.who, asked.id)
        assert found.state == "done", found.result
        return brought.id, found.result

    async def bring(
        self, table: str, known: Known = "update", new_list: str = ""
    ) -> dict[str, Any]:
        id, _ = await self.look(table)
        return await self.write(id, known, new_list)

    async def write(self, id: UUID, known: Known = "update", new_list: str = "") -> dict[str, Any]:
        wanted = Bringing(id, known, None, new_list)
        asked = await bringing.bring(self.context, self.who, wanted)
        await doing.do(self.context, asked.id)
        return (await bringing.progress(self.context, self.who, asked.id)).result

    async def all(self, words: str = "") -> list[Mapping[str, str]]:
        found = await contacts.page(self.context, self.who, words, None, None)
        return [facts_of(one) for one in found.contacts]

    async def id_of(self, words: str) -> UUID:
        (one,) = (await contacts.page(self.context, self.who, words, None, None)).contacts
        return one.id


@pytest.fixture
async def desk(scene: Scene, context: Context) -> Desk:
    await fields.add(context, scene.coordinator, DISTRICT)
    return Desk(scene, context)


async def test_a_table_is_looked_at_before_anything_is_written(desk: Desk) -> None:
    id, seen = await desk.look(TABLE)
    assert {name: seen[name] for name in ("new", "known", "doubled", "clash", "wrong")} == {
        "new": 3, "known": 0, "doubled": 0, "clash": 0, "wrong": 0,
    }  # fmt: skip
    assert await desk.all() == []
    assert (await desk.write(id, new_list="Wells"))["added"] == 3
    assert [one["name"] for one in await desk.all()] == ["Ines Moor", "Sam Reed", "Tove Lind"]
    (made,) = await lists.every(desk.context, desk.who)
    assert (made.name, made.contacts, made.reachable) == ("Wells", 3, 3)


async def test_duplicates_are_found_by_key_and_by_address(desk: Desk) -> None:
    await desk.bring(TABLE)
    _, seen = await desk.look(
        "Key,Name,Email\n"
        "W-1,Ines M.,other@example.org\n"  # known by its key
        ",Tove,TOVE@example.com\n"  # known by its address
        "W-9,Sam,sam@example.net\n"  # known by the address of one without a key
        "W-9,Sam again,x@example.net\n"  # the same key in the file
        ",New,new@example.net\n"
        ",New twice,new@example.net\n"  # the same address in the file
        "W-7,Ines too,ines@example.org\n"  # another key: somebody else at the same address
    )
    told = {row["number"]: (row["state"], row["of_number"]) for row in seen["rows"]}
    assert told == {
        1: ("known", None), 2: ("known", None), 3: ("known", None), 4: ("doubled", 3),
        6: ("doubled", 5),
    }  # fmt: skip
    assert (seen["new"], seen["known"], seen["doubled"]) == (2, 3, 2)


async def test_an_address_that_several_have_is_not_guessed(desk: Desk) -> None:
    await desk.bring("Key,Name,Email\nA,Ann,both@example.org\nB,Bo,both@example.org\n")
    _, seen = await desk.look("Name,Email\nWho,both@example.org\n")
    assert (seen["clash"], seen["new"], seen["known"]) == (1, 0, 0)


async def test_two_rows_that_are_one_contact_count_once(desk: Desk) -> None:
    await desk.bring(TABLE)
    _, seen = await desk.look("Key,Name,Email\nW-1,I,\n,Ines,ines@example.org\n")
    assert (seen["known"], seen["doubled"]) == (1, 1)


async def test_what_is_there_is_brought_up_to_date_or_kept(desk: Desk) -> None:
    await desk.bring(TABLE)
    newer = "Key,Name,Email,District\nW-1,Ines Moor-Lind,,Saltings\n"
    await desk.bring(newer, "keep")
    assert (await desk.all("ines"))[0]["name"] == "Ines Moor"
    assert (await desk.bring(newer))["changed"] == 1
    (found,) = await desk.all("ines")
    assert (found["name"], found["email"], found["district"]) == (
        "Ines Moor-Lind", "ines@example.org", "Saltings",
    )  # fmt: skip


async def test_rows_that_cannot_be_contacts_are_named_by_line(desk: Desk) -> None:
    id, seen = await desk.look(
        "Name,Email,District\nA,a@example.org,Millbeck\nB,b(at)example.org,\nC,c@example.org,Xy\n"
    )
    assert [one["number"] for one in seen["faults"]] == [2, 3]
    assert (seen["wrong"], seen["new"]) == (2, 1)
    assert (await desk.write(id))["added"] == 1


async def test_a_table_is_written_once(desk: Desk) -> None:
    id, _ = await desk.look(TABLE)
    assert (await desk.write(id))["added"] == 3
    assert (await desk.write(id))["faults"][0]["code"] == "gone"
    assert len(await desk.all()) == 3


async def test_columns_that_cannot_be_meant_are_refused(desk: Desk) -> None:
    table, _ = await bringing.take_table(desk.context, desk.who, "t.csv", TABLE.encode())
    for columns, at in (
        ({0: "nothing"}, "columns/0"),
        ({0: "name", 1: "name"}, "columns/0"),
        ({7: "name"}, "columns/7"),
        ({3: "district"}, "columns"),
    ):
        with pytest.raises(Invalid) as refused:
            await bringing.look(desk.context, desk.who, table.id, columns)
        assert refused.value.faults[0].at == at


async def test_who_opted_out_stays_out_however_they_come_back(desk: Desk) -> None:
    await desk.bring(TABLE)
    id = await desk.id_of("ines")
    assert (await contacts.set_out(desk.context, desk.who, id, True)).opted_out is not None
    assert await contacts.remove(desk.context, desk.who, [id]) == 1
    _, seen = await desk.look(TABLE)
    assert seen["out"] == 1
    await desk.bring(TABLE)
    again = await contacts.whole(desk.context, desk.who, await desk.id_of("ines"))
    assert again.contact.opted_out is not None
    typed = await contacts.add(desk.context, desk.who, {"email": "INES@example.org"})
    assert (await contacts.whole(desk.context, desk.who, typed)).contact.opted_out is not None
    back = await contacts.set_out(desk.context, desk.who, typed, False)
    assert back.opted_out is None
    assert (
        await contacts.whole(desk.context, desk.who, again.contact.id)
    ).contact.opted_out is None


async def test_two_contacts_are_made_one(desk: Desk) -> None:
    await desk.bring(TABLE, new_list="One")
    await desk.bring("Name,Email\nInes,ines.moor@example.org\n", new_list="Two")
    kept, gone = await desk.id_of("W-1"), await desk.id_of("ines.moor")
    await contacts.set_out(desk.context, desk.who, gone, True)
    values = {"key": "W-1", "name": "Ines Moor", "email": "ines@example.org"}
    one = await contacts.make_one(desk.context, desk.who, kept, gone, values)
    assert one.opted_out is not None
    whole = await contacts.whole(desk.context, desk.who, kept)
    assert [name for _, name in whole.lists] == ["One", "Two"]
    with pytest.raises(NotFound):
        await contacts.whole(desk.context, desk.who, gone)
    with pytest.raises(Invalid):
        await contacts.make_one(desk.context, desk.who, kept, kept, values)


async def test_a_change_over_a_newer_one_is_refused(desk: Desk) -> None:
    id = await contacts.add(desk.context, desk.who, {"name": "Ann", "key": "A"})
    changed = await contacts.put(desk.context, desk.who, id, 1, {"phone": "0123 456"})
    assert (changed.revision, changed.name, changed.phone) == (2, "Ann", "0123 456")
    with pytest.raises(Stale):
        await contacts.put(desk.context, desk.who, id, 1, {"phone": "0123 457"})
    await contacts.add(desk.context, desk.who, {"name": "Bo", "key": "B"})
    with pytest.raises(Invalid, match="has the key B"):
        await contacts.put(desk.context, desk.who, id, 2, {"key": "B"})


async def test_pages_hold_every_contact_once(desk: Desk) -> None:
    rows = "".join(f"Same name,{n}@example.org\n" for n in range(250))
    await desk.bring(f"Name,Email\n{rows}")
    seen: list[UUID] = []
    while True:
        after = seen[-1] if seen else None
        page = await contacts.page(desk.context, desk.who, "same NAME", None, after)
        assert (page.count == 250) is (after is None)
        seen += [one.id for one in page.contacts]
        if not page.more:
            break
    assert len(seen) == len(set(seen)) == 250
    assert (await contacts.page(desk.context, desk.who, "", None, None)).count == 250
    assert await desk.all("100%") == await desk.all("a_b") == []


async def test_lists_hold_contacts_and_let_them_go(desk: Desk) -> None:
    await desk.bring(TABLE)
    id = await lists.add(desk.context, desk.who, "Wells")
    with pytest.raises(Invalid, match="named wells"):
        await lists.add(desk.context, desk.who, " wells ")
    ines = await desk.id_of("ines")
    assert await lists.change(desk.context, desk.who, id, [ines], True) == 1
    assert await lists.change(desk.context, desk.who, id, [ines], True) == 0
    on = await contacts.page(desk.context, desk.who, "", id, None)
    assert [one.id for one in on.contacts] == [ines]
    assert await lists.change(desk.context, desk.who, id, [ines], False) == 1
    await lists.remove(desk.context, desk.who, id)
    assert len(await desk.all()) == 3


async def test_a_list_that_is_gone_takes_nobody(desk: Desk) -> None:
    with pytest.raises(NotFound, match="no such list"):
        await contacts.add(desk.context, desk.who, {"name": "Ann"}, UUID(int=1))
    id, _ = await desk.look(TABLE)
    list_id = await lists.add(desk.context, desk.who, "Wells")
    asked = await bringing.bring(desk.context, desk.who, Bringing(id, "keep", list_id, ""))
    await lists.remove(desk.context, desk.who, list_id)
    await doing.do(desk.context, asked.id)
    found = await bringing.progress(desk.context, desk.who, asked.id)
    assert (found.state, found.result["faults"][0]["at"]) == ("failed", "list")
    assert await desk.all() == []


async def test_fields_keep_their_kind_and_the_options_in_use(desk: Desk) -> None:
    await desk.bring(TABLE)
    narrower = DISTRICT.model_copy(update={"options": ("Millbeck",)})
    with pytest.raises(Invalid, match="Saltings"):
        await fields.put(desk.context, desk.who, narrower)
    with pytest.raises(Invalid, match="kind"):
        await fields.put(desk.context, desk.who, ContactField(key="district", label="D"))
    with pytest.raises(Invalid, match="key district"):
        await fields.add(desk.context, desk.who, DISTRICT)
    await fields.remove(desk.context, desk.who, "district")
    assert all("district" not in one for one in await desk.all())


async def test_an_export_has_every_contact(desk: Desk) -> None:
    await desk.bring(TABLE)
    await contacts.set_out(desk.context, desk.who, await desk.id_of("sam"), True)
    head, rows = await export.table(desk.context, desk.who, "", None)
    found = [row async for some in rows for row in some]
    assert head[-2:] == ("District", "Opted out")
    assert [(row[1], row[5], bool(row[6])) for row in found] == [
        ("Ines Moor", "Millbeck", False), ("Sam Reed", "Millbeck", True),
        ("Tove Lind", "Saltings", False),
    ]  # fmt: skip


async def test_rows_that_nobody_wrote_are_forgotten(desk: Desk, clock: Clock) -> None:
    id, _ = await desk.look(TABLE)
    clock.move(tables.KEPT * 2)
    await doing.forget_old(desk.context)
    assert (await desk.write(id))["faults"][0]["code"] == "gone"


async def test_only_who_may_reach_people_sees_them(desk: Desk, scene: Scene) -> None:
    for who in (scene.reviewer,):
        with pytest.raises(NotAllowed):
            await contacts.page(desk.context, who, "", None, None)
        with pytest.raises(NotAllowed):
            await bringing.take_table(desk.context, who, "t.csv", TABLE.encode())
