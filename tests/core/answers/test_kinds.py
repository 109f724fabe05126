"""The kinds that have a form of their own: addresses, phones, patterns, days, picks, scales."""

import re
from datetime import date, time, timedelta
from decimal import Decimal
from typing import Any

import pytest
from email_validator import validate_email
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.answers.checks import check
from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.texts import plain_email
from jotgate.core.common.today import day_of
from jotgate.core.conditions.comparison import compares
from jotgate.core.entries.stored import as_json, from_json
from jotgate.core.items import Item
from jotgate.core.publishing.faults import faults
from tests.documents import TODAY, is_, item, options, page, questionnaire


def of(kind: str, **more: Any) -> Item:
    return next(questionnaire(page("p", item(kind, "q", **more))).items())


def outcome(one: Item, raw: Any) -> Any:
    """The value that is kept, or the code of the failure."""
    try:
        return check(one, raw, TODAY)
    except CheckFailed as failed:
        return failed.code


EMAIL = of("email")


@pytest.mark.parametrize(
    ("raw", "kept"),
    [
        (" ines@example.org ", "ines@example.org"),
        ("Ines.Carvalho@Example.ORG", "Ines.Carvalho@example.org"),
        ("o'neil+wells@example.co.uk", "o'neil+wells@example.co.uk"),
        ("ines@bücher.example", "ines@bücher.example"),
        ("ines@xn--bcher-kva.example", "ines@bücher.example"),
        ("用户@example.org", "用户@example.org"),
        ("ines", "not_an_email"),
        ("ines@", "not_an_email"),
        ("@example.org", "not_an_email"),
        ("ines@example", "not_an_email"),
        ("ines @example.org", "not_an_email"),
        ("ines@exa_mple.org", "not_an_email"),
        (".ines@example.org", "not_an_email"),
        ("in..es@example.org", "not_an_email"),
        ('"ines c"@example.org', "not_an_email"),
        ("ines@[127.0.0.1]", "not_an_email"),
        ("Ines <ines@example.org>", "not_an_email"),
        ("a@example.org, b@example.org", "not_an_email"),
        ("ines@example.org\nBcc: x@example.org", "control_character"),
        ("x" * 250 + "@example.org", "too_long"),
        (5, "wrong_kind"),
    ],
)
def test_email(raw: Any, kept: Any) -> None:
    assert outcome(EMAIL, raw) == kept


PARTS = st.text("abzAZ09_+'-.", min_size=1, max_size=20)
DOMAINS = st.lists(st.text("abzAZ09-", min_size=1, max_size=12), min_size=1, max_size=4)
TOPS = st.sampled_from(["org", "UK", "test", "local", "arpa", "c", "example", "museum", "1a"])


@given(
    st.builds(
        lambda local, labels, top: f"{local}@{'.'.join([*labels, top])}", PARTS, DOMAINS, TOPS
    )
)
def test_the_short_way_for_mail_addresses_agrees_with_the_library(address: str) -> None:
    """What is accepted without the PyPI package email-validator, that accepts to the same."""
    plain = plain_email(address)
    if plain is not None:
        options: dict[str, Any] = {"check_deliverability": False, "test_environment": True}
        assert validate_email(address, **options).normalized == plain


BRITISH = of("phone", countries=["GB", "IE"])
ANYWHERE = of("phone")


@pytest.mark.parametrize(
    ("one", "raw", "kept"),
    [
        (BRITISH, "020 7946 0000", "+442079460000"),
        (BRITISH, "(020) 7946-0000", "+442079460000"),
        (BRITISH, "+353 1 234 5678", "+35312345678"),
        (BRITISH, "+34 912 345 678", "not_a_phone_here"),
        (ANYWHERE, "+34 912 345 678", "+34912345678"),
        (ANYWHERE, "٠٠٠", "not_a_phone"),
        (ANYWHERE, "020 7946 0000", "not_a_phone"),
        (BRITISH, "12", "not_a_phone"),
        (BRITISH, "call me", "not_a_phone"),
        (BRITISH, "020 7946 0000 ext. 5", "not_a_phone"),
        (BRITISH, "0" * 70, "too_long"),
    ],
)
def test_phone(one: Item, raw: Any, kept: Any) -> None:
    """Kept as ITU-T E.164. The London numbers are of the range that Ofcom keeps for drama."""
    assert outcome(one, raw) == kept


