"""Trying a draft: the same decisions as on the public page, and nothing is stored."""

import asyncio
from collections.abc import Iterable
from dataclasses import asdict, dataclass
from random import Random
from typing import Any
from urllib.parse import parse_qsl
from uuid import UUID

from jotgate.core.common.errors import Invalid, NotFound
from jotgate.core.common.today import Today, today_in
from jotgate.core.common.values import FileFacts
from jotgate.core.common.wording import closest
from jotgate.core.entries.finishing import Ending, ending, to_keep
from jotgate.core.publishing.condition_faults import VISITOR
from jotgate.core.records.accounts import Account
from jotgate.core.walking.arrival import Arrival
from jotgate.core.walking.made_up import answers_to
from jotgate.core.walking.next_page import NextFinish, NextPage
from jotgate.core.walking.path import RawAnswers
from jotgate.core.walking.plan import Plan, compile_plan
from jotgate.core.walking.prefill import Filled, read_arrival
from jotgate.services.context import Context
from jotgate.services.public.answering import Answers, Turn, move_on
from jotgate.services.public.entering import LINK_VALUES, Visit
from jotgate.services.public.facts import each_file
from jotgate.services.staff import questionnaires


async def visit(
    context: Context, account: Account, id: UUID, link: str, wanted: Iterable[str]
) -> Visit:
    """Somebody of staff who tries the draft as a visitor by `link`; `edition` is its revision.

    Raises Invalid while something keeps the draft from being published, and LinkRefused.
    """
    state = await questionnaires.draft(context, account, id)
    if state.faults:
        count = len(state.faults)
        left = "one thing is" if count == 1 else f"{count} things are"
        message = f"It can be tried once it is ready to be published: {left} left to do."
        raise Invalid(message, state.faults)
    plan = await asyncio.to_thread(compile_plan, state.document)
    today = today_in(state.document.time_zone, context.clock.now())
    language = closest(state.document.languages, wanted)
    filled = filled_as_if(plan, link, today, state.revision)
    return Visit(id, plan, state.revision, filled, today, language)


def filled_as_if(plan: Plan, link: str, today: Today, edition: int) -> Filled:
    """What `link`, a query string, brings to somebody of staff who tries it. Raises LinkRefused."""
    pairs = parse_qsl(link, keep_blank_values=True)[:LINK_VALUES]
    return read_arrival(plan, pairs, today, as_if(link), edition)


def as_if(link: str) -> Arrival:
    """What is known of a visitor who is only tried: here a link brings what a pass, another
    questionnaire or a sign-in would, and facts such as `contact.language=es`."""
    pairs = tuple(parse_qsl(link, keep_blank_values=True)[:LINK_VALUES])
    facts = [(*key.split(".", 1), said) for key, said in pairs if VISITOR.fullmatch(key)]
    contact, claims = (
        {name: said for kind, name, said in facts if kind == wanted}
        for wanted in ("contact", "claim")
    )
    return Arrival(values=pairs, handed=pairs, contact=contact, claims=claims)


async def page(
    context: Context, account: Account, id: UUID, answers: Answers, turn: Turn
) -> tuple[Visit, NextPage | NextFinish]:
    """The page to show after `turn`."""
    visitor = await visit(context, account, id, answers.link, [answers.language])
    given = read_files(visitor.plan, answers.given)
    return visitor, move_on(visitor, given, turn)


def read_files(plan: Plan, given: RawAnswers) -> RawAnswers:
    """Answers with files as the browser says they are: here nothing is sent."""
    return each_file(plan, given, lambda _, said: _facts(said))


def ending_of(visitor: Visit, following: NextFinish) -> Ending:
    """What its finish says; nothing has a number here."""
    plan, whole = visitor.plan, following.walk
    return ending(plan, whole.finish, to_keep(plan, whole), 0, visitor.language)


@dataclass(frozen=True)
class MadeUp:
    """Answers that lead to `page`; `revision` is the draft's."""

    revision: int
    page: str
    answers: dict[str, Any]


async def made_up(
    context: Context, account: Account, id: UUID, link: str, page: str, seed: int
) -> MadeUp:
    """Answers that nobody gave, of a walk that comes to `page`. Raises NotFound, Invalid.

    The same seed gives the same answers.
    """
    visitor = await visit(context, account, id, link, [])
    if page not in visitor.plan.page_numbers:
        raise NotFound("There is no such page in this draft.")
    carried = visitor.filled.carried
    found = answers_to(visitor.plan, page, carried, visitor.today, Random(seed))
    if found is None:
        raise NotFound("No made-up answers were found that lead to this page.")
    return MadeUp(visitor.edition, page, told(found))


def told(raw: Any) -> Any:
    """`raw` with files as the browser says them."""
    match raw:
        case FileFacts():
            return asdict(raw)
        case dict():
            return {key: told(one) for key, one in raw.items()}
        case list():
            return [told(one) for one in raw]
    return raw


def _facts(said: Any) -> Any:
    match said:
        case {"id": str(id), "name": str(name), "size": int(size), "type": str(type)}:
            return FileFacts(id, name, size, type)
    return said
