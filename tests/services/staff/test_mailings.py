"""Letters to contacts: each with its pass, at a pace, and never to who opted out."""

import asyncio
import re
from contextlib import suppress
from dataclasses import replace
from datetime import timedelta
from typing import Any
from uuid import UUID

import pytest

from jotgate.core.common.errors import Invalid, NotAllowed, NotFound
from jotgate.core.mailing import MailingText
from jotgate.core.records.mailings import Mailing
from jotgate.jobs.tasks import send_letters
from jotgate.ports.mail import Letter, Mail, MailFailed
from jotgate.services import doing, opting_out
from jotgate.services.arrivals import Entrance
from jotgate.services.context import Context
from jotgate.services.mailings import mailing
from jotgate.services.public import entering
from jotgate.services.staff.contacts import bringing, contacts, lists
from jotgate.services.staff.contacts.bringing import Bringing
from jotgate.services.staff.links import batches, mailings
from jotgate.services.staff.links.mailings import NewMailing, addresses_in
from tests.conftest import Clock, Post
from tests.documents import item, page, questionnaire
from tests.scenes import Scene, published

TABLE = b"Key,Name,Email,Language\nH-1,Ines Moor,ines@example.org,es\nH-2,,tove@example.org,en\n"
TEXT = MailingText(
    subject={"en": "A test for {contact.name|you}", "es": "Un an\u00e1lisis"},
    body={"en": "Dear {contact.name|neighbour},\n{link}\n", "es": "Estimada {contact.name}:"},
)
FAST = TEXT.model_copy(update={"per_minute": 600})


class Office:
    """A questionnaire, and a list of two contacts."""

    def __init__(self, scene: Scene, context: Context, post: Post, clock: Clock) -> None:
        self.who, self.context, self.post, self.clock = scene.coordinator, context, post, clock
        self.id, self.address, self.list = UUID(int=0), "", UUID(int=0)

    async def opened(self) -> "Office":
        document = questionnaire(
            page(
                "start",
                item("carried", "household", sources=[{"kind": "contact", "field": "key"}]),
                item("short_text", "name"),
            )
        )
        self.id, self.address = await published(self.context, self.who, document)
        table, columns = await bringing.take_table(self.context, self.who, "t.csv", TABLE)
        await self.done(await bringing.look(self.context, self.who, table.id, columns))
        wanted = Bringing(table.id, "update", None, "Wells")
        await self.done(await bringing.bring(self.context, self.who, wanted))
        (made,) = await lists.every(self.context, self.who)
        self.list = made.id
        return self

    async def done(self, work: Any) -> None:
        await doing.do(self.context, work.id)

    async def ask(self, name: str = "Autumn", **more: Any) -> None:
        given = {"text": TEXT, "list_id": self.list, "to": "", "values": (), **more}
        wanted = NewMailing(name, expires=None, uses=1, **given)
        await self.done(await mailings.ask(self.context, self.who, self.id, wanted))

    async def sent(
        self, over: timedelta = timedelta(minutes=5), step: timedelta = timedelta(seconds=1)
    ) -> list[str]:
        """Send what goes out in that time, looked at after each `step`; to whom it went so far."""
        until = self.clock.now() + over
        while self.clock.now() < until:
            while await mailing.send_due(self.context):
                pass
            self.clock.move(step)
        return [one.to for one in self.post.letters]

    async def newest(self) -> Mailing:
        return (await mailings.every(self.context, self.who, self.id))[0]


@pytest.fixture
async def wells(scene: Scene, context: Context, post: Post, clock: Clock) -> Office:
    return await Office(scene, context, post, clock).opened()


