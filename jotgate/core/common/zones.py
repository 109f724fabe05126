"""Time zones by name."""

from functools import cache
from typing import Annotated
from zoneinfo import available_timezones

from pydantic import AfterValidator


@cache
def _zones() -> frozenset[str]:
    return frozenset(available_timezones())


def _known_zone(name: str) -> str:
    if name not in _zones():
        raise ValueError("there is no time zone of this name")
    return name


TimeZone = Annotated[str, AfterValidator(_known_zone)]
"""A name of the IANA time zone database, such as `Europe/Lisbon`."""
