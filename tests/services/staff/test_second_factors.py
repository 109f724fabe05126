"""Second factors: codes, those for recovery, and the tickets between the steps."""

from datetime import timedelta

import pytest

from jotgate.adapters.secrets import TotpCodes
from jotgate.core.common.errors import (
    Invalid,
    NeedsConfirming,
    NotSignedIn,
    TooManyTries,
    WrongSignIn,
)
from jotgate.core.records.accounts import Client
from jotgate.services.context import Context
from jotgate.services.staff.accounts import factors, own_account, sessions, sign_in
from jotgate.services.staff.accounts.sessions import SignedIn
from jotgate.services.staff.accounts.sign_in import SecondStep
from tests.conftest import Clock
from tests.scenes import PASSWORD, Scene
from tests.services.staff.test_sign_in import EMAIL, settle, signed


async def with_codes(context: Context, clock: Clock) -> tuple[bytes, tuple[str, ...]]:
    """Somebody with one-time codes: the secret, and the codes for recovery."""
    found = await signed(context)
    offered = await factors.offer(context, found.session.account)
    account = found.session.account
    secret = context.cipher.open(offered.sealed.encode(), f"offered one-time codes {account.id}")
    code = code_at(context, secret, clock)
    return secret, await factors.take_on(context, found.session, offered.sealed, code)


def code_at(context: Context, secret: bytes, clock: Clock) -> str:
    return TotpCodes().code(secret, int(clock.now().timestamp()) // 30)


async def first_step(context: Context) -> SecondStep:
    found = await sign_in.sign_in(context, EMAIL, PASSWORD, Client("10.0.0.1"))
    assert isinstance(found, SecondStep)
    return found


async def test_a_code_is_used_once(scene: Scene, context: Context, clock: Clock) -> None:
    secret, _ = await with_codes(context, clock)
    step = await first_step(context)
    assert step.ways == ("code",)
    with pytest.raises(WrongSignIn):
        await sign_in.second_step(
            context, step.ticket, code_at(context, secret, clock), Client("10.0.0.1")
        )
    clock.move(timedelta(seconds=30))
    code = code_at(context, secret, clock)
    await sign_in.second_step(context, step.ticket, code, Client("10.0.0.1"))
    clock.move(timedelta(seconds=30))
    with pytest.raises(NotSignedIn):
        await sign_in.second_step(
            context, step.ticket, code_at(context, secret, clock), Client("10.0.0.1")
        )
    other = await first_step(context)
    with pytest.raises(WrongSignIn):
        await sign_in.second_step(context, other.ticket, code, Client("10.0.0.1"))


async def test_codes_for_recovery_are_used_once(
    scene: Scene, context: Context, clock: Clock
) -> None:
    _, codes = await with_codes(context, clock)
    assert len(set(codes)) == factors.RECOVERY_CODES
    step = await first_step(context)
    written = codes[3].replace("-", " ").upper()
    await sign_in.second_step(context, step.ticket, written, Client("10.0.0.1"))
    step = await first_step(context)
    with pytest.raises(WrongSignIn):
        await sign_in.second_step(context, step.ticket, codes[3], Client("10.0.0.1"))
    assert (await factors.standing(context, scene.coordinator)).recovery_codes == 9


async def test_codes_are_not_guessed(scene: Scene, context: Context, clock: Clock) -> None:
    await with_codes(context, clock)
    refused: list[type[Exception]] = []
    for n in range(12):
        step = await first_step(context)
        with pytest.raises((WrongSignIn, TooManyTries)) as caught:
            await sign_in.second_step(context, step.ticket, f"{n:06}", Client(f"10.0.{n}.1"))
        refused.append(caught.type)
    assert refused.count(WrongSignIn) == sign_in.TRIES


@pytest.mark.parametrize("ticket", ["", "x", "gAAAAA" + "A" * 80])
async def test_made_up_tickets(scene: Scene, context: Context, ticket: str) -> None:
    with pytest.raises(NotSignedIn):
        await sign_in.second_step(context, ticket, "123456", Client("10.0.0.1"))


async def test_tickets_end(scene: Scene, context: Context, clock: Clock) -> None:
    secret, _ = await with_codes(context, clock)
    step = await first_step(context)
    clock.move(timedelta(minutes=sign_in.STEP_MINUTES, seconds=1))
    with pytest.raises(NotSignedIn):
        await sign_in.second_step(
            context, step.ticket, code_at(context, secret, clock), Client("10.0.0.1")
        )


@pytest.mark.parametrize("wanted", ["cleared", "everybody"])
async def test_a_factor_that_is_asked_for(
    scene: Scene, context: Context, clock: Clock, wanted: str
) -> None:
    await settle(context, second_factor=wanted)
    assert (await signed(context)).session.limited
    found = await sign_in.sign_in(context, "sam@example.org", PASSWORD, Client("10.0.0.1"))
    assert isinstance(found, SignedIn)
    assert found.session.limited is (wanted == "everybody")
    await with_codes(context, clock)
    assert isinstance(await first_step(context), SecondStep)


async def test_changes_to_signing_in_ask_once_more_who_it_is(
    scene: Scene, context: Context, clock: Clock
) -> None:
    found = await signed(context)
    sessions.needs_confirming(context, found.session)
    clock.move(sessions.CONFIRMED_FOR + timedelta(seconds=1))
    later = await sessions.find(context, found.token, active=True)
    with pytest.raises(NeedsConfirming):
        sessions.needs_confirming(context, later)
    for _ in range(sign_in.TRIES - 1):
        with pytest.raises(Invalid):
            await own_account.confirm(context, later, "wrong")
    await own_account.confirm(context, later, PASSWORD)
    sessions.needs_confirming(context, await sessions.find(context, found.token, active=True))
