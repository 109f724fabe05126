"""One person's data: found over everything, taken out as one file, erased."""

from dataclasses import replace
from typing import Any

import orjson
import pytest
from sqlalchemy import text

from jotgate.core.common.errors import Invalid, NotAllowed, NotFound
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.records.accounts import Account
from jotgate.core.records.trail import TrailFilter
from jotgate.core.registers.columns import Column
from jotgate.services import entry_rows
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.keys.erasing import destroy_keys
from jotgate.services.public import submitting
from jotgate.services.public.answering import Answers
from jotgate.services.staff import trail
from jotgate.services.staff.accounts import people
from jotgate.services.staff.contacts import contacts
from jotgate.services.staff.dispatch import dispatch_rules
from jotgate.services.staff.entries import one_person, restricted_search
from jotgate.services.staff.registers import registers
from jotgate.store.base import Engine
from tests.core.dispatch.rules import file
from tests.documents import item, page, questionnaire
from tests.scenes import PASSWORD, SECRET, Scene, clear, published

HER = "Ines.Nowak@example.org"
DOCUMENT = questionnaire(
    page(
        "p",
        item("email", "mail"),
        item("short_text", "more"),
        item("short_text", "ill", restricted=True),
    ),
    languages=["en", "ar"],
    title={"en": "Wells", "ar": "آبار"},
)


@pytest.fixture
async def boss(context: Context) -> Account:
    return await people.add(context, "oda@example.org", "Oda", "owner", PASSWORD)


async def filled(scene: Scene, boss: Account) -> None:
    """Two entries of hers and one of somebody else, each with its row, and a contact."""
    context = scene.context
    id, address = await published(context, boss, DOCUMENT)
    columns = [Column(key="mail", label="Mail")]
    register = await registers.add(context, boss, "Hers", columns)
    value = Dispatch.model_validate({"otherwise": [file(register.id, mail="mail")]})
    await dispatch_rules.save(context, boss, id, value, 1)
    told = [
        {"mail": HER, "ill": SECRET},
        {"mail": "other@example.org", "more": HER.lower()},
        {"mail": "other@example.org", "more": f"not {HER}"},
    ]
    for n, given in enumerate(told):
        answers = Answers("", 1, given)
        sent = await submitting.submit(context, address, answers, f"k{n}".rjust(20, "0"))
        await dispatch_entry(context, id, sent.id)
    await entry_rows.catch_up_with(context, id)
    await contacts.add(context, boss, {"name": "Ines", "email": HER})


async def test_found_over_everything(scene: Scene, context: Context, boss: Account) -> None:
    await filled(scene, boss)
    found = await one_person.find(context, boss, f" {HER.upper()} ")
    assert [one.called for one in found.contacts] == ["Ines"]
    assert sorted(one.number for one in found.entries) == [1, 2]
    assert {one.title for one in found.entries} == {"Wells"}
    assert [one.register for one in found.rows] == ["Hers", "Hers"]
    nobody = await one_person.find(context, boss, "nobody@example.org")
    assert not any(nobody.counts.values())
    for refused in (scene.coordinator, scene.reviewer):
        with pytest.raises(NotAllowed):
            await one_person.find(context, refused, HER)
    with pytest.raises(Invalid):
        await one_person.find(context, boss, "ines")


async def test_taken_out_as_one_file(scene: Scene, context: Context, boss: Account) -> None:
    """What is restricted is in it for owners with clearance, who are noted as having seen it."""
    await filled(scene, boss)
    plain = orjson.loads(await one_person.as_file(context, boss, HER))
    assert {one["number"] for one in plain["entries"]} == {1, 2}
    assert plain["contacts"][0]["values"]["name"] == "Ines"
    assert SECRET not in str(plain)
    assert all("clearance" in one["restricted"] for one in plain["entries"])
    id = (await one_person.find(context, boss, HER)).entries[0].questionnaire_id
    await clear(context, boss, id)
    whole = orjson.loads(await one_person.as_file(context, replace(boss, cleared=True), HER))
    assert SECRET in str(whole)
    marks, _ = await trail.page(context, boss, TrailFilter(), None)
    done = [one.action for one in marks]
    assert (done.count("person_exported"), "restricted_seen" in done) == (2, True)
    assert HER.lower() not in str([one.detail for one in marks]).lower()


