"""How many entries went which way through an edition."""

from collections import Counter
from collections.abc import Iterable, Mapping
from datetime import date, datetime, time
from typing import Any, NamedTuple

from jotgate.core.common.part import Part
from jotgate.core.common.today import Today
from jotgate.core.entries.stored import values_of
from jotgate.core.walking.plan import Plan
from jotgate.core.walking.retracing import Rule, Traceable, retraced


class Alike(NamedTuple):
    """So many entries that answered alike, as it is stored; on that day, where it matters."""

    answers: Mapping[str, Any]
    day: date | None
    many: int


class PageTraffic(Part):
    """`came` to the page, left it by each of its skip `rules`, or went straight `on`; `stopped` are
    entries that were started, last saved there and never sent. None is what cannot be told without
    giving something restricted away, or is not kept."""

    key: str
    came: int | None
    rules: tuple[int | None, ...]
    on: int | None
    stopped: int | None


class FinishTraffic(Part):
    key: str
    came: int | None


class Traffic(Part):
    """Of `entries` of an edition; of `anonymised` ones the way is not known any more."""

    edition: int
    entries: int
    anonymised: int
    pages: tuple[PageTraffic, ...]
    finishes: tuple[FinishTraffic, ...]


def ways(plan: Plan, found: Iterable[Alike], now: datetime) -> Counter[Rule]:
    """How many entries left each page by each rule; `now` gives the day where that does not matter,
    in the questionnaire's time zone."""
    left: Counter[Rule] = Counter()
    for one in found:
        day = now if one.day is None else datetime.combine(one.day, time(12), now.tzinfo)
        for step in retraced(plan, values_of(plan.items, one.answers), Today(day)):
            left[step] += one.many
    return left


def pages_of(
    plan: Plan, told: Traceable, left: Mapping[Rule, int], stopped: Mapping[str, int]
) -> tuple[PageTraffic, ...]:
    """`left` counts the ways out of pages, `stopped` who stopped there."""

    def counted(rule: Rule) -> int | None:
        return left.get(rule, 0) if rule in told.rules else None

    return tuple(
        PageTraffic(
            key=page.key,
            came=_came(page.key, len(page.skips), left) if page.key in told.pages else None,
            rules=tuple(counted((page.key, at)) for at in range(1, len(page.skips) + 1)),
            on=counted((page.key, 0)),
            stopped=stopped.get(page.key, 0) if page.key in told.pages else None,
        )
        for page in plan.questionnaire.pages
    )


def _came(key: str, rules: int, left: Mapping[Rule, int]) -> int:
    return sum(left.get((key, at), 0) for at in range(rules + 1))


def finishes_of(plan: Plan, ended: Mapping[str, int], hidden: bool) -> tuple[FinishTraffic, ...]:
    """`ended` counts where entries ended, which is `hidden` where that is restricted."""
    return tuple(
        FinishTraffic(key=one.key, came=None if hidden else ended.get(one.key, 0))
        for one in plan.questionnaire.finishes
    )
