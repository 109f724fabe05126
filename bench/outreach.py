"""Rounds: a step made ready for 100,000 contacts against the bare SQL that selects and inserts the
same letters; and letters that one worker sends in a second against a bare loop over the same mail
server."""

import asyncio
import smtplib
import statistics
import time
from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any
from uuid import UUID

from sqlalchemy import text

from bench.submit import in_a_folder, opened
from bench.support.figure import Figure
from jotgate.core.mailing import FASTEST, MailingText
from jotgate.core.records.accounts import Account
from jotgate.core.rounds.round import Round
from jotgate.demo.load import documents
from jotgate.local.cluster import free_port
from jotgate.local.installation import Installation, open_installation
from jotgate.local.processes import Processes
from jotgate.services import doing
from jotgate.services.context import Context
from jotgate.services.mailings import mailing
from jotgate.services.rounds import going
from jotgate.services.staff import desk
from jotgate.services.staff.accounts import people
from jotgate.services.staff.contacts import lists
from jotgate.services.staff.rounds import drawing, rounds
from jotgate.wiring import open_context

CONTACTS, REMINDERS = 100_000, 3
LETTERS, ROUNDS = 1_000, 3
PREPARE, SEND = 3.0, 0.7

TEXT = MailingText(
    subject={"en": "The well of {contact.name|your household}"},
    body={
        "en": "Dear {contact.name|neighbour},\n\nplease tell us about **your well**. It takes ten "
        "minutes, and the test of its water is free of charge.\n\n{link}\n\nWith kind regards\n"
    },
    per_minute=FASTEST,
)

ADD = text("""
    with added as (insert into contacts (id, name, email, phone, language, fields)
    select gen_random_uuid(), 'Household ' || n,
        :name || n || '@' || (array['example.org', 'example.net'])[1 + n % 2], '', 'en',
        jsonb_build_object('street', n || ' Mill Lane', 'postcode', 'TH' || n)
    from generate_series(1, :count) n returning id)
    insert into contact_list_members (list_id, contact_id) select :list, id from added
""")

BARE = text("""
    insert into mailing_letters
        (id, questionnaire_id, mailing_id, pass_id, contact_id, email, state, changed)
    select gen_random_uuid(), p.questionnaire_id, :mailing, p.pass_id, p.contact_id, c.email,
        'waiting', now()
    from round_people p
    join contacts c on c.id = p.contact_id
    join passes s on s.questionnaire_id = p.questionnaire_id and s.id = p.pass_id
    where p.round_id = :round and p.portion = 1 and s.used = 0 and c.email is not null
        and c.opted_out is null and c.bounced is null
        and not exists (select from opt_outs o where o.email = c.email)
        and not exists (
            select from entry_ways w
            where w.questionnaire_id = p.questionnaire_id and w.contact_id = c.id)
""")


@dataclass
class At:
    """A clock that stands still."""

    moment: datetime

    def now(self) -> datetime:
        return self.moment


@dataclass
class Office:
    context: Context
    owner: Account
    id: UUID

    async def listed(self, name: str, count: int) -> UUID:
        """A list of so many new contacts."""
        id = await lists.add(self.context, self.owner, name)
        async with self.context.engine.begin() as conn:
            await conn.execute(ADD, {"name": name.lower(), "count": count, "list": id})
        return id

    async def released(self, name: str, count: int, steps: int, way: str = "mail") -> UUID:
        """A round of letters, a day apart, to so many new contacts, its first step due."""
        made = Round.model_validate(
            {
                "name": name,
                "people": {"list_id": str(await self.listed(name, count))},
                "steps": [
                    {
                        "key": f"s{n}",
                        "name": f"Letter {n}",
                        "way": way,
                        "after": 24 * min(n, 1),
                        "text": TEXT.model_dump(),
                    }
                    for n in range(steps)
                ],
                "post": {
                    "lines": "{contact.name}\n{contact.street}\n{contact.postcode}",
                    "postcode": "postcode",
                    "sender": "The office, Pump Court",
                },
            }
        )
        who = (self.context, self.owner, self.id)
        round_id = await rounds.make(*who, made)
        await drawing.draw(*who, round_id, "")
        await doing.do(self.context, (await drawing.ask_release(*who, round_id)).id)
        return round_id

    async def ran(self, query: str, **given: Any) -> Any:
        async with self.context.engine.begin() as conn:
            return await conn.execute(text(query), given)


