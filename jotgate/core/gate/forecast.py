"""When places will be full, if entries go on as they came lately, and how sure that is."""

import math
from dataclasses import dataclass
from datetime import datetime, timedelta

NINE_IN_TEN = 1.6448536269514722
"""The quantile of the normal distribution that leaves 5 % on each side."""

FAR = timedelta(days=365)
"""What lies further ahead is not told."""


@dataclass(frozen=True)
class Forecast:
    """When it is full; between `low` and `high` in nine cases of ten."""

    at: datetime
    low: datetime
    high: datetime


def full_at(left: int, came: int, during: timedelta, now: datetime) -> Forecast | None:
    """When `left` more will have come, where `came` did during the time before `now`; None where
    nothing came, or that is too far ahead.

    Arrivals are taken as a Poisson process of an unknown, constant rate: the time of the next k,
    over the time that the last n took, is F-distributed with 2k and 2n degrees of freedom
    (Nelson, Applied Life Data Analysis, 1982). Its logarithm is about normal with the variance
    1/k + 1/n.
    """
    if left <= 0 or came <= 0:
        return None
    about = during * (left / came)
    spread = math.exp(NINE_IN_TEN * math.sqrt(1 / left + 1 / came))
    if about > FAR:
        return None
    return Forecast(now + about, now + about / spread, now + min(about * spread, 10 * FAR))
