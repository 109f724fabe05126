"""Walk-throughs in words: what to answer on each page, and where it leads."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Any

from jotgate.core.answers.checks import check
from jotgate.core.answers.failures import CheckFailed, FailedInside
from jotgate.core.common.today import Today
from jotgate.core.entries.display import Reader
from jotgate.core.formats import table
from jotgate.core.items import Item, is_valued
from jotgate.core.proof.runs import Run
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import Plan

HEAD = ("Walk-through", "Step", "Page", "Question", "Key", "Answer", "Then")


@dataclass(frozen=True)
class Told:
    """One question of a step: its key, its words, and the answer in words; "" where left out."""

    key: str
    question: str
    answer: str


@dataclass(frozen=True)
class Leg:
    """One page of a walk-through: what is answered there, and what comes then."""

    page: str
    title: str
    answers: tuple[Told, ...]
    then: str


def legs(plan: Plan, run: Run, today: Today) -> tuple[Leg, ...]:
    """`run` page by page, in the questionnaire's first language."""
    reader = Reader(plan)
    whole = walk(plan, run.answers, run.carried, today)
    found = []
    for number, step in enumerate(whole.steps[: len(run.pages)]):
        asked = [item for item in step.shown if is_valued(item) and item.kind != "computed"]
        answers = tuple(
            Told(item.key, reader.say(item.text), _answer(reader, item, run, whole.kept, today))
            for item in asked
        )
        last = number + 1 == len(run.pages)
        then = _end(plan, reader, run) if last else _title(plan, reader, run.pages[number + 1])
        found.append(Leg(step.page.key, _title(plan, reader, step.page.key), answers, then))
    return tuple(found)


def _title(plan: Plan, reader: Reader, page: str) -> str:
    number = plan.page_numbers[page]
    return f"{number + 1} {reader.say(plan.questionnaire.pages[number].title)}".strip()


def _end(plan: Plan, reader: Reader, run: Run) -> str:
    if run.finish is None:
        return "It does not go on from here"
    return f"Finish: {reader.say(plan.finishes[run.finish].title) or run.finish}"


def _answer(reader: Reader, item: Item, run: Run, kept: Any, today: Today) -> str:
    raw = run.answers.get(item.key)
    if raw is None:
        return ""
    try:
        value = check(item, raw, today, kept)
    except (CheckFailed, FailedInside):
        return ""
    return "" if value is None else reader.reads(item, value)


def sheet(plan: Plan, runs: Iterable[Run], today: Today) -> str:
    """Walk-throughs as a test sheet for a colleague: CSV, a line for each question."""
    return table.write(HEAD, _rows(plan, runs, today))


def _rows(plan: Plan, runs: Iterable[Run], today: Today) -> Iterator[tuple[str, ...]]:
    for number, run in enumerate(runs, start=1):
        for key, value in run.carried.items():
            yield (str(number), "", "Before it begins", "", key, str(value), "")
        for step, leg in enumerate(legs(plan, run, today), start=1):
            for one in leg.answers or (Told("", "", ""),):
                answer = one.answer or "(leave it)" if one.key else ""
                yield (str(number), str(step), leg.title, one.question, one.key, answer, leg.then)
