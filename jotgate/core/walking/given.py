"""Values that somebody of the office gives to a way in: what can be given, and whether it fits."""

from collections.abc import Iterable, Iterator

from jotgate.core.answers.checks import check
from jotgate.core.answers.failure_messages import fault_of
from jotgate.core.answers.failures import CheckFailed, FailedInside
from jotgate.core.common.errors import Fault
from jotgate.core.common.today import Today
from jotgate.core.items import IN_PARTS, Carried, Item, is_asked
from jotgate.core.items.kinds import BY_LINK
from jotgate.core.walking.plan import Plan
from jotgate.core.walking.prefill import raw_of

MOST_SEEN = 10_000
"""Values that are remembered to have been looked at."""

STORED = frozenset({"link", "pass"})
"""The sources of a carried value that a named link or a pass can bring."""


def can_be_given(plan: Plan, stored: bool) -> dict[str, Item]:
    """By key what can come by a way that we keep (`stored`), or with the address itself."""
    sources = STORED if stored else frozenset({"link"})
    return {
        item.key: item
        for item in plan.questionnaire.items()
        if item.kind in BY_LINK
        and (
            any(one.kind in sources for one in item.sources)
            if isinstance(item, Carried)
            else is_asked(item)
        )
    }


def names_of(item: Item) -> tuple[str, ...]:
    """The names under which the value of `item` is given: its key, or those of its parts."""
    parts = getattr(item, "parts", ()) if item.kind in IN_PARTS else ()
    return tuple(f"{item.key}.{part}" for part in parts) or (item.key,)


class Giving:
    """Looks at the values of many ways into one questionnaire; what was looked at is remembered."""

    def __init__(self, plan: Plan, today: Today, stored: bool) -> None:
        self._plan, self._today = plan, today
        self._known = can_be_given(plan, stored)
        self._seen: dict[tuple[str, tuple[tuple[str, str], ...]], tuple[Fault, ...]] = {}
        self._needed = [
            item.key
            for item in plan.carried
            if item.required and {one.kind for one in item.sources} == {"pass"}
        ]

    def missing(self, pairs: Iterable[tuple[str, str]]) -> list[str]:
        """The keys of required carried values that only a pass can bring, and these do not."""
        given = {name.partition(".")[0] for name, _ in pairs}
        return [key for key in self._needed if key not in given]

    def faults(self, pairs: Iterable[tuple[str, str]]) -> Iterator[Fault]:
        given: dict[str, list[tuple[str, str]]] = {}
        for name, text in pairs:
            key, _, part = name.partition(".")
            item = self._known.get(key)
            if item is None or name not in names_of(item):
                message = f"There is nothing called {name} that a link could bring."
                yield Fault(code="no_item", at=name, message=message)
                continue
            given.setdefault(key, []).append((part, text))
        for key, texts in given.items():
            yield from self._of_value(key, tuple(texts))

    def _of_value(self, key: str, texts: tuple[tuple[str, str], ...]) -> tuple[Fault, ...]:
        found = self._seen.get((key, texts))
        if found is None:
            known = self._known[key]
            found = tuple(_value_faults(self._plan, known, list(texts), self._today))
            if len(self._seen) < MOST_SEEN:
                self._seen[key, texts] = found
        return found


def _value_faults(
    plan: Plan, item: Item, texts: list[tuple[str, str]], today: Today
) -> Iterator[Fault]:
    first = plan.questionnaire.first_language
    try:
        check(item, raw_of(item, texts), today)
    except CheckFailed as failed:
        if failed.code != "part_missing":
            yield fault_of(plan.items, item.key, failed, first, first)
    except FailedInside as inside:
        for place, why in inside.failures.items():
            if why.code != "part_missing":
                yield fault_of(plan.items, f"{item.key}/{place}", why, first, first)
