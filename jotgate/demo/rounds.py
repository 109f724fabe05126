"""A round in the middle of its course, with every outcome."""

from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from random import Random
from uuid import UUID

from jotgate.core.common.today import Today
from jotgate.core.contacts.contact import Contact
from jotgate.core.contacts.fields import ContactField
from jotgate.core.formats.table import write
from jotgate.core.mailing import MailingText
from jotgate.core.records.accounts import Account
from jotgate.core.rounds.round import Round
from jotgate.core.rounds.standing import Outcome
from jotgate.demo.clock import FixedClock
from jotgate.demo.people import answers_of
from jotgate.demo.ways import DISTRICTS, Unasked
from jotgate.ports.mail import Letter, Mail, MailFailed
from jotgate.services import doing, opting_out
from jotgate.services.arrivals import Held, by_pass, seal
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.mailings import mailing
from jotgate.services.public import starts, submitting
from jotgate.services.public.answering import Answers
from jotgate.services.rounds import going
from jotgate.services.staff import questionnaires
from jotgate.services.staff.contacts import bringing, fields, lists
from jotgate.services.staff.contacts.bringing import Bringing
from jotgate.services.staff.rounds import coding, drawing, names, rounds, worklist
from jotgate.services.staff.rounds.names import Named, Which
from jotgate.services.staff.rounds.worklist import Told
from jotgate.store.contacts import contacts
from jotgate.store.links import passes

HOUSEHOLDS, DRAWN = 60, 50
ANSWERED = (slice(0, 13), slice(19, 27), slice(27, 29))
"""Who of those who were drawn answers after the first letter, the second one, and lately."""

BEGAN = timedelta(days=20)
GIVEN = "Asta Rune Ilse Odd Greta Milo Vida Lars Enid Hugo Rosa Tom Alma Piet Yrsa".split()
FAMILY = "Bergh Tarn Gill Foss Wick Holt Lund Sark Pell Mire Crag Strand".split()

FIRST = MailingText(
    subject={"en": "Your well, {contact.well|in the valley}", "es": "Su pozo, {contact.well}"},
    body={
        "en": "Dear {contact.name|neighbour},\n\nyour well is one of 50 that were **drawn by "
        "chance** this autumn. The test is free of charge.\n\n{link}\n\nThornmere Well Watch",
        "es": "Estimada familia {contact.name|vecina}:\n\nsu pozo es uno de los 50 que se "
        "sortearon este otoño. El análisis es gratuito.\n\n{link}",
    },
    per_minute=600,
    per_domain=600,
)
AGAIN = MailingText(
    subject={"en": "Once more: your well, {contact.well|in the valley}"},
    body={
        "en": "Dear {contact.name|neighbour},\n\nyou can still have your well tested. It takes "
        "five minutes to say where it is:\n\n{link}\n\nThornmere Well Watch"
    },
    per_minute=600,
    per_domain=600,
)
SCRIPT = {
    "en": "Good evening, is this {contact.name}? I am calling for Thornmere Well Watch about your "
    "well. May I ask a few questions now? It takes five minutes.",
    "es": "Buenas tardes, ¿hablo con {contact.name}? Llamo de Thornmere Well Watch por su pozo.",
}
POSTAL = {"street": "Street", "postcode": "Postcode", "town": "Town"}
STREETS = ("Mill Lane", "Fell Road", "Weir Street", "Saltway", "Chapel Steps", "Low Quay")
POST = {
    "lines": "{contact.name}\n{contact.street}\n{contact.town}\n{contact.postcode}",
    "postcode": "postcode",
    "sender": "Thornmere Well Watch, 3 Pump Court, Thornmere",
}
OUTCOMES: tuple[Outcome, ...] = (
    *("not_reached", "answered", "not_reached", "refused", "again", "wrong_number"),
    *("not_reached", "moved", "not_eligible", "language", "not_reached", "refused"),
)


@dataclass
class Taken(Mail):
    """A mail server of the past: it takes letters, but to nobody at addresses of `unknown`."""

    unknown: frozenset[str]

    async def send(self, letter: Letter) -> None:
        if letter.to in self.unknown:
            raise MailFailed("550 5.1.1 No such mailbox", for_good=True, no_address=True)


