"""Checking numbers, which are exact decimals."""

from decimal import Decimal

from jotgate.core.checking.failures import CheckFailed
from jotgate.core.common.decimals import stepped, whole_steps
from jotgate.core.common.values import as_decimal
from jotgate.core.items.written import Number

_DIGITS = 25
"""The longest number that is read; longer ones cannot be inside any range."""


def read_number(raw: object) -> Decimal:
    """A JSON number, or decimal text. Raises CheckFailed."""
    if isinstance(raw, float):
        raw = repr(raw)
    if isinstance(raw, str):
        raw = raw.strip()
        if not raw.isascii() or "_" in raw:
            raise CheckFailed("not_a_number")
    if isinstance(raw, int) and abs(raw) >= 10**_DIGITS:
        raise CheckFailed("not_a_number")
    number = as_decimal(raw) if len(str(raw)) <= _DIGITS else None
    if number is None or abs(number.adjusted()) > _DIGITS:
        raise CheckFailed("not_a_number")
    return number


def within(
    number: Decimal, low: Decimal | int | None, high: Decimal | int | None, decimals: int
) -> Decimal:
    """`number`, if it lies between the ends. Raises CheckFailed."""
    if -int(number.as_tuple().exponent) > decimals < -int(number.normalize().as_tuple().exponent):
        if decimals == 0:
            raise CheckFailed("not_whole")
        raise CheckFailed("too_many_decimals", limit=decimals)
    if low is not None and number < low:
        raise CheckFailed("too_small", limit=Decimal(low))
    if high is not None and number > high:
        raise CheckFailed("too_large", limit=Decimal(high))
    return number


def number(item: Number, raw: object) -> Decimal:
    found = within(read_number(raw), item.at_least, item.at_most, item.decimals)
    if item.step:
        start = item.at_least or Decimal(0)
        steps = whole_steps(found, start, item.step)
        below = stepped(start, steps, item.step)
        if below != found:
            above = stepped(below, 1, item.step)
            raise CheckFailed("not_a_step", below=below, above=above, step=item.step)
    return found
