"""Many contacts over five steps, while answers, opt-outs and bounces arrive at chance moments and
workers die in between: nobody gets a letter who should not, and everybody each letter once."""

import os
from collections import Counter
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta
from random import Random
from uuid import UUID

from sqlalchemy import text

from jotgate.jobs import tasks
from jotgate.ports.mail import Letter, Mail, MailFailed
from jotgate.services import opting_out
from jotgate.services.context import Context
from jotgate.services.public import starts
from jotgate.store.base import Engine
from jotgate.store.contacts import lists
from tests.conftest import Clock, Post
from tests.scenes import Scene
from tests.services.staff.rounds.conftest import TEXT, Wells, step

MANY = int(os.environ.get("JOTGATE_MANY", "180"))
"""As many as are told, to try it with more."""

PER_DOMAIN = 300
STEPS = [
    step(
        f"s{n}",
        after=0 if n == 0 else 24,
        to=("not_answered", "not_answered", "not_started", "broken_off", "not_answered")[n],
        text={**TEXT.model_dump(), "per_minute": 600, "per_domain": PER_DOMAIN},
    )
    for n in range(5)
]


DIES = 0.03
"""How often the worker dies before a letter, and how often after it: of some 500 letters about
thirty times, and in one of a hundred thousand runs no more often than is asked for below."""


class Killed(BaseException):
    """The worker ends here."""


@dataclass
class Outside(Mail):
    """A mail server, and what people do with what they get. Now and then the worker dies before or
    after it has taken a letter, which is `unnoted` then."""

    context: Context
    clock: Clock
    random: Random
    got: list[tuple[str, str, datetime]] = field(default_factory=list)
    done: dict[str, tuple[str, datetime]] = field(default_factory=dict)
    soon: list[tuple[str, str]] = field(default_factory=list)
    unnoted: set[str] = field(default_factory=set)

    async def send(self, letter: Letter) -> None:
        if self.random.random() < DIES:
            raise Killed
        if self.random.random() < 0.01:
            if self.random.random() < 0.5:
                raise MailFailed("451 4.3.0 later")
            self.done[letter.to] = ("bounced", self.clock.now())
            raise MailFailed("550 5.1.1 nobody", for_good=True, no_address=True)
        self.got.append((letter.id, letter.to, self.clock.now()))
        does = self.random.choices(("answered", "out", "started", ""), (0.25, 0.02, 0.05, 0.68))[0]
        if does:
            self.soon.append((letter.to, does))
        if self.random.random() < DIES:
            self.unnoted.add(letter.id)
            raise Killed

    async def happen(self, passes: dict[str, UUID], questionnaire_id: UUID) -> None:
        """Some of what people are about to do, at this moment."""
        self.random.shuffle(self.soon)
        now, some = self.clock.now(), self.soon[: 1 + len(self.soon) // 3]
        del self.soon[: len(some)]
        answered = []
        for email, does in some:
            if does == "answered":
                answered.append(passes[email])
                self.done.setdefault(email, (does, now))
            elif does == "started":
                starts.note(self.context, questionnaire_id, passes[email])
            else:
                async with self.context.engine.begin() as conn:
                    await opting_out.mark(conn, email, True, now)
                self.done.setdefault(email, (does, now))
        await starts.keep(self.context)
        if answered:
            async with self.context.engine.begin() as conn:
                query = text("update passes set used = 1 where id = any(:ids)")
                await conn.execute(query, {"ids": answered})


async def many_contacts(wells: Wells, count: int) -> None:
    """Contacts on the list, at three receiving domains of different size."""
    async with wells.context.engine.begin() as conn:
        await conn.execute(
            text(
                "insert into contacts (id, name, email, phone, language, fields) "
                "select gen_random_uuid(), 'Well ' || n, 'well' || n || '@' || "
                "case when n % 10 = 0 then 'example.com' when n % 3 = 0 then 'example.net' "
                "else 'example.org' end, '', '', '{}' from generate_series(1, :count) n"
            ),
            {"count": count},
        )
        ids = list((await conn.execute(text("select id from contacts"))).scalars())
        await lists.put_on(conn, wells.list, ids)


async def worked(context: Context) -> bool:
    """Whether a worker went on until nothing was due; it may die on the way."""
    alive = True
    try:
        await tasks.go_on_with_rounds(context)
        await tasks.send_letters(context)
    except* Killed:
        alive = False
    return alive


async def test_nobody_is_written_to_who_should_not_be(
    scene: Scene, context: Context, post: Post, clock: Clock, owner: Engine
) -> None:
    wells = await Wells(scene, context, post, clock).opened(0)
    await many_contacts(wells, MANY)
    outside = Outside(context, clock, Random(17))
    context = replace(context, mail=outside)
    wells.context = outside.context = context
    await wells.begin(*STEPS)
    async with owner.connect() as conn:
        rows = await conn.execute(
            text("select c.email, p.id from passes p join contacts c on c.id = p.contact_id")
        )
        passes = {row.email: row.id for row in rows}
    assert len(passes) == MANY
    deaths, looked = 0, clock.now()
    until = clock.now() + timedelta(days=6)
    while clock.now() < until:
        deaths += not await worked(context)
        if clock.now() >= looked + timedelta(seconds=40):
            await outside.happen(passes, wells.id)
            looked = clock.now()
        clock.at = max(clock.at + timedelta(milliseconds=100), await _next(owner, until))
    await _held(owner, outside, wells)
    assert deaths > 10


async def _next(owner: Engine, until: datetime) -> datetime:
    """When something is due, so that the days between the steps take no time; what people do comes
    in between."""
    async with owner.connect() as conn:
        query = text(
            "select least((select min(next_at) from mailings where state = 'sending'), "
            "(select min(next_at) from rounds where state = 'running'))"
        )
        found: datetime | None = (await conn.execute(query)).scalar_one()
    return found or until


async def _held(owner: Engine, outside: Outside, wells: Wells) -> None:
    async with owner.connect() as conn:
        rows = list(
            await conn.execute(
                text(
                    "select l.id, l.email, l.state, m.step from mailing_letters l "
                    "join mailings m on m.id = l.mailing_id"
                )
            )
        )
    steps = {str(row.id): row.step for row in rows}
    assert not [row for row in rows if row.state == "waiting"]
    for id, email, at in outside.got:
        does, since = outside.done.get(email, ("", at))
        assert at <= since, f"{email} got {steps[id]} after it {does}"
    each = Counter((email, steps[id]) for id, email, _ in {(i, e, None) for i, e, _ in outside.got})
    assert set(each.values()) == {1}
    sent = {(row.email, row.step) for row in rows if row.state == "sent"}
    assert sent <= set(each)
    for row in rows:
        if (row.email, row.step) in set(each) - sent:
            # Taken, but its worker died: it was to go again, and was left out or refused by then.
            assert row.state in ("left_out", "failed")
            assert str(row.id) in outside.unnoted
    first = {email for email, step in each if step == "s0"}
    assert len(first) > 0.97 * MANY
    minutes = Counter(
        (email.partition("@")[2], at.replace(second=0)) for _, email, at in outside.got
    )
    assert max(minutes.values()) <= PER_DOMAIN + 1
    assert {step for _, step in each} == {f"s{n}" for n in range(5)}
