"""Places of a questionnaire, such as `pages/p/items/k/options/c`: their names and their JSON
pointers (RFC 6901)."""

from collections.abc import Sequence
from typing import Any

from jotgate.core.common.wording import Text, say
from jotgate.core.document.questionnaire import Finish, Page, Questionnaire
from jotgate.core.items import inside, options_of, with_inside
from jotgate.core.items.staff_names import staff_name

LONGEST = 60


class Places:
    def __init__(self, questionnaire: Questionnaire) -> None:
        self.questionnaire = questionnaire
        first = questionnaire.first_language
        items = with_inside(tuple(questionnaire.items()))
        self._items = {item.key: staff_name(item, first) for item in items}
        self._pages = {page.key: number for number, page in enumerate(questionnaire.pages)}

    def page(self, at: str) -> Page:
        return self.questionnaire.pages[self._pages[at.split("/")[1]]]

    def number(self, at: str) -> int:
        """Where the page of `at` stands, from 0."""
        return self._pages[at.split("/")[1]]

    def _finish(self, at: str) -> Finish:
        key = at.split("/")[1]
        return next(one for one in self.questionnaire.finishes if one.key == key)

    def said(self, text: Text) -> str:
        first = self.questionnaire.first_language
        words = " ".join(say(text, first, first).split())
        return words if len(words) <= LONGEST else words[: LONGEST - 1] + "…"

    def name(self, at: str) -> str:
        """`at` as people call it: page 2, Your well; rule 1 after page 2; Depth of the well."""
        steps = at.split("/")
        if steps[0] == "finishes":
            finish = self._finish(at)
            return f"the finish {self.said(finish.title) or finish.key}"
        number = self.number(at) + 1
        match steps[2:]:
            case []:
                return f"page {number}, {self.said(self.page(at).title) or steps[1]}"
            case ["skips", rule]:
                return f"rule {rule} after page {number}"
            case ["checks", check, *_]:
                return f"check {check} of page {number}"
            case [*_, key, "required"]:
                return f"{self.item(key)} being required"
            case [*_, "options", code]:
                return f"the option {code} of {self.item(steps[-3])}"
            case [*_, "rows", code]:
                return f"the row {code} of {self.item(steps[-3])}"
            case [*_, "checks", check]:
                return f"check {check} of {self.item(steps[-3])}"
            case [*_, "checks", check, "broken"]:
                return f"check {check} of {self.item(steps[-4])}"
        return self.item(steps[-1])

    def item(self, key: str) -> str:
        """What staff read for the item `key`."""
        return self._items.get(key, key)

    def pointer(self, at: str) -> str:
        """The JSON pointer to what stands at `at`."""
        if at.startswith("finishes/"):
            return f"/finishes/{_index(self.questionnaire.finishes, at.split('/')[1])}"
        steps = at.split("/")
        found: Any = self.page(at)
        pointer = f"/pages/{self.number(at)}"
        for kind, name in zip(steps[2::2], steps[3::2], strict=False):
            member, number, found = _step(found, kind, name)
            pointer += f"/{member}/{number}"
        return pointer

    def part(self, at: str) -> Any:
        """What stands at `at`."""
        if at.startswith("finishes/"):
            return self._finish(at)
        found: Any = self.page(at)
        for kind, name in zip(at.split("/")[2::2], at.split("/")[3::2], strict=False):
            _, _, found = _step(found, kind, name)
        return found


def _step(part: Any, kind: str, name: str) -> tuple[str, int, Any]:
    """The member of `part` that a step leads into, the place in it, and what stands there."""
    if kind == "items":
        member = "columns" if getattr(part, "kind", "") == "grid" else "items"
        items = part.items if isinstance(part, Page) else inside(part)
        number = _index(items, name)
        return member, number, items[number]
    if kind in ("options", "rows"):
        coded = options_of(part) if kind == "options" else part.rows
        number = next(n for n, one in enumerate(coded) if one.code == name)
        return kind, number, coded[number]
    number = int(name) - 1
    return kind, number, getattr(part, kind)[number]


def _index(parts: Sequence[Any], key: str) -> int:
    return next(number for number, one in enumerate(parts) if one.key == key)
