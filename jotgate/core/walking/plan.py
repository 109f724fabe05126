"""An edition compiled once: what deciding a page needs, looked up instead of searched for."""

from collections.abc import Hashable, Iterator, Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

from jotgate.core.answers.checks import fast_check_of
from jotgate.core.answers.rules import FastCheck
from jotgate.core.common.wording import named_in
from jotgate.core.conditions.condition import Condition, named
from jotgate.core.conditions.formulas import sources
from jotgate.core.conditions.saved import expanded
from jotgate.core.document.questionnaire import Finish, Page, Questionnaire
from jotgate.core.document.restriction import Restrictions, restrictions
from jotgate.core.items import Carried, Computed, File, Grid, Item, Roster, conditions_in, inside
from jotgate.core.items import with_inside as every
from jotgate.core.items.texts import spoken_texts


@dataclass(frozen=True)
class Plan:
    """An immutable edition, ready to be walked.

    `questionnaire` has its saved conditions put in where they are used; `written` is as it was
    written. `made` keeps what others make of the edition once, such as its words on the page.
    """

    questionnaire: Questionnaire
    written: Questionnaire
    made: dict[Hashable, Any] = field(default_factory=dict, compare=False, repr=False)

    @cached_property
    def items(self) -> Mapping[str, Item]:
        """Every item by key, those inside rosters and grids too."""
        return {item.key: item for item in every(tuple(self.questionnaire.items()))}

    @cached_property
    def owners(self) -> Mapping[str, str]:
        """The key of a question inside a roster or grid -> that one's key."""
        return {one.key: item.key for item in self.questionnaire.items() for one in inside(item)}

    @cached_property
    def owned(self) -> frozenset[str]:
        """The keys of rosters and grids that have something inside."""
        return frozenset(self.owners.values())

    @cached_property
    def restrictions(self) -> Restrictions:
        return restrictions(self.questionnaire)

    @cached_property
    def restricted(self) -> frozenset[str]:
        """The keys of what needs clearance, and of all that is inside it."""
        found = self.restrictions.items
        outer = (key for key in found if key not in self.owners)
        return frozenset((*outer, *(key for key, one in self.owners.items() if one in found)))

    def is_restricted(self, key: str) -> bool:
        """Whether the answer under `key`, or a place inside it, needs clearance."""
        return key in self.restricted

    @cached_property
    def carried(self) -> tuple[Carried, ...]:
        return tuple(item for item in self.questionnaire.items() if isinstance(item, Carried))

    @cached_property
    def arriving(self) -> frozenset[str]:
        """The keys of the carried values that count from the start."""
        return frozenset(item.key for item in self.carried if item.arrives)

    @cached_property
    def sources(self) -> frozenset[str]:
        """The kinds of source that any carried value has."""
        return frozenset(source.kind for item in self.carried for source in item.sources)

    @cached_property
    def page_numbers(self) -> Mapping[str, int]:
        return {page.key: number for number, page in enumerate(self.questionnaire.pages)}

    @cached_property
    def finishes(self) -> Mapping[str, Finish]:
        return {finish.key: finish for finish in self.questionnaire.finishes}

    @cached_property
    def asked(
        self,
    ) -> Mapping[str, tuple[tuple[str, Condition | None, FastCheck, bool, Item], ...]]:
        """Page key -> its items: key, condition, short check, whether it can be left out without
        a look, item. Carried values that count from the start and are not seen are left out."""
        return {
            page.key: tuple(
                (item.key, item.shown_when, fast_check_of(item), _can_be_left(item), item)
                for item in page.items
                if not isinstance(item, Carried) or item.is_seen or not item.arrives
            )
            for page in self.questionnaire.pages
        }

    @cached_property
    def speaking(self) -> Mapping[str, frozenset[str]]:
        """The keys of the items whose texts speak of a visitor -> what they name."""
        named = {item.key: named_in(spoken_texts(item)) for item in self.items.values()}
        return {key: names for key, names in named.items() if names}

    @cached_property
    def varied(self) -> frozenset[str]:
        """The keys of the rosters whose entries can show different things."""
        return frozenset(
            item.key
            for item in self.questionnaire.items()
            if isinstance(item, Roster)
            and any(when is not None for one in item.items for when in conditions_in(one))
        )

    @cached_property
    def file_holders(self) -> frozenset[str]:
        """The keys of the items in whose answers there can be files."""
        return frozenset(self.owners.get(key, key) for key in self.files)

    @cached_property
    def files(self) -> frozenset[str]:
        """The keys of the questions, inside rosters too, that take files."""
        return frozenset(key for key, item in self.items.items() if isinstance(item, File))

    @cached_property
    def watched(self) -> Mapping[str, frozenset[str]]:
        """Page key -> keys on that page whose answers change what it shows or where it leads."""
        ahead: frozenset[str] = frozenset()
        lists = {}
        for page in reversed(self.questionnaire.pages):
            here = {item.key for item in page.items}
            inward = {self.owners.get(key, key) for key in _read_on(page)}
            lists[page.key] = frozenset(here & (inward | ahead))
            ahead |= named(page.shown_when)
        return lists

    @cached_property
    def checked(self) -> Mapping[str, frozenset[str]]:
        """Page key -> keys on that page whose answers are held against others."""
        lists = {}
        for page in self.questionnaire.pages:
            rosters = [item for item in page.items if isinstance(item, Roster) and item.checks]
            across = {name for check in page.checks for name in check.names()}
            here = {item.key for item in page.items}
            lists[page.key] = frozenset(here & across) | {item.key for item in rosters}
        return lists


def _can_be_left(item: Item) -> bool:
    """Whether no answer is never a failure: nothing in it can be required."""
    required = getattr(item, "required", False) or getattr(item, "required_when", None)
    return not required and not isinstance(item, Roster | Grid)


def _read_on(page: Page) -> Iterator[str]:
    """The keys that what `page` shows, or where it leads, is decided by."""
    conditions: list[Condition | None] = [skip.when for skip in page.skips]
    for text in (page.title, *(check.message for check in page.checks)):
        yield from (name.partition(".")[0] for name in named_in([text]))
    for item in page.items:
        yield from (name.partition(".")[0] for name in named_in(spoken_texts(item)))
        conditions += conditions_in(item)
        if isinstance(item, Computed):
            yield from sources(item.formula)
    for condition in conditions:
        yield from named(condition)


def compile_plan(questionnaire: Questionnaire) -> Plan:
    """A plan whose look-ups are all made, so that sharing it between requests is safe."""
    plan = Plan(expanded(questionnaire, questionnaire.saved), questionnaire)
    for name, part in vars(Plan).items():
        if isinstance(part, cached_property):
            getattr(plan, name)
    return plan
