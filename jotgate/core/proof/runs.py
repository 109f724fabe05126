"""Walks that are walked for real: what a solver found, answered to the evaluator.

Nothing counts as reached that the evaluator did not reach.
"""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from random import Random
from typing import Any

from jotgate.core.answers.checks import check
from jotgate.core.answers.failures import CheckFailed, FailedInside
from jotgate.core.answers.rows import shown_inside
from jotgate.core.answers.rules import Raw
from jotgate.core.common.today import Today
from jotgate.core.common.values import ELSE, Value, Values
from jotgate.core.items import Carried, Item, PickMany, Roster
from jotgate.core.proof.answers import Answer
from jotgate.core.proof.asking import Encoding, Goal
from jotgate.core.proof.cells import MADE, SAMPLES, SOME_ELSE
from jotgate.core.proof.reached import reached, walked
from jotgate.core.walking.made_up import answer as made_up
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import Plan

Holds = Callable[[int], bool]
"""Whether a statement is true in what the solver found."""


@dataclass(frozen=True)
class Run:
    """Answers, and where they led: the pages in order, to a finish or to where it is stuck.

    `answers` are as they are sent, `carried` the values that arrived. `finish` is None where
    something on the last page cannot be answered.
    """

    answers: Mapping[str, Raw]
    carried: Values
    pages: tuple[str, ...]
    rules: tuple[int | None, ...]
    finish: str | None
    reached: frozenset[Goal]


class _ModelAnswers(Mapping[str, Raw]):
    """The answers of a model, each given when the walk asks for it."""

    def __init__(
        self, plan: Plan, encoding: Encoding, true: Holds, carried: Values, today: Today
    ) -> None:
        self.given: dict[str, Raw] = {}
        self._known: dict[str, Value] = dict(carried)
        self._plan, self._encoding, self._true, self._today = plan, encoding, true, today

    def __getitem__(self, key: str) -> Raw:
        if key in self.given:
            return self.given[key]
        item, answer = self._plan.items[key], self._encoding.answers[key]
        raw = raw_of(item, answer, self._true, self._known, self._today)
        if raw is not None:
            self.given[key] = raw
            value = _value(item, raw, self._today, self._known)
            if value is not None:
                self._known[key] = value
        return raw

    def __iter__(self) -> Iterator[str]:
        return iter(self._plan.items)

    def __len__(self) -> int:
        return len(self._plan.items)


def _value(item: Item, raw: Raw, today: Today, known: Values) -> Value | None:
    try:
        return check(item, raw, today, known)
    except (CheckFailed, FailedInside):
        return None


def raw_of(item: Item, answer: Answer, true: Holds, known: Values, today: Today) -> Raw:
    """The answer that a model gives to `item`; None where it leaves it."""
    if not true(answer.answered):
        return None
    if isinstance(item, Roster) and answer.entries:
        return _entries(item, answer, true, known, today)
    if isinstance(item, PickMany):
        return _picks(item, answer, true)
    for literal, cell in answer.cells:
        if true(literal):
            if cell.raw is MADE:
                return made_up(item, known, today, Random(0))
            return SAMPLES[0] if cell.raw is None else cell.raw
    return None


def _picks(item: PickMany, answer: Answer, true: Holds) -> Raw:
    picked: list[Any] = [code for code, one in answer.options.items() if true(one)]
    lonely = any(one.alone for one in item.options if one.code in picked)
    missing = 0 if lonely else max((item.fewest or 1) - len(picked), 0)
    picked = [SOME_ELSE if code == ELSE else code for code in picked]
    return [*(one for one in picked if one != SOME_ELSE), *answer.others[:missing]] + [
        one for one in picked if one == SOME_ELSE
    ]


def _entries(item: Roster, answer: Answer, true: Holds, known: Values, today: Today) -> Raw:
    found = []
    for entry in answer.entries:
        if not true(entry.given):
            break
        line: dict[str, Raw] = {}

        def one(
            inner: Item, _: Raw, values: Values, entry: Any = entry, line: Any = line
        ) -> Value | None:
            line[inner.key] = raw_of(inner, entry.answers[inner.key], true, values, today)
            return check(inner, line[inner.key], today, values)

        shown_inside(item, {}, known, one, today)
        found.append({key: raw for key, raw in line.items() if raw is not None})
    return found


def _arriving(item: Carried, answer: Answer, true: Holds, today: Today) -> Raw:
    """The carried value that a model has; of one that nothing names, any."""
    if any(true(one) and cell.raw is MADE for one, cell in answer.cells):
        return item.options[0].code if item.options else SAMPLES[0]
    return raw_of(item, answer, true, {}, today)


def carried_of(plan: Plan, encoding: Encoding, true: Holds, today: Today) -> Values:
    """The carried values and facts of the visitor that a model has."""
    found: dict[str, Value] = {}
    arriving = {item.key: item for item in plan.carried}
    for key, answer in encoding.answers.items():
        if key not in arriving and "." not in key:
            continue
        if key in arriving and arriving[key].shown == "changeable":
            continue
        if key in arriving:
            raw = _arriving(arriving[key], answer, true, today)
            value = None if raw is None else _value(arriving[key], raw, today, {})
        else:
            value = next((cell.value for one, cell in answer.cells if true(one)), None)
        if value is not None:
            found[key] = value
    return found


def run(plan: Plan, encoding: Encoding, true: Holds, today: Today) -> Run:
    """Walk for real through what a model answers."""
    carried = carried_of(plan, encoding, true, today)
    told = _ModelAnswers(plan, encoding, true, carried, today)
    return run_of(plan, told, carried, today)


def run_of(plan: Plan, answers: Mapping[str, Raw], carried: Values, today: Today) -> Run:
    whole = walk(plan, answers, carried, today)
    steps = walked(whole)
    stuck = bool(steps and steps[-1].failed)
    happened = frozenset(reached(plan, whole, steps, today))
    given = answers.given if isinstance(answers, _ModelAnswers) else dict(answers)
    shown = {item.key for step in steps for item in step.shown}
    return Run(
        answers={key: raw for key, raw in given.items() if key in shown and raw is not None},
        carried=carried,
        pages=tuple(step.page.key for step in steps),
        rules=tuple(step.rule for step in steps),
        finish=None if stuck else whole.finish.key,
        reached=happened,
    )
