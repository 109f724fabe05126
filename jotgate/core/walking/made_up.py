"""Answers that are made up, for trying a draft: none is told apart from a person's by a check.

They are made on the way, for what is shown only, so that conditions, options under a condition
and the path are respected. Where a page is wanted, walks are tried until one leads there.
"""

from collections.abc import Iterator, Mapping
from random import Random

from jotgate.core.answers.by_kind import RULES
from jotgate.core.answers.checks import check
from jotgate.core.answers.failures import CheckFailed, FailedInside
from jotgate.core.answers.offered import as_offered
from jotgate.core.answers.rows import shown_inside
from jotgate.core.answers.rules import Raw
from jotgate.core.common.today import Today
from jotgate.core.common.values import Value, Values
from jotgate.core.items import Grid, Item, Roster
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import Plan

TRIES = 200
"""How many walks are tried before a page counts as not found."""


class MadeUp(Mapping[str, Raw]):
    """Answers by key, each made up when a walk asks for it; `made` are those asked for."""

    def __init__(self, plan: Plan, carried: Values, today: Today, dice: Random) -> None:
        self.made: dict[str, Raw] = {}
        self._known: dict[str, Value] = dict(carried)
        self._plan, self._today, self._dice = plan, today, dice

    def __getitem__(self, key: str) -> Raw:
        if key not in self.made:
            item = self._plan.items[key]
            self.made[key] = raw = answer(item, self._known, self._today, self._dice)
            try:
                value = check(item, raw, self._today, self._known)
            except (CheckFailed, FailedInside):
                value = None
            if value is not None:
                self._known[key] = value
        return self.made[key]

    def __iter__(self) -> Iterator[str]:
        return iter(self._plan.items)

    def __len__(self) -> int:
        return len(self._plan.items)


def answers_to(
    plan: Plan, page: str | None, carried: Values, today: Today, dice: Random
) -> dict[str, Raw] | None:
    """Answers of a walk that comes to `page`, or to a finish, and fails nowhere before it.

    None where no walk that was tried does.
    """
    for _ in range(TRIES):
        made = MadeUp(plan, carried, today, dice)
        steps = walk(plan, made, carried, today).steps
        for step in steps:
            if step.page.key == page:
                return made.made
            if step.failed:
                break
        else:
            if page is None:
                return made.made
    return None


def answer(item: Item, known: Values, today: Today, dice: Random) -> Raw:
    """An answer to `item`, None where none could be made up. `known` are those before it."""
    offered = as_offered(item, known, today)
    if isinstance(offered, Grid):
        return _grid(offered, known, today, dice)
    if isinstance(offered, Roster):
        return _roster(offered, known, today, dice)
    make = RULES[item.kind].make
    return make(offered, today, dice) if make else None


def _grid(item: Grid, known: Values, today: Today, dice: Random) -> Raw:
    return {
        row.code: [{one.key: answer(one, known, today, dice) for one in item.columns}]
        for row in item.rows
    }


def _roster(item: Roster, known: Values, today: Today, dice: Random) -> Raw:
    count = dice.randint(max(item.fewest, min(1, item.most)), min(item.most, item.fewest + 2))
    return [_entry(item, known, today, dice) for _ in range(count)]


def _entry(item: Roster, known: Values, today: Today, dice: Random) -> dict[str, Raw]:
    entry: dict[str, Raw] = {}

    def one(inner: Item, raw: Raw, values: Values) -> Value | None:
        entry[inner.key] = answer(inner, values, today, dice)
        return check(inner, entry[inner.key], today, values)

    shown_inside(item, {}, known, one, today)
    return entry
