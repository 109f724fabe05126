"""A clock that stands still: what happens in the scenario happened then."""

from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True)
class FixedClock:
    at: datetime

    def now(self) -> datetime:
        return self.at
