"""What is known of a contact: the fields that every one has, and fields of the office's own.

What is typed or brought in is a text; what is kept is a text too, in one form for each kind, so
that it can be said, carried and compared as it is.
"""

from collections.abc import Callable, Mapping
from datetime import date
from decimal import Decimal, InvalidOperation
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, StringConstraints

from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.texts import email, text
from jotgate.core.common.decimals import plain
from jotgate.core.common.part import Key, Part

LONGEST = 500
"""Characters of one value at most."""

MOST_FIELDS = 50
MOST_OPTIONS = 200

FieldKind = Literal["text", "number", "date", "yes_no", "pick"]

BUILT_IN: Mapping[str, str] = {
    "key": "Key",
    "name": "Name",
    "email": "Mail address",
    "phone": "Phone",
    "language": "Language",
}
"""The fields that every contact has, with what staff read. `key` is what it is called in another
system, such as a customer number."""


def _not_built_in(key: str) -> str:
    if key in BUILT_IN:
        raise ValueError("Every contact has a field with this key already.")
    return key


Label = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]


class ContactField(Part):
    """A field of the office's own; only one that is picked from has `options`."""

    key: Annotated[Key, AfterValidator(_not_built_in)]
    label: Label
    kind: FieldKind = "text"
    options: tuple[Label, ...] = Field((), max_length=MOST_OPTIONS)


class NotFit(ValueError):
    """A value that does not fit, with what to do about it."""


_YES = frozenset({"yes", "y", "true", "1", "x"})
_NO = frozenset({"no", "n", "false", "0"})


def _written(given: str) -> str:
    try:
        return text(given, None, LONGEST)
    except CheckFailed as failed:
        if failed.code == "too_long":
            raise NotFit(f"It has more than {LONGEST} characters.") from None
        raise NotFit("It has a character that cannot be kept, such as a line break.") from None


def _number(given: str) -> str:
    try:
        found = Decimal(given)
    except InvalidOperation:
        found = Decimal("NaN")
    if not found.is_finite() or len(given) > 40 or abs(found.adjusted()) > 30:
        raise NotFit("Write a number with a point for decimals, such as 12.5.")
    return plain(found)


def _date(given: str) -> str:
    try:
        return date.fromisoformat(given).isoformat()
    except ValueError:
        raise NotFit("Write a date as year-month-day, such as 2026-03-01.") from None


def _yes_no(given: str) -> str:
    folded = given.casefold()
    if folded in _YES or folded in _NO:
        return "yes" if folded in _YES else "no"
    raise NotFit("Write yes or no.")


def _email(given: str) -> str:
    """In lower case throughout: no mail server of today tells addresses apart by case (common
    practice), and one person must not be two contacts."""
    try:
        return email(given).lower()
    except CheckFailed:
        raise NotFit("This is not a mail address.") from None


def _phone(given: str) -> str:
    written = _written(given)
    if len(written) > 60 or sum(one.isdigit() for one in written) < 3:
        raise NotFit("This is not a phone number.")
    return written


def _language(given: str) -> str:
    found = given.replace("_", "-").split("-")
    base, rest = found[0].lower(), found[1:]
    sound = 2 <= len(base) <= 3 and base.isascii() and base.isalpha()
    if not sound or not all(one.isascii() and one.isalnum() and len(one) <= 8 for one in rest):
        raise NotFit("Write a language by its code, such as en, es or ar.")
    return "-".join([base, *rest])


Reading = Callable[[str], str]
"""A text as it is kept. Raises NotFit."""

_BUILT_IN: Mapping[str, Reading] = {
    "key": _written,
    "name": _written,
    "email": _email,
    "phone": _phone,
    "language": _language,
}
_BY_KIND: Mapping[FieldKind, Reading] = {
    "text": _written,
    "number": _number,
    "date": _date,
    "yes_no": _yes_no,
}


def _picking(field: ContactField) -> Reading:
    known = {" ".join(one.casefold().split()): one for one in field.options}

    def picked(given: str) -> str:
        found = known.get(" ".join(given.casefold().split()))
        if found is None:
            raise NotFit(f"Pick one of {', '.join(field.options)}.")
        return found

    return picked


def readings(fields: tuple[ContactField, ...]) -> dict[str, Reading]:
    """By key, how each field reads what is given for it."""
    own = {one.key: _picking(one) if one.kind == "pick" else _BY_KIND[one.kind] for one in fields}
    return {**_BUILT_IN, **own}
