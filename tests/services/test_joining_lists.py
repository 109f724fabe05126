"""Whoever a rule puts on a list is asked by letter first: nobody is on it who did not say yes."""

import re
from datetime import timedelta
from string import ascii_letters
from typing import Any

import pytest

from jotgate.core.common.errors import NotFound
from jotgate.core.dispatch.effects import ListPlanned
from jotgate.services import joining_lists, opting_out
from jotgate.services.context import Context
from jotgate.services.staff.accounts import people
from jotgate.services.staff.dispatch import dispatch_rules, rehearsing
from jotgate.services.staff.entries import one_person
from jotgate.store.contacts import lists
from tests.conftest import Clock
from tests.scenes import PASSWORD, Scene, letters_asked
from tests.services.dispatching import arrived, done, ruled
from tests.services.test_dispatch_sets import (
    MEMBERS,
    a_list,
    agreed,
    by_address,
    came_by,
    listed,
)

ADA = "ada@example.org"


@pytest.fixture
async def asking(scene: Scene, context: Context) -> Scene:
    await a_list(context)
    await ruled(scene, otherwise=(listed(name="name") | {"confirm": True},))
    return scene


async def on_list(context: Context) -> list[Any]:
    async with context.engine.connect() as conn:
        return list(await lists.reachable(conn, MEMBERS))


async def letters_to(context: Context, email: str = ADA) -> list[str]:
    """The tokens of the letters that asked somebody."""
    found = [one for one in await letters_asked(context) if one["to"] == email]
    return [re.findall(r"/in/(\S+)", one["body"])[0] for one in found]


async def test_somebody_is_on_the_list_once_they_say_yes(asking: Scene, clock: Clock) -> None:
    context = asking.context
    await arrived(asking, "a", name="Ada@Example.org")
    (run,) = await done(asking)
    assert (run.kind, run.state, run.detail["confirm"]) == ("list", "done", True)
    assert await by_address(context, ADA) == [] == await on_list(context)
    (letter,) = [one for one in await letters_asked(context) if one["to"] == ADA]
    assert "“Test”" in letter["body"]
    assert "Source\nOwn\n" in letter["body"]
    (token,) = await letters_to(context)
    clock.move(timedelta(days=2))
    for _ in range(2):
        assert (await joining_lists.agree(context, token)).agreed
        (ada,) = await by_address(context, ADA)
        assert await on_list(context) == [ada.id]
        (one,) = await agreed(context, ada.id)
        assert (one.confirmed, one.given) == (clock.now(), clock.now() - timedelta(days=2))
    assert (await joining_lists.what(context, token)).agreed


async def test_nobody_is_asked_again_and_again(asking: Scene, clock: Clock) -> None:
    """Whoever answers with the address of somebody else has them written to once a week at most."""
    context = asking.context
    for number in range(5):
        await arrived(asking, f"k{number}", name=ADA)
    assert len(await letters_to(context)) == 1
    clock.move(joining_lists.APART + timedelta(seconds=1))
    await arrived(asking, "later", name=ADA)
    first, second = await letters_to(context)
    assert first != second
    await joining_lists.agree(context, second)
    await arrived(asking, "member", name=ADA)
    assert len(await letters_to(context)) == 2
    (ada,) = await by_address(context, ADA)
    assert [one.confirmed is not None for one in await agreed(context, ada.id)].count(True) == 1


async def test_a_contact_is_asked_at_its_address(asking: Scene) -> None:
    context = asking.context
    await came_by(asking, "none")
    (run,) = await done(asking)
    assert (run.state, run.last_error) == (
        "left_out",
        "The contact has no mail address to be asked at.",
    )
    _, id = await came_by(asking, "some", email="cyd@example.org")
    (token,) = await letters_to(context, "cyd@example.org")
    assert await on_list(context) == []
    assert await would_be_asked(asking, 2) is True
    await joining_lists.agree(context, token)
    assert await on_list(context) == [id]
    assert await would_be_asked(asking, 2) is False
    assert len(await letters_to(context, "cyd@example.org")) == 1


async def would_be_asked(asking: Scene, number: int) -> bool:
    """Whether a rehearsal says of an entry that a letter asks first."""
    context, who = asking.context, asking.coordinator
    rules = (await dispatch_rules.find(context, who, asking.id)).rules
    shown = await rehearsing.rehearse(context, who, asking.id, rules, number)
    (effect,) = [one.effect for one in shown.effects if isinstance(one.effect, ListPlanned)]
    return effect.confirm


async def test_a_yes_that_comes_too_late(asking: Scene, clock: Clock) -> None:
    """After whoever has the address asked not to be written to, or after a month."""
    context = asking.context
    for name in ("bo@example.org", ADA):
        await arrived(asking, name, name=name)
    (out,), (late,) = [await letters_to(context, one) for one in ("bo@example.org", ADA)]
    async with context.engine.begin() as conn:
        await opting_out.mark(conn, "bo@example.org", True, clock.now())
    for do in (joining_lists.what, joining_lists.agree):
        told = await do(context, out)
        assert (told.out, told.agreed) == (True, False)
    clock.move(joining_lists.LASTS + timedelta(seconds=1))
    await joining_lists.forget_old(context)
    for do in (joining_lists.what, joining_lists.agree):
        with pytest.raises(NotFound):
            await do(context, late)
    assert await on_list(context) == []


async def test_nobody_says_yes_for_somebody_else(asking: Scene) -> None:
    context = asking.context
    await arrived(asking, "a", name=ADA)
    (token,) = await letters_to(context)
    others = [f"{token[:-2]}{one}A" for one in ascii_letters if one != token[-2]]
    for wrong in ("", "x", token[:-4], *others):
        with pytest.raises(NotFound):
            await joining_lists.agree(context, wrong)
    assert await on_list(context) == []


async def test_what_is_erased_cannot_be_agreed_to(asking: Scene) -> None:
    context = asking.context
    await arrived(asking, "a", name=ADA)
    (token,) = await letters_to(context)
    owner = await people.add(context, "owner@example.org", "Owner", "owner", PASSWORD)
    counted = await one_person.erase(context, owner, ADA, ADA)
    assert counted["letters"] == 1
    (run,) = await done(asking)
    assert run.detail == {}
    with pytest.raises(NotFound):
        await joining_lists.what(context, token)
