"""What each item is compared with, all over a questionnaire."""

from collections import defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Any

from jotgate.core.common.values import as_decimal
from jotgate.core.conditions.condition import Condition, Entries, EntryCount, Leaf, Saved, leaves
from jotgate.core.conditions.cross_checks import CrossCheck
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.items import Grid, Item, Roster, inside, options_of


@dataclass(frozen=True)
class Placed:
    """A condition and where it stands: `pages/p`, `pages/p/items/k/options/c`, …, and of what
    page and item it is."""

    at: str
    when: Condition
    page: str
    item: str = ""


def conditions_of(questionnaire: Questionnaire) -> Iterator[Placed]:
    """Every condition that stands in `questionnaire`, in reading order."""
    for page in questionnaire.pages:
        at = f"pages/{page.key}"
        if page.shown_when is not None:
            yield Placed(at, page.shown_when, page.key)
        for item in page.items:
            yield from _of_item(item, at, page.key)
        for number, check in enumerate(page.checks, start=1):
            if check.when is not None:
                yield Placed(f"{at}/checks/{number}", check.when, page.key)
        for number, skip in enumerate(page.skips, start=1):
            yield Placed(f"{at}/skips/{number}", skip.when, page.key)


def _of_item(item: Item, at: str, page: str) -> Iterator[Placed]:
    here = f"{at}/items/{item.key}"
    if item.shown_when is not None:
        yield Placed(here, item.shown_when, page, item.key)
    needed = getattr(item, "required_when", None)
    if needed is not None:
        yield Placed(f"{here}/required", needed, page, item.key)
    coded: list[tuple[str, Any]] = [("options", one) for one in options_of(item)]
    if isinstance(item, Grid):
        coded += [("rows", row) for row in item.rows]
    for kind, one in coded:
        if one.shown_when is not None:
            yield Placed(f"{here}/{kind}/{one.code}", one.shown_when, page, item.key)
    for one in inside(item):
        yield from _of_item(one, here, page)
    if isinstance(item, Roster):
        for number, check in enumerate(item.checks, start=1):
            if check.when is not None:
                yield Placed(f"{here}/checks/{number}", check.when, page, item.key)


class Subjects:
    """`leaves` are the comparisons about a key; `numbers` those it is checked against; `joined`
    the keys that each is held against; `codes` are picks to be told apart by key, and
    every answer to what is in `exact` is a class of its own; what is in `once` counts one,
    and what is in `summed` is computed for another computed value. Conditions that are asked
    when a walk has ended count `also`."""

    def __init__(self, questionnaire: Questionnaire, also: Iterable[Condition] = ()) -> None:
        self.leaves: dict[str, list[Leaf]] = defaultdict(list)
        self.numbers: dict[str, list[Any]] = defaultdict(list)
        self.joined: dict[str, set[str]] = defaultdict(set)
        self.codes: dict[str, set[str]] = defaultdict(set)
        self.exact: set[str] = set()
        self.once: set[str] = set()
        self.summed: set[str] = set()
        for when in (*(placed.when for placed in conditions_of(questionnaire)), *also):
            self._take(when)
        for page in questionnaire.pages:
            self._checks(page.checks)
            for item in page.items:
                if isinstance(item, Roster):
                    self._checks(item.checks)

    def matters(self, key: str) -> bool:
        """Whether something depends on the value of `key`."""
        compared = self.leaves.get(key) or self.numbers.get(key)
        return bool(compared) or bool(self.joined.get(key)) or key in self.summed

    def together(self, key: str) -> set[str]:
        """`key` and all that is held against it, and against those, and so on."""
        found: set[str] = set()
        left = [key]
        while left:
            one = left.pop()
            if one not in found:
                found.add(one)
                left += self.joined.get(one, ())
        return found

    def _take(self, condition: Condition | None) -> None:
        for leaf in leaves(condition):
            if isinstance(leaf, Saved):
                continue
            self.leaves[leaf.item].append(leaf)
            if isinstance(leaf, Entries | EntryCount):
                self._take(leaf.where)

    def _checks(self, checks: tuple[CrossCheck, ...]) -> None:
        for check in checks:
            number = as_decimal(check.number or "")
            if check.right is not None:
                self.joined[check.left].add(check.right)
                self.joined[check.right].add(check.left)
            elif number is not None:
                self.numbers[check.left].append(number)
