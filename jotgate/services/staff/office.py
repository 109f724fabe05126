"""The office: its settings, its picture, and the mail room."""

from jotgate.core.common.errors import Fault, Invalid, NotFound, Stale
from jotgate.core.office import Office
from jotgate.core.records.accounts import Account
from jotgate.core.records.files import Medium
from jotgate.core.records.questionnaires import Saved
from jotgate.ports.files import Inspected
from jotgate.ports.mail import Received
from jotgate.services.context import Context
from jotgate.services.office import forget
from jotgate.services.staff import media
from jotgate.services.staff.rights import in_office
from jotgate.services.trail import note
from jotgate.store import files as file_store
from jotgate.store import office
from jotgate.store.accounts import factors
from jotgate.store.base import Connection

LETTERS = 100


async def settings(context: Context, account: Account) -> Saved[Office]:
    in_office(account, "run")
    async with context.engine.connect() as conn:
        return await office.find(conn)


async def save(context: Context, account: Account, value: Office, revision: int) -> Saved[Office]:
    """Save settings over the `revision` they were read at. Raises Stale, Invalid."""
    in_office(account, "run")
    async with context.engine.begin() as conn:
        before = (await office.find(conn)).value
        await _keep_a_way_in(context, conn, account, value)
        if value.picture is not None and await file_store.medium(conn, value.picture.media) is None:
            raise NotFound("The picture is gone. Upload it again.")
        saved = await office.save(conn, value, revision)
        if saved is None:
            raise Stale(
                "Someone saved other settings in the meantime.", current=await office.find(conn)
            )
        changed = [
            name for name in Office.model_fields if getattr(before, name) != getattr(value, name)
        ]
        await note(context, conn, account.id, "office_changed", settings=changed)
    forget(context)
    return Saved(saved, value)


async def _keep_a_way_in(
    context: Context, conn: Connection, account: Account, value: Office
) -> None:
    """Nobody turns passwords off who cannot come in without one themselves."""
    if value.passwords:
        return
    _, with_passkey = await factors.has_any(conn, account.id)
    if not with_passkey and context.provider is None:
        message = "Add a passkey to your own account first: without passwords it is your way in."
        raise Invalid(message, [Fault(code="last_way", at="passwords", message=message)])


async def add_picture(
    context: Context, account: Account, name: str, data: bytes
) -> tuple[Medium, Inspected]:
    """Keep a picture for public pages. Raises Invalid."""
    in_office(account, "run")
    return await media.keep(context, None, name, data)


async def letters(context: Context, account: Account) -> list[Received]:
    """The newest letters of the simulated mail room."""
    in_office(account, "follow")
    if context.mail_room is None:
        raise NotFound("This installation has no mail room; its mail goes to a real server.")
    return await context.mail_room.newest(LETTERS)
