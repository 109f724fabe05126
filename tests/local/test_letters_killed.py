"""Letters of a round while the worker that sends them is killed: everybody gets each letter, what
goes out twice is the same letter, and nobody gets one any more who answered."""

import os
import time
from collections import Counter
from email import message_from_bytes
from pathlib import Path
from random import Random
from typing import Any
from uuid import UUID

import psycopg
import pytest
from aiosmtpd.controller import Controller
from sqlalchemy import text

from jotgate.adapters.simulated.mail_room import MessageHandler
from jotgate.core.mailing import MailingText
from jotgate.core.rounds.round import Round
from jotgate.local.installation import Installation
from jotgate.local.processes import Processes
from jotgate.services import doing
from jotgate.services.mailings.mailing import LONGEST
from jotgate.services.staff.contacts import lists
from jotgate.services.staff.rounds import drawing, rounds
from jotgate.wiring import open_context
from tests.local.test_failures import WORKER, rows, until
from tests.scenes import set_scene

pytestmark = pytest.mark.long

MANY, KILLS, ANSWERS = int(os.environ.get("JOTGATE_MANY", "240")), 4, 20
STEPS = ("first", "again")
TEXT = MailingText(
    subject={"en": "Your well"}, body={"en": "Dear neighbour,\n\n{link}\n"}, per_minute=2400
)
ADD = text("""
    with added as (
        insert into contacts (id, name, email, phone, language, fields)
        select gen_random_uuid(), '', 'well' || n || '@example.org', '', '', '{}'
        from generate_series(1, :count) n returning id)
    insert into contact_list_members (list_id, contact_id) select :list, id from added
""")
TO = """
    select c.email, p.id from passes p join contacts c on c.id = p.contact_id order by c.email
"""


class Receiving(MessageHandler):
    """Knows when which letter came to whom, also when it came before."""

    def __init__(self, folder: Path) -> None:
        super().__init__(folder)
        self.came: list[tuple[str, str, float]] = []

    async def handle_DATA(self, server: Any, session: Any, envelope: Any) -> str:
        id = str(message_from_bytes(envelope.content)["Message-ID"])
        self.came.append((id, envelope.rcpt_tos[0], time.monotonic()))
        return await super().handle_DATA(server, session, envelope)


async def released(installation: Installation) -> None:
    """A round of two letters, one right after the other, its people released."""
    async with open_context(installation.settings) as context:
        scene = await set_scene(context)
        who = (context, scene.coordinator, scene.id)
        listed = await lists.add(context, scene.coordinator, "Wells")
        async with context.engine.begin() as conn:
            await conn.execute(ADD, {"count": MANY, "list": listed})
        steps = [
            {"key": key, "name": key, "way": "mail", "after": 0, "text": TEXT.model_dump()}
            for key in STEPS
        ]
        people = {"list_id": str(listed)}
        made = Round.model_validate({"name": "Autumn", "people": people, "steps": steps})
        round_id = await rounds.make(*who, made)
        await drawing.draw(*who, round_id, "")
        await doing.do(context, (await drawing.ask_release(*who, round_id)).id)


def answer(installation: Installation, passes: list[tuple[str, UUID]]) -> dict[str, float]:
    """Have the holders of these passes answer: by when each had."""
    address = installation.settings.migrations_url.replace("+psycopg", "")
    with psycopg.connect(address) as connection:
        ids = [id for _, id in passes]
        connection.execute("update passes set used = 1 where id = any(%s)", (ids,))
    return dict.fromkeys([email for email, _ in passes], time.monotonic())


async def test_the_worker_is_killed_while_letters_go(
    installation: Installation, processes: Processes
) -> None:
    await released(installation)
    random, folder = Random(17), installation.folder / "mail-room"
    folder.mkdir()
    room = Receiving(folder)
    smtp = Controller(room, hostname="127.0.0.1", port=installation.settings.smtp_port)
    smtp.start()
    answered: dict[str, float] = {}
    passes = rows(installation, TO)
    random.shuffle(passes)
    try:
        for number in range(KILLS):
            worker = processes.start("worker", WORKER)
            wanted = 2 * MANY * (number + 1) // (KILLS + 2)
            until(lambda: len(room.came) >= wanted, 120)  # noqa: B023
            some = passes[number * ANSWERS : (number + 1) * ANSWERS]
            answered |= answer(installation, some)
            time.sleep(random.random() / 4)
            worker.kill()
            worker.wait()
        processes.start("worker", WORKER)
        waiting = "select 1 from mailings where state = 'sending'"
        until(lambda: not rows(installation, waiting), 120)
    finally:
        processes.stop()
        smtp.stop()
    got = Counter(to for id, to in {(id, to) for id, to, _ in room.came})
    assert {got[email] for email, _ in passes if email not in answered} == {len(STEPS)}
    late = [to for _, to, at in room.came if at > answered.get(to, at) + LONGEST + 1]
    assert not late
    assert len(answered) == KILLS * ANSWERS > sum(got[email] == 2 for email in answered)
    twice = len(room.came) - len({id for id, _, _ in room.came})
    assert twice <= KILLS * 20
