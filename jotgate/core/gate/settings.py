"""What is set for a gate: its state, opening times, places, limits per person, and its words."""

from typing import Annotated, Literal, Self

from pydantic import AwareDatetime, Field, StringConstraints, model_validator

from jotgate.core.common.part import Key, Part
from jotgate.core.common.wording import Text
from jotgate.core.gate.people import Changing, PerPerson, Robots, Who
from jotgate.core.gate.times import Times
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
    changing: Changing | None = None
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
        changing = self.changing.statuses if self.changing else ()
        return frozenset(key for key in (*self.freed_by, *changing) if key)

    @property
    def counts_by(self) -> frozenset[str]:
        """The keys of questions and carried values by which places are counted."""
        amounts = (one.amount for one in self.places if one.amount)
        return frozenset((*(key for one in self.places for key in one.by), *amounts))

    def frees(self, status: str) -> bool:
        """Whether an entry with this status takes no places."""
        return status in self.freed_by

    @property
    def knows_begun(self) -> bool:
        """Whether the moment when somebody began matters to it."""
        return bool(self.grace or self.robots.least or self.robots.proof)
