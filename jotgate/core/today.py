"""What time it is where a questionnaire is at home."""

from dataclasses import dataclass
from datetime import date, datetime, tzinfo
from zoneinfo import ZoneInfo


@dataclass(frozen=True)
class Today:
    """`now` is in the questionnaire's time zone."""

    now: datetime

    @property
    def day(self) -> date:
        return self.now.date()

    @property
    def zone(self) -> tzinfo:
        assert self.now.tzinfo is not None
        return self.now.tzinfo


def today_in(zone: str, now: datetime) -> Today:
    """`now`, any aware moment, where the time zone `zone` holds."""
    return Today(now.astimezone(ZoneInfo(zone)))