def _round(list_id: UUID) -> Round:
    evening = [{"days": [1, 2, 3, 4, 5], "opens": "16:00", "shuts": "20:00"}]
    steps = [
        {"key": "step1", "name": "Mail, first", "way": "mail", "after": 0, "text": FIRST},
        {"key": "step2", "name": "Mail, again", "way": "mail", "after": 168, "text": AGAIN},
        {"key": "step3", "name": "Calls", "way": "call", "after": 144, "script": SCRIPT},
        {
            "key": "paper",
            "name": "Letter on paper",
            "way": "paper",
            "after": 144,
            "text": AGAIN,
            "duplex": True,
        },
        {
            "key": "step4",
            "name": "Visits in Saltings",
            "way": "visit",
            "after": 240,
            "only": {"op": "is", "item": "district", "value": DISTRICTS["saltings"]},
        },
        {
            "key": "step5",
            "name": "Last mail",
            "way": "mail",
            "after": 96,
            "to": "broken_off",
            "held": True,
            "text": AGAIN,
        },
    ]
    return Round.model_validate(
        {
            "name": "Autumn round",
            "kind": "Yearly water tests",
            "people": {"list_id": list_id},
            "draw": {"size": DRAWN, "by": "district", "seed": "autumn"},
            "post": POST,
            "trying": {"times": {"hours": evening}, "most": 4},
            "steps": steps,
        }
    )


