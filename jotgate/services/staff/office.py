"""The trail and the mail room, as the office reads them."""

from collections.abc import Collection
from dataclasses import replace
from uuid import UUID

from jotgate.core.common.errors import NotAllowed, NotFound
from jotgate.core.records.accounts import Account
from jotgate.core.records.trail import TrailEntry
from jotgate.ports.mail import Received
from jotgate.services.context import Context
from jotgate.store import accounts, trail

PER_PAGE = 100
LETTERS = 100


async def marks(
    context: Context, account: Account, before: int | None
) -> tuple[tuple[TrailEntry, ...], bool]:
    """The trail from the newest back, and whether older marks follow. Coordinators only."""
    if not account.writes:
        raise NotAllowed("The trail is open to coordinators.")
    async with context.engine.connect() as conn:
        found = await trail.newest(conn, before, PER_PAGE + 1)
        cleared = await accounts.clearances_of(conn, account.id)
    shown = tuple(_told(mark, cleared) for mark in found[:PER_PAGE])
    return shown, len(found) > PER_PAGE


def _told(mark: TrailEntry, cleared: Collection[UUID]) -> TrailEntry:
    """A mark without the names of the restricted answers that somebody saw, but for those with
    clearance: which of them there were can give away what they were."""
    if mark.action != "restricted_seen" or mark.questionnaire_id in cleared:
        return mark
    kept = {name: one for name, one in mark.detail.items() if name != "keys"}
    return replace(mark, detail=kept)


async def letters(context: Context, account: Account) -> list[Received]:
    """The newest letters of the simulated mail room."""
    if not account.writes:
        raise NotAllowed("The mail room is open to coordinators.")
    if context.mail_room is None:
        raise NotFound("This installation has no mail room; its mail goes to a real server.")
    return await context.mail_room.newest(LETTERS)
