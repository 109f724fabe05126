"""Second factors of one's own account: one-time codes, codes for recovery, passkeys taken away."""

import hashlib
import secrets
from dataclasses import dataclass
from typing import Literal
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid
from jotgate.core.formats.qr import qr
from jotgate.core.records.accounts import Account, Passkey, Session
from jotgate.services import office
from jotgate.services.context import Context
from jotgate.services.trail import note
from jotgate.store.accounts import accounts, factors, parts, sessions
from jotgate.store.base import Connection

RECOVERY_CODES = 10

LETTERS = "23456789abcdefghjkmnpqrstuvwxyz"
"""Without those that are taken for others: 31 of them, so that a code of 12 has 59 bits."""

LAST_WAY = "This is your only way in. Add another one first: a passkey, or a password."
NEEDED = "This office asks for a second factor. Add another one first."


@dataclass(frozen=True)
class Offered:
    """A new secret for one-time codes, kept by nobody yet: `sealed` comes back with the first
    code. `picture` is a QR code as SVG."""

    address: str
    secret: str
    picture: str
    sealed: str


@dataclass(frozen=True)
class Standing:
    """What somebody signs in with. `required` says that the office asks for a second factor."""

    password: bool
    codes: bool
    recovery_codes: int
    passkeys: tuple[Passkey, ...]
    provider: bool
    required: bool


def _purpose(account_id: UUID) -> str:
    return f"one-time codes {account_id}"


async def required(context: Context, conn: Connection, account: Account) -> bool:
    """Whether the office asks `account` for a second factor."""
    wanted = (await office.current(context)).second_factor
    if wanted == "cleared":
        return bool(await parts.clearances_of(conn, account.id, context.clock.now()))
    return wanted == "everybody"


async def lacking(context: Context, conn: Connection, account: Account) -> bool:
    """Whether `account` is asked for a second factor and has none."""
    has = any(await factors.has_any(conn, account.id))
    return not has and await required(context, conn, account)


async def standing(context: Context, account: Account) -> Standing:
    async with context.engine.connect() as conn:
        codes, _ = await factors.has_any(conn, account.id)
        return Standing(
            password=bool(await accounts.password_hash(conn, account.id)),
            codes=codes,
            recovery_codes=await factors.recovery_codes_left(conn, account.id),
            passkeys=tuple(await factors.passkeys_of(conn, account.id)),
            provider=await accounts.subject(conn, account.id) is not None,
            required=await required(context, conn, account),
        )


async def offer(context: Context, account: Account) -> Offered:
    """A secret for an app that shows one-time codes."""
    secret = context.codes.secret()
    name = (await office.current(context)).name
    address = context.codes.address(secret, account.email, name)
    picture = qr(address, "svg").decode()
    sealed = context.cipher.seal(secret, f"offered {_purpose(account.id)}").decode("ascii")
    spelled = address.partition("secret=")[2].partition("&")[0]
    return Offered(address, spelled, picture, sealed)


async def take_on(context: Context, session: Session, sealed: str, code: str) -> tuple[str, ...]:
    """Keep an offered secret, once its app has shown a right code: the codes for recovery, which
    nobody can be shown again. Raises Invalid, Sealed."""
    account = session.account
    secret = context.cipher.open(sealed.encode(), f"offered {_purpose(account.id)}")
    step = context.codes.step(secret, _plain(code), context.clock.now())
    if step is None:
        message = "This is not the code that the app should show. See whether its clock is right."
        raise Invalid(message, [Fault(code="wrong_code", at="code", message=message)])
    async with context.engine.begin() as conn:
        kept = context.cipher.seal(secret, _purpose(account.id))
        await factors.put_totp(conn, account.id, kept, step)
        await sessions.unlimited(conn, session.id)
        await note(context, conn, account.id, "factor_added", kind="codes")
        return await _new_recovery_codes(conn, account.id)


async def renew_recovery_codes(context: Context, account: Account) -> tuple[str, ...]:
    """New codes for recovery; the old ones end."""
    async with context.engine.begin() as conn:
        if not (await factors.has_any(conn, account.id))[0]:
            raise Invalid("Codes for recovery belong to one-time codes. Set those up first.")
        await note(context, conn, account.id, "factor_added", kind="recovery")
        return await _new_recovery_codes(conn, account.id)


async def _new_recovery_codes(conn: Connection, account_id: UUID) -> tuple[str, ...]:
    made = tuple(
        "-".join("".join(secrets.choice(LETTERS) for _ in range(4)) for _ in range(3))
        for _ in range(RECOVERY_CODES)
    )
    await factors.put_recovery_codes(conn, account_id, [_hashed(one) for one in made])
    return made


def _plain(code: str) -> str:
    return "".join(code.split()).replace("-", "").lower()


def _hashed(code: str) -> bytes:
    return hashlib.sha256(_plain(code).encode()).digest()


async def takes(
    context: Context, conn: Connection, account_id: UUID, code: str
) -> Literal["code", "recovery"] | None:
    """Whether `code` is one that the app shows now or a code for recovery, each used only once."""
    plain = _plain(code)
    if plain.isdecimal() and len(plain) == 6:
        kept = await factors.totp(conn, account_id)
        if kept is None:
            return None
        secret = context.cipher.open(kept[0], _purpose(account_id))
        step = context.codes.step(secret, plain, context.clock.now())
        if step is None or step <= kept[1]:
            return None
        await factors.use_step(conn, account_id, step)
        return "code"
    if await factors.use_recovery_code(conn, account_id, _hashed(code)):
        left = await factors.recovery_codes_left(conn, account_id)
        await note(context, conn, account_id, "recovery_code_used", left=left)
        return "recovery"
    return None


async def remove_codes(context: Context, account: Account) -> None:
    """Take away one's own one-time codes. Raises Invalid where that leaves nothing that the office
    asks for."""
    async with context.engine.begin() as conn:
        _, with_passkey = await factors.has_any(conn, account.id)
        if not with_passkey and await required(context, conn, account):
            raise Invalid(NEEDED)
        await factors.forget_totp(conn, account.id)
        await note(context, conn, account.id, "factor_removed", kind="codes")


async def remove_passkey(context: Context, account: Account, id: bytes) -> None:
    """Take away one of one's own passkeys. Raises Invalid for the last way in."""
    async with context.engine.begin() as conn:
        codes, _ = await factors.has_any(conn, account.id)
        left = [one for one in await factors.passkeys_of(conn, account.id) if one.id != id]
        by_password = (
            bool(await accounts.password_hash(conn, account.id))
            and (await office.current(context)).passwords
        )
        if not left and not by_password and not await accounts.subject(conn, account.id):
            raise Invalid(LAST_WAY)
        if not left and not codes and await required(context, conn, account):
            raise Invalid(NEEDED)
        if not await factors.remove_passkey(conn, account.id, id):
            raise Invalid("This passkey is gone already.")
        await note(context, conn, account.id, "factor_removed", kind="passkey")
