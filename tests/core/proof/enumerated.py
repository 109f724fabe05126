"""All that can happen in a small questionnaire.

It is found by giving every answer there is to the evaluator, without any of the proof's own code.
"""

from collections.abc import Iterator, Mapping
from itertools import combinations, permutations
from typing import Any

from jotgate.core.answers.checks import check
from jotgate.core.common.values import FileFacts, Values
from jotgate.core.conditions.condition import entries_of, holds, named
from jotgate.core.proof.subjects import conditions_of
from jotgate.core.walking.path import Walk, walk
from jotgate.core.walking.plan import Plan
from tests.core.proof.branching import CLOCKS, DAYS, ELSES, MAILS, MOMENTS, TEXTS
from tests.documents import TODAY

Goals = set[tuple[str, str]]


def raws(one: Any) -> list[Any]:
    """Every answer to `one` that could make a difference."""
    match one.kind:
        case "yes_no":
            return [True, False]
        case "pick_one":
            words = [{"else": said} for said in (*TEXTS, *ELSES)] if one.else_label else []
            return [option.code for option in one.options] + words
        case "scale":
            return list(range(one.low, one.high + 1))
        case "number":
            whole = range(int(one.at_least), int(one.at_most) + 1)
            return [str(number) for number in whole if one.at_least <= number <= one.at_most]
        case "date":
            return list(DAYS)
        case "short_text":
            return list(TEXTS)
        case "pick_many":
            codes: list[Any] = [option.code for option in one.options]
            codes += [{"else": "own"}] if one.else_label else []
            return [
                list(some)
                for size in range(1, len(codes) + 1)
                for some in combinations(codes, size)
            ]
        case "roster":
            return rosters(one)
        case "rank":
            return [list(order) for order in permutations(option.code for option in one.options)]
        case "grid":
            lines = [{one.columns[0].key: raw} for raw in raws(one.columns[0])]
            return [{row.code: [line]} for row in one.rows for line in lines]
        case "file":
            return [[FileFacts("f", "f.pdf", 1, "application/pdf")]]
        case "carried":
            return [option.code for option in one.options] or list(TEXTS)
        case "note":
            return [None]
    return list(SOME[one.kind])


SOME: Mapping[str, tuple[Any, ...]] = {
    "long_text": TEXTS,
    "email": MAILS,
    "phone": ("+442079460000", "+442079460001"),
    "web_address": ("https://example.org/a", "https://example.org/b"),
    "time": CLOCKS,
    "date_time": MOMENTS,
    "name": ({"given": "Ada"}, {"given": "Bran"}),
    "address": ({"city": "Thornmere"},),
    "location": ("54.12345, -2.5678",),
    "signature": ({"typed": "Ada"},),
}
"""Answers to the kinds that have more of them than can be tried."""


def rosters(one: Any) -> list[Any]:
    """Every roster of up to two entries; of more, those whose entries are alike."""
    asked = [inner for inner in one.items if inner.kind != "note"]
    lines: list[dict[str, Any]] = [{}]
    for inner in asked:
        lines = [{**line, inner.key: raw} for line in lines for raw in [*raws(inner), None]]
    lines = [line for line in lines if any(raw is not None for raw in line.values())]
    found = [[line] for line in lines]
    if one.most > 1:
        found += [[first, second] for first in lines for second in lines]
    return found + [[line] * many for many in range(3, one.most + 1) for line in lines]


class _Needed(Exception):
    def __init__(self, key: str) -> None:
        self.key = key


class _Partial(dict[str, Any]):
    def get(self, key: str, default: Any = None) -> Any:
        if key not in self:
            raise _Needed(key)
        return self[key]


class TooMany(Exception):
    """There are more walks than are worth the time."""


def walks(plan: Plan, most: int) -> Iterator[Walk]:
    """Every walk there is. Raises TooMany."""
    arriving: list[Values] = [{}]
    for item in plan.carried:
        with_it = [{**one, item.key: code} for one in arriving for code in _coming(item)]
        arriving = with_it + ([] if _always_comes(item) else arriving)
    if any("contact.email" in named(one.when) for one in conditions_of(plan.questionnaire)):
        arriving += [{**one, "contact.email": mail} for one in arriving for mail in MAILS]
    left = [most]
    for carried in arriving:
        yield from _walks(plan, {}, carried, left)


def _coming(item: Any) -> list[str]:
    """What can come with a visitor; what they may change themselves is an answer of theirs."""
    if item.shown == "changeable" or not item.sources:
        return []
    if item.sources[0].kind == "constant":
        return [item.sources[0].value]
    return [option.code for option in item.options] or list(TEXTS)


def _always_comes(item: Any) -> bool:
    if item.shown == "changeable" or not item.sources:
        return False
    return bool(
        item.sources[0].kind == "constant" or (item.required and item.when_wrong == "refuse")
    )


def _walks(
    plan: Plan, given: Mapping[str, Any], carried: Values, left: list[int]
) -> Iterator[Walk]:
    try:
        whole = walk(plan, _Partial(given), carried, TODAY)
    except _Needed as needed:
        yield from _each(plan, given, carried, needed.key, left)
        return
    left[0] -= 1
    if left[0] < 0:
        raise TooMany
    yield whole


