"""The simulated mail room, told to refuse, bounce, delay and complain; its reports are taken over
SMTP by our own server for them."""

import asyncio
from collections.abc import AsyncIterator
from pathlib import Path
from uuid import UUID, uuid4

import pytest

from jotgate.adapters.report_server import Reports, open_reports
from jotgate.adapters.simulated.mail_room import FolderMailRoom, open_mail_room, rule_for
from jotgate.adapters.smtp import Server, SmtpMail
from jotgate.core.formats.delivery_reports import read_report
from jotgate.local.cluster import free_port
from jotgate.ports.mail import Letter, MailDoes, MailFailed, MailRule

OURS = uuid4()
BACK = "bounces+ours@example.org"


class Taken:
    """What came to our server for reports."""

    def __init__(self) -> None:
        self.letters: list[tuple[UUID, bytes]] = []
        self.fails = 0
        self.came = asyncio.Event()

    def find(self, address: str) -> UUID | None:
        return OURS if address == BACK else None

    async def take(self, letter_id: UUID, raw: bytes) -> None:
        if self.fails:
            self.fails -= 1
            raise RuntimeError("the database is away")
        self.letters.append((letter_id, raw))
        self.came.set()


class Room:
    def __init__(self, folder: Path, port: int, reports: int, taken: Taken) -> None:
        self.folder, self.taken, self.reports = folder, taken, reports
        self.told = FolderMailRoom(folder)
        self.mail = SmtpMail(Server("127.0.0.1", port, tls="none"), "We <we@example.org>")

    async def send(self, to: str, bounce: str = BACK) -> None:
        await self.mail.send(Letter(str(uuid4()), to, "Hello", "Body\n", bounce=bounce))


@pytest.fixture
async def room(tmp_path: Path) -> AsyncIterator[Room]:
    taken, reports = Taken(), free_port()
    server = await open_reports(Reports(taken.find, taken.take), "127.0.0.1", reports)
    port = free_port()
    simulated = open_mail_room(tmp_path, "127.0.0.1", port, reports)
    yield Room(tmp_path, port, reports, taken)
    simulated.stop()
    server.close()


@pytest.mark.parametrize(
    ("does", "verdict", "kept"),
    [
        ("no_address", "no_address", 0),
        ("full", "given_up", 0),
        ("delay", "later", 1),
        ("complain", "complained", 1),
    ],
)
async def test_what_it_was_told_is_reported(
    room: Room, does: MailDoes, verdict: str, kept: int
) -> None:
    await room.told.put_rules([MailRule("@example.net", does)])
    await room.send("ada@Example.net")
    await asyncio.wait_for(room.taken.came.wait(), 20)
    ((letter_id, raw),) = room.taken.letters
    assert letter_id == OURS
    found = read_report(raw)
    assert found is not None
    (one,) = found.deliveries
    assert (one.email.lower(), one.verdict) == ("ada@example.net", verdict)
    assert len(await room.told.newest(10)) == kept


async def test_it_refuses_at_once_and_takes_all_others(room: Room) -> None:
    await room.told.put_rules([MailRule("ada@example.net", "refuse")])
    with pytest.raises(MailFailed) as failed:
        await room.send("ada@example.net")
    assert failed.value.for_good
    assert failed.value.no_address
    await room.send("bo@example.net")
    assert [one.to for one in await room.told.newest(10)] == ["bo@example.net"]
    assert not room.taken.letters


def test_an_address_counts_before_its_domain() -> None:
    rules = [MailRule("@example.net", "delay"), MailRule("ada@example.net", "full")]
    assert rule_for(rules, "ADA@example.net") == "full"
    assert rule_for(rules, "bo@example.net") == "delay"
    assert rule_for(rules, "bo@example.org") is None


async def test_reports_are_taken_for_letters_of_ours_alone(room: Room) -> None:
    own = SmtpMail(Server("127.0.0.1", room.reports, tls="none"), "They <they@example.org>")
    with pytest.raises(MailFailed) as failed:
        await own.send(Letter("1", "bounces+other@example.org", "Hello", "Body\n"))
    assert failed.value.for_good
    room.taken.fails = 1
    with pytest.raises(MailFailed) as later:
        await own.send(Letter("2", BACK, "Hello", "Body\n"))
    assert not later.value.for_good
    await own.send(Letter("3", BACK, "Hello", "Body\n"))
    assert len(room.taken.letters) == 1
    with pytest.raises(MailFailed):
        await own.send(Letter("4", BACK, "Hello", "x" * 70 * 50_000))
