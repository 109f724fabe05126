"""What somebody reads who is not let in: the words of the questionnaire, or ours."""

from dataclasses import dataclass
from zoneinfo import ZoneInfo

from jotgate.core.common.formatting import moment
from jotgate.core.common.wording import fill, say
from jotgate.core.gate.decision import Visitor, Why
from jotgate.core.gate.settings import Gate, Reason
from jotgate.core.words import gate as own_words

SLOTS = ("opens", "ask", "place")
"""What words of a gate may name: when it opens, whom to ask, the place on the waiting list."""


@dataclass(frozen=True)
class Told:
    heading: str
    detail: str


def default_words(reason: Reason, language: str) -> str:
    """Our own words for a reason, with slots where it has some."""
    return own_words(language)[f"{reason}_detail"].replace("{ahead}", "{place}")


def told(
    gate: Gate, why: Why, visitor: Visitor, language: str, first: str, zone: str, ask: str
) -> Told:
    """Why somebody is not let in, in `language`; `zone` is the questionnaire's, `ask` whom to ask.

    The heading is always ours, so that no reason is taken for another one.
    """
    ours = own_words(language)
    opens = moment(why.until, language, ZoneInfo(zone)) if why.until else ""
    name = "unconfirmed" if _could_confirm(gate, why, visitor) else why.reason
    written = say(gate.words.get(why.reason), language, first)
    if written:
        place = str(visitor.waits) if visitor.waits else ""
        detail = fill(written, {"opens": opens, "ask": ask, "place": place})
    else:
        detail = _detail(name, why, visitor, language)
        detail = detail.format(opens=opens, ahead=(visitor.waits or 1) - 1)
    return Told(ours[f"{name}_heading"], detail)


def _could_confirm(gate: Gate, why: Why, visitor: Visitor) -> bool:
    """Whether they are invited once they confirmed a mail address."""
    is_for = any(one.kind == "mail" for one in gate.audience)
    return why.reason == "not_invited" and is_for and not visitor.mail


def _detail(name: str, why: Why, visitor: Visitor, language: str) -> str:
    ours = own_words(language)
    if why.reason == "waiting" and visitor.waits == 1:
        return ours["waiting_first"]
    detail = ours[f"{name}_detail"]
    if why.reason == "answered" and why.until:
        return f"{detail} {ours['answered_again']}"
    return detail
