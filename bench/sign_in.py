"""Whether the time that signing in takes tells if there is an account: wrong passwords for one that
there is and for one that there is not, turn by turn.

The figure is the probability that a try with an account takes longer than one without (the
statistic of Mann and Whitney, over the pairs): a half where nothing can be told. With 500 of each
its standard error is 0.018, so that the bar is over three of them away.
"""

import asyncio
import random
import statistics
import time
from collections.abc import Iterator
from pathlib import Path

from sqlalchemy import text
from sqlalchemy.ext.asyncio import AsyncEngine

from bench.submit import in_a_folder
from bench.support.figure import Figure
from jotgate.core.common.errors import WrongSignIn
from jotgate.core.records.accounts import Client
from jotgate.local.cluster import free_port
from jotgate.local.installation import Installation, open_installation
from jotgate.services.staff.accounts import people
from jotgate.services.staff.accounts.sign_in import sign_in
from jotgate.wiring import open_context

KNOWN, UNKNOWN = "anna@example.org", "otto@example.org"

TRIES = 500
ASIDE = 0.06


async def _measured(installation: Installation) -> tuple[list[float], list[float]]:
    """Seconds of tries with an account, and without; each from a network of its own, so that none
    is slowed."""
    async with open_context(installation.settings) as context:
        await people.add(context, KNOWN, "A", "reader", "copper kettle under bridges")
        times: tuple[list[float], list[float]] = ([], [])
        order = [True, False] * TRIES
        random.Random(1).shuffle(order)
        for number, known in enumerate(order):
            if number % 40 == 0:
                await _forget(context.engine)
            address = KNOWN if known else UNKNOWN
            client = Client(f"10.{number // 250}.{number % 250}.1")
            started = time.perf_counter()
            try:
                await sign_in(context, address, "wrong", client)
            except WrongSignIn:
                times[0 if known else 1].append(time.perf_counter() - started)
    return times


async def _forget(engine: AsyncEngine) -> None:
    async with engine.begin() as conn:
        await conn.execute(text("delete from sign_in_tries"))


def longer(one: list[float], other: list[float]) -> float:
    """The share of pairs in which `one` is longer."""
    ranked = sorted([(value, 0) for value in one] + [(value, 1) for value in other])
    behind = found = 0
    for _, whose in ranked:
        if whose:
            behind += 1
        else:
            found += behind
    return found / (len(one) * len(other))


def run(folder: Path) -> Iterator[Figure]:
    installation = open_installation(folder, free_port(), safe=False)
    try:
        known, unknown = asyncio.run(_measured(installation))
    finally:
        installation.stop()
    assert len(known) == len(unknown) == TRIES
    yield Figure("sign_in", "with an account", statistics.median(known) * 1000, "ms")
    yield Figure("sign_in", "without one", statistics.median(unknown) * 1000, "ms")
    share = longer(known, unknown)
    yield Figure("sign_in", "how far from telling nothing", abs(share - 0.5), "", ASIDE, False)


def figures() -> Iterator[Figure]:
    yield from in_a_folder(run)
