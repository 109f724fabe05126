"""What dispatch would do once an entry was corrected, and whether it does."""

from uuid import UUID

from jotgate.core.common.errors import NotFound
from jotgate.core.dispatch.replaying import kind_of
from jotgate.core.records.accounts import Account
from jotgate.services.by_staff import CORRECTS
from jotgate.services.context import Context
from jotgate.services.dispatch.replaying import CORRECTED_KINDS, rules_asking
from jotgate.services.staff.dispatch.rehearsing import Rehearsed
from jotgate.services.staff.dispatch.replays import of_entry
from jotgate.services.staff.rights import needs
from jotgate.store.entries import entries, entry_versions, writing


async def meant(
    context: Context, account: Account, where: tuple[UUID, UUID]
) -> tuple[Rehearsed, ...]:
    """What the rules in force would do for the entry `where` (questionnaire, entry) as it is now
    and did not do yet; of what may not be done twice only what asks for corrections. Raises
    NotFound."""
    async with context.engine.connect() as conn:
        await needs(conn, account, CORRECTS, where[0])
        about, rules, found = await of_entry(context, conn, account, where)
    asking = rules_asking(rules, about)
    return tuple(
        one
        for one in found.todo
        if kind_of(one.effect) in CORRECTED_KINDS or one.effect.at.rule in asking
    )


async def settle(context: Context, account: Account, where: tuple[UUID, UUID], act: bool) -> None:
    """Have dispatch act on a corrected entry by the rules as they are, or leave it. Raises
    NotFound where nothing waits for that."""
    id, entry_id = where
    async with context.engine.begin() as conn:
        await needs(conn, account, CORRECTS, id)
        if await entries.entry(conn, id, entry_id, lock=True) is None:
            raise NotFound("There is no such entry.")
        if not await entry_versions.settle(conn, id, entry_id):
            raise NotFound("Nothing waits to be decided here.")
        if act:
            await writing.ask_to_dispatch_change(conn, id, entry_id, context.queue)
