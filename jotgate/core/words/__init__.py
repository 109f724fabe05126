"""The words of our own that a respondent reads: failures of checks, and the answering page.

Each language is a module with the same keys; `{...}` stand for parameters. A language that we
have no words for reads the page in English.
"""

from collections.abc import Mapping

from jotgate.core.words import ar, en, es

_FAILURES = {"en": en.FAILURES, "es": es.FAILURES, "ar": ar.FAILURES}
_PAGE = {"en": en.PAGE, "es": es.PAGE, "ar": ar.PAGE}

LANGUAGES = tuple(_PAGE)

RIGHT_TO_LEFT = frozenset({"ar", "arc", "ckb", "dv", "fa", "he", "ps", "sd", "ug", "ur", "yi"})
"""Languages written from right to left (Unicode CLDR, the layouts of their usual scripts)."""


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


def direction(language: str) -> str:
    """`rtl` or `ltr`."""
    return "rtl" if language.partition("-")[0] in RIGHT_TO_LEFT else "ltr"
