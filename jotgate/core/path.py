"""What is shown, where the walk goes next, and what is kept.

The path starts at the first shown page; after each page the first skip rule that holds
leads on, else the next shown page, else the first finish. Jumps only go forward, so every
walk ends. An item that is not shown, or whose page is not on the path, counts as unanswered.
"""

from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace

from jotgate.core.checks import Raw, check, checking
from jotgate.core.conditions import holds
from jotgate.core.failures import Failed, FailedInside
from jotgate.core.formulas import compute
from jotgate.core.items import SHOWN, Item, Roster
from jotgate.core.plan import Plan
from jotgate.core.questionnaire import Finish, Page
from jotgate.core.rows import LONGEST_LIST, broken_checks, shown_inside
from jotgate.core.today import Today
from jotgate.core.values import Value, Values

RawAnswers = Mapping[str, Raw]


@dataclass(frozen=True)
class Step:
    """One visited page: the items shown on it and what failed there.

    `failed` goes by place: an item's key, or inside an item such as `wells/0/depth`. `rule` is
    the skip rule, counted from 1, that led out of the page, and None where none did.
    """

    page: Page
    shown: tuple[Item, ...]
    failed: Mapping[str, Failed]
    rule: int | None


@dataclass(frozen=True)
class Walk:
    """A walk from the first shown page to its finish.

    `kept` holds the answers that count, of the pages in `steps`, the carried values and the
    facts of the visitor.
    """

    steps: tuple[Step, ...]
    kept: Values
    finish: Finish

    @property
    def stuck(self) -> Step | None:
        """The first page on which something failed."""
        return next((step for step in self.steps if step.failed), None)


def walk(plan: Plan, answers: RawAnswers, carried: Values, today: Today) -> Walk:
    """Walk through `answers`, from the first shown page to a finish.

    `carried` holds the carried values that were accepted, and under dotted keys the facts of
    the visitor; `today` is the time where the questionnaire is at home. The walk goes on over
    failures: a failed answer counts as unanswered. Cost is linear in the items passed.
    """
    pages = plan.questionnaire.pages
    kept: dict[str, Value] = {
        key: value for key, value in carried.items() if key in plan.arriving or "." in key
    }
    steps: list[Step] = []
    number = 0
    while number < len(pages):
        page = pages[number]
        if not holds(page.shown_when, kept, today):
            number += 1
            continue
        shown, failed = _visit(plan, page, answers, kept, today)
        rule, target = _leave(plan, page, kept, today)
        steps.append(Step(page, shown, failed, rule))
        if isinstance(target, Finish):
            return Walk(tuple(steps), kept, target)
        number = number + 1 if target is None else target
    return Walk(tuple(steps), kept, plan.questionnaire.finishes[0])


def _visit(
    plan: Plan, page: Page, answers: RawAnswers, kept: dict[str, Value], today: Today
) -> tuple[tuple[Item, ...], Mapping[str, Failed]]:
    """Go over one page, adding to `kept` what is answered there: what is shown, and failures."""
    shown: list[Item] = []
    failed: dict[str, Failed] = {}
    for key, condition, quick, item in plan.asked[page.key]:
        if condition is not None and not holds(condition, kept, today):
            continue
        if item.kind == "computed":
            value = compute(item.formula, kept, plan.owners, today)
            if item.visible:
                shown.append(item)
        else:
            shown.append(item)
            raw = answers.get(key)
            value = None if raw is None else quick(raw)
            if value is None:
                value = _checked(item, raw, kept, today, failed)
        if value is not None:
            kept[key] = value
    if page.checks:
        order = [item.key for item in page.items]
        failed = {**broken_checks(page.checks, kept, order, today), **failed}
    return tuple(shown), failed


def _checked(
    item: Item, raw: Raw, kept: Values, today: Today, failed: dict[str, Failed]
) -> Value | None:
    """The value of one answer; what fails is added to `failed` by its place."""
    if item.kind in SHOWN:
        return None
    try:
        return check(item, raw, today, kept)
    except Failed as failure:
        failed[item.key] = failure
    except FailedInside as inside:
        failed |= {f"{item.key}/{place}": why for place, why in inside.failures.items()}
    return None