async def test_each_gets_a_letter_with_a_pass_in_their_language(wells: Office) -> None:
    await wells.ask()
    assert sorted(await wells.sent()) == ["ines@example.org", "tove@example.org"]
    to_ines, to_tove = sorted(wells.post.letters, key=lambda one: one.to)
    assert (to_ines.subject, to_tove.subject) == ("Un an\u00e1lisis", "A test for you")
    assert to_ines.body.startswith("Estimada Ines Moor:\n\nSu propio enlace: http")
    assert to_tove.body.startswith("Dear neighbour,\nhttp")
    for letter in (to_ines, to_tove):
        assert letter.opt_out in letter.body
    (secret,) = re.findall(r"/p/\w+/([\w-]{22})", to_ines.body)
    entrance = Entrance(way="p", secret=secret)
    visit = await entering.visit(wells.context, wells.address, "", entrance=entrance)
    assert visit.filled.carried["household"] == "H-1"
    found = await wells.newest()
    assert (found.state, found.sent, found.waiting) == ("done", 2, 0)
    rows = await batches.page(wells.context, wells.who, wells.id, found.batch_id or wells.id, 0)
    assert [line.row[1] for line in rows.lines] == ["tove@example.org", "ines@example.org"]


async def test_who_opts_out_gets_no_second_letter(wells: Office) -> None:
    await wells.ask()
    await wells.sent()
    out = next(one.opt_out for one in wells.post.letters if one.to == "ines@example.org")
    token = out.rpartition("/")[2]
    assert (await opting_out.whose(wells.context, token, "en")).out is None
    for _ in range(2):
        found = await opting_out.choose(wells.context, token, "everything", "en")
        assert (found.email, found.out) == ("ines@example.org", "everything")
    assert (await opting_out.whose(wells.context, token, "en")).out == "everything"
    wells.post.letters.clear()
    await wells.ask("Again")
    await wells.ask("Pasted", list_id=None, to="Ines <INES@example.org>\ntove@example.org")
    assert await wells.sent() == ["tove@example.org", "tove@example.org"]
    await opting_out.choose(wells.context, token, "back", "en")
    wells.post.letters.clear()
    await wells.ask("Back")
    assert sorted(await wells.sent()) == ["ines@example.org", "tove@example.org"]


async def test_some_letters_can_be_left_out_and_the_others_still_come(wells: Office) -> None:
    """Of a kind, whatever the questionnaire, or of one questionnaire; the contact is told so."""
    await wells.ask(kind="Water tests")
    await wells.sent()
    first = next(one.opt_out for one in wells.post.letters if one.to == "ines@example.org")
    token = first.rpartition("/")[2]
    found = await opting_out.choose(wells.context, token, "kind", "en")
    assert (found.kind, found.out) == ("Water tests", "kind")
    wells.post.letters.clear()
    await wells.ask("Same kind", kind="water  TESTS ")
    assert await wells.sent() == ["tove@example.org"]
    await wells.ask("Another kind", kind="News")
    await wells.ask("No kind")
    assert (await wells.sent()).count("ines@example.org") == 2
    page = await contacts.page(wells.context, wells.who, "ines@", None, None)
    whole = await contacts.whole(wells.context, wells.who, page.contacts[0].id)
    assert [one.told for one in whole.outs] == ["Water tests"]
    assert whole.contact.opted_out is None
    await opting_out.choose(wells.context, token, "questionnaire", "en")
    wells.post.letters.clear()
    await wells.ask("None of these")
    assert await wells.sent() == ["tove@example.org"]
    assert (await opting_out.choose(wells.context, token, "back", "en")).out is None
    wells.post.letters.clear()
    await wells.ask("All again", kind="Water tests")
    assert sorted(await wells.sent()) == ["ines@example.org", "tove@example.org"]


async def test_of_a_letter_of_no_kind_no_kind_is_left_out(wells: Office) -> None:
    await wells.ask()
    await wells.sent()
    with pytest.raises(NotFound):
        await opting_out.choose(
            wells.context, wells.post.letters[0].opt_out.rpartition("/")[2], "kind", "en"
        )


