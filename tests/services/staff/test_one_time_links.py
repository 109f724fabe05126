"""One-time links: used twice, late, changed, by somebody else."""

from datetime import timedelta

import orjson
import pytest
from sqlalchemy import text

from jotgate.core.common.errors import Invalid, NotFound, TooManyTries, WrongSignIn
from jotgate.core.records.accounts import Client
from jotgate.services import letters
from jotgate.services.context import Context
from jotgate.services.staff.accounts import one_time_links, people, sessions, sign_in
from jotgate.services.staff.accounts.one_time_links import Given
from jotgate.services.staff.accounts.people import PersonSettings
from jotgate.services.staff.accounts.sessions import SignedIn
from tests.conftest import Clock, Post
from tests.scenes import PASSWORD, Scene
from tests.services.staff.test_second_factors import with_codes
from tests.services.staff.test_sign_in import signed

CLIENT = Client("10.0.0.1")
NEW = "copper kettle under seven bridges"

pytestmark = pytest.mark.long


async def delivered(context: Context, post: Post) -> str:
    """Do what waits, as the worker does; the secret of the last letter's link."""
    for task in ("send_reset", "send_letter"):
        async with context.engine.connect() as conn:
            query = "select args ->> 'sealed' from procrastinate_jobs where task_name = :task"
            sealed = list((await conn.execute(text(query), {"task": task})).scalars())
        for one in sealed:
            await (one_time_links.send_reset if task == "send_reset" else letters.send)(
                context, one
            )
    return secret_in(post.letters[-1].body)


def secret_in(body: str) -> str:
    return body.partition("/desk/link#")[2].split()[0]


async def invited(scene: Scene, context: Context, post: Post) -> str:
    owner = await people.add(context, "o@example.org", "O", "owner", PASSWORD)
    settings = PersonSettings("reader", "", None)
    await people.invite(context, owner, "Ada", "Ada@Example.org", settings, "See you Monday.")
    return await delivered(context, post)


async def test_an_invitation_is_used_once(scene: Scene, context: Context, post: Post) -> None:
    secret = await invited(scene, context, post)
    letter = post.letters[-1]
    assert letter.to == "ada@example.org"
    assert "See you Monday." in letter.body
    seen = await one_time_links.look(context, secret)
    assert (seen.purpose, seen.name, seen.email) == ("invitation", "Ada", "ada@example.org")
    found = await one_time_links.use(context, secret, Given("Ada L.", NEW), CLIENT)
    assert isinstance(found, SignedIn)
    assert (found.session.account.name, found.session.account.role) == ("Ada L.", "reader")
    for again in (
        one_time_links.use(context, secret, Given("A", NEW), CLIENT),
        one_time_links.look(context, secret),
    ):
        with pytest.raises(NotFound, match="does not work any more"):
            await again


async def test_it_ends(scene: Scene, context: Context, post: Post, clock: Clock) -> None:
    secret = await invited(scene, context, post)
    clock.move(one_time_links.LASTS["invitation"])
    with pytest.raises(NotFound):
        await one_time_links.use(context, secret, Given("Ada", NEW), CLIENT)


async def test_a_changed_one_is_none(scene: Scene, context: Context, post: Post) -> None:
    secret = await invited(scene, context, post)
    for changed in (secret[:-1], secret + "A", secret.swapcase(), ""):
        with pytest.raises(NotFound):
            await one_time_links.use(context, changed, Given("Ada", NEW), CLIENT)
    await one_time_links.use(context, secret, Given("Ada", NEW), CLIENT)


async def test_a_newer_one_ends_the_older(scene: Scene, context: Context, post: Post) -> None:
    first = await invited(scene, context, post)
    owner = (await signed_owner(context)).session.account
    ada = next(one for one in (await people.every(context, owner))[0] if one.name == "Ada")
    await people.invite_again(context, owner, ada.id)
    second = await delivered(context, post)
    assert second != first
    with pytest.raises(NotFound):
        await one_time_links.use(context, first, Given("Ada", NEW), CLIENT)
    await one_time_links.use(context, second, Given("Ada", NEW), CLIENT)
    with pytest.raises(Invalid):
        await people.invite_again(context, owner, ada.id)


async def signed_owner(context: Context) -> SignedIn:
    found = await sign_in.sign_in(context, "o@example.org", PASSWORD, CLIENT)
    assert isinstance(found, SignedIn)
    return found


async def test_somebody_else_who_uses_it_becomes_that_person(
    scene: Scene, context: Context, post: Post
) -> None:
    """A letter stands for its address alone: who is signed in as somebody else keeps nothing of
    that, and cannot name another account."""
    secret = await invited(scene, context, post)
    found = await one_time_links.use(context, secret, Given("X", NEW, "rowan@example.org"), CLIENT)
    assert isinstance(found, SignedIn)
    assert found.session.account.email == "ada@example.org"
    await signed(context)


