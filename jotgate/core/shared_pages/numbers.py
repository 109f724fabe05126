"""Numbers of figures as people read them, in a language."""

from decimal import Decimal

from jotgate.core.common.formatting import number


def whole(value: float, language: str) -> str:
    return number(Decimal(round(value)), language)


def fine(value: float, language: str) -> str:
    """With two decimals at most."""
    return number(round(Decimal(repr(value)), 2), language)


def percent(share: float, language: str) -> str:
    """A share of nearly none or nearly all is not said to be none or all."""
    if 0 < share < 0.005:
        return "< 1 %"
    if 0.995 < share < 1:
        return "> 99 %"
    return f"{whole(100 * share, language)} %"
