"""Now."""

from datetime import datetime
from typing import Protocol


class Clock(Protocol):
    def now(self) -> datetime:
        """The present moment, with its time zone, in UTC."""
