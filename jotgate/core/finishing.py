"""What a finish says to the one who ends there, and what it leaves in the entry."""

from dataclasses import dataclass
from urllib.parse import quote

from jotgate.core.checks import carried_value
from jotgate.core.items import Carried
from jotgate.core.path import Walk
from jotgate.core.plan import Plan
from jotgate.core.questionnaire import Finish
from jotgate.core.reading import Reader
from jotgate.core.values import Values
from jotgate.core.wording import entry_words, fill, slots


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


def ending(plan: Plan, finish: Finish, values: Values, number: int, language: str) -> Ending:
    """The words of `finish` with the answers `values` and the entry's `number` in their slots.

    In an address they are percent-encoded (RFC 3986, 2.1).
    """
    reader = Reader(plan, language)
    message, address = reader.say(finish.message), finish.link.address if finish.link else ""
    said = {
        name: values[name]
        for name in slots(message + address)
        if name in values and not plan.is_restricted(name)
    }
    words = reader.all(said) | entry_words(number, reader.say(plan.questionnaire.title))
    onward = None
    if finish.link:
        encoded = {name: quote(said, safe="") for name, said in words.items()}
        address = fill(address, encoded)
        onward = Link(reader.say(finish.link.label) or address, address)
    return Ending(reader.say(finish.title), fill(message, words), onward)


def to_keep(plan: Plan, whole: Walk) -> Values:
    """What the entry of a walk keeps: its answers, and what its finish sets."""
    answers = {key: value for key, value in whole.kept.items() if key in plan.items}
    for key, raw in whole.finish.sets.items():
        item = plan.items[key]
        if isinstance(item, Carried):
            answers[key] = carried_value(item, raw)
    return answers
