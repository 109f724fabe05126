"""What keeps a draft from being published, each fault with its place and what to do."""

from collections.abc import Iterator
from datetime import date, time
from decimal import Decimal

from jotgate.core.conditions import Condition, as_decimal, leaves, operands, read_operand
from jotgate.core.dates import bound
from jotgate.core.errors import Fault
from jotgate.core.items import (
    Date,
    Item,
    LongText,
    Note,
    Number,
    Pattern,
    PickMany,
    PickOne,
    Scale,
    ShortText,
    Time,
    YesNo,
    is_asked,
    is_valued,
    options_of,
)
from jotgate.core.questionnaire import Page, Questionnaire, ToFinish, ToPage
from jotgate.core.texts import BadPattern, compiled, fits
from jotgate.core.wording import say


def faults(questionnaire: Questionnaire) -> tuple[Fault, ...]:
    """Every fault, in reading order; empty when the draft can be published."""
    return (
        *_doubles(questionnaire),
        *_pages(questionnaire),
        *_finishes(questionnaire),
    )


def _fault(code: str, at: str, message: str) -> Fault:
    return Fault(code=code, at=at, message=message)


def _doubles(questionnaire: Questionnaire) -> Iterator[Fault]:
    for noun, place, keys in (
        ("page", "pages/{}", [page.key for page in questionnaire.pages]),
        ("finish", "finishes/{}", [finish.key for finish in questionnaire.finishes]),
        ("item", "items/{}", [item.key for item in questionnaire.items()]),
    ):
        for key in sorted({key for key in keys if keys.count(key) > 1}):
            message = f"More than one {noun} has the key {key}. Give each its own."
            yield _fault("double_key", place.format(key), message)


def _pages(questionnaire: Questionnaire) -> Iterator[Fault]:
    if not any(is_asked(item) for item in questionnaire.items()):
        yield _fault("nothing_asked", "pages", "There is no question yet. Add at least one.")
    if all(page.shown_when is not None for page in questionnaire.pages):
        message = "Every page has a condition. Show at least one page to everybody."
        yield _fault("no_sure_page", "pages", message)
    earlier: dict[str, Item] = {
        item.key: item for item in questionnaire.items() if item.kind == "carried"
    }
    for number, page in enumerate(questionnaire.pages):
        at = f"pages/{page.key}"
        yield from _condition(page.shown_when, earlier, at, "This page is shown when")
        for item in page.items:
            yield from _item(item, earlier, f"{at}/items/{item.key}", questionnaire)
            if is_valued(item):
                earlier[item.key] = item
        yield from _skips(questionnaire, number, page, earlier)


def _item(
    item: Item, earlier: dict[str, Item], at: str, questionnaire: Questionnaire
) -> Iterator[Fault]:
    if not say(item.text, questionnaire.first_language, questionnaire.first_language).strip():
        noun = "note" if isinstance(item, Note) else "question"
        yield _fault("no_text", at, f"This {noun} has no words yet.")
    yield from _condition(item.shown_when, earlier, at, "This is shown when")
    yield from _ranges(item, at)
    yield from _dates(item, at)
    if isinstance(item, ShortText) and item.pattern:
        yield from _pattern(item.pattern, at)
    if isinstance(item, PickOne | PickMany) and not item.options:
        yield _fault("no_options", at, "There is nothing to pick. Add at least one option.")
    codes = [option.code for option in options_of(item)]
    for code in sorted({code for code in codes if codes.count(code) > 1}):
        yield _fault("double_code", at, f"Two options have the code {code}. Change one of them.")
    for option in options_of(item):
        if not option.label.get(questionnaire.first_language, "").strip():
            yield _fault("no_label", at, f"The option {option.code} has no words yet.")