WEB = of("web_address")


@pytest.mark.parametrize(
    ("raw", "kept"),
    [
        ("https://example.org", "https://example.org/"),
        ("HTTP://Example.ORG/Wells?x=1#top", "http://example.org/Wells?x=1#top"),
        ("example.org/wells", "https://example.org/wells"),
        ("example.org:8080/x", "https://example.org:8080/x"),
        ("https://bücher.example/", "https://xn--bcher-kva.example/"),
        ("https://192.0.2.1/", "https://192.0.2.1/"),
        ("javascript:alert(1)", "not_a_web_address"),
        ("data:text/html,x", "not_a_web_address"),
        ("ftp://example.org", "not_a_web_address"),
        ("mailto:ines@example.org", "not_a_web_address"),
        ("https://", "not_a_web_address"),
        ("https://wells", "not_a_web_address"),
        ("our wells", "not_a_web_address"),
        ("https://example.org/a b", "not_a_web_address"),
        ("https://example.org:99999/", "not_a_web_address"),
        ("x" * 2001, "too_long"),
    ],
)
def test_web_address(raw: Any, kept: Any) -> None:
    assert outcome(WEB, raw) == kept


def pattern(expression: str, **more: Any) -> Item:
    return of("short_text", pattern={"expression": expression, **more})


KIT = pattern("TW-[0-9]{4}-[A-Z]", like={"en": "like TW-0000-A"})


@pytest.mark.parametrize(
    ("raw", "kept"),
    [
        ("TW-2291-C", "TW-2291-C"),
        (" TW-2291-C ", "TW-2291-C"),
        ("tw-2291-c", "not_like"),
        ("TW-2291-CC", "not_like"),
        ("xTW-2291-C", "not_like"),
    ],
)
def test_a_pattern_fits_the_whole(raw: str, kept: str) -> None:
    assert outcome(KIT, raw) == kept


@pytest.mark.parametrize("expression", ["(a+)+b", "(a|a)*b", "(a*)*b", "(.*a){25}b"])
def test_a_pattern_that_explodes_elsewhere_comes_to_an_end(expression: str) -> None:
    """Catastrophic backtracking, common practice in attacks: Python's own engine takes over
    2**40 steps for these, so the test itself ends only on an engine that is linear."""
    assert outcome(pattern(expression), "a" * 900) == "not_of_form"


@given(
    st.text("abcTW-019", max_size=12),
    st.sampled_from(["[a-c]+", "TW-[0-9]*", "(a|b)*c?", "[^-]{2,4}", "a.c", "", "W?T-?"]),
)
def test_patterns_agree_with_another_engine(written: str, expression: str) -> None:
    """Python's `re` as the reference, on expressions that both engines read alike."""
    if not written.strip() or not expression:
        return
    fits = re.fullmatch(expression, written.strip()) is not None
    assert (outcome(pattern(expression), written) == written.strip()) is fits


PAST = of("date", earliest="2000-01-01", latest="today")


@pytest.mark.parametrize(
    ("one", "raw", "kept"),
    [
        (PAST, "2026-11-25", TODAY.day),
        (PAST, "2000-01-01", date(2000, 1, 1)),
        (PAST, "2026-11-26", "too_late"),
        (PAST, "1999-12-31", "too_early"),
        (PAST, "2024-02-29", date(2024, 2, 29)),
        (PAST, "2023-02-29", "not_a_date"),
        (PAST, "2023-13-01", "not_a_date"),
        (PAST, "20231101", "not_a_date"),
        (PAST, "2023-W05-1", "not_a_date"),
        (PAST, "25/11/2026", "not_a_date"),
        (PAST, 20231101, "not_a_date"),
        (of("date", earliest="today+2"), "2026-11-26", "too_early"),
        (of("date", earliest="today-7", latest="today+7"), "2026-12-02", date(2026, 12, 2)),
        (of("time", earliest="07:00", latest="20:00"), "07:00", time(7)),
        (of("time", earliest="07:00"), "06:59", "too_early"),
        (of("time", latest="20:00"), "20:01", "too_late"),
        (of("time"), "24:00", "not_a_time"),
        (of("time"), "7:00", "not_a_time"),
        (of("time"), "07:00:00", "not_a_time"),
    ],
)
def test_days_and_times(one: Item, raw: Any, kept: Any) -> None:
    assert outcome(one, raw) == kept


