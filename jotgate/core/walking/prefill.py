"""Values that arrive with a visitor: carried values, and answers filled in beforehand.

Values go by key, those of the parts of a name or address by `key.part`. For options a label or a
code will do, letter case ignored; other words are something else where that is offered. Unknown
keys are ignored; a value that fails its item's checks is not filled in and the visitor is asked; a
carried value that fails is refused, asked for or flagged, as its item says.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from decimal import Decimal

from jotgate.core.answers.checks import check
from jotgate.core.answers.failures import CheckFailed, FailedInside
from jotgate.core.answers.rules import Raw
from jotgate.core.common.decimals import plain
from jotgate.core.common.errors import LinkRefused
from jotgate.core.common.today import Today
from jotgate.core.common.values import ELSE, Value, Values
from jotgate.core.items import IN_PARTS, Carried, Item, YesNo, is_asked, options_of
from jotgate.core.items.carried import (
    Constant,
    FromClaim,
    FromContact,
    FromEdition,
    FromHandOff,
    FromLink,
    FromMoment,
    FromPage,
    FromPass,
    Source,
)
from jotgate.core.items.kinds import BY_LINK, OFFERING, kinds_that_hold
from jotgate.core.walking.arrival import NOTHING_KNOWN, Arrival
from jotgate.core.walking.plan import Plan

LONGEST_VALUE = 2000
"""Characters of one value that are looked at; a longer one fails."""

_YES = frozenset({"yes", "true", "1"})
_NO = frozenset({"no", "false", "0"})


@dataclass(frozen=True)
class Filled:
    """What a visitor brings: accepted carried values and facts, answers filled in, the keys of
    carried values that failed. Answers in `locked` cannot be changed by the visitor."""

    carried: Values
    answers: Mapping[str, Raw]
    flags: tuple[str, ...]
    locked: Mapping[str, Raw] = field(default_factory=dict)


_MANY = kinds_that_hold("picks", "order")

_Given = Mapping[str, list[tuple[str, str]]]
"""Key -> the values given for it, each with the part that it is for."""


def read_arrival(
    plan: Plan,
    pairs: Iterable[tuple[str, str]],
    today: Today,
    arrival: Arrival = NOTHING_KNOWN,
    edition: int = 1,
) -> Filled:
    """What a visitor brings, by an address with these parameters and otherwise. Raises LinkRefused.

    Of several values of one key all count where many are picked, else the first. `edition` is the
    one that is answered, `today` the time where the questionnaire is at home.
    """
    return _Reading(plan, pairs, today, arrival, edition).filled()


class _Reading:
    def __init__(
        self,
        plan: Plan,
        pairs: Iterable[tuple[str, str]],
        today: Today,
        arrival: Arrival,
        edition: int,
    ) -> None:
        self.plan, self.today, self.arrival, self.edition = plan, today, arrival, edition
        self.link = _by_key(plan, pairs)
        self.given = _by_key(plan, arrival.values)
        self.handed = _by_key(plan, arrival.handed)
        self.carried: dict[str, Value] = {
            f"{kind}.{name}": text
            for kind, facts in (("contact", arrival.contact), ("claim", arrival.claims))
            for name, text in facts.items()
            if text
        }
        self.answers: dict[str, Raw] = {}
        self.locked: dict[str, Raw] = {}
        self.flags: list[str] = []

    def filled(self) -> Filled:
        for item in self.plan.carried:
            self._carry(item)
        for key in {**self.handed, **self.given, **self.link}:
            asked = self.plan.items[key]
            if not isinstance(asked, Carried):
                self._fill(asked, self.handed.get(key) or self.given.get(key) or self.link[key])
        return Filled(self.carried, self.answers, tuple(self.flags), self.locked)

    def _carry(self, item: Carried) -> None:
        found = (self._from(source, item.key) for source in item.sources)
        texts = next((one for one in found if one), None)
        value = None
        try:
            value = check(item, raw_of(item, texts), self.today) if texts else None
        except CheckFailed:
            self._refuse_or_flag(item)
        else:
            if value is None and item.required and not item.can_be_asked:
                self._refuse_or_flag(item)
        if value is not None:
            (self.answers if item.shown == "changeable" else self.carried)[item.key] = value

    def _from(self, source: Source, key: str) -> list[tuple[str, str]] | None:
        match source:
            case FromLink():
                return self.given.get(key) or self.link.get(key)
            case FromPass():
                return self.given.get(key)
            case FromHandOff():
                return self.handed.get(key)
        text = self._text_from(source)
        return [("", text)] if text else None

    def _text_from(self, source: Source) -> str:
        match source:
            case FromContact():
                return self.arrival.contact.get(source.field, "")
            case FromClaim():
                return self.arrival.claims.get(source.claim, "")
            case FromPage():
                return self.arrival.page
            case FromMoment():
                return self.arrival.moment or self.today.now.isoformat(timespec="minutes")
            case FromEdition():
                return str(self.edition)
            case Constant():
                return source.value
        return ""

    def _fill(self, item: Item, texts: list[tuple[str, str]]) -> None:
        try:
            raw = raw_of(item, texts)
            value = check(item, raw, self.today)
        except (CheckFailed, FailedInside):
            return
        if value is None:
            return
        raw = plain(value) if isinstance(value, Decimal) else raw
        lockable = item.kind not in OFFERING or not getattr(item, "varies", False)
        locked = item.key in self.arrival.locked and lockable
        (self.locked if locked else self.answers)[item.key] = raw

    def _refuse_or_flag(self, item: Carried) -> None:
        if item.when_wrong == "refuse":
            raise LinkRefused(
                "This link is not complete or was changed. Ask whoever sent it for a new one.",
                key=item.key,
            )
        if item.when_wrong == "flag":
            self.flags.append(item.key)


def _by_key(plan: Plan, pairs: Iterable[tuple[str, str]]) -> _Given:
    given: dict[str, list[tuple[str, str]]] = {}
    for name, text in pairs:
        key, _, part = name.partition(".")
        item = plan.items.get(key)
        if item is None or key in plan.owners or item.kind not in BY_LINK:
            continue
        if bool(part) is (item.kind in IN_PARTS) and (is_asked(item) or item.kind == "carried"):
            given.setdefault(key, []).append((part, text))
    return given


def raw_of(item: Item, given: list[tuple[str, str]]) -> Raw:
    """Given values as the answer that a respondent would have sent. Raises CheckFailed."""
    if item.kind in IN_PARTS:
        return {part: _trimmed(text) for part, text in reversed(given)}
    if item.kind in _MANY:
        return [as_raw(item, text) for _, text in given]
    return as_raw(item, given[0][1])


def _trimmed(text: str) -> str:
    if len(text) > LONGEST_VALUE:
        raise CheckFailed("too_long", limit=LONGEST_VALUE, length=len(text))
    return text.strip()


def as_raw(item: Item, text: str) -> Raw:
    """The text of one value as the answer that a respondent would have sent."""
    text = _trimmed(text)
    folded = text.casefold()
    if isinstance(item, YesNo):
        if folded in _YES or folded in _NO:
            return folded in _YES
        raise CheckFailed("wrong_kind")
    for option in options_of(item):
        names = {option.code, *option.label.values()}
        if folded in {name.strip().casefold() for name in names}:
            return option.code
    return {ELSE: text} if text and getattr(item, "else_label", None) else text