async def prepared(office: Office) -> tuple[float, float, int]:
    """Seconds to make a reminder ready, and of the bare SQL; of how many letters."""
    round_id = await office.released("Many", CONTACTS, REMINDERS + 1)
    clock = At(office.context.clock.now())
    context = replace(office.context, clock=clock)
    assert await going.go_due(context)
    await office.ran("update mailing_letters set state = 'sent'")
    await office.ran("update round_people set written = now()")
    await office.ran("update passes set used = 1 where number % 4 = 0")
    await office.ran("update contacts set opted_out = now() where email like '%1@example.net'")
    await office.ran("analyze")
    ours, bare = [], []
    for _ in range(REMINDERS):
        clock.moment += timedelta(days=1, seconds=1)
        began = time.perf_counter()
        assert await going.go_due(context)
        ours.append(time.perf_counter() - began)
        found = await office.ran("select id from mailings order by made desc limit 1")
        id = found.scalar_one()
        found = await office.ran("delete from mailing_letters where mailing_id = :id", id=id)
        made = found.rowcount
        began = time.perf_counter()
        async with context.engine.begin() as conn:
            found = await conn.execute(BARE, {"mailing": id, "round": round_id})
        bare.append(time.perf_counter() - began)
        assert found.rowcount == made, (found.rowcount, made)
    await office.ran("update mailings set state = 'done'")
    return statistics.median(ours), statistics.median(bare), made


def others(room: Path, number: int) -> list[bytes]:
    """As many letters like those that went, which the mail room does not know yet."""
    raw = [one.read_bytes() for one in sorted(room.glob("*.eml"))[:LETTERS]]
    assert len(raw) == LETTERS
    named = (b"Message-ID: <", f"Message-ID: <bare-{number}-".encode())
    assert all(one.count(named[0]) == 1 for one in raw)
    return [one.replace(*named) for one in raw]


def looped(installation: Installation, letters: list[bytes]) -> float:
    """Letters a second of a bare loop that sends these."""
    settings = installation.settings
    began = time.perf_counter()
    with smtplib.SMTP(settings.smtp_host, settings.smtp_port) as server:
        for one in letters:
            server.sendmail("office@example.org", ["somebody@example.org"], one)
    return len(letters) / (time.perf_counter() - began)


async def sent(office: Office, number: int) -> float:
    """Letters of a step that one worker sends in a second."""
    await office.released(f"Some{number}", LETTERS, 1)
    assert await going.go_due(office.context)
    began = time.perf_counter()
    going_out = 1
    while going_out:
        if not await mailing.send_due(office.context):
            await asyncio.sleep(0.001)
        found = await office.ran("select count(*) from mailings where state = 'sending'")
        going_out = found.scalar_one()
    return LETTERS / (time.perf_counter() - began)


async def measured(installation: Installation) -> dict[str, float]:
    room = installation.settings.mail_room
    assert room is not None
    async with open_context(installation.settings) as context:
        owner = await people.add(context, "a@example.org", "A", "coordinator", "x")
        await opened(context, owner, documents()["private_well_check"])
        (only,) = await desk.desk(context, owner)
        office = Office(context, owner, only.summary.id)
        ready, plain, letters = await prepared(office)
        ours, bare = [], []
        for number in range(ROUNDS + 1):
            pace = await sent(office, number)
            ours.append(pace)
            bare.append(await asyncio.to_thread(looped, installation, others(room, number)))
    return {
        "ready": ready,
        "plain": plain,
        "letters": letters,
        "ours": statistics.median(ours[1:]),
        "bare": statistics.median(bare[1:]),
        "share": statistics.median(a / b for a, b in zip(ours[1:], bare[1:], strict=True)),
    }


def run(folder: Path) -> Iterator[Figure]:
    installation = open_installation(folder, free_port())
    environment: dict[str, Any] = {**installation.environment(), "JOTGATE_LOG_LEVEL": "warning"}
    processes = Processes(environment, folder / "jotgate.log")
    try:
        processes.start("mail room", ("-m", "jotgate", "mail-room"))
        time.sleep(3)
        found = asyncio.run(measured(installation))
    finally:
        processes.stop()
        installation.stop()
    name = f"a step for 100,000 made ready, {found['letters']:,.0f} letters"
    yield Figure("outreach", name, found["ready"] * 1000, "ms")
    yield Figure("outreach", "the bare SQL for these", found["plain"] * 1000, "ms")
    ratio = found["ready"] / found["plain"]
    yield Figure("outreach", "the first against the second", ratio, "x", PREPARE, False)
    yield Figure("outreach", "letters that one worker sends", found["ours"], "1/s")
    yield Figure("outreach", "letters of a bare loop", found["bare"], "1/s")
    yield Figure("outreach", "share of the bare loop", found["share"], "x", SEND)


def figures() -> Iterator[Figure]:
    yield from in_a_folder(run)