def _ranges(item: Item, at: str) -> Iterator[Fault]:
    match item:
        case ShortText() | LongText():
            low: Decimal | int | None = item.shortest
            high: Decimal | int | None = item.longest
        case Number():
            low, high = item.at_least, item.at_most
        case PickMany():
            low, high = item.fewest, item.most or len(item.options)
        case _:
            return
    if low is not None and high is not None and low > high:
        message = f"No answer can be at least {low} and at most {high}. Change one of them."
        yield _fault("empty_range", at, message)


def _dates(item: Item, at: str) -> Iterator[Fault]:
    """A range of days or times that nothing lies in, whatever day it is."""
    if not isinstance(item, Date | Time) or item.earliest is None or item.latest is None:
        return
    relative = [edge.startswith("today") for edge in (item.earliest, item.latest)]
    if any(relative) and not all(relative):
        return
    day = date(2000, 1, 1)
    edges = [bound(e, day) if isinstance(item, Date) else e for e in (item.earliest, item.latest)]
    low, high = edges
    if low is None or high is None or str(low) > str(high):
        message = f"Nothing lies between {item.earliest} and {item.latest}. Change one of them."
        yield _fault("empty_range", at, message)


def _pattern(pattern: Pattern, at: str) -> Iterator[Fault]:
    try:
        compiled(pattern.expression)
    except BadPattern as why:
        yield _fault("bad_pattern", at, f"The pattern cannot be used: {why}.")
        return
    for examples, wanted in ((pattern.fits, True), (pattern.fails, False)):
        for example in examples:
            if fits(pattern, example) is not wanted:
                what = "does not fit the pattern, and should" if wanted else "fits, and should not"
                yield _fault("wrong_example", at, f"The example {example} {what}.")


def _skips(
    questionnaire: Questionnaire, number: int, page: Page, earlier: dict[str, Item]
) -> Iterator[Fault]:
    later = {other.key for other in questionnaire.pages[number + 1 :]}
    finishes = {finish.key for finish in questionnaire.finishes}
    for position, skip in enumerate(page.skips, start=1):
        at = f"pages/{page.key}/skips/{position}"
        yield from _condition(skip.when, earlier, at, "This skip rule holds when")
        match skip.to:
            case ToPage(page=key) if key not in later:
                message = f"This skip rule goes to {key}, which is not a later page."
                yield _fault("not_later", at, message)
            case ToFinish(finish=key) if key not in finishes:
                message = f"This skip rule goes to the finish {key}, which is not there."
                yield _fault("no_finish", at, message)


def _finishes(questionnaire: Questionnaire) -> Iterator[Fault]:
    for finish in questionnaire.finishes:
        if not finish.title.get(questionnaire.first_language, "").strip():
            at = f"finishes/{finish.key}"
            yield _fault("no_text", at, "This finish has no heading yet.")


def _condition(
    condition: Condition | None, earlier: dict[str, Item], at: str, lead: str
) -> Iterator[Fault]:
    """Faults of a condition; only what stands in `earlier` can be named."""
    for leaf in leaves(condition):
        item = earlier.get(leaf.item)
        if item is None:
            message = f"{lead} {leaf.item}, which is not asked before it."
            yield _fault("not_earlier", at, message)
            continue
        for operand in operands(leaf):
            if not _fits(item, operand, leaf.op):
                message = f"{lead} {leaf.item} {leaf.op} {operand}: it has no such answer."
                yield _fault("no_such_answer", at, message)


def _fits(item: Item, operand: str | bool, op: str) -> bool:
    if op in ("at_least", "at_most") and not isinstance(item, Number | Scale | Date | Time):
        return False
    if (op == "includes") is not isinstance(item, PickMany):
        return False
    match item:
        case Number() | Scale():
            return as_decimal(operand) is not None
        case Date():
            return read_operand(date, operand) is not None
        case Time():
            return read_operand(time, operand) is not None
        case YesNo():
            return isinstance(operand, bool)
    codes = {option.code for option in options_of(item)}
    return isinstance(operand, str) and (not codes or operand in codes)
