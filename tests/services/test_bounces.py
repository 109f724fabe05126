"""What comes back about letters to contacts: marked, tried again, or taken as a no."""

from datetime import timedelta
from email.message import EmailMessage
from uuid import UUID, uuid4

import pytest

from jotgate.adapters.simulated.mail_reports import report_about
from jotgate.core.records.mailings import MailingLetter
from jotgate.jobs.tasks import send_letters
from jotgate.ports.mail import MailDoes
from jotgate.services.context import Context
from jotgate.services.mailings import bounces
from jotgate.services.staff.contacts import contacts, no_letters
from jotgate.services.staff.links import mailings
from tests.services.staff.test_mailings import TEXT, Office, wells

__all__ = ["wells"]

INES = "ines@example.org"


async def sent(wells: Office) -> MailingLetter:
    """The letter to Ines, once it went out."""
    await wells.ask()
    await wells.sent()
    return await letter(wells)


async def letter(wells: Office) -> MailingLetter:
    (one, *_) = await mailings.every(wells.context, wells.who, wells.id)
    found = await mailings.letters(wells.context, wells.who, wells.id, one.id)
    return next(each for each in found if each.email == INES)


def report(does: MailDoes, to: str = INES) -> bytes:
    original = EmailMessage()
    original["Message-ID"] = "<1@example.org>"
    return report_about(original, to, "back@example.org", does).as_bytes()


async def comes(wells: Office, raw: bytes) -> MailingLetter:
    id = (await letter(wells)).id
    await bounces.take(wells.context, id, raw)
    return await letter(wells)


async def test_nobody_there_is_marked_and_gets_no_more(wells: Office) -> None:
    await sent(wells)
    after = await comes(wells, report("no_address"))
    assert after.state == "failed"
    assert after.error.startswith("5.1.1")
    page = await contacts.page(wells.context, wells.who, "ines@", None, None)
    assert page.contacts[0].bounced is not None
    wells.post.letters.clear()
    await wells.ask("Again")
    assert await wells.sent() == ["tove@example.org"]


async def test_a_full_mailbox_is_tried_again_some_days_and_then_given_up(wells: Office) -> None:
    await sent(wells)
    for tries in range(1, bounces.MOST + 1):
        assert (await letter(wells)).tries == tries
        after = await comes(wells, report("full"))
        if tries == bounces.MOST:
            break
        assert after.state == "waiting"
        wells.post.letters.clear()
        await send_letters(wells.context)
        assert not wells.post.letters
        wells.clock.move(timedelta(days=1, minutes=1))
        for _ in range(3):
            await send_letters(wells.context)
        assert [one.to for one in wells.post.letters] == [INES]
    assert (after.state, after.error[:5]) == ("failed", "5.2.2")
    page = await contacts.page(wells.context, wells.who, "ines@", None, None)
    assert page.contacts[0].bounced is None


async def test_a_letter_to_a_paced_domain_is_tried_again_too(wells: Office) -> None:
    await wells.ask(text=TEXT.model_copy(update={"per_domain": 60}))
    await wells.sent()
    assert (await comes(wells, report("full"))).state == "waiting"
    wells.clock.move(timedelta(days=1, minutes=1))
    wells.post.letters.clear()
    for _ in range(5):
        await send_letters(wells.context)
        wells.clock.move(timedelta(seconds=30))
    assert [one.to for one in wells.post.letters] == [INES]


async def test_a_delay_and_what_is_no_report_change_nothing(wells: Office) -> None:
    before = await sent(wells)
    away = b"From: i@example.org\nSubject: Away\nAuto-Submitted: auto-replied\n\nI am away.\n"
    elsewhere = report("no_address", "other@example.org").replace(
        b"Final-Recipient: rfc822; other@example.org",
        b"Final-Recipient: rfc822; other@example.org\n"
        b"Action: failed\nStatus: 5.1.1\n\nFinal-Recipient: rfc822; third@example.org",
    )
    for raw in (report("delay"), away, b"", b"\0" * 2000, elsewhere):
        assert await comes(wells, raw) == before


async def test_a_complaint_is_a_no_to_everything(wells: Office) -> None:
    await sent(wells)
    assert (await comes(wells, report("complain"))).state == "sent"
    found = await no_letters.page(wells.context, wells.who, INES, "")
    assert [one.told for one in found.found] == ["a complaint"]


async def test_a_mailbox_that_hands_on_reports_for_the_one_it_was(wells: Office) -> None:
    await sent(wells)
    assert (await comes(wells, report("no_address", "box@elsewhere.example"))).state == "failed"


def test_addresses_of_reports_are_ours_alone(context: Context) -> None:
    id = uuid4()
    address = bounces.address_of(context, id)
    local, _, domain = address.rpartition("@")
    assert len(local) <= 64
    assert bounces.letter_of(context, address) == id
    assert bounces.letter_of(context, address.upper()) == id
    turned = address.replace("+", "+a" if address[8] != "a" else "+b", 1)
    other = bounces.address_of(context, uuid4())
    mixed = f"{local[:-6]}{other.rpartition('@')[0][-6:]}@{domain}"
    wrong = (turned, mixed, f"{local}@other.example", "bounces@" + domain, "bounces+@" + domain, "")
    for one in (*wrong, f"bounces+{'é' * 40}@{domain}", f"bounces+{'a' * 40}@{domain}"):
        assert bounces.letter_of(context, one) is None, one


async def test_without_an_address_letters_go_as_they_did(wells: Office) -> None:
    await wells.ask()
    await wells.sent()
    assert {one.bounce.partition("+")[0] for one in wells.post.letters} == {"bounces"}
    object.__setattr__(wells.context, "bounces", "")
    assert bounces.address_of(wells.context, UUID(int=1)) == ""
    assert bounces.letter_of(wells.context, "@") is None


@pytest.mark.parametrize("does", ["no_address", "full", "delay", "complain"])
async def test_reports_about_letters_that_are_gone_change_nothing(
    context: Context, does: MailDoes
) -> None:
    await bounces.take(context, uuid4(), report(does))
