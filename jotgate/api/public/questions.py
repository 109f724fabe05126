"""An item as its page shows it: words in one language, limits as the browser needs them."""

from datetime import date
from typing import Literal

from pydantic import BaseModel

from jotgate.core.dates import bound
from jotgate.core.items import (
    Date,
    LongText,
    Note,
    Number,
    Phone,
    PickMany,
    Question,
    Scale,
    ShortText,
    Time,
    options_of,
)
from jotgate.core.wording import say

QuestionKind = Literal[
    "short_text",
    "long_text",
    "email",
    "phone",
    "web_address",
    "number",
    "date",
    "time",
    "yes_no",
    "pick_one",
    "pick_many",
    "scale",
    "note",
]


class OptionOut(BaseModel):
    code: str
    label: str
    alone: bool = False


class QuestionOut(BaseModel):
    """An item as its page shows it. What the kind does not have is None.

    Numbers are decimal text, days and times of day ISO 8601. `like` completes "Write it …".
    """

    kind: QuestionKind
    key: str
    text: str
    help: str = ""
    placeholder: str = ""
    required: bool = False
    shortest: int | None = None
    longest: int | None = None
    like: str = ""
    at_least: str | None = None
    at_most: str | None = None
    decimals: int | None = None
    earliest: str | None = None
    latest: str | None = None
    fewest: int | None = None
    most: int | None = None
    low_label: str = ""
    high_label: str = ""
    options: list[OptionOut] = []


def question_out(item: Question | Note, language: str, today: date) -> QuestionOut:
    out = QuestionOut.model_construct(
        kind=item.kind,
        key=item.key,
        text=say(item.text, language, language),
        options=[
            OptionOut(code=o.code, label=say(o.label, language, language), alone=o.alone)
            for o in options_of(item)
        ],
    )
    if isinstance(item, Question):
        out.help = say(item.help, language, language)
        out.required = item.required
        out.placeholder = say(getattr(item, "placeholder", {}), language, language)
        _limits(out, item, language, today)
    return out


def _limits(out: QuestionOut, item: Question, language: str, today: date) -> None:
    match item:
        case ShortText():
            out.shortest, out.longest = item.shortest, item.longest
            out.like = say(item.pattern.like, language, language) if item.pattern else ""
        case LongText():
            out.shortest, out.longest = item.shortest, item.longest
        case Number():
            out.at_least = None if item.at_least is None else str(item.at_least)
            out.at_most = None if item.at_most is None else str(item.at_most)
            out.decimals = item.decimals
        case Date():
            out.earliest, out.latest = _day(item.earliest, today), _day(item.latest, today)
        case Time():
            out.earliest, out.latest = item.earliest, item.latest
        case PickMany():
            out.fewest, out.most = item.fewest, item.most
        case Scale():
            out.at_least, out.at_most = str(item.low), str(item.high)
            out.low_label = say(item.low_label, language, language)
            out.high_label = say(item.high_label, language, language)
        case Phone():
            out.placeholder = out.placeholder or ("" if item.countries else "+")


def _day(edge: str | None, today: date) -> str | None:
    found = bound(edge, today) if edge else None
    return found.isoformat() if found else None
