"""What keeps one item from being published."""

from collections import Counter
from collections.abc import Iterator

from jotgate.core.answers.by_kind import RULES
from jotgate.core.common.errors import Fault
from jotgate.core.common.wording import Text, say
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.items import Grid, Item, Roster, inside, is_restricted, is_valued, options_of
from jotgate.core.items.kinds import PICKED
from jotgate.core.publishing.condition_faults import Earlier, condition_faults, fault
from jotgate.core.publishing.cross_check_faults import check_faults, formula_faults


def item_faults(
    item: Item, earlier: Earlier, at: str, questionnaire: Questionnaire
) -> Iterator[Fault]:
    """Faults of `item`, and of what is inside it."""
    first = questionnaire.first_language
    if not say(item.text, first, first).strip():
        noun = "question" if is_valued(item) else item.kind
        yield fault("no_text", at, f"This {noun} has no words yet.")
    yield from condition_faults(item.shown_when, earlier, first, at, "This is shown when")
    needed = getattr(item, "required_when", None)
    yield from condition_faults(needed, earlier, first, f"{at}/required", "This is required when")
    yield from _options(item, earlier, at, first)
    for code, message in RULES[item.kind].faults(item):
        yield fault(code, at, message)
    if item.kind == "computed":
        yield from formula_faults(item, earlier, at)
    if inside(item):
        yield from _inside(item, earlier, at, questionnaire)


def _inside(item: Item, earlier: Earlier, at: str, questionnaire: Questionnaire) -> Iterator[Fault]:
    known = dict(earlier)
    for one in inside(item):
        place = f"{at}/items/{one.key}"
        yield from item_faults(one, known, place, questionnaire)
        if is_restricted(one):
            message = "Restrict the whole of it: a single question inside cannot be restricted."
            yield fault("restricted_inside", place, message)
        if isinstance(item, Roster) and is_valued(one):
            known[one.key] = one
    if isinstance(item, Roster):
        yield from check_faults(item.checks, item.items, known, at, questionnaire)
    if isinstance(item, Grid):
        yield from _rows(item, earlier, at, questionnaire.first_language)


def _rows(item: Grid, earlier: Earlier, at: str, first: str) -> Iterator[Fault]:
    yield from _coded([(row.code, row.label) for row in item.rows], "row", at, first)
    for row in item.rows:
        lead = f"The row {row.code} is shown when"
        yield from condition_faults(row.shown_when, earlier, first, at, lead)
    numbers = {column.key for column in item.columns if column.kind == "number"}
    for key in item.totals:
        if key not in numbers:
            message = f"There is no column {key} of numbers to add up."
            yield fault("wrong_source", at, message)


def _options(item: Item, earlier: Earlier, at: str, first: str) -> Iterator[Fault]:
    options = options_of(item)
    if item.kind in PICKED and not options:
        yield fault("no_options", at, "There is nothing to pick. Add at least one option.")
    yield from _coded([(option.code, option.label) for option in options], "option", at, first)
    for option in options:
        lead = f"The option {option.code} is shown when"
        yield from condition_faults(option.shown_when, earlier, first, at, lead)


def _coded(parts: list[tuple[str, Text]], noun: str, at: str, first: str) -> Iterator[Fault]:
    counted = Counter(code for code, _ in parts)
    for code in sorted(code for code, count in counted.items() if count > 1):
        yield fault("double_code", at, f"Two {noun}s have the code {code}. Change one of them.")
    for code, label in parts:
        if not label.get(first, "").strip():
            yield fault("no_label", at, f"The {noun} {code} has no words yet.")
