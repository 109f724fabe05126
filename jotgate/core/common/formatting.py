"""Numbers, days and times in the form that people read, in the languages that we have words for.

`web/src/items/readable.ts` says the same in the browser; `web/tests/readable.json` holds both to
the same words. Digits are not grouped: what is read can be typed again.
"""

from datetime import date, datetime, time, tzinfo
from decimal import Decimal
from functools import lru_cache

from babel import Locale
from babel.dates import format_date
from babel.numbers import format_decimal

from jotgate.core.common.decimals import plain
from jotgate.core.words import spoken

_LOCALES = {"en": "en_GB"}
"""Where a language is written differently, the form that we take (Unicode CLDR)."""

_BETWEEN = {"ar": "، "}


def locale_of(language: str) -> str:
    return _LOCALES.get(spoken(language), spoken(language))


def number(value: Decimal, language: str) -> str:
    """`12.5`, `12,5`: every digit that it has, with the decimal sign of the language."""
    return _number(plain(value), language)


KEPT = 4096
"""Words of numbers and of days that are kept: tables say the same ones again and again."""


@lru_cache(KEPT)
def _number(written: str, language: str) -> str:
    found: str = format_decimal(
        Decimal(written),
        locale=locale_of(language),
        decimal_quantization=False,
        group_separator=False,
    )
    return found


@lru_cache(KEPT)
def day(value: date, language: str) -> str:
    """`25 November 2026`."""
    return format_date(value, "long", locale=locale_of(language))


def clock(value: time | datetime) -> str:
    """`14:05`."""
    return f"{value.hour:02}:{value.minute:02}"


def moment(value: datetime, language: str, zone: tzinfo | None = None) -> str:
    """`25 November 2026, 14:05`: a moment as the clock shows it in `zone`, or a local one as it
    is."""
    local = value.astimezone(zone) if zone is not None else value
    between = _BETWEEN.get(spoken(language), ", ")
    return f"{day(local.date(), language)}{between}{clock(local)}"


def plural(count: int, language: str) -> str:
    """The plural category of a count (Unicode CLDR): `one`, `few`, `other`, …"""
    found: str = Locale.parse(locale_of(language)).plural_form(count)
    return found
