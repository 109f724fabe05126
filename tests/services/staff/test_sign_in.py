"""Signing in, out, and slowing down who guesses."""

import asyncio
from dataclasses import replace
from datetime import timedelta
from uuid import uuid4

import pytest
from sqlalchemy import text

from jotgate.core.common.errors import (
    Invalid,
    NeedsConfirming,
    NotSignedIn,
    TooManyTries,
    WrongSignIn,
)
from jotgate.core.office import Office
from jotgate.core.records.accounts import Client
from jotgate.services import office as offices
from jotgate.services.context import Context
from jotgate.services.staff.accounts import factors, own_account, people, sessions, sign_in
from jotgate.services.staff.accounts.sessions import SignedIn
from jotgate.store import office as office_store
from jotgate.store.accounts import accounts
from jotgate.store.base import connect
from tests.conftest import Clock
from tests.scenes import PASSWORD, Scene

pytestmark = pytest.mark.long

EMAIL = "rowan@example.org"


async def signed(
    context: Context, password: str = PASSWORD, place: str = "10.0.0.1", device: str = ""
) -> SignedIn:
    found = await sign_in.sign_in(
        context, " Rowan@Example.org ", password, Client(place, device, "Firefox/1 Linux")
    )
    assert isinstance(found, SignedIn)
    return found


async def settle(context: Context, **changes: object) -> None:
    """Change settings of the office without asking who may."""
    async with context.engine.begin() as conn:
        saved = await office_store.find(conn)
        value = Office.model_validate({**saved.value.model_dump(), **changes})
        await office_store.save(conn, value, saved.revision)
    offices.forget(context)


async def test_a_session_lasts_its_hours(scene: Scene, context: Context, clock: Clock) -> None:
    await settle(context, idle_minutes=1440)
    found = await signed(context)
    kept = await sessions.find(context, found.token, active=True)
    assert kept.account == scene.coordinator
    clock.move(timedelta(hours=12, seconds=1))
    with pytest.raises(NotSignedIn):
        await sessions.find(context, found.token, active=True)


async def test_a_session_ends_when_nothing_is_done(
    scene: Scene, context: Context, clock: Clock
) -> None:
    await settle(context, idle_minutes=30)
    found = await signed(context)
    for _ in range(3):
        clock.move(timedelta(minutes=20))
        await sessions.find(context, found.token, active=True)
    for _ in range(2):
        clock.move(timedelta(minutes=14))
        await sessions.find(context, found.token, active=False)
    clock.move(timedelta(minutes=14))
    with pytest.raises(NotSignedIn, match="nothing was done"):
        await sessions.find(context, found.token, active=True)


async def test_signing_out_ends_it(scene: Scene, context: Context) -> None:
    found = await signed(context)
    await sessions.sign_out(context, found.token)
    for token in (found.token, "", None, "made up"):
        with pytest.raises(NotSignedIn):
            await sessions.find(context, token, active=True)


async def test_sessions_are_listed_and_ended(scene: Scene, context: Context) -> None:
    first, second, third = [await signed(context) for _ in range(3)]
    assert len(await sessions.every(context, scene.coordinator)) == 3
    await sessions.end(context, scene.coordinator, first.session.id)
    await sessions.end_others(context, second.session)
    for ended in (first, third):
        with pytest.raises(NotSignedIn):
            await sessions.find(context, ended.token, active=True)
    await sessions.find(context, second.token, active=True)


async def test_nothing_that_opens_an_account_is_stored(scene: Scene, context: Context) -> None:
    found = await signed(context)
    offered = await factors.offer(context, scene.coordinator)
    async with context.engine.connect() as conn:
        tables = ("accounts", "sessions", "devices", "recovery_codes")
        stored = ""
        for name in tables:
            stored += str((await conn.execute(text(f"select * from {name}"))).all())
    assert "$argon2id$" in stored
    for secret in (PASSWORD, found.token, found.device, offered.secret):
        assert secret not in stored


