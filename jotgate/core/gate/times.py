"""When a gate is open, as it is set: windows, hours of the week, days off."""

from datetime import date, datetime
from typing import Annotated, Self

from pydantic import AfterValidator, Field, StringConstraints, model_validator

from jotgate.core.common.part import Part

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
