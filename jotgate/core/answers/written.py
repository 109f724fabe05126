"""The kinds that are answered with words: short and long text, mail and web address, phone."""

from collections.abc import Iterator, Mapping
from random import Random

import phonenumbers

from jotgate.core.answers.rules import (
    FastCheck,
    Limits,
    Raw,
    Rules,
    Schema,
    always,
    as_set,
    range_faults,
    saying,
)
from jotgate.core.answers.samples import NAMES, WORDS, sentence
from jotgate.core.answers.texts import (
    LONGEST_ADDRESS,
    email,
    fits,
    phone,
    plain_email,
    shaped,
    text,
    web_address,
)
from jotgate.core.common.patterns import BadPattern, compiled, likely
from jotgate.core.common.today import Today
from jotgate.core.items import Email, LongText, Phone, ShortText

LONGEST_SHORT, LONGEST_LONG = 1000, 20_000
"""Characters of a short and of a long text, where the item does not say how many."""

ONE_LINE = "^[^\\u0000-\\u001f\\u007f-\\u009f]*$"
LINES = "^[^\\u0000-\\u0008\\u000b-\\u001f\\u007f-\\u009f]*$"


def text_schema(shortest: int | None, longest: int, pattern: str = ONE_LINE) -> Schema:
    found = {"type": "string", "minLength": max(shortest or 1, 1), "maxLength": longest}
    return {**found, "pattern": pattern}


def _range(item: ShortText | LongText) -> Iterator[tuple[str, str]]:
    return range_faults(item.shortest, item.longest)


def _check_short(item: ShortText, raw: Raw, _: Today) -> str:
    written = text(raw, item.shortest, item.longest or LONGEST_SHORT)
    return shaped(item.pattern, written) if item.pattern else written


def _fast_short(item: ShortText) -> FastCheck:
    low, high = max(item.shortest or 1, 1), item.longest or LONGEST_SHORT
    try:
        fitting = likely(item.pattern.expression) if item.pattern else None
    except BadPattern:
        return lambda _: None

    def fast(raw: Raw) -> str | None:
        if raw.__class__ is not str or not raw.isascii() or not raw.isprintable():
            return None
        written: str = raw.strip(" ")
        if not low <= len(written) <= high or (fitting is not None and fitting(written) is None):
            return None
        return written

    return fast


def _short_schema(item: ShortText) -> Schema:
    found = text_schema(item.shortest, item.longest or LONGEST_SHORT)
    if item.pattern:
        found["allOf"] = [{"pattern": f"^(?:{item.pattern.expression})$"}]
    return found


def _unsaid_short(item: ShortText) -> Iterator[str]:
    if item.pattern is not None:
        yield "that its pattern is read by RE2"


def _make_short(item: ShortText, _: Today, dice: Random) -> Raw:
    if item.pattern is not None:
        fitting = [one for one in item.pattern.fits if fits(item.pattern, one)]
        return dice.choice(fitting) if fitting else None
    return sentence(item.shortest, item.longest or LONGEST_SHORT, dice)


def _short_limits(item: ShortText, _: Today) -> Limits:
    like = {"server": item.pattern is not None}
    return {"shortest": item.shortest, "longest": item.longest, **like}


def _short_faults(item: ShortText) -> Iterator[tuple[str, str]]:
    yield from _range(item)
    pattern = item.pattern
    if pattern is None:
        return
    try:
        compiled(pattern.expression)
    except BadPattern as why:
        yield "bad_pattern", f"The pattern cannot be used: {why}."
        return
    for examples, wanted in ((pattern.fits, True), (pattern.fails, False)):
        for example in examples:
            if fits(pattern, example) is not wanted:
                what = "does not fit the pattern, and should" if wanted else "fits, and should not"
                yield "wrong_example", f"The example {example} {what}."


def _check_long(item: LongText, raw: Raw, _: Today) -> str:
    return text(raw, item.shortest, item.longest or LONGEST_LONG, lines=True)


def _fast_long(item: LongText) -> FastCheck:
    low, high = max(item.shortest or 1, 1), item.longest or LONGEST_LONG

    def fast(raw: Raw) -> str | None:
        if raw.__class__ is not str or not raw.isascii() or not raw.isprintable():
            return None
        written: str = raw.strip(" ")
        return written if low <= len(written) <= high else None

    return fast


def _fast_email(_: Email) -> FastCheck:
    return lambda raw: plain_email(raw) if raw.__class__ is str and len(raw) <= 254 else None


def _unsaid_phone(item: Phone) -> Iterator[str]:
    if item.countries:
        yield "its countries"


def _make_phone(item: Phone, _: Today, dice: Random) -> Raw:
    country = dice.choice(item.countries) if item.countries else "GB"
    found = phonenumbers.example_number(country)
    return phonenumbers.format_number(found, phonenumbers.PhoneNumberFormat.E164) if found else None


RULES: Mapping[str, Rules] = {
    "short_text": Rules(
        check=_check_short,
        fast=_fast_short,
        schema=_short_schema,
        unsaid=_unsaid_short,
        make=_make_short,
        limits=_short_limits,
        faults=_short_faults,
    ),
    "long_text": Rules(
        check=_check_long,
        fast=_fast_long,
        schema=lambda item: text_schema(item.shortest, item.longest or LONGEST_LONG, LINES),
        make=lambda item, _, dice: sentence(item.shortest, item.longest or LONGEST_LONG, dice),
        limits=as_set("shortest", "longest"),
        faults=_range,
    ),
    "email": Rules(
        check=lambda _, raw, _today: email(raw),
        fast=_fast_email,
        schema=always({**text_schema(None, 254), "format": "email"}),
        unsaid=saying("its form in full"),
        make=lambda _, _today, dice: f"{dice.choice(NAMES['given']).lower()}@example.org",
    ),
    "phone": Rules(
        check=lambda item, raw, _: phone(item, raw),
        schema=always({"type": "string", "pattern": "^\\+[1-9][0-9]{1,14}$"}),
        unsaid=_unsaid_phone,
        make=_make_phone,
    ),
    "web_address": Rules(
        check=lambda _, raw, _today: web_address(raw),
        schema=always({**text_schema(None, LONGEST_ADDRESS), "format": "uri"}),
        unsaid=saying("its form in full"),
        make=lambda _, _today, dice: f"https://example.org/{dice.choice(WORDS)}",
    ),
}