async def test_tries_of_one_network_are_slowed(
    scene: Scene, context: Context, clock: Clock
) -> None:
    for n in range(sign_in.TRIES):
        with pytest.raises(WrongSignIn):
            await signed(context, "wrong", f"2001:db8:1:1::{n}")
    with pytest.raises(TooManyTries):
        await signed(context, place="2001:db8:1:1::ffff")
    await signed(context, place="2001:db8:1:2::1")
    clock.move(sign_in.PAUSE + timedelta(seconds=1))
    await signed(context, place="2001:db8:1:1::1")


async def test_a_right_try_counts_no_more(scene: Scene, context: Context) -> None:
    """An office behind one address signs in as often as it likes."""
    for _ in range(sign_in.TRIES_FROM_ONE_NETWORK + 5):
        await signed(context)


async def test_a_known_device_is_not_held_up_by_strangers(scene: Scene, context: Context) -> None:
    known = await signed(context)
    for place in range(sign_in.TRIES_OF_STRANGERS):
        with pytest.raises(WrongSignIn):
            await signed(context, "wrong", f"10.1.0.{place}")
    with pytest.raises(TooManyTries, match="many wrong tries"):
        await signed(context, place="10.2.0.1")
    await signed(context, place="10.2.0.2", device=known.device)
    async with context.engine.connect() as conn:
        query = "select count(*) from trail where action = 'sign_in_slowed'"
        assert (await conn.execute(text(query))).scalar_one() == 1


async def test_the_device_of_somebody_else_is_not_known(scene: Scene, context: Context) -> None:
    client = Client("10.0.0.9", "")
    other = await sign_in.sign_in(context, "sam@example.org", PASSWORD, client)
    assert isinstance(other, SignedIn)
    for n in range(sign_in.TRIES_OF_STRANGERS):
        with pytest.raises(WrongSignIn):
            await signed(context, "wrong", f"10.1.0.{n}")
    with pytest.raises(TooManyTries):
        await signed(context, place="10.3.0.1", device=other.device)


async def test_many_tries_at_once_count_as_well(scene: Scene, context: Context) -> None:
    tries = await asyncio.gather(
        *(signed(context, "wrong") for _ in range(sign_in.TRIES * 3)), return_exceptions=True
    )
    checked = sum(isinstance(one, WrongSignIn) for one in tries)
    assert sign_in.TRIES <= checked < sign_in.TRIES * 3


async def test_thousands_of_tries_from_many_networks(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch
) -> None:
    """They check fifty passwords of the account between them, and shut its owner out of nothing:
    a known device goes on, and so does a letter (`test_links`)."""
    known = await signed(context)
    checked = 0

    async def matches(password: str, hashed: str | None) -> bool:
        nonlocal checked
        checked += 1
        return password == PASSWORD

    monkeypatch.setattr(context.passwords, "matches", matches)
    limit = asyncio.Semaphore(8)

    async def attack(n: int) -> None:
        async with limit:
            with pytest.raises((WrongSignIn, TooManyTries)):
                await signed(context, f"guess {n}", f"10.{n % 200}.{n // 200}.1")

    await asyncio.gather(*(attack(n) for n in range(2_000)))
    assert checked <= sign_in.TRIES_OF_STRANGERS + 8
    await signed(context, device=known.device)


async def test_one_network_checks_few_passwords_of_many_accounts(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch
) -> None:
    checked = 0

    async def matches(password: str, hashed: str | None) -> bool:
        nonlocal checked
        checked += 1
        return False

    monkeypatch.setattr(context.passwords, "matches", matches)
    for n in range(300):
        with pytest.raises((WrongSignIn, TooManyTries)):
            await sign_in.sign_in(context, f"guess{n}@example.org", "x", Client("10.0.0.1"))
    assert checked == sign_in.TRIES_FROM_ONE_NETWORK


async def test_a_new_device_is_told_of(scene: Scene, context: Context) -> None:
    first = await signed(context)
    assert await letters_to(context) == 0
    await signed(context, device=first.device)
    assert await letters_to(context) == 0
    await signed(context)
    assert await letters_to(context) == 1


