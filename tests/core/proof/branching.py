"""Small questionnaires with much branching, made by chance, and all that can happen in them.

What can happen is found by giving every answer there is to the evaluator, without any of the
proof's own code.
"""

from collections.abc import Iterator, Mapping
from itertools import combinations
from random import Random
from typing import Any

from jotgate.core.checks import check
from jotgate.core.conditions import entries_of, holds
from jotgate.core.faults import faults
from jotgate.core.path import Walk, walk
from jotgate.core.plan import Plan
from jotgate.core.questionnaire import Questionnaire
from jotgate.core.values import Values
from tests.documents import TODAY, finish, item, options, page, questionnaire, words

Goals = set[tuple[str, str]]
DAYS = ("2026-11-24", "2026-11-25", "2026-11-26")
TEXTS = ("own", "mains", "Something")


class _Maker:
    """Makes one questionnaire; `earlier` are the items that a condition may name by now."""

    def __init__(self, dice: Random) -> None:
        self.dice = dice
        self.earlier: list[dict[str, Any]] = []
        self.number = 0

    def maybe(self, chance: float) -> bool:
        return self.dice.random() < chance

    def leaf(self, known: list[dict[str, Any]]) -> dict[str, Any]:
        one = self.dice.choice(known)
        key, kind = one["key"], one["kind"]
        if self.maybe(0.12):
            return {"op": self.dice.choice(["answered", "unanswered"]), "item": key}
        if kind == "yes_no":
            return {"op": self.dice.choice(["is", "is_not"]), "item": key, "value": self.maybe(0.5)}
        if kind == "roster":
            return self.of_entries(one)
        if kind in ("pick_one", "carried"):
            codes = [option["code"] for option in one["options"]]
            if self.maybe(0.25):
                picked = self.dice.sample(codes, min(2, len(codes)))
                return {"op": "one_of", "item": key, "values": picked}
            op = self.dice.choice(["is", "is", "is_not"])
            return {"op": op, "item": key, "value": self.dice.choice(codes)}
        if kind == "pick_many":
            codes = [option["code"] for option in one["options"]]
            if self.maybe(0.4):
                op = self.dice.choice(["includes_all", "one_of"])
                return {"op": op, "item": key, "values": self.dice.sample(codes, 2)}
            return {"op": "includes", "item": key, "value": self.dice.choice(codes)}
        if kind == "short_text":
            op = self.dice.choice(["is", "is_not"])
            return {"op": op, "item": key, "value": self.dice.choice(TEXTS[:2])}
        return self.ordered(key, DAYS if kind == "date" else ["-1", "1", "1.5", "2", "4"])

    def ordered(self, key: str, operands: Any) -> dict[str, Any]:
        if self.maybe(0.25):
            low, high = (self.dice.choice(operands) for _ in range(2))
            return {"op": "between", "item": key, "low": low, "high": high}
        ops = ["is", "is_not", "at_least", "at_most", "more_than", "less_than"]
        return {"op": self.dice.choice(ops), "item": key, "value": self.dice.choice(operands)}

    def of_entries(self, one: dict[str, Any]) -> dict[str, Any]:
        where = self.condition(one["items"], 1)
        op = self.dice.choice(["any_entry", "every_entry", "entry_count"])
        found = {"op": op, "item": one["key"], "where": where}
        if op == "entry_count":
            if self.maybe(0.5):
                found["where"] = None
            found[self.dice.choice(["at_least", "at_most"])] = self.dice.randint(0, 3)
        return found

    def condition(self, known: list[dict[str, Any]], depth: int = 2) -> dict[str, Any]:
        chance = self.dice.random()
        if depth == 0 or chance < 0.5:
            return self.leaf(known)
        if chance < 0.65:
            return {"op": "not", "part": self.condition(known, depth - 1)}
        parts = [self.condition(known, depth - 1) for _ in range(self.dice.randint(2, 3))]
        return {"op": self.dice.choice(["all", "any"]), "parts": parts}

    def when(self, chance: float) -> dict[str, Any] | None:
        return self.condition(self.earlier) if self.earlier and self.maybe(chance) else None

    def asked(self, inside: bool = False) -> dict[str, Any]:
        self.number += 1
        key = f"q{self.number}"
        kinds = ["yes_no", "pick_one", "number", "scale", "pick_many", "date", "short_text"]
        kind = self.dice.choice(
            kinds[:3] if inside else [*kinds, "pick_one", "yes_no", "roster", "pick_many"]
        )
        more: dict[str, Any] = {"required": self.maybe(0.5)}
        if not more["required"] and not inside:
            more["required_when"] = self.when(0.3)
        if kind in ("pick_one", "pick_many"):
            more["options"] = options(*"abc"[: self.dice.randint(2, 3)])
            for one in more["options"]:
                one["shown_when"] = None if inside else self.when(0.15)
        if kind == "pick_many":
            more["options"][-1]["alone"] = self.maybe(0.3)
            more["fewest"] = self.dice.choice([None, None, 1, 2])
            more["most"] = self.dice.choice([None, 1, 2])
        if kind == "number":
            high = self.dice.choice([0, 1, 2, 3, 5])
            more["at_least"], more["at_most"] = "0", str(high)
            if self.maybe(0.05):
                more["at_least"], more["at_most"] = "0.2", "0.8"
        if kind == "scale":
            more["low"], more["high"] = self.dice.choice([(0, 2), (1, 3)])
        if kind == "date":
            more["earliest"], more["latest"] = DAYS[0], DAYS[2]
        if kind == "roster":
            more["items"] = [self.asked(inside=True)]
            more["fewest"], more["most"] = self.dice.choice([(0, 1), (0, 2), (1, 2), (2, 2)])
        return item(kind, key, shown_when=None if inside else self.when(0.4), **more)

    def page(self, number: int, pages: int) -> dict[str, Any]:
        shown = self.when(0.4) if number else None
        items = []
        for _ in range(self.dice.randint(1, 2 if pages > 2 else 3)):
            items.append(self.asked())
            self.earlier.append(items[-1])
        made = page(f"p{number}", *items, shown_when=shown)
        made["skips"] = [self.skip(number, pages) for _ in range(self.dice.randint(0, 2))]
        numbers = [one["key"] for one in items if one["kind"] in ("number", "scale", "pick_many")]
        if numbers and self.maybe(0.3):
            made["checks"] = [self.check(self.dice.choice(numbers))]
        return made

    def skip(self, number: int, pages: int) -> dict[str, Any]:
        to = {"kind": "finish", "finish": self.dice.choice("xyz")}
        if number + 1 < pages and self.maybe(0.5):
            to = {"kind": "page", "page": f"p{self.dice.randint(number + 1, pages - 1)}"}
        return {"when": self.condition(self.earlier), "to": to}

    def check(self, key: str) -> dict[str, Any]:
        relation = self.dice.choice(["is", "is_not", "at_least", "at_most", "more_than"])
        number = str(self.dice.randint(0, 3))
        message = words("Look again.")
        found = {"left": key, "relation": relation, "number": number, "message": message}
        return {**found, "when": self.when(0.4)}

    def whole(self) -> Questionnaire:
        pages = self.dice.randint(2, 4)
        carried = item("carried", "route", options=options("a", "b"))
        if self.maybe(0.4):
            self.earlier.append(carried)
        made = [self.page(number, pages) for number in range(pages)]
        made[0]["items"] += [carried] if carried in self.earlier else []
        return questionnaire(*made, finishes=tuple(finish(key) for key in "xyz"))


