"""How fast the machine is just now, against which times are read.

The same machine can be two or three times slower within the hour. A bar in milliseconds is one for
a machine on which a million additions in plain Python take 100 ms; what was measured is told as
it would be there. Chromium does not slow down with Python, so its pages have a pace of their own
(`bench.chromium.page_pace`).
"""

import time
from collections.abc import Iterator

from bench.figure import Figure

KNOWN = 100.0
"""Milliseconds of a million additions on the machine that bars are meant for."""


def additions() -> float:
    """Milliseconds that a million additions take now: the least of five times."""
    times = []
    for _ in range(5):
        started = time.perf_counter()
        total = 0
        for number in range(1_000_000):
            total += number
        times.append((time.perf_counter() - started) * 1000)
    return min(times)


def timed(bench: str, figure: str, measured: float, bar: float) -> Iterator[Figure]:
    """`measured` milliseconds as they are, and at the known pace, where `bar` is the most."""
    yield from both(bench, figure, measured, measured * KNOWN / additions(), bar)


def both(bench: str, figure: str, measured: float, scaled: float, bar: float) -> Iterator[Figure]:
    """Milliseconds as they were measured, and as they would be at the known pace."""
    yield Figure(bench, figure, measured, "ms")
    yield Figure(bench, f"{figure}, at a known pace", scaled, "ms", bar, least=False)