@given(st.dates(), st.integers(-9999, 9999))
def test_a_bound_counts_days_from_today(today: date, days: int) -> None:
    found = day_of(f"today{days:+}", today)
    try:
        assert found == today + timedelta(days=days)
    except OverflowError:
        assert found is None


MANY = of(
    "pick_many",
    options=[*options("a", "b", "c", "d"), {**options("none")[0], "alone": True}],
    fewest=2,
    most=3,
)


@pytest.mark.parametrize(
    ("raw", "kept"),
    [
        (["c", "a"], ("a", "c")),
        (["a", "a", "b"], ("a", "b")),
        (["none"], ("none",)),
        (["none", "a"], "not_alone"),
        (["a"], "too_few"),
        (["a", "b", "c", "d"], "too_many"),
        (["a", "z"], "not_an_option"),
        (["a", 5], "wrong_kind"),
        ("a", "wrong_kind"),
        ({"a": True}, "wrong_kind"),
        ([], None),
    ],
)
def test_picking_many(raw: Any, kept: Any) -> None:
    assert outcome(MANY, raw) == kept


@given(st.lists(st.sampled_from("abcd"), max_size=8))
def test_picks_are_a_set_in_the_order_of_the_options(raw: list[str]) -> None:
    kept = outcome(of("pick_many", options=options("a", "b", "c", "d")), raw)
    assert kept == (tuple(sorted(set(raw))) or None)


@pytest.mark.parametrize(
    ("raw", "kept"),
    [
        ("1", Decimal(1)),
        (5, Decimal(5)),
        ("0", "too_small"),
        ("6", "too_large"),
        ("2.5", "not_whole"),
    ],
)
def test_scale(raw: Any, kept: Any) -> None:
    assert outcome(of("scale"), raw) == kept


@pytest.mark.parametrize(
    ("one", "raw"),
    [(PAST, "2020-05-05"), (of("time"), "14:30"), (MANY, ["a", "b"]), (of("scale"), "3")],
)
def test_what_is_stored_comes_back(one: Item, raw: Any) -> None:
    value = check(one, raw, TODAY)
    assert value is not None
    assert as_json(value) == raw
    assert from_json(one, as_json(value)) == value


@pytest.mark.parametrize(
    ("op", "answer", "operand", "expected"),
    [
        ("includes", ("a", "b"), "a", True),
        ("includes", ("a", "b"), "c", False),
        ("includes", "a", "a", False),
        ("is", ("a",), "a", False),
        ("at_least", date(2026, 5, 5), "2026-05-05", True),
        ("at_least", date(2026, 5, 4), "2026-05-05", False),
        ("at_most", time(9), "09:00", True),
        ("is_not", date(2026, 5, 5), "never", True),
        ("at_least", date(2026, 5, 5), "never", False),
        ("is", date(2026, 5, 5), True, False),
    ],
)
def test_comparing(op: str, answer: Any, operand: Any, expected: bool) -> None:
    assert compares(op, answer, operand, TODAY) is expected


def codes(*items: dict[str, Any]) -> list[str]:
    return [fault.code for fault in faults(questionnaire(page("p", *items)))]


def test_what_cannot_be_published() -> None:
    many = item("pick_many", "m", options=options("a", "b"))
    shown = item("yes_no", "x", shown_when={"op": "includes", "item": "m", "value": "a"})
    assert codes(many, shown) == []
    assert codes({**many, "fewest": 3}) == ["empty_range"]
    assert codes(many, item("yes_no", "x", shown_when=is_("m", "a"))) == ["no_such_answer"]
    bad = {"expression": "(", "like": {}}
    assert codes(item("short_text", "s", pattern=bad)) == ["bad_pattern"]
    assert codes(item("short_text", "s", pattern={"expression": "(?=x)"})) == ["bad_pattern"]
    wrong = {"expression": "a+", "fits": ["b"], "fails": ["aa"]}
    assert codes(item("short_text", "s", pattern=wrong)) == ["wrong_example", "wrong_example"]
    assert codes(item("date", "d", earliest="today+1", latest="today")) == ["empty_range"]
    assert codes(item("date", "d", earliest="2026-13-01", latest="2026-01-01")) == ["empty_range"]
    assert codes(item("time", "t", earliest="10:00", latest="09:59")) == ["empty_range"]
    assert codes(item("date", "d", earliest="2026-01-01", latest="today")) == []
