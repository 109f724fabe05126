"""A visitor answers: who is let in, and the page to show now."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime
from typing import Literal
from urllib.parse import parse_qsl
from zoneinfo import ZoneInfo

from sqlalchemy.ext.asyncio import AsyncConnection

from jotgate.core.carry import Filled, read_link
from jotgate.core.errors import Fault, NotFound
from jotgate.core.failures import Failed, fault_of
from jotgate.core.gate import admit
from jotgate.core.path import (
    FinishAhead,
    PageAhead,
    RawAnswers,
    first_page,
    onward,
    stay,
)
from jotgate.core.plan import Plan
from jotgate.services.house import House
from jotgate.store import questionnaires
from jotgate.store.questionnaires import Standing

LINK_VALUES = 200
"""Values of one link that are read."""

Move = Literal["begin", "stay", "onward"]


@dataclass(frozen=True)
class Visit:
    """A visitor who was let in: the edition they answer and what their link brought."""

    plan: Plan
    edition: int
    filled: Filled
    today: date


@dataclass(frozen=True)
class Answers:
    """What a visitor's browser holds: the link it came by, the edition, the answers so far.

    An answer that was taken back is there as None: it takes back what the link filled in.
    """

    link: str
    edition: int
    given: RawAnswers


async def standing(conn: AsyncConnection, address: str) -> Standing:
    found = await questionnaires.standing(conn, address)
    if found is None:
        raise NotFound("There is no questionnaire at this address.")
    return found


async def visit(house: House, address: str, link: str, edition: int | None = None) -> Visit:
    """Let a visitor in who came by `link`, a query string. Raises NotFound, Shut, LinkRefused."""
    async with house.engine.connect() as conn:
        found = await standing(conn, address)
        wanted = found.edition if edition is None else edition
        plan = await edition_at(house, conn, found, wanted)
    first = plan.questionnaire.first_language
    admit(found.gate, first, first)
    today = today_in(plan, house.clock.now())
    return Visit(plan, wanted, read(plan, link, today), today)


async def edition_at(house: House, conn: AsyncConnection, found: Standing, edition: int) -> Plan:
    """An edition of a questionnaire that visitors may answer; raises NotFound for others."""
    if not 1 <= edition <= found.edition:
        raise NotFound("There is no such edition. Open the link again.")
    return await house.plan(conn, found.id, edition)


def with_filled(filled: Filled, given: RawAnswers) -> RawAnswers:
    """What the link filled in, under what the visitor answered; an empty answer counts."""
    return {**filled.answers, **given}


def read(plan: Plan, link: str, today: date) -> Filled:
    """What a link's query string brings. Raises LinkRefused."""
    return read_link(plan, parse_qsl(link, keep_blank_values=True)[:LINK_VALUES], today)


def today_in(plan: Plan, now: datetime) -> date:
    """The day that it is where the questionnaire is at home."""
    return now.astimezone(ZoneInfo(plan.questionnaire.time_zone)).date()


async def page(
    house: House, address: str, answers: Answers, move: Move, at: str
) -> tuple[Visit, PageAhead | FinishAhead]:
    """The page to show after `move` from the page `at`."""
    visitor = await visit(house, address, answers.link, answers.edition)
    carried, today = visitor.filled.carried, visitor.today
    given = with_filled(visitor.filled, answers.given)
    match move:
        case "begin":
            return visitor, first_page(visitor.plan, given, carried, today)
        case "stay":
            return visitor, stay(visitor.plan, given, carried, today, at)
        case "onward":
            return visitor, onward(visitor.plan, given, carried, today, at)


def faults_of(plan: Plan, failed: Mapping[str, Failed]) -> list[Fault]:
    """Failures by item as faults with words, in the order of the items."""
    first = plan.questionnaire.first_language
    return [fault_of(plan.items[key], failure, first, first) for key, failure in failed.items()]
