"""What a new questionnaire can start from: outlines that ship with the application.

Each file is a title, a line about it, and an outline as one would jot it.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from pathlib import Path

from jotgate.core.common.proposed_keys import key_from
from jotgate.core.document.questionnaire import Page, Questionnaire, blank
from jotgate.core.outline import jot

LANGUAGE = "en"


@dataclass(frozen=True)
class Start:
    title: str
    about: str
    outline: str


@cache
def starts() -> Mapping[str, Start]:
    """Every start, by the name of its file."""
    found = {}
    for path in sorted(Path(__file__).parent.glob("*.txt")):
        title, about, outline = path.read_text(encoding="utf-8").split("\n", 2)
        found[path.stem] = Start(title, about, outline)
    return found


def begun(title: str, start: Start) -> Questionnaire:
    """A new draft called `title` with the questions of `start`."""
    taken: set[str] = set()
    pages = []
    for page in jot(start.outline, LANGUAGE).pages:
        key = key_from(page.title, taken, "page")
        taken.add(key)
        items = tuple(one.item for one in page.items)
        pages.append(Page(key=key, title={LANGUAGE: page.title}, items=items))
    return blank(title, LANGUAGE).model_copy(update={"pages": tuple(pages)})