async def test_a_reset_ends_every_session_and_the_old_password(
    scene: Scene, context: Context, post: Post
) -> None:
    before = await signed(context)
    await one_time_links.ask_reset(context, " ROWAN@example.org", CLIENT)
    secret = await delivered(context, post)
    assert post.letters[-1].to == "rowan@example.org"
    found = await one_time_links.use(context, secret, Given("", NEW), CLIENT)
    assert isinstance(found, SignedIn)
    with pytest.raises(Exception, match="Sign in"):
        await sessions.find(context, before.token, active=True)
    with pytest.raises(WrongSignIn):
        await signed(context, PASSWORD)
    await signed(context, NEW)


async def test_a_reset_is_the_way_in_while_others_guess(
    scene: Scene, context: Context, post: Post
) -> None:
    for n in range(sign_in.TRIES_OF_STRANGERS):
        with pytest.raises(WrongSignIn):
            await signed(context, "wrong", f"10.1.0.{n}")
    with pytest.raises(TooManyTries):
        await signed(context, place="10.9.0.1")
    await one_time_links.ask_reset(context, "rowan@example.org", CLIENT)
    secret = await delivered(context, post)
    found = await one_time_links.use(context, secret, Given("", NEW), CLIENT)
    assert isinstance(found, SignedIn)
    await signed(context, NEW, "10.9.0.1", found.device)


async def test_a_reset_leaves_the_second_factor(
    scene: Scene, context: Context, post: Post, clock: Clock
) -> None:
    await with_codes(context, clock)
    await one_time_links.ask_reset(context, "rowan@example.org", CLIENT)
    secret = await delivered(context, post)
    assert await one_time_links.use(context, secret, Given("", NEW), CLIENT) is None


async def test_nobody_learns_who_has_an_account(
    scene: Scene, context: Context, post: Post, clock: Clock
) -> None:
    await one_time_links.ask_reset(context, "nobody@example.org", CLIENT)
    async with context.engine.connect() as conn:
        query = "select args ->> 'sealed' from procrastinate_jobs where task_name = 'send_reset'"
        (sealed,) = (await conn.execute(text(query))).scalars()
    await one_time_links.send_reset(context, sealed)
    assert "nobody" not in sealed
    async with context.engine.connect() as conn:
        query = "select count(*) from procrastinate_jobs where task_name = 'send_letter'"
        assert (await conn.execute(text(query))).scalar_one() == 0
    for _ in range(one_time_links.RESETS - 1):
        await one_time_links.ask_reset(context, "nobody@example.org", CLIENT)
    with pytest.raises(TooManyTries):
        await one_time_links.ask_reset(context, "nobody@example.org", CLIENT)
    clock.move(timedelta(hours=1, seconds=1))
    await one_time_links.ask_reset(context, "nobody@example.org", CLIENT)


WEAK = (
    "short",
    "password1234",
    "aaaaaaaaaaaaaaaa",
    "qwertyuiop12",
    "Rowan-Rowan-2026",
    "rowan@example.org",
)
"""Too short, common, patterns, and what is known of the person."""


@pytest.mark.parametrize("password", WEAK)
async def test_weak_passwords(scene: Scene, context: Context, post: Post, password: str) -> None:
    await one_time_links.ask_reset(context, "rowan@example.org", CLIENT)
    secret = await delivered(context, post)
    with pytest.raises(Invalid) as refused:
        await one_time_links.use(context, secret, Given("", password), CLIENT)
    assert [fault.at for fault in refused.value.faults] == ["password"]
    await one_time_links.use(context, secret, Given("", NEW), CLIENT)


async def test_the_first_owner_is_made_once(context: Context) -> None:
    address = await one_time_links.first_owner(context)
    assert address is not None
    old, newer = secret_in(address), secret_in(str(await one_time_links.first_owner(context)))
    with pytest.raises(NotFound):
        await one_time_links.use(context, old, Given("Ada", NEW, "ada@example.org"), CLIENT)
    for wrong, at in ((Given("", NEW, "a@example.org"), "name"), (Given("A", NEW, "x"), "email")):
        with pytest.raises(Invalid) as refused:
            await one_time_links.use(context, newer, wrong, CLIENT)
        assert [fault.at for fault in refused.value.faults] == [at]
    found = await one_time_links.use(context, newer, Given("Ada", NEW, "Ada@example.org"), CLIENT)
    assert isinstance(found, SignedIn)
    assert found.session.account.role == "owner"
    assert await one_time_links.first_owner(context) is None


async def test_an_owner_who_lost_everything(scene: Scene, context: Context, clock: Clock) -> None:
    owner = await people.add(context, "o@example.org", "O", "owner", PASSWORD)
    assert await one_time_links.for_owner(context, "rowan@example.org") is None
    address = await one_time_links.for_owner(context, " O@example.org ")
    assert address is not None
    found = await one_time_links.use(context, secret_in(address), Given("", NEW), CLIENT)
    assert isinstance(found, SignedIn)
    assert found.session.account.id == owner.id


async def test_letters_wait_sealed(scene: Scene, context: Context, post: Post) -> None:
    secret = await invited(scene, context, post)
    async with context.engine.connect() as conn:
        waiting = str((await conn.execute(text("select args from procrastinate_jobs"))).all())
        kept = str((await conn.execute(text("select * from one_time_links"))).all())
    assert secret not in waiting + kept
    assert "ada@example.org" not in waiting
    assert orjson.dumps(waiting)