async def test_who_opts_out_while_letters_wait_is_left_out(wells: Office) -> None:
    slow = TEXT.model_copy(update={"per_minute": 1})
    await wells.ask(text=slow)
    (first,) = await wells.sent(timedelta(seconds=20))
    other = ({"ines@example.org", "tove@example.org"} - {first}).pop()
    found = (await contacts.page(wells.context, wells.who, other, None, None)).contacts
    await contacts.set_out(wells.context, wells.who, found[0].id, True)
    assert await wells.sent() == [first]
    assert ((await wells.newest()).sent, (await wells.newest()).left_out) == (1, 1)


async def test_letters_go_out_at_their_pace(wells: Office) -> None:
    to = "\n".join(f"w{n}@example.org" for n in range(9))
    text = TEXT.model_copy(update={"per_minute": 3})
    await wells.ask(list_id=None, to=to, text=text)
    assert len(await wells.sent(timedelta(seconds=59))) == 3
    assert len(await wells.sent(timedelta(seconds=60))) == 6
    assert len(await wells.sent(timedelta(minutes=5))) == 9


class Slow(Mail):
    """A mail server that answers to the second letter only once it is let."""

    def __init__(self) -> None:
        self.taken: list[str] = []
        self.let, self.asked = asyncio.Event(), asyncio.Event()

    async def send(self, letter: Letter) -> None:
        if self.taken:
            self.asked.set()
            await self.let.wait()
        self.taken.append(letter.to)


