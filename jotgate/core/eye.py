"""What a visitor's browser can learn: looked for in what it was really sent."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from jotgate.core.entries.display import Reader
from jotgate.core.items import Carried, Item, options_of
from jotgate.core.items.staff_names import staff_name
from jotgate.core.walking.plan import Plan
from jotgate.core.walking.prefill import Filled

SHORTEST = 3
"""Characters that a word must have to be looked for: shorter ones stand in any page."""


@dataclass(frozen=True)
class Received:
    """One response as it came: what was asked for, its headers, its body."""

    what: str
    headers: Sequence[tuple[str, str]]
    body: str


@dataclass(frozen=True)
class Learned:
    """One value that arrived with the visitor. `read` names the first response in which it was
    found, empty where it was in none; `unsure` that it is too short to be looked for. `leaks` tells
    that it is sealed, was found, and its author did not say that texts may tell it."""

    key: str
    name: str
    words: str
    sealed: bool
    read: str
    changes: bool
    unsure: bool
    leaks: bool


@dataclass(frozen=True)
class Report:
    """`hidden_options` are by carried value the options that were not sent; `hidden_pages` the
    titles of the pages of which nothing was. `address` are the names of what stands in the address,
    `cookies` what was set, `referrer` tells that pages that are gone to next learn the address.
    `responses` counts what was looked through."""

    learned: tuple[Learned, ...]
    hidden_options: Mapping[str, tuple[str, ...]]
    hidden_pages: tuple[str, ...]
    seen_pages: tuple[str, ...]
    address: tuple[str, ...]
    cookies: tuple[str, ...]
    referrer: bool
    responses: int

    @property
    def leaks(self) -> bool:
        return any(one.leaks for one in self.learned)


def report(
    plan: Plan, filled: Filled, given: Iterable[tuple[str, str]], received: Sequence[Received]
) -> Report:
    """What can be learned from `received`; `given` stands in the address."""
    names = tuple(dict.fromkeys(name for name, _ in given))
    keys = {name.partition(".")[0] for name in names}
    found = _Looking(received)
    first = plan.questionnaire.first_language
    learned = [
        _learned(plan, item, filled, keys, found)
        for item in plan.questionnaire.items()
        if item.key in filled.carried or item.key in filled.answers or item.key in filled.locked
    ]
    hidden = {
        staff_name(item, first): labels
        for item in plan.carried
        if (labels := _hidden_options(plan, item, found))
    }
    pages = plan.questionnaire.pages
    seen = [page for page in pages if found.page(page.items)]
    return Report(
        learned=tuple(learned),
        hidden_options=hidden,
        hidden_pages=tuple(_title(plan, page.title) for page in pages if page not in seen),
        seen_pages=tuple(_title(plan, page.title) for page in seen),
        address=names,
        cookies=tuple(found.headers("set-cookie")),
        referrer=any("no-referrer" not in one for one in found.headers("referrer-policy")),
        responses=len(received),
    )


def _title(plan: Plan, text: Mapping[str, str]) -> str:
    return Reader(plan).say(text)


def _learned(
    plan: Plan, item: Item, filled: Filled, in_address: set[str], found: "_Looking"
) -> Learned:
    raw = filled.carried.get(item.key, filled.locked.get(item.key, filled.answers.get(item.key)))
    reader = Reader(plan)
    texts = _texts(item, raw)
    carried = item if isinstance(item, Carried) else None
    read = next((where for text in texts if (where := found.where(text))), "")
    sealed = carried is not None and carried.sealed
    return Learned(
        key=item.key,
        name=staff_name(item, plan.questionnaire.first_language),
        words=reader.reads(item, raw) if carried and raw is not None else ", ".join(texts),
        sealed=sealed,
        read="the address" if item.key in in_address and not sealed else read,
        changes=item.key in filled.answers or (item.key in in_address and not sealed),
        unsure=not any(len(text) >= SHORTEST for text in texts),
        leaks=sealed and bool(read) and not (carried and carried.told),
    )


def _texts(item: Item, raw: object) -> list[str]:
    """Everything by which a value could be told: its text, the code and the labels of an option."""
    parts = raw.values() if isinstance(raw, Mapping) else raw if isinstance(raw, list) else [raw]
    found = [str(one) for one in parts if one is not None and not isinstance(one, bool)]
    for option in options_of(item):
        if option.code in found:
            found += [label for label in option.label.values() if label]
    return list(dict.fromkeys(found))


def _hidden_options(plan: Plan, item: Carried, found: "_Looking") -> tuple[str, ...]:
    return tuple(
        _title(plan, option.label) or option.code
        for option in item.options
        if not any(found.where(text) for text in (option.code, *option.label.values()))
    )


class _Looking:
    """Looks words up in everything that was received, letter case ignored."""

    def __init__(self, received: Sequence[Received]) -> None:
        self._received = received
        told = ("\n".join(f"{name}: {value}" for name, value in one.headers) for one in received)
        self._texts = [
            (one.what, f"{head}\n{one.body}".casefold())
            for one, head in zip(received, told, strict=True)
        ]

    def where(self, text: str) -> str:
        """The first response that has `text` in it; empty where none has, or it is too short."""
        if len(text.strip()) < SHORTEST:
            return ""
        forms = {text.casefold(), _escaped(text).casefold()}
        return next((what for what, body in self._texts if any(form in body for form in forms)), "")

    def page(self, items: Sequence[Item]) -> bool:
        """Whether any of these items was sent, by its key."""
        names = [f'"key":"{item.key}"' for item in items]
        return any(name in body for name in names for _, body in self._texts)

    def headers(self, name: str) -> list[str]:
        return [value for one in self._received for header, value in one.headers if header == name]


def _escaped(text: str) -> str:
    """As JSON and HTML write it."""
    return text.replace("&", "&amp;").replace("<", "&lt;").replace('"', '\\"')
