"""What is asked of browsers whose visitor is not known, before anything is stored."""

from jotgate.core.common.errors import TooManyTries
from jotgate.core.gate.robots import is_known, refuse_robots
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.walking.arrival import Arrival
from jotgate.services.context import Context
from jotgate.services.gate import Seen
from jotgate.services.public.allowances import name_of
from jotgate.store import allowances

HOUR = 3600


def asks(found: PublicState, arrival: Arrival) -> bool:
    """Whether anything is asked of the browser of somebody."""
    return not found.gate.robots.is_off and not is_known(arrival.came)


async def refuse_programs(
    context: Context, found: PublicState, arrival: Arrival, seen: Seen
) -> None:
    """Raise NotProved, TooQuick, Trapped, or TooManyTries where too much came from one network
    address within an hour, over all processes. Something is asked of this browser."""
    asked, now = found.gate.robots, context.clock.now()
    refuse_robots(asked, seen.submission, seen.proof, seen.trap, arrival.begun, now)
    if not asked.pace:
        return
    second = int(now.timestamp())
    name = name_of("pace", f"{found.id} {second // HOUR} {seen.client}")
    async with context.single.connect() as conn:
        if not await allowances.use(conn, name, now.date(), asked.pace):
            says = "Many answers came from your network within an hour. Send it again later."
            raise TooManyTries(says, retry_after=HOUR - second % HOUR)
