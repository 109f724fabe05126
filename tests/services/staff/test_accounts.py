"""Signing in, out, and slowing down who guesses."""

import asyncio
from datetime import timedelta

import pytest
from sqlalchemy import text

from jotgate.core.common.errors import NotAllowed, NotSignedIn, TooManyTries, WrongSignIn
from jotgate.core.document.questionnaire import blank
from jotgate.core.gate import Gate
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.staff import accounts, office, questionnaires, registers
from tests.conftest import Clock
from tests.scenes import PASSWORD, Scene, save

pytestmark = pytest.mark.long


async def sign_in(
    context: Context, password: str = PASSWORD, place: str = "1"
) -> accounts.SignedIn:
    return await accounts.sign_in(context, " Rowan@Example.org ", password, place)


async def test_a_session_lasts_its_hours(scene: Scene, context: Context, clock: Clock) -> None:
    signed = await sign_in(context)
    assert (await accounts.session_of(context, signed.token)).account == scene.coordinator
    clock.move(timedelta(hours=12, seconds=1))
    with pytest.raises(NotSignedIn):
        await accounts.session_of(context, signed.token)


async def test_signing_out_ends_it(scene: Scene, context: Context) -> None:
    signed = await sign_in(context)
    await accounts.sign_out(context, signed.token)
    for token in (signed.token, "", None, "made up"):
        with pytest.raises(NotSignedIn):
            await accounts.session_of(context, token)


async def test_neither_password_nor_token_is_stored(scene: Scene, context: Context) -> None:
    signed = await sign_in(context)
    async with context.engine.connect() as conn:
        stored = str((await conn.execute(text("select * from accounts"))).all())
        stored += str((await conn.execute(text("select * from sessions"))).all())
    assert "$argon2id$" in stored
    assert PASSWORD not in stored
    assert signed.token not in stored


async def test_tries_of_one_client_are_throttled(
    scene: Scene, context: Context, clock: Clock
) -> None:
    for _ in range(accounts.TRIES):
        with pytest.raises(WrongSignIn):
            await sign_in(context, "wrong")
    with pytest.raises(TooManyTries):
        await sign_in(context)
    await sign_in(context, place="elsewhere")
    clock.move(accounts.PAUSE + timedelta(seconds=1))
    await sign_in(context)


async def test_nobody_is_locked_out_of_the_place_where_they_signed_in_before(
    scene: Scene, context: Context
) -> None:
    await sign_in(context, place="at home")
    for place in range(accounts.TRIES_OF_STRANGERS):
        with pytest.raises(WrongSignIn):
            await sign_in(context, "wrong", str(place))
    with pytest.raises(TooManyTries):
        await sign_in(context, "wrong", "yet another")
    await sign_in(context, place="at home")


async def test_many_tries_at_once_count_as_well(scene: Scene, context: Context) -> None:
    tries = await asyncio.gather(
        *(sign_in(context, "wrong") for _ in range(accounts.TRIES * 3)), return_exceptions=True
    )
    checked = sum(isinstance(one, WrongSignIn) for one in tries)
    assert accounts.TRIES <= checked < accounts.TRIES * 3


async def test_and_by_place(scene: Scene, context: Context) -> None:
    for n in range(accounts.TRIES_FROM_ONE_PLACE):
        with pytest.raises(WrongSignIn):
            await accounts.sign_in(context, f"guess{n}@example.org", "x", "here")
    with pytest.raises(TooManyTries):
        await sign_in(context, place="here")
    await sign_in(context, place="there")


async def test_who_may_only_read_changes_nothing(
    scene: Scene, context: Context, reader: Account
) -> None:
    changes = (
        questionnaires.add(context, reader, "x", None),
        save(context, reader, scene.id, blank("x"), 1),
        questionnaires.publish(context, reader, scene.id, 1),
        questionnaires.save_gate(context, reader, scene.id, Gate(state="shut"), 2),
        registers.add(context, reader, "x", []),
        office.marks(context, reader, None),
        office.letters(context, reader),
    )
    for change in changes:
        with pytest.raises(NotAllowed):
            await change
