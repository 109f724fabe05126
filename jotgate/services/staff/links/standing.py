"""Whether somebody has answered, for whoever makes its passes."""

from uuid import UUID

from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import needs
from jotgate.services.standing import Standing, Whom, standing
from jotgate.store import questionnaires


async def ask(context: Context, account: Account, id: UUID, whom: Whom) -> Standing:
    """How far somebody has come, for who may make passes: it has the link that leads on."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", id)
        address = there(await questionnaires.summary(conn, id)).address
        return await standing(context, conn, id, address, whom)