async def letters_to(context: Context) -> int:
    async with context.engine.connect() as conn:
        query = "select count(*) from procrastinate_jobs where task_name = 'send_letter'"
        return int((await conn.execute(text(query))).scalar_one())


async def test_who_has_left_or_whose_time_is_over_does_not_come_in(
    scene: Scene, context: Context, clock: Clock
) -> None:
    owner = await people.add(context, "o@example.org", "O", "owner", PASSWORD)
    found = await signed(context)
    until = clock.now() + timedelta(hours=1)
    settings = people.PersonSettings("coordinator", "", until)
    await people.change(context, owner, scene.coordinator.id, settings)
    await sessions.find(context, found.token, active=True)
    clock.move(timedelta(hours=1))
    with pytest.raises(NotSignedIn):
        await sessions.find(context, found.token, active=True)
    with pytest.raises(WrongSignIn):
        await signed(context)
    await people.leave(context, owner, scene.reviewer.id, None)
    with pytest.raises(WrongSignIn):
        await sign_in.sign_in(context, "sam@example.org", PASSWORD, Client("10.0.0.1"))


async def test_an_unknown_address_is_slowed_as_a_known_one(scene: Scene, context: Context) -> None:
    nobody = f"{uuid4().hex}@example.org"
    for place in range(sign_in.TRIES_OF_STRANGERS):
        with pytest.raises(WrongSignIn):
            await sign_in.sign_in(context, nobody, "wrong", Client(f"10.1.0.{place}"))
    with pytest.raises(TooManyTries, match="many wrong tries"):
        await sign_in.sign_in(context, nobody, "wrong", Client("10.2.0.1"))


async def test_another_password_ends_every_other_session(scene: Scene, context: Context) -> None:
    other, own = await signed(context), await signed(context)
    new = "copper kettle under seven bridges"
    with pytest.raises(Invalid) as refused:
        await own_account.change_password(context, own.session, "wrong", new)
    assert refused.value.faults[0].at == "current"
    with pytest.raises(Invalid) as refused:
        await own_account.change_password(context, own.session, PASSWORD, "rowan@example.org")
    assert refused.value.faults[0].at == "password"
    await own_account.change_password(context, own.session, PASSWORD, new)
    await sessions.find(context, own.token, active=True)
    with pytest.raises(NotSignedIn):
        await sessions.find(context, other.token, active=True)
    await signed(context, new)


async def test_who_has_no_password_confirms_nothing_with_one(
    scene: Scene, context: Context, clock: Clock
) -> None:
    """They sign in again, through the provider; before that they cannot set a password either."""
    found = await signed(context)
    async with context.engine.begin() as conn:
        await accounts.change(conn, scene.coordinator.id, password_hash=None)
    for password in ("", PASSWORD):
        with pytest.raises(Invalid, match="no password here"):
            await own_account.confirm(context, found.session, password)
    clock.move(sessions.CONFIRMED_FOR + timedelta(seconds=1))
    later = await sessions.find(context, found.token, active=True)
    with pytest.raises(NeedsConfirming):
        await own_account.change_password(context, later, "", "copper kettle under seven bridges")


async def test_more_refusals_at_once_than_there_are_connections(
    scene: Scene, context: Context
) -> None:
    """None of them waits for a second connection while it holds one."""
    for n in range(sign_in.TRIES_OF_STRANGERS):
        with pytest.raises(WrongSignIn):
            await signed(context, "wrong", f"10.1.0.{n}")
    few = connect(context.engine.url.render_as_string(hide_password=False), 2)
    try:
        narrow = replace(context, engine=few)
        tries = (signed(narrow, "wrong", f"10.2.0.{n}") for n in range(20))
        async with asyncio.timeout(20):
            refused = await asyncio.gather(*tries, return_exceptions=True)
    finally:
        await few.dispose()
    assert all(isinstance(one, TooManyTries) for one in refused)
