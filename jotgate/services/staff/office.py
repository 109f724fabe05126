"""The office: its settings, its picture, and the mail room."""

import re
from collections.abc import Sequence

from jotgate.core.common.errors import Fault, Invalid, NotFound, Stale
from jotgate.core.office import Office
from jotgate.core.records.accounts import Account
from jotgate.core.records.files import Medium
from jotgate.core.records.questionnaires import Saved
from jotgate.ports.files import Inspected
from jotgate.ports.mail import MailRoom, MailRule, Received
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


def _room(context: Context) -> MailRoom:
    if context.mail_room is None:
        raise NotFound("This installation has no mail room; its mail goes to a real server.")
    return context.mail_room


async def letters(context: Context, account: Account) -> list[Received]:
    """The newest letters of the simulated mail room."""
    in_office(account, "follow")
    return await _room(context).newest(LETTERS)


async def mail_rules(context: Context, account: Account) -> list[MailRule]:
    """What the simulated mail room was told to do with letters."""
    in_office(account, "follow")
    return await _room(context).rules()


async def put_mail_rules(
    context: Context, account: Account, rules: Sequence[MailRule]
) -> list[MailRule]:
    """Tell the mail room what to do. Raises Invalid."""
    in_office(account, "run")
    room, faults = _room(context), []
    for number, one in enumerate(rules):
        if not re.fullmatch(r"[^\s@]*@[^\s@]+", one.to):
            message = "Write a mail address, or a domain such as @example.net."
            faults.append(Fault(code="email", at=f"rules/{number}", message=message))
    if faults:
        raise Invalid(faults[0].message, faults)
    await room.put_rules(rules)
    return await room.rules()
