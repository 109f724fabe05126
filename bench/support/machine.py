"""How fast the machine is just now, against which times are read.

The same machine can be two or three times slower within the hour. A bar in milliseconds is one for
a machine on which plain work of the kind that the core does takes 71 ms; what was measured is told
as it would be there. Adding numbers is no yardstick: where this takes 1.7 times longer, that takes
2.2 times. Chromium does not slow down with Python, so its pages have a pace of their own
(`bench.support.chromium.page_pace`).
"""

import time
from collections.abc import Iterator

from bench.support.figure import Figure

KNOWN = 71.0
"""Milliseconds of the plain work on the machine that bars are meant for."""


def _plain() -> int:
    """Small tuples, sets and dictionaries, made and looked up, as conditions and walks are."""
    kept: dict[tuple[int, int], frozenset[int]] = {}
    for number in range(60_000):
        key = (number % 977, number % 13)
        kept[key] = kept.get(key, frozenset()) | {number % 7, number % 11}
    return sum(len(found) for _, found in sorted(kept.items()))


def plain_work() -> float:
    """Milliseconds that the plain work takes now: the least of five times."""
    times = []
    for _ in range(5):
        started = time.perf_counter()
        _plain()
        times.append((time.perf_counter() - started) * 1000)
    return min(times)


def timed(bench: str, figure: str, measured: float, bar: float) -> Iterator[Figure]:
    """`measured` milliseconds as they are, and at the known pace, where `bar` is the most."""
    yield from both(bench, figure, measured, measured * KNOWN / plain_work(), bar)


def both(bench: str, figure: str, measured: float, scaled: float, bar: float) -> Iterator[Figure]:
    """Milliseconds as they were measured, and as they would be at the known pace."""
    yield Figure(bench, figure, measured, "ms")
    yield Figure(bench, f"{figure}, at a known pace", scaled, "ms", bar, least=False)
