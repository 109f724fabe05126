"""A questionnaire from an HL7 FHIR Questionnaire (R4), and a list of what was left out."""

import re
from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from pydantic import ValidationError

from jotgate.core.common.errors import Fault, Invalid
from jotgate.core.common.part import KEY_PATTERN
from jotgate.core.common.proposed_keys import key_from
from jotgate.core.common.wording import Text
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.formats.fhir import terms
from jotgate.core.formats.fhir.conditions import condition_of
from jotgate.core.formats.fhir.kinds import kind_of, members_of
from jotgate.core.formats.fhir.shape import checked
from jotgate.core.formats.fhir.terms import controlled, extended

MOST_ITEMS = 5000

Resource = Mapping[str, Any]


def from_fhir(resource: Resource) -> tuple[Questionnaire, tuple[str, ...]]:
    """The questionnaire of a resource, and a sentence for each thing that was left out.

    Top-level groups become pages, groups inside them rosters or, where they do not repeat, their
    questions in a row. Raises Invalid where the resource cannot be one.
    """
    left = checked(resource)
    reading = _Reading(resource)
    reading.left += left
    return reading.whole()


_KEY = re.compile(KEY_PATTERN)


def _refused(message: str) -> Invalid:
    fault = Fault(code="not_fhir", at="", message=message)
    return Invalid("The file was not imported. Nothing has changed.", [fault])


class _Reading:
    def __init__(self, resource: Resource) -> None:
        self.resource = resource
        self.language = str(resource.get("language") or "en")
        self.keys: dict[str, str] = {}
        self.taken: dict[str, set[str]] = {"page": set(), "item": set()}
        self.kinds: dict[str, str] = {}
        self.codes: dict[str, dict[str, str]] = {}
        self.languages = [self.language]
        self.left: list[str] = []
        self.count = 0

    def whole(self) -> tuple[Questionnaire, tuple[str, ...]]:
        items = self._list(self.resource)
        self._name(items, "page")
        pages = list(self._pages(items))
        title = self.text(self.resource, "title") or self._plain(self.resource.get("name"))
        document = {
            "title": title or {self.language: "Untitled"},
            "languages": self.languages,
            "pages": pages or [{"key": "page", "title": {}}],
            "finishes": [{"key": "done", "title": {self.language: "Thank you"}}],
        }
        try:
            return Questionnaire.model_validate(document), tuple(self.left)
        except ValidationError as why:
            error = why.errors(include_url=False, include_input=False)[0]
            at = "/".join(str(step) for step in error["loc"])
            raise _refused(
                f"What it says cannot stand in a questionnaire: {at}, {error['msg']}."
            ) from None

    def _list(self, part: Resource) -> Sequence[Resource]:
        found = part.get("item", [])
        if not isinstance(found, list) or not all(isinstance(one, dict) for one in found):
            raise _refused("The member item must be a list of objects.")
        return found

    def _name(self, items: Sequence[Resource], noun: str) -> None:
        """Give every linkId a key and a kind, before conditions ask for them."""
        for item in items:
            self.count += 1
            link = item.get("linkId")
            if not isinstance(link, str) or link in self.keys or self.count > MOST_ITEMS:
                raise _refused(
                    f"Every item needs a linkId of its own, at most {MOST_ITEMS} of them."
                )
            bare = link.removeprefix("page-") if noun == "page" else link
            self.keys[link] = self._key(bare, noun)
            self.kinds[link] = kind_of(item)
            self._name(self._list(item), "question")

    def _key(self, link: str, noun: str) -> str:
        """`link` where it can be a key as it is, else one made from it."""
        taken = self.taken["page" if noun == "page" else "item"]
        free = _KEY.fullmatch(link) and link not in taken
        key = link if free else key_from(link, taken, noun)
        taken.add(key)
        return key

    def _plain(self, words: Any) -> Text:
        return {self.language: str(words)} if words else {}

    def text(self, part: Resource, name: str) -> Text:
        """A text with its translations, whose languages become the questionnaire's."""
        text = self._plain(part.get(name))
        beside = part.get(f"_{name}")
        for one in beside.get("extension", ()) if isinstance(beside, dict) else ():
            language, words = extended(one, "lang"), extended(one, "content")
            if one.get("url") != terms.TRANSLATION or not language or not words:
                continue
            text[str(language)] = str(words)
            if language not in self.languages:
                self.languages.append(str(language))
        return text

    def _pages(self, items: Sequence[Resource]) -> Iterator[dict[str, Any]]:
        """A page for each group at the top; what stands between them is a page of its own."""
        loose: list[Resource] = []
        for item in items:
            if item.get("type") != "group" or item.get("repeats"):
                loose.append(item)
                continue
            if loose:
                yield self._loose(loose)
                loose = []
            yield {
                "key": self.keys[str(item["linkId"])],
                "title": self.text(item, "text"),
                "shown_when": self.when(item),
                "items": list(self._items(self._list(item))),
            }
        if loose:
            yield self._loose(loose)

    def _loose(self, items: Sequence[Resource]) -> dict[str, Any]:
        key = self._key("page", "page")
        return {"key": key, "title": {}, "items": list(self._items(items))}

    def when(self, item: Resource) -> dict[str, Any] | None:
        condition = condition_of(item, self.keys, self.kinds, self.codes)
        if condition is None and item.get("enableWhen"):
            self.left.append(f"{item['linkId']}: the condition under which it is shown.")
        return condition

    def _items(
        self, items: Sequence[Resource], under: dict[str, Any] | None = None, deep: bool = False
    ) -> Iterator[dict[str, Any]]:
        """The items of a page, in a row; `under` is a condition that all of them need."""
        for item in items:
            kind = self.kinds[str(item["linkId"])]
            own = _both(under, self.when(item))
            if kind == "group" or (kind == "roster" and deep):
                self.left.append(f"{item['linkId']}: that its questions are a group.")
                yield from self._items(self._list(item), own, deep)
                continue
            if not kind:
                self.left.append(f"{item['linkId']}: items of the type {item.get('type')}.")
                continue
            yield self._item(item, kind, own)
            if kind != "roster":
                children = [one for one in self._list(item) if controlled(one) != "help"]
                answered = {"op": "answered", "item": self.keys[str(item["linkId"])]}
                yield from self._items(children, _both(own, answered), deep)

    def _item(self, item: Resource, kind: str, when: dict[str, Any] | None) -> dict[str, Any]:
        made: dict[str, Any] = {
            "kind": kind,
            "key": self.keys[str(item["linkId"])],
            "text": self.text(item, "text"),
            "shown_when": when,
        }
        if kind in ("note", "carried"):
            return made
        made["required"] = bool(item.get("required"))
        for one in self._list(item):
            if controlled(one) == "help":
                made["help"] = self.text(one, "text")
        members, left = members_of(item, kind, self)
        self.left += [f"{item['linkId']}: {what}." for what in left]
        made |= members
        if kind == "roster":
            inner = [one for one in self._list(item) if controlled(one) != "help"]
            made["items"] = list(self._items(inner, deep=True))
        return made


def _both(one: dict[str, Any] | None, other: dict[str, Any] | None) -> dict[str, Any] | None:
    if one is None or other is None:
        return one or other
    return {"op": "all", "parts": [one, other]}
