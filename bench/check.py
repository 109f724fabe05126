"""Checking a full entry of 60 answers, against a hand-written Pydantic model of the same entry."""

import statistics
import time
from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from decimal import Decimal
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, StringConstraints, create_model

from bench.support.figure import Figure
from jotgate.core.common.today import Today
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import compile_plan

TODAY = Today(datetime(2026, 11, 25, 12, tzinfo=UTC))
TURNS = 400

Short = Annotated[str, StringConstraints(strip_whitespace=True, min_length=2, max_length=40)]
Kit = Annotated[str, StringConstraints(pattern=r"^TW-[0-9]{4}-[A-Z]$")]
Count = Annotated[Decimal, Field(ge=1, le=60, decimal_places=0)]
Pick = Literal["a", "b", "c", "d"]
Picks = Annotated[list[Pick], Field(min_length=1, max_length=3)]

OPTIONS = [{"code": code, "label": {"en": code}} for code in "abcd"]
KINDS: tuple[tuple[dict[str, Any], Any, Any], ...] = (
    ({"kind": "short_text", "shortest": 2, "longest": 40}, Short, "Ines Carvalho"),
    ({"kind": "short_text", "pattern": {"expression": "TW-[0-9]{4}-[A-Z]"}}, Kit, "TW-2291-C"),
    ({"kind": "number", "at_least": "1", "at_most": "60"}, Count, "12"),
    ({"kind": "yes_no"}, bool, True),
    ({"kind": "pick_one", "options": OPTIONS}, Pick, "b"),
    ({"kind": "pick_many", "options": OPTIONS, "most": 3}, Picks, ["a", "c"]),
)
"""For each kind: our item, the type of the hand-written field, and an answer to it."""

REPEATS = 10


def median_us(work: Callable[[], object]) -> float:
    """Median time in microseconds of one call."""
    times = []
    for _ in range(TURNS):
        started = time.perf_counter()
        work()
        times.append((time.perf_counter() - started) * 1e6)
    return statistics.median(times)


def figures() -> Iterator[Figure]:
    items, fields, answers = [], {}, {}
    for number in range(REPEATS):
        for position, (item, kind, answer) in enumerate(KINDS):
            key = f"q{number}_{position}"
            items.append({**item, "key": key, "text": {"en": key}, "required": True})
            fields[key] = (kind, ...)
            answers[key] = answer
    document = {
        "title": {"en": "t"},
        "pages": [{"key": "p", "title": {"en": "p"}, "items": items}],
        "finishes": [{"key": "end", "title": {"en": "e"}}],
    }
    plan = compile_plan(Questionnaire.model_validate(document))
    strict = ConfigDict(extra="forbid")
    model: type[BaseModel] = create_model("Entry", __config__=strict, **fields)  # type: ignore[call-overload]

    def ours() -> None:
        assert walk(plan, answers, {}, TODAY).stuck is None

    def by_hand() -> None:
        model.model_validate(answers)

    median_us(ours), median_us(by_hand)
    mine, plain = median_us(ours), median_us(by_hand)
    yield Figure("check", f"an entry of {len(items)} answers", mine, "us")
    yield Figure("check", "the same by a hand-written model", plain, "us")
    yield Figure("check", "over the hand-written model", mine / plain, "x", 4, least=False)
