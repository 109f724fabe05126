"""Heavy work in processes of its own: limits of time and memory, and what comes after them."""

import asyncio
import io
import os
import resource
import time
from collections.abc import Iterator

import pytest
from PIL import Image

from jotgate.adapters.files import PillowInspector
from jotgate.adapters.isolated import OwnProcesses
from jotgate.core.common.errors import Fault, Invalid, InvalidAnswers, Unavailable
from jotgate.ports.isolated import TookTooLong

pytestmark = pytest.mark.long


@pytest.fixture
def one() -> Iterator[OwnProcesses]:
    made = OwnProcesses(1, 20, 400)
    yield made
    made.close()


def fill(megabytes: int) -> int:
    return len(bytearray(megabytes << 20))


def refuse() -> None:
    raise InvalidAnswers("Look again.", [Fault(code="c", at="a", message="m")], "p")


async def test_what_takes_too_much_is_given_up_and_the_next_goes_well(one: OwnProcesses) -> None:
    first = await one.run(os.getpid)
    assert first != os.getpid()
    with pytest.raises(TookTooLong):
        await one.run(fill, 2_000)
    assert await one.run(fill, 1) == 1 << 20
    one.seconds = 0.2
    with pytest.raises(TookTooLong):
        await one.run(time.sleep, 30)
    one.seconds = 20
    assert await one.run(os.getpid) != first


async def test_what_cannot_be_begun_soon_was_not_too_heavy(one: OwnProcesses) -> None:
    """Nothing is said against what was sent: it can be sent again."""
    await one.run(os.getpid)
    slow = asyncio.ensure_future(one.run(time.sleep, 1))
    await asyncio.sleep(0.1)
    one.seconds = 0.3
    with pytest.raises(Unavailable):
        await one.run(os.getpid)
    await slow
    with pytest.raises(TookTooLong):
        await one.run(time.sleep, 30)
    assert await one.run(os.getpid), "a start does not count"


async def test_our_errors_come_out_as_they_are(one: OwnProcesses) -> None:
    with pytest.raises(Invalid) as raised:
        await one.run(refuse)
    error = raised.value
    assert isinstance(error, InvalidAnswers)
    assert (error.message, error.params, error.faults[0].code) == (
        "Look again.",
        {"page": "p"},
        "c",
    )


async def test_somebody_who_no_longer_waits_leaves_the_process_to_others(one: OwnProcesses) -> None:
    await one.run(os.getpid)
    waiting = asyncio.ensure_future(one.run(time.sleep, 0.3))
    await asyncio.sleep(0.05)
    waiting.cancel()
    assert await one.run(fill, 1) == 1 << 20


async def test_pictures_do_not_fill_the_memory() -> None:
    """Four at once, each small as a file and 50 million pixels large, one after the other in a
    process that may have a gigabyte; none of it is held here."""
    out = io.BytesIO()
    Image.new("RGB", (8000, 6250), (90, 120, 60)).save(out, "PNG")
    inspector = PillowInspector(OwnProcesses(1, 60, 1_000))
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    found = await asyncio.gather(*(inspector.look(out.getvalue(), 480) for _ in range(4)))
    after = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    inspector.close()
    assert [(seen.type, seen.width, seen.height) for seen in found] == [
        ("image/png", 8000, 6250)
    ] * 4
    assert all(seen.drawn for seen in found)
    assert after - before < 100_000
