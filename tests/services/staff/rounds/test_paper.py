"""Letters of a round on paper: printed for those who are still asked, with codes that lead in."""

import csv
import io
from datetime import timedelta
from uuid import UUID

import pypdfium2
import pytest

from jotgate.core.common.errors import Invalid, NotAllowed, NotFound, TooManyTries
from jotgate.core.contacts.fields import ContactField
from jotgate.services import doing, typed_codes
from jotgate.services.rounds import printing
from jotgate.services.staff.contacts import contacts, fields
from jotgate.services.staff.rounds import paper, rounds
from tests.services.staff.rounds.conftest import Wells, step

POST = {"lines": "{contact.name}\n{contact.postcode} Thornmere", "postcode": "postcode"}
LETTER = step("letter", "paper", after=0, duplex=True)


@pytest.fixture
async def posted(wells: Wells) -> Wells:
    """Every keeper but the last has a postcode, the first the highest."""
    field = ContactField(key="postcode", label="Postcode", kind="text")
    await fields.add(wells.context, wells.who, field)
    for n, id in enumerate(wells.ids[:-1]):
        await set_field(wells, id, f"{90 - n}000")
    return wells


async def set_field(wells: Wells, id: UUID, postcode: str) -> None:
    one = (await contacts.whole(wells.context, wells.who, id)).contact
    values = {"postcode": postcode}
    await contacts.put(wells.context, wells.who, id, one.revision, values)


async def printed(wells: Wells) -> tuple[paper.OnPaper, list[dict[str, str]]]:
    """The letters printed, and the table of what was."""
    at = (wells.context, wells.who, wells.id, wells.round)
    (one,) = await paper.every(*at)
    await doing.do(wells.context, (await paper.ask(*at, one.mailing.id)).id)
    (one,) = await paper.every(*at)
    if one.printed is None:
        return one, []
    table = (await paper.fetch(*at, (one.mailing.id, "letters.csv"))).decode()
    return one, list(csv.DictReader(io.StringIO(table)))


async def test_letters_are_printed_by_postcode_for_those_who_have_one(posted: Wells) -> None:
    await posted.begin(LETTER, step("mail", after=48), post=POST)
    assert await posted.goes() == []
    one, rows = await printed(posted)
    assert one.printed is not None
    assert (one.printed.letters, one.mailing.sent, one.mailing.waiting) == (5, 5, 0)
    assert [row["postcode"] for row in rows] == ["86000", "87000", "88000", "89000", "90000"]
    assert [int(row["page"]) for row in rows] == [1, 3, 5, 7, 9]
    at = (posted.context, posted.who, posted.id, posted.round)
    pdf = pypdfium2.PdfDocument(await paper.fetch(*at, (one.mailing.id, "letters.pdf")))
    for row in rows:
        words = pdf[int(row["page"]) - 1].get_textpage().get_text_range()
        assert row["name"] in words
        assert row["code"] in words
    assert await posted.code_of(0) == "3.19"


async def test_a_code_leads_where_the_link_of_the_pass_does(posted: Wells) -> None:
    await posted.begin(LETTER, step("mail", after=0), post=POST)
    await posted.goes()
    _, rows = await printed(posted)
    by_name = {row["name"]: row["code"] for row in rows}
    link = await typed_codes.go_on(posted.context, by_name["Keeper 3"].lower(), "here")
    assert link.rpartition("/")[2] == posted.secret(3)
    _, again = await printed(posted)
    assert {row["name"]: row["code"] for row in again} == by_name


