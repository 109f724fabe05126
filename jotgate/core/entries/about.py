"""What an entry is about: a thing in another system, by its id, its name and its address there."""

from dataclasses import dataclass
from urllib.parse import quote

from jotgate.core.common.values import Values
from jotgate.core.common.wording import fill, slots
from jotgate.core.entries.display import Reader
from jotgate.core.entries.said import Saying
from jotgate.core.items import Carried
from jotgate.core.walking.plan import Plan


@dataclass(frozen=True)
class Thing:
    """`address` is empty where that system shows nothing, `name` the id where it has no other."""

    id: str
    name: str
    address: str


def about_item(plan: Plan) -> Carried | None:
    """The carried value that says what an entry is about."""
    return next((item for item in plan.carried if item.about is not None), None)


def about(plan: Plan, answers: Values) -> str | None:
    """The id of the thing that an entry with these answers is about."""
    item = about_item(plan)
    value = item and answers.get(item.key)
    return value if isinstance(value, str) else None


def about_for_visitor(plan: Plan, answers: Values, language: str) -> str:
    """What visitors read of it: its name, and nothing that is sealed."""
    item = about_item(plan)
    found = thing(plan, answers, language) if item else None
    if item is None or found is None or item.about is None:
        return ""
    named = any(words.strip() for words in item.about.name.values())
    return found.name if named or not item.sealed or item.told else ""


def thing(plan: Plan, answers: Values, language: str = "") -> Thing | None:
    """What an entry is about, as it reads in `language`.

    In the address values are percent-encoded (RFC 3986, 2.1).
    """
    item, id = about_item(plan), about(plan, answers)
    if item is None or item.about is None or id is None:
        return None
    reader = Reader(plan, language)
    name = Saying(reader, answers).tell(item.about.name).strip()
    named = [key for key in slots(item.about.address) if key in answers]
    raw = {key: quote(str(answers[key]), safe="") for key in named}
    return Thing(id, name or reader.reads(item, id), fill(item.about.address, raw))
