"""People who began the private well check, saved what they had, and have not gone on since."""

from dataclasses import replace
from datetime import datetime, timedelta
from random import Random
from uuid import UUID

from jotgate.core.common.today import Today
from jotgate.demo.clock import FixedClock
from jotgate.demo.people import answers_of
from jotgate.services.context import Context
from jotgate.services.public import started
from jotgate.services.public.started import StartedAnswers

PAGES = {"household": 3, "well": 9, "taps": 2, "visit": 4}
"""On which page how many stopped: the depth of one's own well is what people have to look up."""


async def stop_some(
    context: Context, address: str, id: UUID, random: Random, now: datetime
) -> None:
    async with context.engine.connect() as conn:
        plan = await context.plan(conn, id, 1)
    for page, many in PAGES.items():
        before = plan.questionnaire.pages[: plan.page_numbers[page]]
        known = {item.key for one in before for item in one.items}
        for _ in range(many):
            then = now - timedelta(hours=random.randint(3, 500))
            whole = answers_of(plan, random, {}, Today(then))
            given = {key: raw for key, raw in whole.items() if key in known}
            given |= {"source": "own"} if "source" in known else {}
            going = StartedAnswers(1, "", page, str(context.ids.id()), given)
            earlier = replace(context, clock=FixedClock(then))
            secret = random.randbytes(32).hex()
            await started.save(earlier, address, secret, going, "127.0.0.1")
