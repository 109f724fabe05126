"""Core time to decide one page, and how it grows with the questionnaire."""

import statistics
import time
from collections.abc import Iterator
from datetime import UTC, datetime
from random import Random
from typing import Any

from bench.support.branching import branching
from bench.support.figure import Figure
from bench.support.machine import timed
from jotgate.collecting import leave_what_is_there
from jotgate.core.answers.rules import Raw
from jotgate.core.common.today import Today
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.proof import prove
from jotgate.core.walking.next_page import onward
from jotgate.core.walking.plan import Plan, compile_plan

SIZES = (60, 125, 250, 500, 1000)
PER_PAGE = 5
TODAY = Today(datetime(2026, 11, 25, 12, tzinfo=UTC))


def made(questions: int, random: Random) -> tuple[Plan, dict[str, Raw]]:
    """A questionnaire of `questions`, half of them under a condition, and answers to it all."""
    keys: list[str] = []
    pages: list[dict[str, Any]] = []
    for number in range(questions // PER_PAGE):
        items = []
        for _ in range(PER_PAGE):
            key = f"q{len(keys)}"
            when = None
            if keys and random.random() < 0.5:
                when = {"op": "is_not", "item": random.choice(keys), "value": "c"}
            options = [{"code": code, "label": {"en": code}} for code in "abc"]
            items.append(
                {
                    "kind": "pick_one",
                    "key": key,
                    "text": {"en": key},
                    "options": options,
                    "required": True,
                    "shown_when": when,
                }
            )
            keys.append(key)
        skip = {
            "when": {"op": "is", "item": keys[-1], "value": "c"},
            "to": {"kind": "finish", "finish": "end"},
        }
        pages.append({"key": f"p{number}", "title": {"en": "p"}, "items": items, "skips": [skip]})
    document = Questionnaire.model_validate(
        {"title": {"en": "t"}, "pages": pages, "finishes": [{"key": "end", "title": {"en": "e"}}]}
    )
    return compile_plan(document), {key: random.choice("ab") for key in keys}


def median_ms(plan: Plan, answers: dict[str, Raw]) -> float:
    """Median time in ms of deciding what follows a page, over pages spread evenly."""
    pages = [page.key for page in plan.questionnaire.pages]
    times = []
    for turn in range(120):
        page = pages[turn * 7 % len(pages)]
        started = time.perf_counter()
        onward(plan, answers, {}, TODAY, page)
        times.append((time.perf_counter() - started) * 1000)
    return statistics.median(times)


def branched(seed: int) -> tuple[Plan, dict[str, Raw]]:
    """300 questions with 250 rules between them, and the answers of its longest known walk."""
    document = branching(300, 250, seed)
    proof = prove(document, TODAY)
    longest = max(proof.runs, key=lambda run: len(run.pages))
    return compile_plan(document), dict(longest.answers)


def figures() -> Iterator[Figure]:
    leave_what_is_there()
    random = Random(1)
    medians_branched = [median_ms(*branched(seed)) for seed in range(5)]
    name = "one page of 300 questions with 250 rules"
    worst = max(medians_branched)
    yield from timed("decide", name, worst, 1)
    medians = {}
    for size in SIZES:
        plan, answers = made(size, random)
        median_ms(plan, answers)
        medians[size] = median_ms(plan, answers)
        yield Figure("decide", f"one page of {size} questions", medians[size], "ms")
    growth = (medians[1000] / medians[60]) / (1000 / 60)
    yield Figure("decide", "growth from 60 to 1000 over linear", growth, "x", 1.5, least=False)
