"""Exact decimals: arithmetic that rounds nothing, and how they are written."""

from collections.abc import Iterable
from decimal import Context, Decimal

EXACT = Context(prec=400)
"""Numbers have up to 25 digits on either side of the point, so a sum of any number of them, and
how often a step goes into one, have far fewer digits than this."""


def added(numbers: Iterable[Decimal]) -> Decimal:
    """The exact sum."""
    total = Decimal(0)
    for one in numbers:
        total = EXACT.add(total, one)
    return total


def whole_steps(number: Decimal, start: Decimal, step: Decimal) -> Decimal:
    """How many whole steps lie between `start` and `number`; less than 0 below it."""
    whole, over = EXACT.divmod(EXACT.subtract(number, start), step)
    return whole - 1 if over < 0 else whole


def stepped(start: Decimal, steps: Decimal | int, step: Decimal) -> Decimal:
    """What lies so many steps from `start`."""
    return EXACT.add(start, EXACT.multiply(Decimal(steps), step))


def plain(number: Decimal) -> str:
    """`number` without exponent or trailing zeros: `12`, `0.5`, `-3`."""
    text = f"{number:f}"
    if "." in text:
        text = text.rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text
