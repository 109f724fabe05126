"""One's own account: name and password."""

from jotgate.core.common.errors import Fault, Invalid, TooManyTries
from jotgate.core.passwords import check_password
from jotgate.core.records.accounts import Session
from jotgate.services import office
from jotgate.services.context import Context
from jotgate.services.staff.accounts.sessions import needs_confirming
from jotgate.services.staff.accounts.sign_in import PAUSE, SLOW, TRIES
from jotgate.services.trail import note
from jotgate.store.accounts import accounts, sessions

WRONG = "This is not your password as it is now."
NONE_HERE = "You have no password here. Sign out, and in again."


async def rename(context: Context, session: Session, name: str) -> None:
    async with context.engine.begin() as conn:
        await accounts.change(conn, session.account.id, name=name)


async def confirm(context: Context, session: Session, password: str) -> None:
    """Show once more who one is, by password; who has none signs in again. Raises Invalid,
    TooManyTries."""
    await _checked(context, session, password, "password")
    async with context.engine.begin() as conn:
        await sessions.confirm(conn, session.id, context.clock.now())


async def _checked(context: Context, session: Session, password: str, at: str) -> None:
    """Raise Invalid where that is not the password, or there is none, and TooManyTries."""
    account, now = session.account, context.clock.now()
    who = f"own {account.id}"
    async with context.engine.begin() as conn:
        if await sessions.tries(conn, who, now - PAUSE) >= TRIES:
            raise TooManyTries(SLOW, retry_after=int(PAUSE.total_seconds()))
        await sessions.note_try(conn, who, now)
        hashed = await accounts.password_hash(conn, account.id)
    if not await context.passwords.matches(password, hashed or None):
        says = WRONG if hashed else NONE_HERE
        raise Invalid(says, [Fault(code="wrong_password", at=at, message=says)])
    async with context.engine.begin() as conn:
        await sessions.forget_tries(conn, [who])


async def change_password(context: Context, session: Session, now_is: str, wanted: str) -> None:
    """Set another password; every other session ends. Raises Invalid, TooManyTries. Who has none
    yet, since they come through the identity provider, gives none, and has signed in lately."""
    account = session.account
    if await _has_password(context, session):
        await _checked(context, session, now_is, "current")
    else:
        needs_confirming(context, session)
    known = [account.name, account.email, (await office.current(context)).name]
    await context.apart(check_password, wanted, known)
    made = await context.passwords.hash(wanted)
    async with context.engine.begin() as conn:
        await accounts.change(conn, account.id, password_hash=made)
        await accounts.forget_links(conn, account.id)
        await sessions.end_all(conn, account.id, but=session.id)
        await note(context, conn, account.id, "password_changed", by="person")


async def _has_password(context: Context, session: Session) -> bool:
    async with context.engine.connect() as conn:
        return bool(await accounts.password_hash(conn, session.account.id))
