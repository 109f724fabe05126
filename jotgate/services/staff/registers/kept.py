"""Restricted answers beside the rows of registers, for those with clearance for where they come
from."""

from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import NotAllowed, NotFound
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.keys.sealing import keys_for, unseal_cell
from jotgate.services.staff.rights import NO_CLEARANCE, needs, needs_reason, told_why
from jotgate.services.trail import note
from jotgate.store.accounts import parts
from jotgate.store.base import Connection
from jotgate.store.registers import row_secrets, rows


@dataclass(frozen=True)
class Kept:
    """A restricted question of a questionnaire, by what staff call it; whether seeing the answer
    needs a reason."""

    questionnaire_id: UUID
    key: str
    label: str
    asks_reason: bool


async def _clearances(context: Context, conn: Connection, account: Account) -> dict[UUID, bool]:
    """The questionnaires that somebody is cleared for, and whether that asks for a reason."""
    if not account.cleared:
        return {}
    return await parts.clearances_of(conn, account.id, context.clock.now())


async def kept_beside(context: Context, account: Account, row_id: int) -> tuple[Kept, ...]:
    """What is kept beside a row that `account` may read, as far as they are cleared."""
    async with context.restricted.connect() as conn:
        cleared = await _clearances(context, conn, account)
        found = await row_secrets.of_row(conn, row_id, cleared) if cleared else []
    return tuple(
        Kept(one.questionnaire_id, one.key, one.label, cleared[one.questionnaire_id])
        for one in found
    )


@dataclass(frozen=True)
class Shown:
    """A restricted answer in words, empty where none was given."""

    questionnaire_id: UUID
    key: str
    words: str


async def reveal(
    context: Context, account: Account, id: UUID, row_id: int, reason: str
) -> tuple[Shown, ...]:
    """What is kept beside a row; the trail has the reading before it is out. Raises NotFound,
    NotAllowed without clearance, Invalid where that asks for a reason and none is given."""
    async with context.restricted.begin() as conn:
        await needs(conn, account, "read", id, "register")
        if await rows.row(conn, id, row_id) is None:
            raise NotFound("There is no such row.")
        cleared = await _clearances(context, conn, account)
        found = await row_secrets.of_row(conn, row_id, cleared) if cleared else []
        if not found:
            raise NotAllowed(NO_CLEARANCE)
        needs_reason(any(cleared[one.questionnaire_id] for one in found), reason)
        for questionnaire_id in sorted({one.questionnaire_id for one in found}):
            keys = [one.key for one in found if one.questionnaire_id == questionnaire_id]
            await note(
                context,
                conn,
                account.id,
                "restricted_seen",
                questionnaire_id,
                register_id=id,
                row=row_id,
                keys=keys,
                **told_why(account, reason),
            )
    opens = await keys_for(context, [one.sealed.key_id for one in found])
    return tuple(
        Shown(
            one.questionnaire_id,
            one.key,
            unseal_cell(opens, row_id, one.questionnaire_id, one.key, one.sealed),
        )
        for one in found
    )
