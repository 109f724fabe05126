"""Walks that are walked for real: what a solver found, answered to the evaluator.

Nothing counts as reached that the evaluator did not reach.
"""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from random import Random
from typing import Any

from jotgate.core.checks import Raw, check
from jotgate.core.conditions import Condition, entries_of, holds
from jotgate.core.failures import Failed, FailedInside
from jotgate.core.items import SHOWN, Carried, Grid, Item, PickMany, Roster, inside, options_of
from jotgate.core.made_up import answer as made_up
from jotgate.core.path import Step, Walk, walk
from jotgate.core.plan import Plan
from jotgate.core.proof.answers import Answer
from jotgate.core.proof.cells import MADE, SAMPLES, SOME_ELSE
from jotgate.core.proof.encoding import Encoding, Goal
from jotgate.core.rows import shown_inside
from jotgate.core.today import Today
from jotgate.core.values import ELSE, Value, Values

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


class _Told(Mapping[str, Raw]):
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
    except (Failed, FailedInside):
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
            break
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
    told = _Told(plan, encoding, true, carried, today)
    return run_of(plan, told, carried, today)


def run_of(plan: Plan, answers: Mapping[str, Raw], carried: Values, today: Today) -> Run:
    whole = walk(plan, answers, carried, today)
    steps = _walked(whole)
    stuck = bool(steps and steps[-1].failed)
    reached = frozenset(_reached(plan, whole, steps, today))
    given = answers.given if isinstance(answers, _Told) else dict(answers)
    shown = {item.key for step in steps for item in step.shown}
    return Run(
        answers={key: raw for key, raw in given.items() if key in shown and raw is not None},
        carried=carried,
        pages=tuple(step.page.key for step in steps),
        rules=tuple(step.rule for step in steps),
        finish=None if stuck else whole.finish.key,
        reached=reached,
    )


def _walked(whole: Walk) -> tuple[Step, ...]:
    """The pages up to the first on which something fails."""
    for number, step in enumerate(whole.steps, start=1):
        if step.failed:
            return whole.steps[:number]
    return whole.steps


def _reached(plan: Plan, whole: Walk, steps: tuple[Step, ...], today: Today) -> Iterator[Goal]:
    """Everything that happens in a walk."""
    kept = whole.kept
    number = 0
    for step in steps:
        here = plan.page_numbers[step.page.key]
        yield from _passed(plan, number, here)
        yield from _on_page(step, kept, today)
        if step.failed:
            return
        at = f"pages/{step.page.key}"
        yield "left", at
        number = here + 1
        rule = step.rule
        for position, skip in enumerate(step.page.skips, start=1):
            place = f"{at}/skips/{position}"
            if rule == position:
                yield "matches", place
                yield "fires", place
                if skip.to.kind == "page":
                    number = plan.page_numbers[skip.to.page]
            elif rule is None or position < rule:
                yield "false", place
            elif holds(skip.when, kept, today):
                yield "matches", place
        if rule is None:
            yield "straight", at
    if not steps or _goes_on(steps[-1]):
        yield from _passed(plan, number, len(plan.questionnaire.pages))
    yield "finish", f"finishes/{whole.finish.key}"


def _goes_on(step: Step) -> bool:
    """Whether the walk came to the end of the pages from `step`."""
    return step.rule is None or step.page.skips[step.rule - 1].to.kind == "page"


def _passed(plan: Plan, start: int, end: int) -> Iterator[Goal]:
    for page in plan.questionnaire.pages[start:end]:
        yield "false", f"pages/{page.key}"


def _on_page(step: Step, kept: Values, today: Today) -> Iterator[Goal]:
    page = step.page
    at = f"pages/{page.key}"
    yield "page", at
    if page.shown_when is not None:
        yield "true", at
    shown = {item.key for item in step.shown}
    if not shown:
        yield "empty", at
    for item in page.items:
        yield from _item(item, f"{at}/items/{item.key}", item.key in shown, step, kept, today)
    for number, check_ in enumerate(page.checks, start=1):
        yield from _told(f"{at}/checks/{number}", check_.when, kept, today)


def _told(at: str, condition: Condition | None, values: Values, today: Today) -> Iterator[Goal]:
    if condition is not None:
        yield ("true" if holds(condition, values, today) else "false"), at


def _item(
    item: Item, at: str, shown: bool, step: Step, kept: Values, today: Today
) -> Iterator[Goal]:
    if item.kind in ("computed", "carried"):
        yield from _told(at, item.shown_when, kept, today)
        if item.kind == "computed" and holds(item.shown_when, kept, today):
            yield "item", at
        return
    if item.shown_when is not None:
        yield ("true" if shown else "false"), at
    if not shown:
        return
    yield "item", at
    if item.kind in SHOWN:
        return
    yield from _offered(item, at, kept, today)
    if isinstance(item, Roster):
        for entry in entries_of(kept.get(item.key)):
            yield from _in_entry(item, at, {**kept, **entry}, today)
    elif getattr(item, "required", False):
        # Whether what is required can be met at all.
        failed = step.failed.get(item.key)
        yield ("stuck" if failed is not None and failed.code == "required" else "met"), at


def _offered(item: Item, at: str, values: Values, today: Today) -> Iterator[Goal]:
    for option in options_of(item):
        yield from _told(f"{at}/options/{option.code}", option.shown_when, values, today)
    for row in item.rows if isinstance(item, Grid) else ():
        yield from _told(f"{at}/rows/{row.code}", row.shown_when, values, today)


def _in_entry(item: Roster, at: str, values: Values, today: Today) -> Iterator[Goal]:
    for one in inside(item):
        place = f"{at}/items/{one.key}"
        yield from _told(place, one.shown_when, values, today)
        if holds(one.shown_when, values, today):
            yield from _offered(one, place, values, today)
    for number, check_ in enumerate(item.checks, start=1):
        yield from _told(f"{at}/checks/{number}", check_.when, values, today)
