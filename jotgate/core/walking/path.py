"""What is shown, where the walk goes next, and what is kept.

The path starts at the first shown page; after each page the first skip rule that holds
leads on, else the next shown page, else the first finish. Jumps only go forward, so every
walk ends. An item that is not shown, or whose page is not on the path, counts as unanswered.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import NamedTuple

from jotgate.core.answers.checks import check
from jotgate.core.answers.failures import CheckFailed, FailedInside
from jotgate.core.answers.rows import broken_checks
from jotgate.core.answers.rules import Raw
from jotgate.core.common.today import Today
from jotgate.core.common.values import Value, Values
from jotgate.core.conditions.condition import holds
from jotgate.core.conditions.formulas import compute
from jotgate.core.document.questionnaire import Finish, Page
from jotgate.core.items import SHOWN, Carried, Item
from jotgate.core.walking.plan import Plan

RawAnswers = Mapping[str, Raw]


@dataclass(frozen=True)
class Step:
    """One visited page: the items shown on it and what failed there.

    `failed` goes by place: an item's key, or inside an item such as `wells/0/depth`. `rule` is
    the skip rule, counted from 1, that led out of the page, and None where none did.
    """

    page: Page
    shown: tuple[Item, ...]
    failed: Mapping[str, CheckFailed]
    rule: int | None


@dataclass(frozen=True)
class Walk:
    """A walk from the first shown page to its finish.

    `kept` holds the answers that count, of the pages in `steps`, the carried values and the
    facts of the visitor. A carried value under a condition, or one that may be asked for, counts
    from its place on, where that is on the path and the condition holds.
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
    return whole(walk_to(plan, answers, carried, today, len(plan.questionnaire.pages)))


class Walked(NamedTuple):
    """A walk that may have been broken off; then there is no finish."""

    steps: list[Step]
    kept: Values
    finish: Finish | None


def whole(walked: Walked) -> Walk:
    assert walked.finish is not None
    return Walk(tuple(walked.steps), walked.kept, walked.finish)


def walk_to(plan: Plan, answers: RawAnswers, carried: Values, today: Today, beyond: int) -> Walked:
    """A walk up to the second page behind the one whose number is `beyond`: what is decided
    there does not depend on what comes later."""
    pages = plan.questionnaire.pages
    kept: dict[str, Value] = {
        key: value for key, value in carried.items() if key in plan.arriving or "." in key
    }
    steps: list[Step] = []
    number, left = 0, 2
    while number < len(pages):
        page = pages[number]
        if page.shown_when is not None and not holds(page.shown_when, kept, today):
            number += 1
            continue
        shown, failed = _visit(plan, page, answers, kept, carried, today)
        rule, target = _leave(plan, page, kept, today) if page.skips else (None, None)
        steps.append(Step(page, shown, failed, rule))
        if isinstance(target, Finish):
            return Walked(steps, kept, target)
        left -= number > beyond
        if not left:
            return Walked(steps, kept, None)
        number = number + 1 if target is None else target
    return Walked(steps, kept, plan.questionnaire.finishes[0])


def _visit(
    plan: Plan,
    page: Page,
    answers: RawAnswers,
    kept: dict[str, Value],
    carried: Values,
    today: Today,
) -> tuple[tuple[Item, ...], Mapping[str, CheckFailed]]:
    """Go over one page, adding to `kept` what is answered there: what is shown, and failures."""
    shown: list[Item] = []
    failed: dict[str, CheckFailed] = {}
    for key, condition, quick, can_be_left, item in plan.asked[page.key]:
        if condition is not None and not holds(condition, kept, today):
            continue
        if item.kind == "computed":
            value = compute(item.formula, kept, plan.owners, today)
            if item.visible:
                shown.append(item)
        elif item.kind == "carried":
            value = carried.get(key)
            if item.can_be_asked and (value is None or item.shown == "changeable"):
                shown.append(item)
                value = _asked(item, answers.get(key), today, failed)
            elif item.shown == "locked" and value is not None:
                shown.append(item)
        else:
            shown.append(item)
            raw = answers.get(key)
            if raw is None and can_be_left:
                continue
            value = None if raw is None else quick(raw)
            if value is None:
                value = _checked(item, raw, kept, today, failed)
        if value is not None:
            kept[key] = value
    if page.checks:
        order = [item.key for item in page.items]
        failed = {**broken_checks(page.checks, kept, order, today), **failed}
    return tuple(shown), failed


def _asked(item: Carried, raw: Raw, today: Today, failed: dict[str, CheckFailed]) -> Value | None:
    """The value of a carried value that the visitor is asked for."""
    value = _checked(item, raw, {}, today, failed)
    if value is None and item.required:
        failed.setdefault(item.key, CheckFailed("required"))
    return value


def _checked(
    item: Item, raw: Raw, kept: Values, today: Today, failed: dict[str, CheckFailed]
) -> Value | None:
    """The value of one answer; what fails is added to `failed` by its place."""
    if item.kind in SHOWN:
        return None
    try:
        return check(item, raw, today, kept)
    except CheckFailed as failure:
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
