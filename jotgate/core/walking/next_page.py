"""Which page is shown now: the first one, the same again, or what follows it."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace

from jotgate.core.answers.checks import checking
from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.rows import LONGEST_LIST, shown_inside
from jotgate.core.answers.rules import Raw
from jotgate.core.common.today import Today
from jotgate.core.common.values import Values
from jotgate.core.items import NOT_ASKED, Item, Roster
from jotgate.core.walking.path import RawAnswers, Step, Walk, Walked, walk_to, whole
from jotgate.core.walking.plan import Plan


@dataclass(frozen=True)
class NextPage:
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
    failed: Mapping[str, CheckFailed]


@dataclass(frozen=True)
class NextFinish:
    """Every page on the path is answered; the walk ends at its finish."""

    walk: Walk


def first_page(plan: Plan, answers: RawAnswers, carried: Values, today: Today) -> NextPage:
    """Where a visitor begins."""
    return _following(plan, walk_to(plan, answers, carried, today, -1), 0, answers, today)


def stay(
    plan: Plan,
    answers: RawAnswers,
    carried: Values,
    today: Today,
    page: str,
    touched: Collection[str] = (),
) -> NextPage:
    """The same page again, after an answer that matters for what is shown.

    Of the failures on it, those at the places in `touched` are shown.
    """
    number = plan.page_numbers.get(page, 0)
    walked = walk_to(plan, answers, carried, today, number)
    position = _position(plan, walked, number)
    following = _following(plan, walked, position, answers, today, show_failures=True)
    shown = {place: why for place, why in following.failed.items() if place in touched}
    return replace(following, failed=shown)


def onward(
    plan: Plan, answers: RawAnswers, carried: Values, today: Today, page: str, item: str = ""
) -> NextPage | NextFinish:
    """Where the walk goes after `page`: that page again, or an earlier one, if answers fail.

    Where it was answered up to `item` only, the page comes again while more is asked on it, with
    what failed so far.
    """
    number = plan.page_numbers.get(page, 0)
    walked = walk_to(plan, answers, carried, today, number)
    position = _position(plan, walked, number)
    here = walked.steps[position]
    left = _left(here, item) if here.page.key == page else frozenset()
    for earlier, step in enumerate(walked.steps[: position + 1]):
        failed = _outside(step.failed, left) if step is here else step.failed
        if failed:
            again = _following(plan, walked, earlier, answers, today)
            return replace(again, failed=failed)
    if left:
        return _following(plan, walked, position, answers, today)
    if position + 1 < len(walked.steps):
        return _following(plan, walked, position + 1, answers, today)
    return NextFinish(whole(walked))


def _left(step: Step, item: str) -> frozenset[str]:
    """What is asked on the page of `step` behind `item`; nothing where that is not shown."""
    keys = [one.key for one in step.shown]
    behind = step.shown[keys.index(item) + 1 :] if item in keys else ()
    return frozenset(one.key for one in behind if one.kind not in NOT_ASKED)


def _outside(failed: Mapping[str, CheckFailed], keys: Collection[str]) -> dict[str, CheckFailed]:
    return {at: why for at, why in failed.items() if at.partition("/")[0] not in keys}


def go_on(plan: Plan, answers: RawAnswers, carried: Values, today: Today, page: str) -> NextPage:
    """Where somebody goes on who answered up to `page`, perhaps in another edition: the first
    page up to there on which something fails, else that page or the nearest before it."""
    number = plan.page_numbers.get(page, 0)
    walked = walk_to(plan, answers, carried, today, number)
    position = _position(plan, walked, number)
    failing = (n for n, step in enumerate(walked.steps[:position]) if step.failed)
    return _following(plan, walked, next(failing, position), answers, today)


def _position(plan: Plan, walked: Walked, number: int) -> int:
    """Where page `number` stands on the path; off the path, the nearest page before it."""
    before = [plan.page_numbers[step.page.key] <= number for step in walked.steps]
    return max(sum(before) - 1, 0)


def _following(
    plan: Plan,
    walked: Walked,
    position: int,
    answers: RawAnswers,
    today: Today,
    show_failures: bool = False,
) -> NextPage:
    step = walked.steps[position]
    return NextPage(
        step=step,
        kept=walked.kept,
        inside={
            item.key: _entries(item, answers.get(item.key), walked.kept, today)
            for item in step.shown
            if isinstance(item, Roster) and item.key in plan.varied
        },
        before=walked.steps[position - 1].page.key if position else None,
        last=position + 1 == len(walked.steps),
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
