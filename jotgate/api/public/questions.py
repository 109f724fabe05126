"""An item as its page shows it: words in one language, limits as the browser needs them."""

from typing import Annotated, Literal

from pydantic import BaseModel, WithJsonSchema

from jotgate.core.answers.by_kind import RULES
from jotgate.core.answers.composites import countries, country_names
from jotgate.core.common.today import Today
from jotgate.core.common.values import Value, Values
from jotgate.core.entries.display import Reader
from jotgate.core.entries.said import Saying
from jotgate.core.formats.common_mark import formatted
from jotgate.core.items import KINDS, Carried, Grid, Item, Roster, inside, is_asked, options_of

SHOWN_KINDS = [kind for kind in KINDS if kind != "carried"]
"""The kinds that a page can show."""

QuestionKind = Annotated[str, WithJsonSchema({"type": "string", "enum": SHOWN_KINDS})]


class OptionOut(BaseModel):
    """`full` tells that no place of it is left."""

    code: str
    label: str
    alone: bool = False
    full: bool = False


class RowOut(BaseModel):
    """A row of a grid, which can be answered up to `repeats` times."""

    code: str
    label: str
    required: bool = False
    repeats: int = 1


class QuestionOut(BaseModel):
    """An item as its page shows it. What the kind does not have is left out.

    Numbers are decimal text, days, times of day and local moments ISO 8601. `like` completes
    "Write it …". `server` tells that only the server can check what is written. `items` are
    the columns of a grid, or what a new entry of a roster asks; `entries` what each entry of
    it asks, where they differ. `value` is what is computed, in words, or what is known already of
    a question that is `locked`: it cannot be answered otherwise.
    """

    kind: QuestionKind
    key: str
    text: str
    html: str = ""
    help: str = ""
    placeholder: str = ""
    required: bool = False
    shortest: int | None = None
    longest: int | None = None
    like: str = ""
    server: bool = False
    at_least: str | None = None
    at_most: str | None = None
    decimals: int | None = None
    step: str | None = None
    unit: str = ""
    earliest: str | None = None
    latest: str | None = None
    fewest: int | None = None
    most: int | None = None
    low_label: str = ""
    high_label: str = ""
    options: list[OptionOut] = []
    else_label: str = ""
    shuffled: bool = False
    look: Literal["list", "dropdown", "buttons"] = "list"
    parts: list[str] = []
    needed: list[str] = []
    largest: int | None = None
    kinds: list[str] = []
    types: list[str] = []
    rows: list[RowOut] = []
    totals: list[str] = []
    items: list["QuestionOut"] = []
    entries: list[list["QuestionOut"]] = []
    noun: str = ""
    title: str = ""
    media: str | None = None
    width: int | None = None
    height: int | None = None
    captions: str | None = None
    caption: str = ""
    error_text: str = ""
    span: Literal["full", "half", "third"] = "full"
    spoken: str = ""
    value: str = ""
    locked: bool = False


_OF_THE_MOMENT = frozenset({"date_time", "computed"})
"""The kinds that are shown as they are at the moment, or by answers."""


class QuestionPresenter:
    """Shows items in the reader's language, at one time, to somebody of whom `values` are known."""

    def __init__(self, reader: Reader, today: Today, values: Values | None = None) -> None:
        self.saying = Saying(reader, values or {})
        self.say = reader.say
        self._reader = reader
        self._today = today
        made, name = reader.plan.made, ("shown", reader.language)
        day, kept = made.get(name, (None, {}))
        if day != today.day:
            kept = {}
            made[name] = today.day, kept
        self._made: dict[str, QuestionOut] = kept

    def out(
        self,
        item: Item,
        value: Value | None = None,
        entries: tuple[tuple[Item, ...], ...] = (),
        locked: bool = False,
    ) -> QuestionOut:
        """`item`, with its computed or `locked` `value`; `entries` as in `NextPage.inside`.

        What an item of the edition is shown as on one day does not change, and is made once.
        """
        if locked and value is not None:
            text = self.saying.tell(item.text)
            out = QuestionOut(kind=_shown_kind(item), key=item.key, text=text)
            out.value, out.locked = self._reader.reads(item, value), True
            return out
        plan = self._reader.plan
        stands = plan.items.get(item.key) is item and item.key not in plan.speaking
        if not stands or value is not None or entries or item.kind in _OF_THE_MOMENT:
            return self._out(item, value, entries)
        known = self._made.get(item.key)
        if known is None:
            self._made[item.key] = known = self._out(item, None, ())
        return known

    def _out(
        self, item: Item, value: Value | None, entries: tuple[tuple[Item, ...], ...]
    ) -> QuestionOut:
        *there, fresh = entries or (inside(item),)
        text = self.say(item.text) if item.kind == "note" else self.saying.tell(item.text)
        out = QuestionOut(kind=_shown_kind(item), key=item.key, text=text)
        for name in _WORDS & set(type(item).model_fields):
            told = self.saying.tell if name in _SPOKEN else self.say
            setattr(out, name, told(getattr(item, name)))
        out.required = getattr(item, "required", False)
        if is_asked(item):
            out.span = getattr(item, "width", "full")
        for name, limit in RULES[item.kind].limits(item, self._today).items():
            setattr(out, name, limit)
        out.options = self._options(item)
        out.items = [self.out(one) for one in fresh]
        out.entries = [[self.out(one) for one in line] for line in there]
        self._special(out, item, value)
        return out

    def _options(self, item: Item) -> list[OptionOut]:
        if item.kind == "address" and "country" in item.parts:
            return self._countries(item.countries)
        return [
            OptionOut(code=o.code, label=self.saying.tell(o.label) or o.code, alone=o.alone)
            for o in options_of(item)
        ]

    def _countries(self, among: tuple[str, ...]) -> list[OptionOut]:
        names = country_names(self._reader.language)
        found = [OptionOut(code=code, label=names[code]) for code in among or countries()]
        return sorted(found, key=lambda option: option.label)

    def _special(self, out: QuestionOut, item: Item, value: Value | None) -> None:
        if item.kind == "phone" and not item.countries and not out.placeholder:
            out.placeholder = "+"
        if item.kind == "short_text" and item.pattern is not None:
            out.like = self.say(item.pattern.like)
        if item.kind == "note":
            out.html, out.text = self.saying.filled_html(formatted(out.text)), ""
        if isinstance(item, Grid):
            out.rows = [
                RowOut(
                    code=row.code,
                    label=self.say(row.label) or row.code,
                    required=row.required,
                    repeats=row.repeats,
                )
                for row in item.rows
            ]
        if KINDS[item.kind].read_back and value is not None:
            out.value = self._reader.reads(item, value)
        if isinstance(item, Roster) and not out.noun:
            out.noun = self._reader.noun(item)


def _shown_kind(item: Item) -> QuestionKind:
    """The kind as which a page shows `item`: a carried value that is asked for, as a question."""
    if isinstance(item, Carried):
        return "pick_one" if item.options else "short_text"
    return item.kind


_SPOKEN = frozenset({"help", "error_text", "caption"})
"""Those of the words beside a question that may speak of the visitor."""

_WORDS = frozenset(
    {
        "help",
        "placeholder",
        "unit",
        "low_label",
        "high_label",
        "else_label",
        "noun",
        "title",
        "caption",
        "error_text",
        "spoken",
    }
)
