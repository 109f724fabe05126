"""What keeps a draft from being published, each fault with its place and what to do."""

from collections import Counter
from collections.abc import Iterator, Mapping

from jotgate.core.common.errors import Fault
from jotgate.core.common.wording import named_in
from jotgate.core.conditions.condition import Saved, leaves
from jotgate.core.conditions.saved import expanded
from jotgate.core.document.questionnaire import Page, Questionnaire, ToFinish, ToPage
from jotgate.core.document.restriction import restrictions
from jotgate.core.items import Carried, Item, is_asked, is_valued, with_inside
from jotgate.core.items.texts import spoken_texts
from jotgate.core.publishing.condition_faults import condition_faults, fault
from jotgate.core.publishing.cross_check_faults import check_faults
from jotgate.core.publishing.finish_faults import finish_faults, is_web_address
from jotgate.core.publishing.item_faults import item_faults
from jotgate.core.publishing.slot_faults import slot_faults


def faults(questionnaire: Questionnaire) -> tuple[Fault, ...]:
    """Every fault, in reading order; empty when the draft can be published."""
    said = expanded(questionnaire, questionnaire.saved)
    finishes = (found for one in said.finishes for found in finish_faults(one, said))
    return (*_doubles(said), *_saved(questionnaire), *_pages(said), *_about(said), *finishes)


def _saved(questionnaire: Questionnaire) -> Iterator[Fault]:
    for one in questionnaire.saved:
        at = f"saved/{one.key}"
        if not one.name.strip():
            yield fault("no_text", at, "This saved condition has no name yet.")
        if any(isinstance(leaf, Saved) for leaf in leaves(one.when)):
            message = f"The saved condition {one.name} uses another one. Write it out in full."
            yield fault("saved_inside", at, message)


def _about(questionnaire: Questionnaire) -> Iterator[Fault]:
    """What is wrong with the carried value that says what the entry is about."""
    items = {item.key: item for item in questionnaire.items() if isinstance(item, Carried)}
    kept = restrictions(questionnaire).items
    found = [item for item in items.values() if item.about is not None]
    for item in found:
        at = next(
            f"pages/{page.key}/items/{item.key}"
            for page in questionnaire.pages
            if item in page.items
        )
        assert item.about is not None
        texts = [item.about.name, {"": item.about.address}]
        missing = "which is no carried value"
        yield from slot_faults([texts[0]], items, at, "What it is about", missing)
        yield from slot_faults([texts[1]], {**items, **_open(items)}, at, "Its address", missing)
        if item is not found[0]:
            yield fault("two_abouts", at, "Another value says already what the entry is about.")
        if kept.keys() & {item.key, *named_in(texts)}:
            message = "What entries are found by cannot be restricted."
            yield fault("restricted", at, message)
        if item.about.address and not is_web_address(item.about.address):
            message = "It needs a whole address, such as https://example.org/wells/{well}."
            yield fault("bad_address", at, message)


def _open(items: Mapping[str, Carried]) -> dict[str, Item]:
    """The same values where only staff read them: sealed ones may be said."""
    return {key: item.model_copy(update={"told": True}) for key, item in items.items()}


def _doubles(questionnaire: Questionnaire) -> Iterator[Fault]:
    for noun, place, keys in (
        ("page", "pages/{}", [page.key for page in questionnaire.pages]),
        ("finish", "finishes/{}", [finish.key for finish in questionnaire.finishes]),
        ("saved condition", "saved/{}", [one.key for one in questionnaire.saved]),
        ("item", "items/{}", [item.key for item in with_inside(tuple(questionnaire.items()))]),
    ):
        for key in sorted(key for key, count in Counter(keys).items() if count > 1):
            message = f"More than one {noun} has the key {key}. Give each its own."
            yield fault("double_key", place.format(key), message)


def _pages(questionnaire: Questionnaire) -> Iterator[Fault]:
    if not any(is_asked(item) for item in questionnaire.items()):
        yield fault("nothing_asked", "pages", "There is no question yet. Add at least one.")
    if all(page.shown_when is not None for page in questionnaire.pages):
        message = "Every page has a condition. Show at least one page to everybody."
        yield fault("no_sure_page", "pages", message)
    first = questionnaire.first_language
    earlier: dict[str, Item] = {
        item.key: item
        for item in questionnaire.items()
        if isinstance(item, Carried) and item.arrives
    }
    for number, page in enumerate(questionnaire.pages):
        at = f"pages/{page.key}"
        yield from condition_faults(page.shown_when, earlier, first, at, "This page is shown when")
        lead, missing = "The title of this page", "which is not asked before it"
        yield from slot_faults([page.title], earlier, at, lead, missing)
        for item in page.items:
            here = f"{at}/items/{item.key}"
            yield from item_faults(item, earlier, here, questionnaire)
            yield from slot_faults(spoken_texts(item), earlier, here, "This", missing)
            if is_valued(item):
                earlier[item.key] = item
        yield from check_faults(page.checks, page.items, earlier, at, questionnaire)
        messages = [check.message for check in page.checks]
        yield from slot_faults(messages, earlier, at, "A check", missing)
        yield from _skips(questionnaire, number, page, earlier)


def _skips(
    questionnaire: Questionnaire, number: int, page: Page, earlier: dict[str, Item]
) -> Iterator[Fault]:
    later = {other.key for other in questionnaire.pages[number + 1 :]}
    finishes = {finish.key for finish in questionnaire.finishes}
    first = questionnaire.first_language
    for position, skip in enumerate(page.skips, start=1):
        at = f"pages/{page.key}/skips/{position}"
        yield from condition_faults(skip.when, earlier, first, at, "This skip rule holds when")
        match skip.to:
            case ToPage(page=key) if key not in later:
                message = f"This skip rule goes to {key}, which is not a later page."
                yield fault("not_later", at, message)
            case ToFinish(finish=""):
                message = "This skip rule does not yet say where it leads."
                yield fault("no_finish", at, message)
            case ToFinish(finish=key) if key not in finishes:
                message = f"This skip rule goes to the finish {key}, which is not there."
                yield fault("no_finish", at, message)
