"""What a page says of the gate: when it shuts, what is held, which options are full."""

from collections.abc import Iterator, Sequence
from datetime import datetime, timedelta

from pydantic import BaseModel

from jotgate.api.public.questions import QuestionOut
from jotgate.core.common.formatting import clock, moment
from jotgate.core.common.values import Values
from jotgate.core.gate.places import full_codes
from jotgate.core.items import Item
from jotgate.core.words import page as page_words
from jotgate.services.public.entering import Visit

WARNED = timedelta(hours=1)
"""How long before it shuts people are told."""

AHEAD = timedelta(days=1)
"""How long before, the page knows of it: it may stay open as long as that."""


class GateNoticeOut(BaseModel):
    """What is said beside a page from one moment to another; `until` is null for as long as one
    answers."""

    since: datetime
    until: datetime | None = None
    says: str


def notices_of(visitor: Visit) -> list[GateNoticeOut]:
    """What the page has to say of the gate while it is open, by the clock."""
    return [*_of_times(visitor), *_of_hold(visitor)]


def _of_times(visitor: Visit) -> Iterator[GateNoticeOut]:
    found, now = visitor.decision, visitor.today.now
    words, zone = page_words(visitor.language), visitor.today.zone

    def at(then: datetime) -> str:
        return moment(then, visitor.language, zone)

    if found.in_grace and found.until:
        says = words["in_grace"].format(until=at(found.until))
        yield GateNoticeOut(since=found.until - AHEAD, says=says)
    elif found.shuts and found.until and found.shuts - now < AHEAD:
        graced = found.until > found.shuts
        says = words["shuts_until" if graced else "shuts_at"]
        says = says.format(time=at(found.shuts), until=at(found.until))
        yield GateNoticeOut(since=found.shuts - WARNED, until=found.shuts, says=says)
        if graced:
            says = words["in_grace"].format(until=at(found.until))
            yield GateNoticeOut(since=found.shuts, says=says)


def _of_hold(visitor: Visit) -> Iterator[GateNoticeOut]:
    until = visitor.held_until
    if until is None:
        return
    words = page_words(visitor.language)
    says = words["place_held"].format(time=clock(until.astimezone(visitor.today.zone)))
    yield GateNoticeOut(since=visitor.today.now - AHEAD, until=until, says=says)
    yield GateNoticeOut(since=until, says=words["place_let_go"])


def with_places(visitor: Visit, kept: Values, key: str, out: QuestionOut) -> QuestionOut:
    """A question with its options shown as full, or left out, where no place of them is left."""
    found = visitor.state
    for places in found.gate.places if found and out.options else ():
        if key not in places.by:
            continue
        codes = [option.code for option in out.options]
        full = full_codes(places, key, codes, kept, visitor.counts, visitor.own)
        if not full:
            continue
        options = [
            option.model_copy(update={"full": True}) if option.code in full else option
            for option in out.options
            if option.code not in full or places.full == "shown"
        ]
        out = out.model_copy(update={"options": options})
    return out


def dividing(visitor: Visit, shown: Sequence[Item]) -> frozenset[str]:
    """The questions of a page whose answers can make options of others full."""
    found = visitor.state
    return frozenset(
        item.key
        for places in (found.gate.places if found else ())
        for item in shown
        if (len(places.by) > 1 and item.key in places.by) or item.key == places.amount
    )
