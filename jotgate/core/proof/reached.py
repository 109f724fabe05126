"""Everything that happens in a walk, as far as somebody can go on."""

from collections.abc import Iterator

from jotgate.core.common.today import Today
from jotgate.core.common.values import Values
from jotgate.core.conditions.condition import Condition, entries_of, holds
from jotgate.core.items import SHOWN, Grid, Item, Roster, inside, options_of
from jotgate.core.proof.asking import Goal
from jotgate.core.walking.path import Step, Walk
from jotgate.core.walking.plan import Plan


def walked(whole: Walk) -> tuple[Step, ...]:
    """The pages up to the first on which something fails."""
    for number, step in enumerate(whole.steps, start=1):
        if step.failed:
            return whole.steps[:number]
    return whole.steps


def reached(plan: Plan, whole: Walk, steps: tuple[Step, ...], today: Today) -> Iterator[Goal]:
    """Everything that happens in a walk."""
    kept = whole.kept
    number = 0
    for step in steps:
        here = plan.page_numbers[step.page.key]
        yield from _passed(plan, number, here)
        yield from _on_page(step, kept, today)
        if step.failed:
            return
        at = f"pages/{step.page.key}"
        yield "left", at
        number = here + 1
        rule = step.rule
        for position, skip in enumerate(step.page.skips, start=1):
            place = f"{at}/skips/{position}"
            if rule == position:
                yield "matches", place
                yield "fires", place
                if skip.to.kind == "page":
                    number = plan.page_numbers[skip.to.page]
            elif rule is None or position < rule:
                yield "false", place
            elif holds(skip.when, kept, today):
                yield "matches", place
        if rule is None:
            yield "straight", at
    if not steps or _goes_on(steps[-1]):
        yield from _passed(plan, number, len(plan.questionnaire.pages))
    yield "finish", f"finishes/{whole.finish.key}"


def _goes_on(step: Step) -> bool:
    """Whether the walk came to the end of the pages from `step`."""
    return step.rule is None or step.page.skips[step.rule - 1].to.kind == "page"


def _passed(plan: Plan, start: int, end: int) -> Iterator[Goal]:
    for page in plan.questionnaire.pages[start:end]:
        yield "false", f"pages/{page.key}"


def _on_page(step: Step, kept: Values, today: Today) -> Iterator[Goal]:
    page = step.page
    at = f"pages/{page.key}"
    yield "page", at
    if page.shown_when is not None:
        yield "true", at
    shown = {item.key for item in step.shown}
    if not shown:
        yield "empty", at
    for item in page.items:
        yield from _item(item, f"{at}/items/{item.key}", item.key in shown, step, kept, today)
    for number, check_ in enumerate(page.checks, start=1):
        yield from _told(f"{at}/checks/{number}", check_.when, kept, today)


def _told(at: str, condition: Condition | None, values: Values, today: Today) -> Iterator[Goal]:
    if condition is not None:
        yield ("true" if holds(condition, values, today) else "false"), at


def _item(
    item: Item, at: str, shown: bool, step: Step, kept: Values, today: Today
) -> Iterator[Goal]:
    if item.kind in ("computed", "carried"):
        yield from _told(at, item.shown_when, kept, today)
        if item.kind == "computed" and holds(item.shown_when, kept, today):
            yield "item", at
        return
    if item.shown_when is not None:
        yield ("true" if shown else "false"), at
    if not shown:
        return
    yield "item", at
    if item.kind in SHOWN:
        return
    needed = getattr(item, "required_when", None)
    yield from _told(f"{at}/required", needed, kept, today)
    yield from _offered(item, at, kept, today)
    if isinstance(item, Roster):
        for entry in entries_of(kept.get(item.key)):
            yield from _in_entry(item, at, {**kept, **entry}, today)
    elif getattr(item, "required", False) or (needed and holds(needed, kept, today)):
        # Whether what is required can be met at all.
        failed = step.failed.get(item.key)
        yield ("stuck" if failed is not None and failed.code == "required" else "met"), at


def _offered(item: Item, at: str, values: Values, today: Today) -> Iterator[Goal]:
    for option in options_of(item):
        yield from _told(f"{at}/options/{option.code}", option.shown_when, values, today)
    for row in item.rows if isinstance(item, Grid) else ():
        yield from _told(f"{at}/rows/{row.code}", row.shown_when, values, today)


def _in_entry(item: Roster, at: str, values: Values, today: Today) -> Iterator[Goal]:
    for one in inside(item):
        place = f"{at}/items/{one.key}"
        yield from _told(place, one.shown_when, values, today)
        if holds(one.shown_when, values, today):
            yield from _offered(one, place, values, today)
            needed = getattr(one, "required_when", None)
            yield from _told(f"{place}/required", needed, values, today)
    for number, check_ in enumerate(item.checks, start=1):
        yield from _told(f"{at}/checks/{number}", check_.when, values, today)
