"""The trail and the mail room, as the office reads them."""

from jotgate.core.errors import NotAllowed, NotFound
from jotgate.ports.mail import Received
from jotgate.services.house import House
from jotgate.store import trail
from jotgate.store.accounts import Account
from jotgate.store.trail import Mark

PER_PAGE = 100
LETTERS = 100


async def marks(
    house: House, account: Account, before: int | None
) -> tuple[tuple[Mark, ...], bool]:
    """The trail from the newest back, and whether older marks follow. Coordinators only."""
    if not account.writes:
        raise NotAllowed("The trail is open to coordinators.")
    async with house.engine.connect() as conn:
        found = await trail.newest(conn, before, PER_PAGE + 1)
    return tuple(found[:PER_PAGE]), len(found) > PER_PAGE


async def letters(house: House, account: Account) -> list[Received]:
    """The newest letters of the simulated mail room."""
    if not account.writes:
        raise NotAllowed("The mail room is open to coordinators.")
    if house.mail_room is None:
        raise NotFound("This installation has no mail room; its mail goes to a real server.")
    return await house.mail_room.newest(LETTERS)
