"""An edition compiled once: what deciding a page needs, looked up instead of searched for."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from jotgate.core.conditions import Condition, named
from jotgate.core.items import Carried, Item
from jotgate.core.questionnaire import Finish, Questionnaire


@dataclass(frozen=True)
class Plan:
    """An immutable edition, ready to be walked."""

    questionnaire: Questionnaire

    @cached_property
    def items(self) -> Mapping[str, Item]:
        return {item.key: item for item in self.questionnaire.items()}

    @cached_property
    def carried(self) -> tuple[Carried, ...]:
        return tuple(item for item in self.questionnaire.items() if isinstance(item, Carried))

    @cached_property
    def page_numbers(self) -> Mapping[str, int]:
        return {page.key: number for number, page in enumerate(self.questionnaire.pages)}

    @cached_property
    def finishes(self) -> Mapping[str, Finish]:
        return {finish.key: finish for finish in self.questionnaire.finishes}

    @cached_property
    def watched(self) -> Mapping[str, frozenset[str]]:
        """Page key -> keys on that page whose answers change what it shows or where it leads."""
        pages = self.questionnaire.pages
        ahead: frozenset[str] = frozenset()
        lists = {}
        for page in reversed(pages):
            here = {item.key for item in page.items}
            inside = named_in([item.shown_when for item in page.items])
            leading = named_in([skip.when for skip in page.skips])
            lists[page.key] = frozenset(here & (inside | leading | ahead))
            ahead |= named(page.shown_when)
        return lists


def named_in(conditions: list[Condition | None]) -> frozenset[str]:
    """The keys that any of `conditions` names."""
    return frozenset().union(*(named(condition) for condition in conditions))


def compile_plan(questionnaire: Questionnaire) -> Plan:
    """A plan whose look-ups are all made, so that sharing it between requests is safe."""
    plan = Plan(questionnaire)
    for name in ("items", "carried", "page_numbers", "finishes", "watched"):
        getattr(plan, name)
    return plan