def _leave(
    plan: Plan, page: Page, kept: Values, today: Today
) -> tuple[int | None, int | Finish | None]:
    """The skip rule that holds, counted from 1, and where it leads; None is straight on."""
    for position, skip in enumerate(page.skips, start=1):
        if holds(skip.when, kept, today):
            if skip.to.kind == "finish":
                return position, plan.finishes[skip.to.finish]
            return position, plan.page_numbers[skip.to.page]
    return None, None


@dataclass(frozen=True)
class PageAhead:
    """The page to show now.

    `last` tells that, as answered, this page leads to a finish. `failed` holds failures to
    show, by place. `before` is the page that going back leads to. `kept` are the answers
    that count. `inside` tells for the rosters whose entries differ what each entry shows, and
    last what a new one would.
    """

    step: Step
    kept: Values
    inside: Mapping[str, tuple[tuple[Item, ...], ...]]
    before: str | None
    last: bool
    failed: Mapping[str, Failed]


@dataclass(frozen=True)
class FinishAhead:
    """Every page on the path is answered; the walk ends at its finish."""

    walk: Walk


def first_page(plan: Plan, answers: RawAnswers, carried: Values, today: Today) -> PageAhead:
    """Where a visitor begins."""
    return _ahead(plan, walk(plan, answers, carried, today), 0, answers, today)


def stay(
    plan: Plan,
    answers: RawAnswers,
    carried: Values,
    today: Today,
    page: str,
    touched: Collection[str] = (),
) -> PageAhead:
    """The same page again, after an answer that matters for what is shown.

    Of the failures on it, those at the places in `touched` are shown.
    """
    whole = walk(plan, answers, carried, today)
    ahead = _ahead(plan, whole, _position(plan, whole, page), answers, today, show_failures=True)
    shown = {place: why for place, why in ahead.failed.items() if place in touched}
    return replace(ahead, failed=shown)


def onward(
    plan: Plan, answers: RawAnswers, carried: Values, today: Today, page: str
) -> PageAhead | FinishAhead:
    """Where the walk goes after `page`: that page again, or an earlier one, if answers fail."""
    whole = walk(plan, answers, carried, today)
    position = _position(plan, whole, page)
    for earlier, step in enumerate(whole.steps[: position + 1]):
        if step.failed:
            return _ahead(plan, whole, earlier, answers, today, show_failures=True)
    if position + 1 < len(whole.steps):
        return _ahead(plan, whole, position + 1, answers, today)
    return FinishAhead(whole)


def _position(plan: Plan, whole: Walk, page: str) -> int:
    """Where `page` stands on the path; off the path, the nearest page before it."""
    number = plan.page_numbers.get(page, 0)
    before = [plan.page_numbers[step.page.key] <= number for step in whole.steps]
    return max(sum(before) - 1, 0)


def _ahead(
    plan: Plan,
    whole: Walk,
    position: int,
    answers: RawAnswers,
    today: Today,
    show_failures: bool = False,
) -> PageAhead:
    step = whole.steps[position]
    return PageAhead(
        step=step,
        kept=whole.kept,
        inside={
            item.key: _entries(item, answers.get(item.key), whole.kept, today)
            for item in step.shown
            if isinstance(item, Roster) and item.key in plan.varied
        },
        before=whole.steps[position - 1].page.key if position else None,
        last=position + 1 == len(whole.steps),
        failed=step.failed if show_failures else {},
    )


def _entries(
    roster: Roster, raw: Raw, values: Values, today: Today
) -> tuple[tuple[Item, ...], ...]:
    """What each entry of `roster` shows, and last what a new one would."""
    lines = [line if isinstance(line, dict) else {} for line in raw] if _few(raw) else []
    return tuple(
        shown_inside(roster, line, values, checking(today), today) for line in [*lines, {}]
    )


def _few(raw: Raw) -> bool:
    return isinstance(raw, list) and len(raw) <= LONGEST_LIST
