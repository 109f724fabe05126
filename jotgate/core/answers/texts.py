"""Checking what is written: plain text, patterns, mail and web addresses, phone numbers."""

import re
import unicodedata
from functools import lru_cache

import phonenumbers
from email_validator import EmailNotValidError, validate_email
from pydantic import HttpUrl, TypeAdapter, ValidationError

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.common.patterns import compiled
from jotgate.core.items import Pattern, Phone

_CONTROL = re.compile("[\x00-\x1f\x7f-\x9f\ud800-\udfff]")
"""Control characters and lone surrogates: the Unicode categories Cc and Cs."""

_CONTROL_IN_LINES = re.compile("[\x00-\x08\x0b-\x1f\x7f-\x9f\ud800-\udfff]")
"""The same but for tabs and line feeds."""

_DIRECTING = re.compile("[\u061c\u200e\u200f\u202a-\u202e\u2066-\u2069]")
"""The controls of the bidirectional algorithm (Unicode's property Bidi_Control). They change how
what stands around an answer reads, in tables and letters, and say nothing of their own."""

_UNSEEN = re.compile(
    "[\\s\u00ad\u034f\u061c\u115f\u1160\u17b4\u17b5\u180b-\u180f\u200b-\u200f\u202a-\u202e"
    "\u2060-\u206f\u2800\u3164\ufe00-\ufe0f\ufeff\uffa0\ufff0-\ufff8"
    "\U0001d173-\U0001d17a\U000e0000-\U000e0fff]*"
)
"""Spaces and what is not seen either (Unicode's property Default_Ignorable_Code_Point, and the
empty pattern of Braille): a text of nothing else says nothing."""

_SCHEME = re.compile(r"^[A-Za-z][A-Za-z0-9+.-]*:(?!\d)")
_URL: TypeAdapter[HttpUrl] = TypeAdapter(HttpUrl)
LONGEST_ADDRESS = 2000


def text(raw: object, shortest: int | None, longest: int, lines: bool = False) -> str:
    """`raw` in Unicode's form NFC, without spaces around it and controls of direction in it.

    Raises CheckFailed.
    """
    if not isinstance(raw, str):
        raise CheckFailed("wrong_kind")
    found = raw.replace("\r\n", "\n").replace("\r", "\n") if "\r" in raw else raw
    if (_CONTROL_IN_LINES if lines else _CONTROL).search(found):
        raise CheckFailed("control_character")
    found = found.strip() if found.isascii() else _normal(found)
    if len(found) > longest:
        raise CheckFailed("too_long", limit=longest, length=len(found))
    if shortest is not None and len(found) < shortest:
        raise CheckFailed("too_short", limit=shortest, length=len(found))
    return found


def _normal(written: str) -> str:
    return unicodedata.normalize("NFC", _DIRECTING.sub("", written)).strip()


def says_nothing(written: str) -> bool:
    """Whether nothing of `written` can be seen."""
    return not written.strip() or _UNSEEN.fullmatch(written) is not None


def fits(pattern: Pattern, written: str) -> bool:
    """Whether the whole of `written` has the shape."""
    return compiled(pattern.expression).fullmatch(written) is not None


def shaped(pattern: Pattern, written: str) -> str:
    if fits(pattern, written):
        return written
    raise CheckFailed("not_like", like=pattern.like) if pattern.like else CheckFailed("not_of_form")


_LABEL = "[A-Za-z0-9](?:[A-Za-z0-9-]{0,61}[A-Za-z0-9])?"
_PLAIN_EMAIL = re.compile(
    rf"([A-Za-z0-9_+'-]+(?:\.[A-Za-z0-9_+'-]+)*)@((?:{_LABEL}\.)+[A-Za-z]{{2,24}})"
)
_KEPT_APART = ("arpa", "invalid", "local", "localhost", "onion", "test")
"""Top domains of special use (RFC 6761), which are left to the library."""


def plain_email(written: str) -> str | None:
    """An address of the common form, normalised; None where only the library can tell."""
    found = _PLAIN_EMAIL.fullmatch(written)
    if found is None or len(found[1]) > 64 or "--" in found[2]:
        return None
    domain = found[2].lower()
    if domain.rpartition(".")[2] in _KEPT_APART:
        return None
    return f"{found[1]}@{domain}"


def email(raw: object) -> str:
    """A mail address with its domain in lower case; whether it exists is not asked."""
    written = text(raw, None, 254)
    plain = plain_email(written)
    if plain is not None:
        return plain
    try:
        return validate_email(written, check_deliverability=False, test_environment=True).normalized
    except EmailNotValidError:
        raise CheckFailed("not_an_email") from None


def phone(item: Phone, raw: object) -> str:
    """A phone number as E.164, such as `+442079460000`."""
    found = _parsed(text(raw, None, 60), item.countries[0] if item.countries else None)
    if found is None:
        raise CheckFailed("not_a_phone")
    written, code = found
    if item.countries and code not in _calling_codes(item.countries):
        raise CheckFailed("not_a_phone_here", countries=", ".join(item.countries))
    return written


@lru_cache(maxsize=2000)
def _parsed(written: str, region: str | None) -> tuple[str, int] | None:
    """A number as E.164, and its country's calling code. The same one comes with every page that
    is turned, and parsing is slow."""
    try:
        number = phonenumbers.parse(written, region)
    except phonenumbers.NumberParseException:
        return None
    if not phonenumbers.is_possible_number(number) or number.extension:
        return None
    found = phonenumbers.format_number(number, phonenumbers.PhoneNumberFormat.E164)
    return found, number.country_code or 0


@lru_cache(maxsize=200)
def _calling_codes(countries: tuple[str, ...]) -> frozenset[int]:
    return frozenset(phonenumbers.country_code_for_region(country) for country in countries)


def web_address(raw: object) -> str:
    """An http or https address, in the form that browsers give it (the WHATWG URL standard)."""
    written = text(raw, None, LONGEST_ADDRESS)
    if not _SCHEME.match(written):
        written = f"https://{written}"
    try:
        found = _URL.validate_python(written)
    except ValidationError:
        raise CheckFailed("not_a_web_address") from None
    if " " in written or "." not in (found.host or "").strip("."):
        raise CheckFailed("not_a_web_address")
    return str(found)
