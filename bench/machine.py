"""How fast the machine is just now, against which times are read.

The same machine can be two or three times slower within the hour. A bar in milliseconds is one for
a machine on which a million additions in plain Python take 100 ms; what was measured is told as
it would be there.
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
    yield Figure(bench, figure, measured, "ms")
    scaled = measured * KNOWN / additions()
    yield Figure(bench, f"{figure}, at a known pace", scaled, "ms", bar, least=False)
