"""The question bank: questions kept once, for use in any questionnaire."""

from typing import Any
from uuid import UUID

from pydantic import TypeAdapter

from jotgate.core.common.errors import NotFound, Stale
from jotgate.core.items import AnyQuestion, Question
from jotgate.core.records.accounts import Account
from jotgate.core.records.questionnaires import Banked
from jotgate.services.context import Context
from jotgate.services.staff.rights import in_office, writes_somewhere
from jotgate.store import bank

_QUESTION: TypeAdapter[Question] = TypeAdapter(AnyQuestion)


async def every(context: Context, account: Account) -> list[Banked]:
    """All questions of the bank, for who writes a questionnaire."""
    async with context.engine.connect() as conn:
        await writes_somewhere(conn, account)
        return await bank.every(conn)


async def add(context: Context, account: Account, item: Question) -> Banked:
    """Keep a question, without what belongs to the place where it stood."""
    in_office(account, "begin")
    async with context.engine.begin() as conn:
        return await bank.add(conn, context.ids.id(), placeless(item), context.clock.now())


async def change(
    context: Context, account: Account, id: UUID, item: Question, revision: int
) -> Banked:
    """Keep another wording of it. Raises Stale where somebody else did so in the meantime."""
    in_office(account, "begin")
    async with context.engine.begin() as conn:
        changed = await bank.change(conn, id, placeless(item), revision, context.clock.now())
        if changed is None:
            current = await bank.find(conn, id)
            if current is None:
                raise NotFound("The question is no longer in the bank.")
            raise Stale("Somebody changed this question in the bank meanwhile.", current=None)
    return changed


async def remove(context: Context, account: Account, id: UUID) -> None:
    """Take it out of the bank; the questionnaires that use it keep their wording."""
    in_office(account, "begin")
    async with context.engine.begin() as conn:
        if not await bank.remove(conn, id):
            raise NotFound("The question is no longer in the bank.")


def placeless(item: Question) -> Question:
    """`item` without conditions, which name what stands around it, and without its link."""
    found = _QUESTION.validate_python(_without(item.model_dump(mode="json")))
    return found.model_copy(update={"banked": None})


def _without(part: Any) -> Any:
    """A part of a document with nothing shown under a condition, and without checks across."""
    if isinstance(part, dict):
        return {
            name: _without(one)
            for name, one in part.items()
            if name not in ("shown_when", "required_when", "checks")
        }
    return [_without(one) for one in part] if isinstance(part, list) else part
