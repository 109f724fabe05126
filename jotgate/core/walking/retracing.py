"""The way that an entry went, found again from the answers that it keeps.

An entry keeps the answers that counted, so its way can be told without holding them against their
rules again. What the open answers do not say cannot be told: a decision by something restricted,
by what was known of the visitor, or by a carried value that finishes set afterwards. Whatever only
follows from such a decision is left out too, so that it does not give the decision away.
"""

from collections.abc import Collection, Iterator
from dataclasses import dataclass

from jotgate.core.common.today import Today
from jotgate.core.common.values import Values
from jotgate.core.conditions.condition import (
    Condition,
    Entries,
    EntryCount,
    holds,
    leaves,
    named,
    operands,
)
from jotgate.core.document.questionnaire import Page
from jotgate.core.walking.plan import Plan

Rule = tuple[str, int]
"""A page and a skip rule of it, counted from 1; 0 is straight on."""


@dataclass(frozen=True)
class Traceable:
    """What can be told of the ways through an edition: which `pages` somebody came to, and by which
    `rules` they left them. `reads` are the keys that this depends on, and `by_day` whether it
    depends on the day, too."""

    pages: frozenset[str]
    rules: frozenset[Rule]
    reads: tuple[str, ...]
    by_day: bool


def traceable(plan: Plan, restricted: Collection[str]) -> Traceable:
    """`restricted` are the keys of what is, in the edition or by now. Looked for once for these:
    each time that somebody's started entry is saved this is asked."""
    name = ("traceable", frozenset(restricted))
    found: Traceable | None = plan.made.get(name)
    if found is None:
        found = plan.made[name] = _traceable(plan, restricted)
    return found


def _traceable(plan: Plan, restricted: Collection[str]) -> Traceable:
    unknown = {plan.owners.get(key, key) for key in restricted}
    unknown |= {key for finish in plan.questionnaire.finishes for key in finish.sets}
    pages = plan.questionnaire.pages
    untold = [False] * (len(pages) + 1)
    told_pages: list[str] = []
    told_rules: list[Rule] = []
    reads: set[str] = set()
    by_day = False
    for number, page in enumerate(pages):
        hidden = untold[number] or _asks(plan, page.shown_when, unknown)
        if not hidden:
            told_pages.append(page.key)
        for position, skip in enumerate(page.skips, 1):
            hidden = hidden or _asks(plan, skip.when, unknown)
            if not hidden:
                told_rules.append((page.key, position))
                continue
            last = plan.page_numbers[skip.to.page] if skip.to.kind == "page" else len(pages)
            untold[number + 1 : last] = [True] * (last - number - 1)
        if not hidden:
            told_rules.append((page.key, 0))
        for when in (page.shown_when, *(skip.when for skip in page.skips)):
            reads |= {plan.owners.get(key, key) for key in named(when)}
            by_day = by_day or _needs_day(when)
    known = sorted(key for key in reads - unknown if "." not in key)
    return Traceable(frozenset(told_pages), frozenset(told_rules), tuple(known), by_day)


def _asks(plan: Plan, condition: Condition | None, unknown: Collection[str]) -> bool:
    """Whether a condition names something that an entry does not say openly."""
    return any("." in key or plan.owners.get(key, key) in unknown for key in named(condition))


def _needs_day(condition: Condition | None) -> bool:
    for leaf in leaves(condition):
        if isinstance(leaf, Entries | EntryCount):
            if _needs_day(leaf.where):
                return True
        elif leaf.op != "saved" and any(str(one).startswith("today") for one in operands(leaf)):
            return True
    return False


def retraced(plan: Plan, stored: Values, today: Today) -> Iterator[Rule]:
    """Each page of the way with the rule that led out of it. `stored` are answers of an entry: at
    least those to what `traceable` reads. What is not traceable of it means nothing."""
    kept = {key: value for key, value in stored.items() if key in plan.arriving}
    to = 0
    for number, page in enumerate(plan.questionnaire.pages):
        comes = number == to and holds(page.shown_when, kept, today)
        # What was answered counts also where it cannot be told that its page was on the way.
        kept |= {one.key: stored[one.key] for one in page.items if one.key in stored}
        if comes:
            rule, to = _leaves(plan, page, number, kept, today)
            yield page.key, rule
        elif number == to:
            to += 1


def _leaves(plan: Plan, page: Page, number: int, kept: Values, today: Today) -> tuple[int, int]:
    """By which rule, and to which page."""
    for position, skip in enumerate(page.skips, 1):
        if holds(skip.when, kept, today):
            if skip.to.kind == "finish":
                return position, len(plan.questionnaire.pages)
            return position, plan.page_numbers[skip.to.page]
    return 0, number + 1