def _each(
    plan: Plan, given: Mapping[str, Any], carried: Values, key: str, left: list[int]
) -> Iterator[Walk]:
    """Every walk on from an item; where no answer to it will do, those without one."""
    any_does = False
    item = plan.items[key]
    sure = item.kind in _ALWAYS_DO or (item.kind == "pick_one" and not item.varies)
    must = getattr(item, "required", False)
    perhaps = getattr(item, "required_when", None) is not None
    for raw in [*raws(item), *(() if must else (None,))]:
        more = {**given, key: raw}
        if (not sure or (raw is None and perhaps)) and _fails(plan, more, carried, key):
            continue
        any_does = True
        yield from _walks(plan, more, carried, left)
    if not any_does:
        yield from _walks(plan, {**given, key: None}, carried, left)


_ALWAYS_DO = frozenset({"yes_no", "scale", "date", "short_text"})
"""The kinds whose every answer in `raws` passes its own checks."""


def _fails(plan: Plan, given: Mapping[str, Any], carried: Values, key: str) -> bool:
    """Whether the answer to `key` itself will not do."""
    partial = walk(plan, {**given}, carried, TODAY)
    for step in partial.steps:
        for one in step.shown:
            if one.key == key:
                try:
                    check(one, given[key], TODAY, partial.kept)
                except Exception:
                    return True
                return False
    return False


def happens(plan: Plan, whole: Walk) -> Goals:
    """What happens in one walk, up to the page on which something fails."""
    document, kept = plan.questionnaire, whole.kept
    found: Goals = set()

    def told(at: str, when: Any, values: Values = kept) -> None:
        if when is not None:
            found.add(("true" if holds(when, values, TODAY) else "false", at))

    arrived = 0
    for step in whole.steps:
        here = plan.page_numbers[step.page.key]
        for passed in document.pages[arrived:here]:
            found.add(("false", f"pages/{passed.key}"))
        at = f"pages/{step.page.key}"
        found.add(("page", at))
        told(at, step.page.shown_when)
        shown = [one.key for one in step.shown]
        if not shown:
            found.add(("empty", at))
        for one in step.page.items:
            place = f"{at}/items/{one.key}"
            told(place, one.shown_when)
            if one.kind == "computed":
                found |= {("item", place)} if holds(one.shown_when, kept, TODAY) else set()
            elif one.key in shown:
                found |= _asked(one, place, kept, step.failed)
        for number, across in enumerate(step.page.checks, start=1):
            told(f"{at}/checks/{number}", across.when)
        if step.failed:
            return found
        found.add(("left", at))
        true = [holds(one.when, kept, TODAY) for one in step.page.skips]
        for number, is_true in enumerate(true, start=1):
            place = f"{at}/skips/{number}"
            if is_true:
                found.add(("matches", place))
            if not any(true[: number - 1]):
                found.add(("fires" if is_true else "false", place))
        if not any(true):
            found.add(("straight", at))
        arrived = here + 1
        if any(true):
            to = step.page.skips[true.index(True)].to
            arrived = plan.page_numbers[to.page] if to.kind == "page" else len(document.pages)
    for passed in document.pages[arrived:]:
        found.add(("false", f"pages/{passed.key}"))
    found.add(("finish", f"finishes/{whole.finish.key}"))
    return found


def _asked(one: Any, at: str, kept: Values, failed: Mapping[str, Any]) -> Goals:
    found: Goals = {("item", at)}
    needed = False
    if getattr(one, "required_when", None) is not None:
        needed = holds(one.required_when, kept, TODAY)
        found.add(("true" if needed else "false", f"{at}/required"))
    for option in getattr(one, "options", ()):
        if option.shown_when is not None:
            holding = holds(option.shown_when, kept, TODAY)
            found.add(("true" if holding else "false", f"{at}/options/{option.code}"))
    for row in getattr(one, "rows", ()):
        if row.shown_when is not None:
            holding = holds(row.shown_when, kept, TODAY)
            found.add(("true" if holding else "false", f"{at}/rows/{row.code}"))
    if one.kind == "roster":
        found |= _in_entries(one, at, kept)
    elif getattr(one, "required", False) or needed:
        found.add(("stuck" if one.key in failed and failed[one.key].code != "check" else "met", at))
    return found


def _in_entries(one: Any, at: str, kept: Values) -> Goals:
    found: Goals = set()
    for entry in entries_of(kept.get(one.key)):
        values = {**kept, **entry}
        for inner in one.items:
            if inner.shown_when is not None:
                holding = holds(inner.shown_when, values, TODAY)
                found.add(("true" if holding else "false", f"{at}/items/{inner.key}"))
        for number, check_ in enumerate(one.checks, start=1):
            if check_.when is not None:
                holding = holds(check_.when, values, TODAY)
                found.add(("true" if holding else "false", f"{at}/checks/{number}"))
    return found
