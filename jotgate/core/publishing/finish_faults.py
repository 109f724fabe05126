"""What keeps a finish from being published."""

from collections.abc import Iterator
from urllib.parse import urlsplit

from jotgate.core.answers.behind import carried_value
from jotgate.core.answers.failures import CheckFailed
from jotgate.core.common.errors import Fault
from jotgate.core.common.wording import ENTRY_SLOTS, fill, named_in, say, slots
from jotgate.core.document.questionnaire import Finish, Questionnaire
from jotgate.core.document.restriction import restrictions
from jotgate.core.items import Carried, ShortText
from jotgate.core.publishing.condition_faults import fault
from jotgate.core.publishing.slot_faults import slot_faults


def finish_faults(finish: Finish, questionnaire: Questionnaire) -> Iterator[Fault]:
    at = f"finishes/{finish.key}"
    first = questionnaire.first_language
    if not finish.title.get(first, "").strip():
        yield fault("no_text", at, "This finish has no heading yet.")
    if finish.link:
        yield from _address(finish.link.address, at)
        if not say(finish.link.label, first, first).strip():
            yield fault("no_label", at, "The link onward has no words yet.")
    yield from _slots(finish, questionnaire, at)
    yield from _sets(finish, questionnaire, at)


def is_web_address(address: str) -> bool:
    """Whether an address with slots is a whole one, whose host no slot can change."""
    try:
        parts = urlsplit(fill(address, {}))
        sound = parts.scheme in ("http", "https") and bool(parts.hostname)
    except ValueError:
        return False
    spaces = any(one.isspace() for one in address)
    return sound and not spaces and not slots(address.split("/")[2:3][0])


def _address(address: str, at: str) -> Iterator[Fault]:
    if not is_web_address(address):
        message = "The link onward needs a whole address, such as https://example.org/thanks."
        yield fault("bad_address", at, message)


def _slots(finish: Finish, questionnaire: Questionnaire, at: str) -> Iterator[Fault]:
    items = {item.key: item for item in questionnaire.items()}
    kept = restrictions(questionnaire).items
    texts = [finish.title, finish.message, {"": finish.link.address if finish.link else ""}]
    known = {**items, **dict.fromkeys(ENTRY_SLOTS, _OF_THE_ENTRY)}
    yield from slot_faults(texts, known, at, "This finish", "which is not there")
    for name in sorted(named_in(texts)):
        if name.partition(".")[0] in kept:
            message = f"{name} is restricted. A finish cannot say it."
            yield fault("restricted", at, message)


_OF_THE_ENTRY = ShortText(kind="short_text", key="entry", text={})
"""Stands for what a finish can say of the entry itself."""


def _sets(finish: Finish, questionnaire: Questionnaire, at: str) -> Iterator[Fault]:
    carried = {item.key: item for item in questionnaire.items() if isinstance(item, Carried)}
    for key, raw in finish.sets.items():
        if key not in carried:
            message = f"This finish sets {key}, which is not a carried value."
            yield fault("no_item", at, message)
            continue
        try:
            carried_value(carried[key], raw)
        except CheckFailed:
            message = f"This finish sets {key} to {raw}: it has no such value."
            yield fault("no_such_answer", at, message)
