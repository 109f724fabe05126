"""A visitor answers: the page to show now, and the submission."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal
from urllib.parse import parse_qsl
from uuid import UUID

import orjson
from sqlalchemy.exc import IntegrityError
from sqlalchemy.ext.asyncio import AsyncConnection

from jotgate.core.carry import Filled, read_link
from jotgate.core.checks import Failed, as_json, fault_of
from jotgate.core.clearance import split
from jotgate.core.conditions import Value
from jotgate.core.errors import Fault, InvalidAnswers, NotFound, Shut
from jotgate.core.gate import Gate, admit, words_when_shut
from jotgate.core.path import (
    FinishAhead,
    PageAhead,
    RawAnswers,
    Walk,
    first_page,
    onward,
    stay,
    walk,
)
from jotgate.core.plan import Plan
from jotgate.core.questionnaire import Finish
from jotgate.services.house import House
from jotgate.store import entries, questionnaires
from jotgate.store.entries import Submission
from jotgate.store.questionnaires import Standing

LINK_VALUES = 200
"""Values of one link that are read."""

Move = Literal["begin", "stay", "onward"]


@dataclass(frozen=True)
class Visit:
    """A visitor who was let in: the edition they answer and what their link brought."""

    questionnaire_id: UUID
    edition: int
    gate: Gate
    plan: Plan
    filled: Filled


@dataclass(frozen=True)
class Answers:
    """What a visitor's browser holds: the link it came by, the edition, the answers so far."""

    link: str
    edition: int
    given: RawAnswers


@dataclass(frozen=True)
class Taken:
    """A stored entry. `repeated` tells that this submission had been stored before."""

    number: int
    finish: Finish
    language: str
    repeated: bool


async def standing(conn: AsyncConnection, address: str) -> Standing:
    found = await questionnaires.standing(conn, address)
    if found is None:
        raise NotFound("There is no questionnaire at this address.")
    return found


async def visit(house: House, address: str, link: str, edition: int | None = None) -> Visit:
    """Let a visitor in who came by `link`, a query string. Raises NotFound, Shut, LinkRefused."""
    async with house.engine.connect() as conn:
        return await _visit(house, conn, address, link, edition)


async def _visit(
    house: House, conn: AsyncConnection, address: str, link: str, edition: int | None
) -> Visit:
    found = await standing(conn, address)
    if edition is not None and not 1 <= edition <= found.edition:
        raise NotFound("There is no such edition. Open the link again.")
    plan = await house.plan(conn, found.id, edition or found.edition)
    first = plan.questionnaire.first_language
    admit(found.gate, first, first)
    pairs = parse_qsl(link, keep_blank_values=True)[:LINK_VALUES]
    return Visit(found.id, edition or found.edition, found.gate, plan, read_link(plan, pairs))


async def page(
    house: House, address: str, answers: Answers, move: Move, at: str
) -> tuple[Visit, PageAhead | FinishAhead]:
    """The page to show after `move` from the page `at`."""
    visitor = await visit(house, address, answers.link, answers.edition)
    carried = visitor.filled.carried
    match move:
        case "begin":
            return visitor, first_page(visitor.plan, answers.given, carried)
        case "stay":
            return visitor, stay(visitor.plan, answers.given, carried, at)
        case "onward":
            return visitor, onward(visitor.plan, answers.given, carried, at)


async def submit(house: House, address: str, answers: Answers, idempotency_key: str) -> Taken:
    """Store an entry, its restricted answers and the outgoing work, in one transaction, once.

    Raises InvalidAnswers where an answer on the path fails, and Shut where the gate was shut.
    """
    try:
        async with house.engine.begin() as conn:
            return await _submit(house, conn, address, answers, idempotency_key)
    except IntegrityError:
        async with house.engine.connect() as conn:
            found = await standing(conn, address)
            repeated = await _repeated(house, conn, found.id, idempotency_key)
        if repeated is None:
            raise
        return repeated


async def _submit(
    house: House, conn: AsyncConnection, address: str, answers: Answers, idempotency_key: str
) -> Taken:
    found = await standing(conn, address)
    repeated = await _repeated(house, conn, found.id, idempotency_key)
    if repeated is not None:
        return repeated
    visitor = await _visit(house, conn, address, answers.link, answers.edition)
    whole = walk(visitor.plan, answers.given, visitor.filled.carried)
    if whole.stuck is not None:
        raise InvalidAnswers(
            "Some answers need another look.",
            faults_of(visitor.plan, whole.stuck.failed),
            whole.stuck.page.key,
        )
    submission = _submission(house, visitor, whole, idempotency_key)
    await house.queue.defer(
        conn,
        "dispatch_entry",
        questionnaire_id=str(visitor.questionnaire_id),
        entry_id=str(submission.id),
    )
    number = await entries.add(conn, submission)
    if number is None:
        first = visitor.plan.questionnaire.first_language
        raise Shut(words_when_shut(visitor.gate, first, first), reason="shut_by_hand")
    return Taken(number, whole.finish, visitor.plan.questionnaire.first_language, repeated=False)


async def _repeated(house: House, conn: AsyncConnection, id: UUID, key: str) -> Taken | None:
    """What the first submission under this key led to."""
    entry = await entries.by_idempotency_key(conn, id, key)
    if entry is None:
        return None
    plan = await house.plan(conn, id, entry.edition)
    first = plan.questionnaire.first_language
    return Taken(entry.number, plan.finishes[entry.finish], first, repeated=True)


def _submission(house: House, visitor: Visit, whole: Walk, idempotency_key: str) -> Submission:
    open_answers, restricted = split(visitor.plan, whole.kept)
    id = house.ids.id()
    sealed = seal(house, id, restricted) if restricted else None
    return Submission(
        id=id,
        questionnaire_id=visitor.questionnaire_id,
        edition=visitor.edition,
        arrived=house.clock.now(),
        finish=whole.finish.key,
        answers={key: as_json(value) for key, value in open_answers.items()},
        withheld=sorted(restricted),
        flags=list(visitor.filled.flags),
        idempotency_key=idempotency_key,
        sealed=sealed,
    )


def seal(house: House, entry_id: UUID, restricted: dict[str, Value]) -> bytes:
    """Restricted answers encrypted, bound to their entry."""
    plain = orjson.dumps({key: as_json(value) for key, value in restricted.items()})
    return house.cipher.seal(plain, f"entry {entry_id}")


def faults_of(plan: Plan, failed: Mapping[str, Failed]) -> list[Fault]:
    """Failures by item as faults with words, in the order of the items."""
    first = plan.questionnaire.first_language
    return [fault_of(plan.items[key], failure, first, first) for key, failure in failed.items()]