async def test_said_in_restricted_answers(scene: Scene, context: Context, boss: Account) -> None:
    """Found by owners with clearance, which the trail notes; others are told where they cannot
    look. In a roster too, whatever the case; never where it is a part of something longer."""
    name = item("short_text", "name")
    document = questionnaire(
        page(
            "p",
            item("email", "their_mail", restricted=True),
            item("roster", "guests", items=[name], restricted=True),
        )
    )
    id, address = await published(context, boss, document)
    told: list[dict[str, Any]] = [
        {"their_mail": HER},
        {"guests": [{"name": "Ada"}, {"name": HER.upper()}]},
        {"their_mail": "other@example.org", "guests": [{"name": f"{HER}.nz"}]},
    ]
    for n, given in enumerate(told):
        await submitting.submit(context, address, Answers("", 1, given), f"k{n}".rjust(20, "0"))
    nothing = await one_person.find(context, boss, HER)
    assert (nothing.entries, nothing.unsearched) == ((), 1)
    with pytest.raises(NotFound):
        await one_person.erase(context, boss, HER, HER)
    await clear(context, boss, id)
    cleared = replace(boss, cleared=True)
    found = await one_person.find(context, cleared, HER)
    assert sorted(one.number for one in found.entries) == [1, 2]
    assert found.unsearched == 0
    marks, _ = await trail.page(context, boss, TrailFilter(), None)
    seen = [one.detail for one in marks if one.action == "restricted_seen"]
    assert sorted(str(one["keys"]) for one in seen) == ["['guests']", "['their_mail']"]
    report = await one_person.erase(context, cleared, HER, HER)
    assert report["entries"] == 2
    assert await destroy_keys(context) == 2
    assert (await one_person.find(context, cleared, HER)).entries == ()


async def test_more_than_are_opened_at_once(
    scene: Scene, context: Context, boss: Account, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(restricted_search, "AT_ONCE", 2)
    document = questionnaire(page("p", item("email", "mail", restricted=True)))
    id, address = await published(context, boss, document)
    for n in range(5):
        given = Answers("", 1, {"mail": HER})
        await submitting.submit(context, address, given, f"k{n}".rjust(20, "0"))
    await clear(context, boss, id)
    found = await one_person.find(context, replace(boss, cleared=True), HER)
    assert sorted(one.number for one in found.entries) == [1, 2, 3, 4, 5]


async def test_erased_with_a_report(
    scene: Scene, context: Context, boss: Account, owner: Engine
) -> None:
    await filled(scene, boss)
    with pytest.raises(Invalid):
        await one_person.erase(context, boss, HER, "yes")
    with pytest.raises(NotAllowed):
        await one_person.erase(context, scene.coordinator, HER, HER)
    report = await one_person.erase(context, boss, HER, HER)
    assert report == {
        "contacts": 1,
        "entries": 2,
        "rows": 2,
        "letters": 0,
        "notices": 0,
        "waiting": 0,
    }
    assert await destroy_keys(context) == 1
    async with owner.connect() as conn:
        for table in ("entries", "entry_rows", "register_rows", "contacts", "row_changes", "trail"):
            whole = "answers" if table == "entry_rows" else "row_to_json(t)"
            query = text(f"select lower(string_agg({whole}::text, '')) from {table} t")
            said = (await conn.execute(query)).scalar_one() or ""
            assert said.count(HER.lower()) == (1 if table in ("entries", "entry_rows") else 0), (
                table
            )
    with pytest.raises(NotFound):
        await one_person.erase(context, boss, HER, HER)
