"""What is set for a gate: its state, opening times, places, limits per person, and its words."""

from datetime import date, datetime
from typing import Annotated, Literal, Self

from pydantic import AfterValidator, AwareDatetime, Field, StringConstraints, model_validator

from jotgate.core.common.part import Key, Part
from jotgate.core.common.wording import Text
from jotgate.core.gate.people import PerPerson, Robots, Who
from jotgate.core.office import Address

Reason = Literal[
    "shut",
    "held",
    "not_yet",
    "over",
    "opted_out",
    "not_invited",
    "answered",
    "waiting",
    "full",
    "gone",
]
"""Why somebody is not let in, in the order in which reasons are given. `not_yet` opens again,
`over` does not; `gone` is a place that somebody else took while this visitor answered."""

State = Literal["open", "shut", "held"]

LONGEST_CLOCK = 24 * 60


def _local(written: str) -> str:
    """A moment as the clock on the wall shows it."""
    try:
        found = datetime.fromisoformat(written)
    except ValueError:
        raise ValueError("write a day and a time, such as 2026-11-30T18:00") from None
    if found.tzinfo is not None or not 1970 < found.year < 2200:
        raise ValueError("write a day and a time without a zone, between 1971 and 2199")
    return found.isoformat(timespec="minutes")


def _minutes(written: str) -> str:
    hours, minutes = map(int, written.split(":"))
    if hours * 60 + minutes > LONGEST_CLOCK:
        raise ValueError("there is no such time of day")
    return written


LocalMoment = Annotated[str, StringConstraints(max_length=30), AfterValidator(_local)]
"""A day and a time in the questionnaire's time zone, such as `2026-11-30T18:00`."""

TimeOfDay = Annotated[
    str, StringConstraints(pattern=r"^[0-2]\d:[0-5]\d$"), AfterValidator(_minutes)
]
"""`09:30`; `24:00` is the end of the day."""


class Window(Part):
    """Open from one moment to another; without one of them there is no such bound."""

    opens: LocalMoment | None = None
    shuts: LocalMoment | None = None

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.opens is None and self.shuts is None:
            raise ValueError("say when it opens or when it shuts")
        if self.opens and self.shuts and self.opens >= self.shuts:
            raise ValueError("it has to shut after it opens")
        return self


class Hours(Part):
    """Open on these days of the week (1 is Monday, ISO 8601) between two times of day; where the
    second is not after the first it is one of the day after."""

    days: tuple[Annotated[int, Field(ge=1, le=7)], ...] = Field(min_length=1, max_length=7)
    opens: TimeOfDay
    shuts: TimeOfDay


class DayOff(Part):
    """Shut on this day, whatever its hours are."""

    on: date
    note: Annotated[str, StringConstraints(max_length=200)] = ""


class Times(Part):
    """Opening times in the questionnaire's time zone. Open where a window, hours of the week and no
    day off say so; without any window or hours those say nothing."""

    windows: tuple[Window, ...] = Field((), max_length=50)
    hours: tuple[Hours, ...] = Field((), max_length=50)
    days_off: tuple[DayOff, ...] = Field((), max_length=400)

    @property
    def say_nothing(self) -> bool:
        return not (self.windows or self.hours or self.days_off)


class Limit(Part):
    """How many places there are for one combination of values."""

    values: tuple[Annotated[str, StringConstraints(max_length=200)], ...]
    most: Annotated[int, Field(ge=0, le=1_000_000_000)]


class Places(Part):
    """Places that are counted together.

    `by` are the questions or carried values whose answers divide them, none for places in all.
    `most` holds for each combination that has no limit of its own; None is no limit. Counted are
    entries, or, with `amount`, the number that is answered there. Options without a place left are
    shown as full, or left out (`full`).
    """

    key: Key
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=100)]
    by: tuple[Key, ...] = Field((), max_length=3)
    most: Annotated[int, Field(ge=0, le=1_000_000_000)] | None = None
    limits: tuple[Limit, ...] = Field((), max_length=1_000)
    amount: Key | None = None
    full: Literal["shown", "left_out"] = "shown"

    @model_validator(mode="after")
    def _fits(self) -> Self:
        if len(set(self.by)) != len(self.by):
            raise ValueError("each question can divide the places once")
        if any(len(one.values) != len(self.by) for one in self.limits):
            raise ValueError("a limit names one value of each question that divides the places")
        if len({one.values for one in self.limits}) != len(self.limits):
            raise ValueError("there are two limits for the same values")
        if not self.by and self.most is None:
            raise ValueError("say how many places there are")
        return self


class Waiting(Part):
    """Whether there is a waiting list, and for how many hours a place that came free is kept for
    whoever is next."""

    on: bool = False
    hours: Annotated[int, Field(ge=1, le=24 * 60)] = 48


class Gate(Part):
    """The gate of one questionnaire.

    `since` is when its state was changed last, `note` is why, for staff. `grace` are the minutes in
    which people who had begun may still send after it shut. `hold` are the minutes for which a
    place is kept for somebody who answers. Letters go out when few places are `low` or less, or it
    shut by itself, where `tell` has addresses. Entries with a status of `freed_by` take no places.
    """

    state: State
    since: AwareDatetime | None = None
    note: Annotated[str, StringConstraints(max_length=500)] = ""
    times: Times = Times()
    grace: Annotated[int, Field(ge=0, le=24 * 60)] = 0
    places: tuple[Places, ...] = Field((), max_length=20)
    hold: Annotated[int, Field(ge=0, le=24 * 60)] = 0
    freed_by: tuple[Key, ...] = Field((), max_length=30)
    waiting: Waiting = Waiting()
    per_person: PerPerson | None = None
    audience: tuple[Who, ...] = Field((), max_length=20)
    robots: Robots = Robots()
    tell: tuple[Address, ...] = Field((), max_length=20)
    low: Annotated[int, Field(ge=0, le=1_000_000)] = 0
    words: dict[Reason, Text] = {}

    @model_validator(mode="after")
    def _keys_differ(self) -> Self:
        if len({one.key for one in self.places}) != len(self.places):
            raise ValueError("two kinds of places have the same key")
        return self

    @property
    def lets_anybody_in(self) -> bool:
        """Whether nobody is refused before places and people are counted."""
        return self.state == "open" and self.times.say_nothing and not self.audience

    @property
    def statuses(self) -> frozenset[str]:
        """The statuses of entries that it names."""
        return frozenset(self.freed_by)

    def frees(self, status: str) -> bool:
        """Whether an entry with this status takes no places."""
        return status in self.freed_by

    @property
    def knows_begun(self) -> bool:
        """Whether the moment when somebody began matters to it."""
        return bool(self.grace or self.robots.least or self.robots.proof)