def branching(seed: int) -> Questionnaire:
    """A small questionnaire that could be published; the same seed gives the same one."""
    dice = Random(seed)
    while True:
        made = _Maker(dice).whole()
        if not faults(made):
            return made


def raws(one: Any) -> list[Any]:
    """Every answer to `one` that could make a difference."""
    match one.kind:
        case "yes_no":
            return [True, False]
        case "pick_one":
            return [option.code for option in one.options]
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
            codes = [option.code for option in one.options]
            return [
                list(some)
                for size in range(1, len(codes) + 1)
                for some in combinations(codes, size)
            ]
    lines = [{one.items[0].key: raw} for raw in raws(one.items[0])]
    found = [[line] for line in lines]
    if one.most > 1:
        found += [[first, second] for first in lines for second in lines]
    return found


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
    if plan.carried:
        arriving += [{"route": "a"}, {"route": "b"}]
    left = [most]
    for carried in arriving:
        yield from _walks(plan, {}, carried, left)


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
            if one.key in shown:
                found |= _asked(one, place, kept, step.failed)
        for number, one in enumerate(step.page.checks, start=1):
            told(f"{at}/checks/{number}", one.when)
        if step.failed:
            return found
        found.add(("left", at))
        true = [holds(one.when, kept, TODAY) for one in step.page.skips]
        for number, one in enumerate(true, start=1):
            place = f"{at}/skips/{number}"
            if one:
                found.add(("matches", place))
            if not any(true[: number - 1]):
                found.add(("fires" if one else "false", place))
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
    if one.kind == "roster":
        for _ in entries_of(kept.get(one.key)):
            assert one.items[0].shown_when is None
    elif getattr(one, "required", False) or needed:
        found.add(("stuck" if one.key in failed and failed[one.key].code != "check" else "met", at))
    return found