async def test_what_went_is_noted_before_a_worker_ends(
    wells: Office, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(mailing, "SIDE_BY_SIDE", 1)
    await wells.ask(text=FAST)
    slow = Slow()
    going = asyncio.ensure_future(mailing.send_due(replace(wells.context, mail=slow)))
    await slow.asked.wait()
    going.cancel()
    with suppress(asyncio.CancelledError):
        await going
    found = await wells.newest()
    assert (found.sent, found.waiting) == (1, 1)
    await wells.sent()
    assert sorted([*slow.taken, *(one.to for one in wells.post.letters)]) == [
        "ines@example.org",
        "tove@example.org",
    ]


async def test_a_slow_server_has_no_letter_go_by_what_was_known_long_before(
    wells: Office, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What has not gone within the time for a go is looked at again."""
    monkeypatch.setattr(mailing, "SIDE_BY_SIDE", 1)
    monkeypatch.setattr(mailing, "LONGEST", 0)
    await wells.ask(text=FAST)
    assert await mailing.send_due(wells.context)
    (first,) = [one.to for one in wells.post.letters]
    (other,) = {"ines@example.org", "tove@example.org"} - {first}
    async with wells.context.engine.begin() as conn:
        await opting_out.mark(conn, other, True, wells.clock.now())
    assert await wells.sent() == [first]
    found = await wells.newest()
    assert (found.state, found.sent, found.left_out) == ("done", 1, 1)


async def test_a_held_letter_waits(wells: Office) -> None:
    await wells.ask()
    id = (await wells.newest()).id
    await mailings.hold(wells.context, wells.who, wells.id, id, True)
    assert await wells.sent() == []
    with pytest.raises(Invalid):
        await mailings.hold(wells.context, wells.who, wells.id, id, True)
    await mailings.hold(wells.context, wells.who, wells.id, id, False)
    assert len(await wells.sent()) == 2
    with pytest.raises(Invalid, match="ended"):
        await mailings.hold(wells.context, wells.who, wells.id, id, True)


async def test_what_the_mail_server_does_not_take_is_tried_again(wells: Office) -> None:
    wells.post.failures = 2
    await wells.ask()
    assert len(await wells.sent(timedelta(minutes=10))) == 2
    wells.post.letters.clear()
    wells.post.failures = 1000
    await wells.ask("Never")
    assert await wells.sent(timedelta(hours=3), timedelta(seconds=20)) == []
    found = await wells.newest()
    assert (found.state, found.failed) == ("done", 2)
    told = await mailings.letters(wells.context, wells.who, wells.id, found.id)
    assert {one.error for one in told} == {"451 try again later"}
    assert {one.tries for one in told} == {mailing.TRIES}


async def test_what_is_refused_for_good_is_not_tried_again(
    wells: Office, monkeypatch: pytest.MonkeyPatch
) -> None:
    tried = []

    async def refuse(letter: Any) -> None:
        tried.append(letter.to)
        raise MailFailed("550 no such mailbox", for_good=True)

    monkeypatch.setattr(wells.post, "send", refuse)
    await wells.ask()
    await wells.sent()
    assert len(tried) == 2
    assert (await wells.newest()).failed == 2


async def test_what_cannot_be_sent_is_said_at_its_field(wells: Office, scene: Scene) -> None:
    bad = MailingText(subject={"en": "A\nB"}, body={"en": "{contact.size} {name}", "es": "x"})
    cases: list[tuple[dict[str, Any], set[str]]] = [
        ({"text": MailingText(subject={}, body={})}, {"subject/en", "body/en"}),
        ({"text": bad}, {"subject/en", "body/en"}),
        ({"list_id": None, "to": "one@example.org\nno address\n"}, {"to"}),
        ({"list_id": None, "to": " \n"}, {"to"}),
        ({"list_id": None, "to": "x@example.org", "name": "Wells"}, {"name"}),
        ({"name": " "}, {"name"}),
    ]
    for changed, at in cases:
        with pytest.raises(Invalid) as refused:
            await wells.ask(**changed)
        assert {one.at for one in refused.value.faults} == at, changed
    for id in [one.id for one in await lists.every(wells.context, wells.who)]:
        on = (await contacts.page(wells.context, wells.who, "", id, None)).contacts
        await contacts.remove(wells.context, wells.who, [one.id for one in on])
    with pytest.raises(Invalid, match="Nobody on this list"):
        await wells.ask()
    with pytest.raises(NotAllowed):
        await mailings.preview(wells.context, scene.reviewer, wells.id, TEXT, None)
    assert await mailings.every(wells.context, wells.who, wells.id) == []


async def test_the_letter_is_seen_before_it_goes(wells: Office) -> None:
    one, said = await mailings.preview(wells.context, wells.who, wells.id, TEXT, wells.list)
    assert one.called == "tove@example.org"
    assert said.subject == "A test for you"
    _, example = await mailings.preview(wells.context, wells.who, wells.id, TEXT, None)
    assert "Dear Ines Example," in example.body
    assert await wells.sent() == []


@pytest.mark.parametrize("token", ["", "x", "a" * 43, "%00", "A" * 42 + "="])
async def test_an_address_that_is_not_complete_opts_nobody_out(wells: Office, token: str) -> None:
    await wells.ask()
    await wells.sent()
    with pytest.raises(NotFound):
        await opting_out.choose(wells.context, token, "everything", "en")
    real = wells.post.letters[0].opt_out.rpartition("/")[2]
    turned = real[:-2] + ("AA" if real[-2:] != "AA" else "BB")
    with pytest.raises(NotFound):
        await opting_out.choose(wells.context, turned, "everything", "en")


def test_addresses_are_pasted_as_people_have_them() -> None:
    text = 'Ines Moor <ines@example.org>, tove@example.org;\n\n"B, R" <b@example.org>'
    assert [one for _, one in addresses_in(text)] == [
        "ines@example.org", "tove@example.org", "b@example.org",
    ]  # fmt: skip


async def test_the_worker_sends_what_is_due_and_goes_on(wells: Office) -> None:
    await wells.ask()
    assert await send_letters(wells.context) == 1
    wells.clock.move(timedelta(minutes=1))
    assert await send_letters(wells.context) == 1
    wells.clock.move(timedelta(minutes=1))
    assert await send_letters(wells.context) == 1
    assert await send_letters(wells.context) == 0
    assert len(wells.post.letters) == 2
