"""What changed between two versions of a questionnaire, in words."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from jotgate.core.common.wording import Text, say
from jotgate.core.document.questionnaire import Finish, Page, Questionnaire
from jotgate.core.items import Item, inside, with_inside


@dataclass(frozen=True)
class Change:
    """`at` is a path of keys, as in a Fault; `says` is a sentence."""

    at: str
    says: str


_NAMES: Mapping[str, str] = {
    "help": "the help",
    "placeholder": "the example inside the field",
    "error_text": "the words when the answer will not do",
    "else_label": "something else",
    "low_label": "the words at the low end",
    "high_label": "the words at the high end",
    "at_least": "the least",
    "at_most": "the most",
    "required_when": "when it is required",
    "when_wrong": "what happens to a wrong value",
    "fewest": "the fewest",
    "most": "the most",
    "look": "the look",
    "needed": "the parts that are needed",
    "noun": "what one of them is called",
    "title": "the title of an entry",
    "media": "the file shown",
    "spoken": "what is said, in words",
}
_SWITCHES: Mapping[str, tuple[str, str]] = {
    "required": ("is required now", "is no longer required"),
    "restricted": ("is restricted now", "is no longer restricted"),
    "shuffled": ("is shuffled now", "is no longer shuffled"),
    "visible": ("is shown to the respondent now", "is no longer shown to the respondent"),
}
_LOOK: Mapping[str, str] = {
    "accent": "The accent colour",
    "picture": "The picture",
    "progress": "Whether progress is shown",
    "one_by_one": "Whether the questions are asked one by one",
    "width": "How wide the page is",
}
_LOOK_WORDS: Mapping[str, str] = {
    "introduction": "The introduction",
    "onward": "The button to the next page",
    "back": "The button to the page before",
    "send": "The button at the end",
}
_PARTED = frozenset(
    {"kind", "key", "text", "shown_when", "options", "rows", "items", "columns", "banked"}
)
_LONGEST = 80


def changes(before: Questionnaire, after: Questionnaire) -> tuple[Change, ...]:
    """Every change from `before` to `after`, in the order of `after`, what is gone first."""
    return tuple(_Comparison(before, after).all())


def _short(words: str) -> str:
    flat = " ".join(words.split())
    return f'"{flat if len(flat) <= _LONGEST else flat[: _LONGEST - 1] + "…"}"'


class _Comparison:
    def __init__(self, before: Questionnaire, after: Questionnaire) -> None:
        self.before, self.after = before, after
        self.first = after.first_language
        self._places = [
            {item.key: page for page in one.pages for item in with_inside(page.items)}
            for one in (before, after)
        ]

    def all(self) -> Iterator[Change]:
        yield from self._whole()
        yield from self._named("page", self.before.pages, self.after.pages)
        yield from self._gone()
        old = {item.key: item for item in with_inside(tuple(self.before.items()))}
        pages = {page.key: page for page in self.before.pages}
        for page in self.after.pages:
            yield from self._page(pages.get(page.key), page, old)
        yield from self._named("finish", self.before.finishes, self.after.finishes)
        finishes = {one.key: one for one in self.before.finishes}
        for finish in self.after.finishes:
            if finish.key in finishes:
                yield from self._finish(finishes[finish.key], finish)

    def _words(self, text: Text) -> str:
        return _short(say(text, self.first, self.first))

    def _text(self, at: str, what: str, old: Text, new: Text) -> Iterator[Change]:
        """A text in the first language, then its translations, which are told by language."""
        if old.get(self.first, "") != new.get(self.first, ""):
            yield Change(at, f"{what}: {self._words(old)} became {self._words(new)}.")
        languages = [
            language
            for language in self.after.languages
            if language != self.first and old.get(language, "") != new.get(language, "")
        ]
        if languages:
            yield Change(at, f"{what}: the translation changed ({', '.join(languages)}).")

    def _whole(self) -> Iterator[Change]:
        yield from self._text("title", "The title", self.before.title, self.after.title)
        if self.before.languages != self.after.languages:
            yield Change("languages", f"The languages are {', '.join(self.after.languages)} now.")
        if self.before.time_zone != self.after.time_zone:
            yield Change("time_zone", f"The time zone is {self.after.time_zone} now.")

        yield from self._look()
        yield from self._saved()

    def _look(self) -> Iterator[Change]:
        old, new = self.before.look, self.after.look
        for name, what in _LOOK_WORDS.items():
            yield from self._text("look", what, getattr(old, name), getattr(new, name))
        for name, what in _LOOK.items():
            if getattr(old, name) != getattr(new, name):
                yield Change("look", f"{what} changed.")

    def _named(
        self, noun: str, old: Sequence[Page | Finish], new: Sequence[Page | Finish]
    ) -> Iterator[Change]:
        """Pages or finishes that are gone, new, or in another order."""
        known, kept = {one.key for one in old}, {one.key for one in new}
        plural = f"{noun}es" if noun == "finish" else f"{noun}s"
        for one in old:
            if one.key not in kept:
                at = f"{plural}/{one.key}"
                yield Change(at, f"The {noun} {self._words(one.title)} is gone.")
        for one in new:
            if one.key not in known:
                at = f"{plural}/{one.key}"
                yield Change(at, f"The {noun} {self._words(one.title)} is new.")
        if [one.key for one in old if one.key in kept] != [
            one.key for one in new if one.key in known
        ]:
            yield Change(plural, f"The {plural} are in another order.")

    def _gone(self) -> Iterator[Change]:
        kept = self._places[1]
        for page in self.before.pages:
            for item in with_inside(page.items):
                if item.key not in kept:
                    at = f"pages/{page.key}/items/{item.key}"
                    yield Change(at, f"{item.key} is gone: {self._words(item.text)}.")

    def _page(self, old: Page | None, page: Page, known: Mapping[str, Item]) -> Iterator[Change]:
        at = f"pages/{page.key}"
        name = f"Page {self._words(page.title)}"
        if old:
            yield from self._text(at, "The heading of a page", old.title, page.title)
            yield from self._condition(at, name, old, page)
            for member, noun in (("skips", "skip rules"), ("checks", "checks across answers")):
                if getattr(old, member) != getattr(page, member):
                    yield Change(at, f"{name}: the {noun} changed.")
        for item in page.items:
            yield from self._item(f"{at}/items/{item.key}", page, known.get(item.key), item, known)
        if old and _moved([one.key for one in old.items], [one.key for one in page.items]):
            yield Change(at, f"{name}: the questions are in another order.")

    def _condition(self, at: str, name: str, old: Any, new: Any) -> Iterator[Change]:
        if old.shown_when == new.shown_when:
            return
        if new.shown_when is None:
            yield Change(at, f"{name} is shown always now.")
        elif old.shown_when is None:
            yield Change(at, f"{name} is shown under a condition now.")
        else:
            yield Change(at, f"{name} is shown under another condition.")

    def _item(
        self, at: str, page: Page, old: Item | None, item: Item, known: Mapping[str, Item]
    ) -> Iterator[Change]:
        if old is None:
            yield Change(at, f"{item.key} is new: {self._words(item.text)}.")
            return
        before = self._places[0][item.key]
        if before.key != page.key:
            yield Change(at, f"{item.key} moved to the page {self._words(page.title)}.")
        yield from self._text(at, item.key, old.text, item.text)
        yield from self._condition(at, item.key, old, item)
        if old.kind != item.kind:
            kinds = (one.kind.replace("_", " ") for one in (old, item))
            yield Change(at, f"{item.key} was {next(kinds)} and is {next(kinds)} now.")
        yield from self._members(at, old, item)
        yield from self._coded(at, item.key, old, item)
        for one in inside(item):
            yield from self._item(f"{at}/items/{one.key}", page, known.get(one.key), one, known)

    def _members(self, at: str, old: Item, item: Item) -> Iterator[Change]:
        """What both kinds have, and every other thing that can be set."""
        for name in type(item).model_fields:
            if name in _PARTED or name not in type(old).model_fields:
                continue
            was, now = getattr(old, name), getattr(item, name)
            if was == now:
                continue
            if name in _SWITCHES:
                yield Change(at, f"{item.key} {_SWITCHES[name][0 if now else 1]}.")
            elif isinstance(now, dict):
                what = f"{item.key}, {_NAMES.get(name, name.replace('_', ' '))}"
                yield from self._text(at, what, was, now)
            else:
                what = _NAMES.get(name, f"the {name.replace('_', ' ')}")
                yield Change(at, f"{item.key}: {what} {_from_to(was, now)}.")

    def _coded(self, at: str, key: str, old: Item, item: Item) -> Iterator[Change]:
        """Options and rows: new, gone, reworded, moved."""
        for member, noun in (("options", "option"), ("rows", "row")):
            if not hasattr(old, member) or not hasattr(item, member):
                continue
            was = {one.code: one for one in getattr(old, member)}
            now = {one.code: one for one in getattr(item, member)}
            for code in was:
                if code not in now:
                    words = self._words(was[code].label)
                    yield Change(at, f"{key}: the {noun} {words} is gone.")
            for code, one in now.items():
                if code not in was:
                    yield Change(at, f"{key}: the {noun} {self._words(one.label)} is new.")
                    continue
                lead = f"{key}, {noun} {code}"
                yield from self._text(at, lead, was[code].label, one.label)
                rest = {"label": one.label}
                if was[code].model_copy(update=rest) != one:
                    yield Change(at, f"{lead}: how it is offered changed.")
            if _moved(list(was), list(now)):
                yield Change(at, f"{key}: the {noun}s are in another order.")

    def _finish(self, old: Finish, finish: Finish) -> Iterator[Change]:
        at = f"finishes/{finish.key}"
        yield from self._text(at, "The heading of a finish", old.title, finish.title)
        yield from self._text(at, "The message of a finish", old.message, finish.message)
        if old.link != finish.link:
            yield Change(at, f"The link onward of {self._words(finish.title)} changed.")
        if old.sets != finish.sets:
            yield Change(at, f"The values that {self._words(finish.title)} sets changed.")

    def _saved(self) -> Iterator[Change]:
        was = {one.key: one for one in self.before.saved}
        now = {one.key: one for one in self.after.saved}
        for key, one in {**was, **now}.items():
            if was.get(key) == now.get(key):
                continue
            became = "is new" if key not in was else "changed" if key in now else "is gone"
            yield Change(f"saved/{key}", f"The saved condition {_short(one.name)} {became}.")


def _from_to(was: Any, now: Any) -> str:
    plain = (str, int, bool)
    simple = all(
        one is None or isinstance(one, plain) or hasattr(one, "normalize") for one in (was, now)
    )
    if not simple:
        return "changed"
    if was is None:
        return f"is {now} now"
    return "is not set any more" if now is None else f"was {was} and is {now} now"


def _moved(was: list[str], now: list[str]) -> bool:
    return [one for one in was if one in now] != [one for one in now if one in was]
