"""Visitors confirm a mail address: a link goes to it, and whoever opens that is known by it."""

from dataclasses import dataclass, replace
from datetime import timedelta
from urllib.parse import quote
from uuid import NAMESPACE_URL, UUID, uuid5

from jotgate.core.common.errors import Invalid, PassRefused
from jotgate.core.common.formatting import moment
from jotgate.core.common.secrets import hash_of
from jotgate.core.common.today import today_in
from jotgate.core.common.wording import closest
from jotgate.core.gate.decision import Visitor
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.walking.arrival import Arrival
from jotgate.core.walking.plan import Plan
from jotgate.core.words import letter as letter_words
from jotgate.core.words import page as page_words
from jotgate.services import gate, letters
from jotgate.services.arrivals import Entrance, begin_visit, come
from jotgate.services.context import Context
from jotgate.services.letters import Written
from jotgate.services.public import own_entry
from jotgate.services.public.allowances import allow_letter
from jotgate.services.public.entering import standing
from jotgate.store.base import Connection
from jotgate.store.links import visits

LASTS = timedelta(days=1)
"""For how long the link lets somebody in, also in another browser than the one it was asked in."""

A_DAY = {"client": 20, "address": 5, "questionnaire": 5_000}
"""Letters that one client can ask for, that go to one address, and at one questionnaire."""


@dataclass(frozen=True)
class Asked:
    """Who asks for a letter: the address, by which entrance and query string they came, and their
    language and network address."""

    email: str
    entrance: Entrance
    link: str
    language: str
    client: str


def mail_id(email: str) -> UUID:
    """What stands for somebody who confirmed a mail address, the same each time."""
    return uuid5(NAMESPACE_URL, f"mailto:{email.lower()}")


async def ask(context: Context, asked: Asked) -> None:
    """Send the link. Raises Invalid where confirming this address would not help, Shut where the
    gate lets nobody in, NotFound, PassRefused, TooManyTries."""
    entrance = asked.entrance
    async with context.engine.begin() as conn:
        found, held = await standing(conn, entrance.address, entrance)
        plan = await context.plan(conn, found.id, found.edition)
        today = today_in(plan.questionnaire.time_zone, context.clock.now())
        before = await come(context, conn, found.id, plan, entrance, held, today)
        language = closest(plan.questionnaire.languages, [asked.language])
        arrival = confirmed(before, asked.email)
        await _refuse(context, conn, found, plan, arrival, language)
        says = "Too many letters were asked for today. Try again tomorrow."
        whose = {"client": asked.client, "address": asked.email, "questionnaire": str(found.id)}
        await allow_letter(context, conn, "confirm", A_DAY, says, **whose)
        until = context.clock.now() + LASTS
        secret = await begin_visit(context, conn, found.id, arrival, until)
        path = f"/c/{quote(entrance.address)}/{secret}"
        link = f"{context.public_url}{path}{asked.link and '?' + asked.link}"
        await letters.ask(context, conn, _letter(context, plan, asked.email, language, link))


def confirmed(before: Arrival, email: str) -> Arrival:
    """What is known of somebody once they have confirmed an address."""
    return replace(before, mail=email.lower(), came=replace(before.came, mail_id=mail_id(email)))


async def _refuse(
    context: Context,
    conn: Connection,
    found: PublicState,
    plan: Plan,
    arrival: Arrival,
    language: str,
) -> None:
    """No letter goes out to somebody whom its link would not let in, not even to change what they
    sent."""
    visitor = await gate.visitor_of(conn, found, arrival)
    counts = await gate.counts_of(conn, found)
    now, zone = context.clock.now(), plan.questionnaire.time_zone
    asked = gate.judged(context, found, zone, now, Visitor(), counts)
    if not asked.confirm:
        raise Invalid("There is no mail address to confirm here. Open the page again.")
    decision = gate.judged(context, found, zone, now, visitor, counts)
    if decision.why and decision.why[0].reason == "not_invited":
        raise Invalid(page_words(language)["confirm_other"])
    if await own_entry.find(context, conn, found, zone, arrival.came):
        return
    await gate.refuse(context, found, plan, decision, visitor, language)


def _letter(context: Context, plan: Plan, email: str, language: str, link: str) -> Written:
    until = moment(context.clock.now() + LASTS, language, gate.zone_of(plan))
    words = letter_words(language)
    return letters.worded(plan, email, language, words, "confirm", link=link, until=until)


async def open_link(context: Context, address: str, secret: str) -> None:
    """See that the link of a letter is good still. Raises NotFound, PassRefused."""
    async with context.single.connect() as conn:
        found, _ = await standing(conn, address, Entrance(address=address))
        now = context.clock.now()
        if await visits.visit(conn, hash_of(secret), found.id, now) is None:
            raise PassRefused("expired")
