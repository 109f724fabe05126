"""What may be seen only with clearance: restricted answers, and whatever depends on them.

Whether something is shown, what is computed, where a walk ends and what its finish sets can give
a restricted answer away. So all that depends on one is restricted itself, through the whole
chain, unless the author sets it free. Nothing is looked at but the questionnaire: what could
depend counts as if it did.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from jotgate.core.conditions.condition import Condition, named
from jotgate.core.conditions.cross_checks import CrossCheck
from jotgate.core.conditions.formulas import sources
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.items import (
    Carried,
    Computed,
    Item,
    Roster,
    conditions_in,
    inside,
    is_restricted,
    is_valued,
)

Causes = frozenset[str]
"""The keys of the restricted items that something depends on."""

NOTHING: Causes = frozenset()


@dataclass(frozen=True)
class Restrictions:
    """What is restricted, and by which restricted items: `items` by key (one that is restricted
    by itself has itself among them), `finish` that of where a walk ends. `freed` are the keys of
    what would be restricted and was set free, and `finish` among them where that was."""

    items: Mapping[str, Causes]
    finish: Causes
    freed: Causes


FINISH = "finish"


def restrictions(questionnaire: Questionnaire) -> Restrictions:
    """What of a questionnaire is restricted. Its saved conditions have to be put in."""
    found = _Trace(questionnaire)
    before: dict[str, Causes] | None = None
    while before != found.items:
        before = dict(found.items)
        found.all()
    kept = {key: causes for key, causes in found.items.items() if causes}
    finish = NOTHING if questionnaire.finish_freed else found.finish
    freed = found.freed | ({FINISH} if questionnaire.finish_freed and found.finish else NOTHING)
    return Restrictions(kept, finish, freed)


class _Trace:
    def __init__(self, questionnaire: Questionnaire) -> None:
        self.questionnaire = questionnaire
        self.items: dict[str, Causes] = {}
        self.owners = {one.key: item.key for item in questionnaire.items() for one in inside(item)}
        self.freed: Causes = NOTHING
        self.finish: Causes = NOTHING

    def all(self) -> None:
        """Go over the pages once, with what was found before."""
        pages = self.questionnaire.pages
        numbers = {page.key: number for number, page in enumerate(pages)}
        past = [NOTHING] * (len(pages) + 1)
        ends = NOTHING
        for number, page in enumerate(pages):
            arriving = past[number] | self._of(page.shown_when)
            for item in page.items:
                self._add(item, self._item(item) | (NOTHING if _arrives(item) else arriving))
            self._checks(page.checks)
            rules = arriving
            for skip in page.skips:
                rules |= self._of(skip.when)
                last = len(pages)
                if skip.to.kind == "page":
                    last = numbers.get(skip.to.page, number)
                else:
                    ends |= rules
                for passed in range(number + 1, last):
                    past[passed] |= rules
        self.finish = ends
        self._sets()

    def _of(self, condition: Condition | None) -> Causes:
        return self._together(named(condition)) if condition is not None else NOTHING

    def _together(self, keys: Iterable[str]) -> Causes:
        return NOTHING.union(*(self.items.get(self.owners.get(key, key), NOTHING) for key in keys))

    def _add(self, item: Item, causes: Causes) -> None:
        if is_restricted(item):
            self.items[item.key] = frozenset({item.key})
        elif item.freed:
            self.freed |= {item.key} if causes else NOTHING
        elif is_valued(item) and causes:
            self.items[item.key] = self.items.get(item.key, NOTHING) | causes

    def _item(self, item: Item) -> Causes:
        """What an item depends on where it stands, with all that is inside it."""
        found = NOTHING.union(*(self._of(when) for when in conditions_in(item)))
        if isinstance(item, Computed):
            found |= self._together(sources(item.formula))
        if isinstance(item, Roster):
            found |= NOTHING.union(*(self._of(check.when) for check in item.checks))
            found |= self._together(
                key for check in item.checks for key in check.names() if key not in self.owners
            )
        return found

    def _checks(self, checks: Iterable[CrossCheck]) -> None:
        """An answer that has to fit another, or that is held against something only where
        another says so, tells of that."""
        by_key = {item.key: item for item in self.questionnaire.items()}
        for check in checks:
            causes = self._together(check.names()) | self._of(check.when)
            for key in check.names():
                if key in by_key:
                    self._add(by_key[key], causes)

    def _sets(self) -> None:
        if self.questionnaire.finish_freed:
            return
        set_by_finish = {key for one in self.questionnaire.finishes for key in one.sets}
        for item in self.questionnaire.items():
            if item.key in set_by_finish:
                self._add(item, self.finish)


def _arrives(item: Item) -> bool:
    """Whether it is there whatever page it lies on."""
    return isinstance(item, Carried) and item.arrives


def newly_freed(before: Restrictions | None, now: Restrictions) -> tuple[str, ...]:
    """What an edition sets free that the one before it did not."""
    known = before.freed if before else NOTHING
    return tuple(sorted(now.freed - known))


def restricts_more(before: Restrictions, now: Restrictions) -> bool:
    """Whether an edition restricts what the one before it did not."""
    return bool(now.items.keys() - before.items.keys() or (now.finish and not before.finish))
