"""What is shown, where the walk goes next, and what is kept.

The path starts at the first shown page; after each page the first skip rule that holds
leads on, else the next shown page, else the first finish. Jumps only go forward, so every
walk ends. An item that is not shown, or whose page is not on the path, counts as unanswered.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date

from jotgate.core.checks import Raw, check
from jotgate.core.conditions import Value, Values, holds
from jotgate.core.failures import Failed
from jotgate.core.items import Note, Question
from jotgate.core.plan import Plan
from jotgate.core.questionnaire import Finish, Page

RawAnswers = Mapping[str, Raw]


@dataclass(frozen=True)
class Step:
    """One visited page: the items shown on it and what failed there."""

    page: Page
    shown: tuple[Question | Note, ...]
    failed: Mapping[str, Failed]


@dataclass(frozen=True)
class Walk:
    """A walk from the first shown page to its finish.

    `kept` holds the answers that count, of the pages in `steps` and the carried values.
    `rule` is the skip rule, counted from 1, that led out of the last page, and None where
    none did.
    """

    steps: tuple[Step, ...]
    kept: Values
    finish: Finish
    rule: int | None

    @property
    def stuck(self) -> Step | None:
        """The first page on which something failed."""
        return next((step for step in self.steps if step.failed), None)


def walk(plan: Plan, answers: RawAnswers, carried: Values, today: date) -> Walk:
    """Walk through `answers`, from the first shown page to a finish.

    `carried` holds the carried values that were accepted; `today` is the day in the
    questionnaire's time zone. The walk goes on over failures:
    a failed answer counts as unanswered. Cost is linear in the items passed.
    """
    pages = plan.questionnaire.pages
    kept: dict[str, Value] = {
        item.key: carried[item.key] for item in plan.carried if item.key in carried
    }
    steps: list[Step] = []
    number = 0
    rule: int | None = None
    while number < len(pages):
        page = pages[number]
        if not holds(page.shown_when, kept):
            number += 1
            continue
        steps.append(_visit(plan, page, answers, kept, today))
        rule, target = _leave(plan, page, kept)
        if isinstance(target, Finish):
            return Walk(tuple(steps), kept, target, rule)
        number = number + 1 if target is None else target
    return Walk(tuple(steps), kept, plan.questionnaire.finishes[0], rule)


def _visit(
    plan: Plan, page: Page, answers: RawAnswers, kept: dict[str, Value], today: date
) -> Step:
    """Go over one page, adding to `kept` what is answered there."""
    language = plan.questionnaire.first_language
    shown: list[Question | Note] = []
    failed: dict[str, Failed] = {}
    for item in page.items:
        if item.kind == "carried" or not holds(item.shown_when, kept):
            continue
        shown.append(item)
        if item.kind == "note":
            continue
        try:
            value = check(item, answers.get(item.key), today, language)
        except Failed as failure:
            failed[item.key] = failure
        else:
            if value is not None:
                kept[item.key] = value
    return Step(page, tuple(shown), failed)


def _leave(plan: Plan, page: Page, kept: Values) -> tuple[int | None, int | Finish | None]:
    """The skip rule that holds, counted from 1, and where it leads; None is straight on."""
    for position, skip in enumerate(page.skips, start=1):
        if holds(skip.when, kept):
            if skip.to.kind == "finish":
                return position, plan.finishes[skip.to.finish]
            return position, plan.page_numbers[skip.to.page]
    return None, None


@dataclass(frozen=True)
class PageAhead:
    """The page to show now.

    `last` tells that, as answered, this page leads to a finish. `failed` holds failures to
    show, by item. `before` is the page that going back leads to.
    """

    step: Step
    before: str | None
    last: bool
    failed: Mapping[str, Failed]


@dataclass(frozen=True)
class FinishAhead:
    """Every page on the path is answered; the walk ends at its finish."""

    walk: Walk


def first_page(plan: Plan, answers: RawAnswers, carried: Values, today: date) -> PageAhead:
    """Where a visitor begins."""
    return _ahead(walk(plan, answers, carried, today), 0, show_failures=False)


def stay(plan: Plan, answers: RawAnswers, carried: Values, today: date, page: str) -> PageAhead:
    """The same page again, after an answer that matters for what is shown."""
    whole = walk(plan, answers, carried, today)
    return _ahead(whole, _position(plan, whole, page), show_failures=False)


def onward(
    plan: Plan, answers: RawAnswers, carried: Values, today: date, page: str
) -> PageAhead | FinishAhead:
    """Where the walk goes after `page`: that page again, or an earlier one, if answers fail."""
    whole = walk(plan, answers, carried, today)
    position = _position(plan, whole, page)
    for earlier, step in enumerate(whole.steps[: position + 1]):
        if step.failed:
            return _ahead(whole, earlier, show_failures=True)
    if position + 1 < len(whole.steps):
        return _ahead(whole, position + 1, show_failures=False)
    return FinishAhead(whole)


def _position(plan: Plan, whole: Walk, page: str) -> int:
    """Where `page` stands on the path; off the path, the nearest page before it."""
    number = plan.page_numbers.get(page, 0)
    before = [plan.page_numbers[step.page.key] <= number for step in whole.steps]
    return max(sum(before) - 1, 0)


def _ahead(whole: Walk, position: int, show_failures: bool) -> PageAhead:
    step = whole.steps[position]
    return PageAhead(
        step=step,
        before=whole.steps[position - 1].page.key if position else None,
        last=position + 1 == len(whole.steps),
        failed=step.failed if show_failures else {},
    )
