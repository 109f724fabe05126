"""A visitor answers: the page to show now."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace
from typing import Literal

from jotgate.core.answers.failure_messages import fault_of
from jotgate.core.answers.failures import CheckFailed
from jotgate.core.common.errors import Fault, InvalidAnswers
from jotgate.core.common.values import Values
from jotgate.core.entries.display import Reader
from jotgate.core.entries.said import Saying
from jotgate.core.gate.decision import Decision, Visitor, Why
from jotgate.core.gate.places import takes_of
from jotgate.core.records.questionnaires import PublicState
from jotgate.core.walking.next_page import NextFinish, NextPage, first_page, go_on, onward, stay
from jotgate.core.walking.path import RawAnswers
from jotgate.core.walking.plan import Plan
from jotgate.services import gate
from jotgate.services.arrivals import Entrance
from jotgate.services.context import Context
from jotgate.services.gate import NOTHING_SEEN, Seen
from jotgate.services.public import holding, starts
from jotgate.services.public.entering import Visit, visit, with_filled
from jotgate.services.public.facts import with_facts

Move = Literal["begin", "stay", "onward"]


@dataclass(frozen=True)
class Answers:
    """What a visitor's browser holds: the link it came by, the edition, the answers so far, and
    what is known of the visitor, sealed.

    An answer that was taken back is there as None: it takes back what the link filled in.
    `language` is that in which the page is shown.
    """

    link: str
    edition: int
    given: RawAnswers
    language: str = ""
    arrival: str = ""
    seen: Seen = NOTHING_SEEN


@dataclass(frozen=True)
class Turn:
    """Where a visitor wants to go: `move` from the page `page`.

    `item` is the question answered last there, where they are asked one by one; staying, `touched`
    are the places whose failures are wanted.
    """

    move: Move
    page: str
    item: str = ""
    touched: Collection[str] = ()


async def page(
    context: Context, address: str, answers: Answers, turn: Turn
) -> tuple[Visit, NextPage | NextFinish]:
    """The page to show after `turn`."""
    wanted, entrance = [answers.language], Entrance(arrival=answers.arrival)
    visitor = await visit(
        context, address, answers.link, wanted, answers.edition, entrance, answers.seen
    )
    own = visitor.came.own
    told = await with_facts(context, visitor.plan, visitor.id, answers.given, own)
    if visitor.came.pass_id is not None and turn.move == "onward":
        starts.note(context, visitor.id, visitor.came.pass_id)
    if visitor.replaced:
        return visitor, _carry_on(visitor, told, turn.page)
    following = move_on(visitor, told, turn)
    if visitor.state is None or not visitor.state.gate.places:
        return visitor, following
    return await with_places(context, visitor.state, visitor, told, turn, following, answers.seen)


async def with_places(
    context: Context,
    found: PublicState,
    visitor: Visit,
    told: RawAnswers,
    turn: Turn,
    following: NextPage | NextFinish,
    seen: Seen,
) -> tuple[Visit, NextPage | NextFinish]:
    """The same with the places held that the answers take; where one is full by now, the page with
    its question instead. Raises Shut where there is none left at all."""
    if turn.move != "onward":
        return visitor, following
    kept = following.walk.kept if isinstance(following, NextFinish) else following.kept
    takes = takes_of(found.gate.places, kept)
    if found.gate.hold and visitor.came.own is None:
        held = await holding.keep(context, found, kept, visitor.came, seen)
        async with context.single.connect() as conn:
            counts = await gate.counts_of(conn, found)
        own = (
            {one.cell: one.amount for one in takes} if held.until and not held.full else visitor.own
        )
        visitor = replace(visitor, held_until=held.until, counts=counts, own=own)
    else:
        held = holding.Held(full=holding.full_of(takes, visitor.counts, visitor.own))
    if not held.full:
        return visitor, following
    item = holding.item_of(found.gate, visitor.plan, held.full[0], kept)
    if item is None:
        why = Why("gone", cells=held.full)
        decision = Decision((why,))
        plan, language = visitor.plan, visitor.language
        await gate.refuse(context, found, plan, decision, Visitor(going_on=True), language)
        return visitor, following
    given = with_filled(visitor.filled, told)
    at = page_of(visitor.plan, item)
    page = stay(visitor.plan, given, visitor.filled.carried, visitor.today, at)
    return visitor, replace(page, failed={item: CheckFailed("option_full")})


def page_of(plan: Plan, item: str) -> str:
    """The key of the page that a question stands on."""
    pages = plan.questionnaire.pages
    return next(page.key for page in pages if any(one.key == item for one in page.items))


def _carry_on(visitor: Visit, told: RawAnswers, at: str) -> NextPage:
    """Where somebody goes on in a new edition: the first page on which an answer does not fit,
    else the page that they were on."""
    given = with_filled(visitor.filled, told)
    return go_on(visitor.plan, given, visitor.filled.carried, visitor.today, at)


def move_on(visitor: Visit, told: RawAnswers, turn: Turn) -> NextPage | NextFinish:
    """Where `turn` leads, with what the link filled in."""
    plan, carried, today = visitor.plan, visitor.filled.carried, visitor.today
    given = with_filled(visitor.filled, told)
    match turn.move:
        case "begin":
            return first_page(plan, given, carried, today)
        case "stay":
            return stay(plan, given, carried, today, turn.page, turn.touched)
        case "onward":
            return onward(plan, given, carried, today, turn.page, turn.item)


def faults_of(
    plan: Plan, failed: Mapping[str, CheckFailed], language: str, known: Values
) -> list[Fault]:
    """Failures by place as faults with words in `language`, which may speak of what is `known`."""
    first = plan.questionnaire.first_language
    filled = Saying(Reader(plan, language), known).filled
    return [
        fault_of(plan.items, place, why, language, first, filled) for place, why in failed.items()
    ]


def no_place(plan: Plan, item: str, language: str, known: Values) -> InvalidAnswers:
    """That the place which the answer to a question takes has gone meanwhile."""
    faults = faults_of(plan, {item: CheckFailed("option_full")}, language, known)
    return InvalidAnswers("A place went meanwhile.", faults, page_of(plan, item))
