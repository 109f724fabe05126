"""The words of our own that a respondent reads: failures of checks, and the answering page.

Each language is a module with the same keys; `{...}` stand for parameters. A language that we
have no words for reads the page in English.
"""

from collections.abc import Mapping
from functools import cache

from babel import Locale, UnknownLocaleError
from babel.localedata import locale_identifiers

from jotgate.core.words import ar, en, es

_FAILURES = {"en": en.FAILURES, "es": es.FAILURES, "ar": ar.FAILURES}
_PAGE = {"en": en.PAGE, "es": es.PAGE, "ar": ar.PAGE}

_LETTER = {"en": en.LETTER, "es": es.LETTER, "ar": ar.LETTER}

_GATE = {"en": en.GATE, "es": es.GATE, "ar": ar.GATE}

_FIGURES = {"en": en.FIGURES, "es": es.FIGURES, "ar": ar.FIGURES}

LANGUAGES = tuple(_PAGE)


def spoken(language: str) -> str:
    """The language that we have words for, and that days and countries are told in."""
    base = language.partition("-")[0]
    return base if base in _PAGE else "en"


def failures(language: str) -> Mapping[str, str]:
    """Code of a failure -> its message, in `language` or English."""
    return _FAILURES[spoken(language)]


def page(language: str) -> Mapping[str, str]:
    """The answering page's own words, in `language` or English."""
    return _PAGE[spoken(language)]


def letter(language: str) -> Mapping[str, str]:
    """The words of letters to contacts, and of the page where one opts out, in `language` or
    English."""
    return _LETTER[spoken(language)]


def gate(language: str) -> Mapping[str, str]:
    """Why the gate lets somebody not in, by reason: `shut_heading`, `shut_detail`, …"""
    return _GATE[spoken(language)]


def figures(language: str) -> Mapping[str, str]:
    """The words around figures that are shared, in `language` or English."""
    return _FIGURES[spoken(language)]


@cache
def direction(language: str) -> str:
    """`rtl` or `ltr`, of the script that a language tag names or is usually written in (CLDR)."""
    for tag in (language, language.partition("-")[0]):
        try:
            return Locale.parse(tag, sep="-").text_direction
        except (ValueError, UnknownLocaleError):
            continue
    return "ltr"


def right_to_left() -> list[str]:
    """Languages that are usually written from right to left, without region and script."""
    bases = {one.partition("_")[0] for one in locale_identifiers()}
    return sorted(one for one in bases if direction(one) == "rtl")