async def test_whoever_has_the_code_can_say_that_they_want_no_more_letters(posted: Wells) -> None:
    """Also by post alone, after they answered, and back again; codes that are wrong count."""
    one = (await contacts.whole(posted.context, posted.who, posted.ids[1])).contact
    await contacts.put(posted.context, posted.who, one.id, one.revision, {"email": ""})
    await posted.begin(LETTER, step("mail", after=48), step("later", after=72), post=POST)
    await posted.goes()
    _, rows = await printed(posted)
    by_name = {row["name"]: row["code"] for row in rows}
    for n in (0, 1):
        code = by_name[f"Keeper {n}"]
        assert await typed_codes.write_no_more(posted.context, code, "here") == f"Keeper {n}"
    assert await posted.goes(timedelta(hours=49)) == [f"keeper{n}" for n in (2, 3, 4, 5)]
    assert [await posted.code_of(n) for n in (0, 1)] == ["2.112", "2.112"]
    outs = [(await contacts.whole(posted.context, posted.who, id)).outs for id in posted.ids[:2]]
    assert [[out.told for out in some] for some in outs] == [[typed_codes.BY_CODE], []]
    back = by_name["Keeper 0"]
    await typed_codes.write_no_more(posted.context, back, "here", out=False)
    assert (await contacts.whole(posted.context, posted.who, posted.ids[0])).outs == ()
    with pytest.raises(NotFound):
        await typed_codes.write_no_more(posted.context, "BCDF GHJK", "here")
    await contacts.remove(posted.context, posted.who, [posted.ids[2]])
    with pytest.raises(NotFound):
        await typed_codes.write_no_more(posted.context, by_name["Keeper 2"], "here")


async def test_who_answered_before_it_is_printed_gets_none(posted: Wells) -> None:
    await posted.begin(LETTER, step("mail", after=0), post=POST)
    await posted.goes()
    await posted.answer(1)
    one, rows = await printed(posted)
    assert "Keeper 1" not in {row["name"] for row in rows}
    assert (one.mailing.sent, one.mailing.left_out) == (4, 1)
    await posted.answer(2)
    one, rows = await printed(posted)
    assert len(rows) == 3
    assert one.mailing.sent == 4


async def test_an_address_that_does_not_fit_is_told_and_printed_once_it_does(
    posted: Wells,
) -> None:
    await set_field(posted, posted.ids[0], "9 " * 240)
    await posted.begin(LETTER, post=POST)
    await posted.goes()
    one, rows = await printed(posted)
    assert (len(rows), one.mailing.failed) == (4, 1)
    await set_field(posted, posted.ids[0], "95000")
    one, rows = await printed(posted)
    assert (len(rows), one.mailing.failed, one.mailing.sent) == (5, 0, 5)


async def test_nothing_is_printed_of_a_round_that_is_stopped(posted: Wells) -> None:
    await posted.begin(LETTER, post=POST)
    await posted.goes()
    await rounds.stop(posted.context, posted.who, posted.id, posted.round, True)
    with pytest.raises(Invalid, match="stopped"):
        await printed(posted)


async def test_prints_are_for_people_who_may_change_and_for_a_while(posted: Wells) -> None:
    await posted.begin(LETTER, post=POST)
    await posted.goes()
    one, _ = await printed(posted)
    which: tuple[UUID, paper.PrintFile] = (one.mailing.id, "letters.pdf")
    at = (posted.id, posted.round, which)
    with pytest.raises(NotAllowed):
        await paper.fetch(posted.context, posted.reviewer, *at)
    posted.clock.move(printing.KEPT * 1.01)
    await doing.forget_old(posted.context)
    with pytest.raises(NotFound):
        await paper.fetch(posted.context, posted.who, *at)


async def test_a_step_waits_until_it_is_said_where_letters_go(posted: Wells) -> None:
    await posted.begin(LETTER)
    await posted.goes()
    state = await posted.read()
    assert {one.at for one in state.faults} == {
        "steps/letter/post/lines",
        "steps/letter/post/postcode",
    }
    assert not state.gone


async def test_codes_are_checked_against_guessing(posted: Wells) -> None:
    await posted.begin(LETTER, post=POST)
    await posted.goes()
    _, rows = await printed(posted)
    right = rows[0]["code"]
    for _ in range(30):
        await typed_codes.go_on(posted.context, right, "a client")
    for _ in range(typed_codes.MOST):
        with pytest.raises(NotFound):
            await typed_codes.go_on(posted.context, "BCDF BCDF", "a client")
    for typed in ("BCDF BCDF", right):
        with pytest.raises(TooManyTries):
            await typed_codes.go_on(posted.context, typed, "a client")
    assert await typed_codes.go_on(posted.context, right, "another client")
