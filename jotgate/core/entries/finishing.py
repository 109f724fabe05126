"""What a finish says to the one who ends there, and what it leaves in the entry."""

from dataclasses import dataclass
from urllib.parse import quote

from jotgate.core.answers.behind import carried_value
from jotgate.core.common.values import Values
from jotgate.core.common.wording import entry_words, fill, slots
from jotgate.core.document.questionnaire import Finish
from jotgate.core.entries.display import Reader
from jotgate.core.entries.said import words_for
from jotgate.core.items import Carried, Computed, is_valued
from jotgate.core.walking.path import Walk
from jotgate.core.walking.plan import Plan


@dataclass(frozen=True)
class Link:
    label: str
    address: str


@dataclass(frozen=True)
class Ending:
    """What the respondent reads, and where a link leads on."""

    heading: str
    message: str
    onward: Link | None


@dataclass(frozen=True)
class _Wording:
    """The words of a finish in one language, before their slots are filled."""

    heading: str
    message: str
    address: str
    label: str
    questionnaire: str
    named: tuple[str, ...]
    in_address: frozenset[str]


def _wording(plan: Plan, finish: Finish, language: str) -> _Wording:
    """Made once for an edition."""
    name = ("finish", finish.key, language)
    found: _Wording | None = plan.made.get(name)
    if found is None:
        reader = Reader(plan, language)
        heading, message, link = reader.say(finish.title), reader.say(finish.message), finish.link
        address = link.address if link else ""
        named = slots(heading + message + address)
        found = plan.made[name] = _Wording(
            heading=heading,
            message=message,
            address=address,
            label=reader.say(link.label) if link else "",
            questionnaire=reader.say(plan.questionnaire.title),
            named=tuple(one for one in named if not plan.is_restricted(one.partition(".")[0])),
            in_address=frozenset(slots(address)),
        )
    return found


def ending(plan: Plan, finish: Finish, values: Values, number: int, language: str) -> Ending:
    """The words of `finish` with what is known in their slots: `values` are answers and facts of
    the visitor, `number` is the entry's.

    In an address they are percent-encoded (RFC 3986, 2.1).
    """
    wording = _wording(plan, finish, language)
    read = words_for(Reader(plan, language), wording.named, values) if wording.named else {}
    words = read | entry_words(number, wording.questionnaire)
    onward = None
    if finish.link:
        encoded = {
            name: quote(words[name], safe="") for name in wording.in_address if name in words
        }
        address = fill(wording.address, encoded)
        onward = Link(wording.label or address, address)
    return Ending(fill(wording.heading, words), fill(wording.message, words), onward)


def to_keep(plan: Plan, whole: Walk) -> Values:
    """What the entry of a walk keeps: its answers, and what its finish sets."""
    answers = {key: value for key, value in whole.kept.items() if key in plan.items}
    for key, raw in whole.finish.sets.items():
        item = plan.items[key]
        if isinstance(item, Carried):
            answers[key] = carried_value(item, raw)
    return answers


def left_empty(plan: Plan, whole: Walk) -> list[str]:
    """The keys of the open questions that a walk asked and that were not answered."""
    return [
        item.key
        for step in whole.steps
        for item in step.shown
        if item.key not in whole.kept
        and is_valued(item)
        and not isinstance(item, Computed)
        and not plan.is_restricted(item.key)
    ]
