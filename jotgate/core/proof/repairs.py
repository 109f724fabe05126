"""Repairs on offer, as changes to the document (JSON Patch, RFC 6902).

Each begins by testing that what it changes is still what it was made for.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from jotgate.core.conditions.condition import Condition, named
from jotgate.core.document.questionnaire import Page, ToFinish
from jotgate.core.items import is_valued
from jotgate.core.proof.places import Places

Change = Mapping[str, Any]
"""`op` is `test`, `add`, `remove` or `replace`; `path` a JSON pointer; `value` JSON."""


@dataclass(frozen=True)
class Repair:
    says: str
    changes: tuple[Change, ...]


def as_plain(part: Any) -> Any:
    return part.model_dump(mode="json") if hasattr(part, "model_dump") else part


def member_of(at: str) -> str:
    """The member that holds the condition of a place."""
    if at.endswith("/required"):
        return "required_when"
    return "when" if "/skips/" in at or "/checks/" in at else "shown_when"


def moved(says: str, part: Any, path: str, to: str) -> Repair:
    """What stands at `path` put to where `to` is once it is gone from there."""
    value = as_plain(part)
    test = {"op": "test", "path": path, "value": value}
    changes = ({"op": "remove", "path": path}, {"op": "add", "path": to, "value": value})
    return Repair(says, (test, *changes))


def replaced(says: str, path: str, before: Any, after: Any) -> Repair:
    """The member at `path`, which says `before`, saying `after`."""
    test = {"op": "test", "path": path, "value": as_plain(before)}
    return Repair(says, (test, {"op": "replace", "path": path, "value": after}))


def removed(says: str, part: Any, path: str) -> Repair:
    """What stands at `path` gone."""
    test = {"op": "test", "path": path, "value": as_plain(part)}
    return Repair(says, (test, {"op": "remove", "path": path}))


class Repairs:
    def __init__(self, places: Places) -> None:
        self._places = places

    def without_condition(self, at: str, says: str) -> Repair:
        """The condition at `at` gone."""
        part = self._places.part(at)
        member = member_of(at)
        return replaced(says, f"{self._places.pointer(at)}/{member}", getattr(part, member), None)

    def without(self, at: str) -> Repair:
        """What stands at `at` gone."""
        says = f"Delete {self._places.name(at)}"
        return removed(says, self._places.part(at), self._places.pointer(at))

    def before(self, at: str, other: str) -> Repair:
        """The skip rule at `at` tried before the one at `other`."""
        says = (
            f"Try {self._places.name(at)} before {self._places.name(other).partition(' after')[0]}"
        )
        pointers = self._places.pointer(at), self._places.pointer(other)
        return moved(says, self._places.part(at), *pointers)

    def optional(self, at: str) -> Repair:
        if not self._places.part(at).required:
            return self.without_condition(f"{at}/required", "Do not require an answer")
        path = f"{self._places.pointer(at)}/required"
        return replaced("Do not require an answer", path, True, False)

    def unless_empty(self, at: str) -> Iterator[Repair]:
        """The page shown only where something on it is; where what that depends on is earlier."""
        page = self._places.page(at)
        seen = [item for item in page.items if item.kind != "carried"]
        conditions = [item.shown_when for item in seen if item.shown_when is not None]
        known = self._earlier(page)
        if not conditions or any(not named(one) <= known for one in conditions):
            return
        distinct = list({one.model_dump_json(): one for one in conditions}.values())
        wanted: Any = as_plain(distinct[0])
        if len(distinct) > 1:
            wanted = {"op": "any", "parts": [as_plain(one) for one in distinct[:50]]}
        before: Condition | None = page.shown_when
        if before is not None:
            wanted = {"op": "all", "parts": [as_plain(before), wanted]}
        path = f"{self._places.pointer(at)}/shown_when"
        yield replaced("Show the page only where something on it is shown", path, before, wanted)

    def _earlier(self, page: Page) -> set[str]:
        questionnaire = self._places.questionnaire
        number = questionnaire.pages.index(page)
        before = [item for one in questionnaire.pages[:number] for item in one.items]
        carried = [
            item
            for item in questionnaire.items()
            if item.kind == "carried" and item.shown_when is None
        ]
        return {item.key for item in [*before, *carried] if is_valued(item)}

    def leads_to(self, finish: str) -> bool:
        """Whether a skip rule goes to `finish`."""
        return any(
            isinstance(skip.to, ToFinish) and skip.to.finish == finish
            for page in self._places.questionnaire.pages
            for skip in page.skips
        )
