"""Whether somebody has answered, for programs that have a token."""

from uuid import UUID

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.public.standing import ProgressOut, WhomIn, progress_out, whom_of
from jotgate.api.routes import routes
from jotgate.services.staff.links import standing

router = routes("/api/questionnaires/{id}/standing", "entries")


@router.post("")
async def standing_of(
    id: UUID, body: WhomIn, context: CurrentContext, account: CurrentAccount
) -> ProgressOut:
    return progress_out(await standing.ask(context, account, id, whom_of(body)))
