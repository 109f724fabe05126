"""What time it is where a questionnaire is at home."""

from dataclasses import dataclass
from datetime import date, datetime, timedelta, tzinfo
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


def day_of(written: str, today: date) -> date | None:
    """A date in ISO 8601, or days from today such as `today-7`; None where it is no such day."""
    try:
        if not written.startswith("today"):
            return date.fromisoformat(written)
        return today + timedelta(days=int(written[5:] or 0))
    except (ValueError, OverflowError):
        return None
