"""A visitor joins the waiting list where all places are taken."""

from dataclasses import dataclass

from jotgate.core.common.errors import Invalid
from jotgate.core.common.wording import closest
from jotgate.core.gate.decision import ANYBODY
from jotgate.services import gate, waiting_list
from jotgate.services.context import Context
from jotgate.services.public.allowances import allow_letter
from jotgate.services.public.entering import public_state

A_DAY = {"client": 20, "address": 3, "questionnaire": 5_000}
"""Times that one client, for one address, at one questionnaire, can be put on a list."""


@dataclass(frozen=True)
class Joined:
    """The place on the list, from 1, and by what whoever joined is known when they come back."""

    place: int
    secret: str


async def join(context: Context, address: str, email: str, language: str, client: str) -> Joined:
    """Put a mail address on the list. Raises Invalid where there is no list, or
    there are places, NotFound, TooManyTries."""
    async with context.engine.begin() as conn:
        found = await public_state(conn, address)
        plan = await context.plan(conn, found.id, found.edition)
        counts = await gate.counts_of(conn, found)
        now, zone = context.clock.now(), plan.questionnaire.time_zone
        decision = gate.judged(context, found, zone, now, ANYBODY, counts)
        if not found.gate.waiting.on or all(why.reason != "full" for why in decision.why):
            raise Invalid("There is no waiting list here at the moment. Open the page again.")
        says = "Too many addresses were put on the list from here today. Try again tomorrow."
        whose = {"client": client, "address": email, "questionnaire": str(found.id)}
        await allow_letter(context, conn, "waiting", A_DAY, says, **whose)
        spoken = closest(plan.questionnaire.languages, [language])
        secret = context.ids.token()
        place = await waiting_list.join(context, conn, found, email.lower(), spoken, secret)
    return Joined(place, secret)