class Demo:
    """Plays a round from its beginning to now."""

    def __init__(self, context: Context, owner: Account, id: UUID, random: Random) -> None:
        self.context, self.owner, self.id, self.random = context, owner, id, random
        self.round = UUID(int=0)
        self.now = context.clock.now()
        self.mail = Taken(frozenset())

    def at(self, moment: datetime) -> Context:
        return replace(self.context, clock=FixedClock(moment), queue=Unasked(), mail=self.mail)

    async def play(self) -> None:
        began = self.now - BEGAN
        then = self.at(began)
        list_id = await self._households(then)
        self.round = await rounds.make(then, self.owner, self.id, _round(list_id))
        await drawing.draw(then, self.owner, self.id, self.round, "")
        work = await drawing.ask_release(then, self.owner, self.id, self.round)
        await doing.do(then, work.id)
        people = await self._people(then)
        self.mail.unknown = frozenset([people[n].email for n in (16, 35, 45)])
        await self._goes(began)
        await self._answer(people[ANSWERED[0]], began + timedelta(hours=5), timedelta(hours=4))
        await self._start(people[13:16], began + timedelta(days=2))
        await self._opt_out(people[17:19], began + timedelta(days=3))
        await self._goes(began + timedelta(days=7))
        await self._answer(
            people[ANSWERED[1]], began + timedelta(days=7, hours=3), timedelta(hours=5)
        )
        await self._goes(began + timedelta(days=13))
        await self._ring(began + timedelta(days=14))
        await self._goes(began + timedelta(days=19))
        await self._answer(people[ANSWERED[2]], self.now - timedelta(days=2), timedelta(hours=9))
        at = (self.owner, self.id, self.round, people[31].id)
        await coding.code(self.at(self.now), *at, ("2.31", "A neighbour told us"))

    async def _households(self, context: Context) -> UUID:
        """Households brought in from a table: their list."""
        names = tuple(DISTRICTS.values())
        head = (*("key", "name", "email", "phone", "language", "district", "well"), *POSTAL)
        rows = []
        for n in range(HOUSEHOLDS):
            given, family = GIVEN[n % 15], FAMILY[(n * 7 + n // 12) % 12]
            rows.append(
                (
                    f"V-{1001 + n}",
                    f"{given} {family}",
                    f"{given}.{family}{n}@{('example.org', 'example.net')[n % 2]}".lower(),
                    f"+44 20 7946 {n:04}",
                    "es" if n % 5 == 4 else "en",
                    self.random.choice(names),
                    f"TW-{2800 + n}",
                    f"{STREETS[n * 5 % len(STREETS)]} {n % 23 + 1}",
                    f"TH{n % 7 + 1} {n % 9 + 1}MR",
                    names[n % len(names)],
                )
            )
        body = write(head, rows).encode()
        who = (context, self.owner)
        for key, label in POSTAL.items():
            await fields.add(*who, ContactField(key=key, label=label))
        table, columns = await bringing.take_table(*who, "valley.csv", body)
        await doing.do(context, (await bringing.look(*who, table.id, columns)).id)
        wanted = Bringing(table.id, "update", None, "Households of the valley")
        await doing.do(context, (await bringing.bring(*who, wanted)).id)
        every = await lists.every(*who)
        return next(one.id for one in every if one.name == "Households of the valley")

    async def _people(self, context: Context) -> list[Contact]:
        """Those who were drawn, in the order of the draw."""
        found: list[Named] = []
        more, behind = True, 0
        while more:
            which = Which(behind=behind)
            some, more = await names.names(context, self.owner, self.id, self.round, which)
            found += some
            behind = some[-1].number
        async with context.engine.connect() as conn:
            known = await contacts.of_ids(conn, [one.asked.contact_id for one in found])
        return [known[one.asked.contact_id] for one in found]

    async def _goes(self, moment: datetime) -> None:
        """Have the worker do what is due, until nothing is."""
        quiet = 0
        while quiet < 3:
            then = self.at(moment)
            busy = await going.go_due(then) | await mailing.send_due(then)
            quiet = 0 if busy else quiet + 1
            moment += timedelta(milliseconds=200)

    async def _answer(self, people: list[Contact], first: datetime, apart: timedelta) -> None:
        """They answer, one after the other."""
        async with self.context.engine.connect() as conn:
            plan = await self.context.plan(conn, self.id, 1)
        address = (await questionnaires.summary(self.context, self.owner, self.id)).address
        codes = {name: code for code, name in DISTRICTS.items()}
        for n, one in enumerate(people):
            then = self.at(min(first + n * apart, self.now))
            carried = {"district": codes[one.fields["district"]], "household": one.key}
            given = answers_of(plan, self.random, carried, Today(then.clock.now()))
            held = await self._held(one)
            arrival = seal(then, self.id, by_pass(then, held))
            answers = Answers("", 1, given, arrival=arrival)
            taken = await submitting.submit(then, address, answers, str(then.ids.id()))
            await dispatch_entry(then, self.id, taken.id)

    async def _held(self, one: Contact) -> Held:
        async with self.context.engine.connect() as conn:
            (found, _), *_ = await passes.of_contacts(conn, self.id, [one.id])
        return Held(found, one)

    async def _start(self, people: list[Contact], moment: datetime) -> None:
        then = self.at(moment)
        for one in people:
            starts.note(then, self.id, (await self._held(one)).one.id)
        await starts.keep(then)

    async def _opt_out(self, people: list[Contact], moment: datetime) -> None:
        async with self.context.engine.begin() as conn:
            for one in people:
                await opting_out.mark(conn, one.email, True, moment)

    async def _ring(self, moment: datetime) -> None:
        """Evenings of calls, each with another outcome than the one before."""
        for n, outcome in enumerate(OUTCOMES * 2):
            then = self.at(_evening(moment + timedelta(days=n // 8), n))
            at = (then, self.owner, self.id, self.round)
            found = (await worklist.look(*at, take=True)).up
            if found is not None:
                again = self.now + timedelta(hours=n) if outcome == "again" else None
                note = "After the milking, she said" if outcome == "again" else ""
                await worklist.tell(*at, found.contact.id, Told(outcome, again, note))


def _evening(day: datetime, n: int) -> datetime:
    """A working evening from `day` on."""
    while day.weekday() > 4:
        day += timedelta(days=1)
    return day.replace(hour=16, minute=5 + 7 * (n % 8), second=0, microsecond=0)


async def play_round(context: Context, owner: Account, id: UUID) -> None:
    await Demo(context, owner, id, Random(1120)).play()
