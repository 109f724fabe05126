"""Time to prove a questionnaire's branching, with every witness walked for real, and memory."""

import multiprocessing
import statistics
import time
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from bench.support.branching import branching
from bench.support.figure import Figure
from bench.support.machine import timed
from jotgate.collecting import leave_what_is_there
from jotgate.core.common.today import Today
from jotgate.core.proof import prove, walk_throughs
from jotgate.core.proof.encoding import encode
from jotgate.core.walking.plan import compile_plan

TODAY = Today(datetime(2026, 11, 25, 12, tzinfo=UTC))
SIZES = ((60, 40, 15, 60.0), (300, 250, 7, 600.0), (1000, 850, 2, 12_000.0))
"""Questions (five on a page), rules, how many questionnaires, and the bar in milliseconds."""

MEGABYTES = 150.0


def ms(work: Any, *args: Any) -> float:
    started = time.perf_counter()
    work(*args)
    return (time.perf_counter() - started) * 1000


def _peak(questions: int, rules: int, told: Any) -> None:
    """The most memory (VmHWM) that a process of its own needs for one proof, in megabytes."""
    prove(branching(questions, rules, 1), TODAY)
    lines = Path("/proc/self/status").read_text().splitlines()
    told.send(next(int(line.split()[1]) for line in lines if line.startswith("VmHWM")) / 1024)


def peak(questions: int, rules: int) -> float:
    context = multiprocessing.get_context("spawn")
    mine, theirs = context.Pipe()
    process = context.Process(target=_peak, args=(questions, rules, theirs))
    process.start()
    found: float = mine.recv()
    process.join()
    return found


def figures() -> Iterator[Figure]:
    leave_what_is_there()
    prove(branching(60, 40, 0), TODAY)
    for questions, rules, how_many, bar in SIZES:
        made = [branching(questions, rules, seed) for seed in range(how_many)]
        whole = statistics.median(ms(prove, one, TODAY) for one in made)
        name = f"all findings, {questions} questions, {rules} rules"
        yield from timed("proof", name, whole, bar)
        encoding = statistics.median(ms(encode, compile_plan(one), TODAY) for one in made)
        yield Figure("proof", f"of that putting it into statements, {questions}", encoding, "ms")
        covered = statistics.median(ms(walk_throughs, one, TODAY) for one in made[:3])
        yield Figure("proof", f"walk-throughs, {questions} questions", covered, "ms")
    yield Figure("proof", "memory at 1000 questions", peak(1000, 850), "MB", MEGABYTES, least=False)
