"""Answer checking, kind by kind."""

from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.answers.checks import check
from jotgate.core.answers.failure_messages import fault_of
from jotgate.core.answers.failures import CheckFailed
from jotgate.core.common.decimals import plain
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.entries.stored import as_json, from_json
from jotgate.core.items import Item
from jotgate.core.words import failures
from tests.documents import TODAY, item, options, page, questionnaire


def of(kind: str, **more: Any) -> Item:
    document: Questionnaire = questionnaire(page("p", item(kind, "q", **more)))
    return next(document.items())


def code(one: Item, raw: Any) -> str:
    with pytest.raises(CheckFailed) as failed:
        check(one, raw, TODAY)
    return failed.value.code


LIMITED = of("short_text", shortest=3, longest=5)
WHOLE = of("number", at_least="1", at_most="60")
TENTHS = of("number", decimals=1)
PICK = of("pick_one", options=options("own", "mains"))


@pytest.mark.parametrize(
    ("one", "raw", "kept"),
    [
        (LIMITED, "  abc ", "abc"),
        (LIMITED, "e\u0301tude", "étude"),
        (LIMITED, "👩‍🚀ab", "👩‍🚀ab"),
        (of("long_text"), "a\r\nb\rc", "a\nb\nc"),
        (WHOLE, "12", Decimal(12)),
        (WHOLE, 12, Decimal(12)),
        (WHOLE, 12.0, Decimal(12)),
        (WHOLE, " 1e1 ", Decimal(10)),
        (WHOLE, "12.000", Decimal(12)),
        (TENTHS, "-0.5", Decimal("-0.5")),
        (TENTHS, 0.1, Decimal("0.1")),
        (of("yes_no"), False, False),
        (PICK, "own", "own"),
        (PICK, "", None),
        (LIMITED, "   ", None),
        (WHOLE, None, None),
    ],
)
def test_kept(one: Item, raw: Any, kept: Any) -> None:
    assert check(one, raw, TODAY) == kept


@pytest.mark.parametrize(
    ("one", "raw", "failure"),
    [
        (of("short_text", required=True), " ", "required"),
        (of("yes_no", required=True), None, "required"),
        (LIMITED, "ab", "too_short"),
        (LIMITED, "abcdef", "too_long"),
        (LIMITED, "ab\x00c", "control_character"),
        (LIMITED, "ab\ncd", "control_character"),
        (LIMITED, "ab\ud800", "control_character"),
        (LIMITED, 5, "wrong_kind"),
        (LIMITED, ["abc"], "wrong_kind"),
        (LIMITED, {"a": 1}, "wrong_kind"),
        (WHOLE, "0", "too_small"),
        (WHOLE, "61", "too_large"),
        (WHOLE, "1.5", "not_whole"),
        (WHOLE, "twelve", "not_a_number"),
        (WHOLE, "NaN", "not_a_number"),
        (WHOLE, "Infinity", "not_a_number"),
        (WHOLE, "1_0", "not_a_number"),
        (WHOLE, "１２", "not_a_number"),
        (WHOLE, "1e999999999", "not_a_number"),
        (WHOLE, "1e-999999999", "not_a_number"),
        (WHOLE, "9" * 5000, "not_a_number"),
        (WHOLE, True, "not_a_number"),
        (TENTHS, "0.25", "too_many_decimals"),
        (of("yes_no"), "yes", "wrong_kind"),
        (PICK, "Own", "not_an_option"),
        (PICK, True, "not_an_option"),
        (of("note"), "anything", "wrong_kind"),
    ],
)
def test_failed(one: Item, raw: Any, failure: str) -> None:
    assert code(one, raw) == failure


def _json(numbers: st.SearchStrategy[float]) -> st.SearchStrategy[Any]:
    return st.recursive(
        st.none() | st.booleans() | st.integers() | numbers | st.text(),
        lambda inner: st.lists(inner, max_size=2) | st.dictionaries(st.text(), inner, max_size=2),
        max_leaves=4,
    )


JSON = _json(st.floats(allow_nan=False))
JSON_SENT = _json(st.floats(allow_nan=False, allow_infinity=False))
"""What can be said in JSON as it is sent, which has no infinite numbers (RFC 8259, 6)."""


@given(
    st.sampled_from([LIMITED, of("long_text", required=True), WHOLE, TENTHS, of("yes_no"), PICK]),
    JSON,
)
def test_any_json_is_kept_or_fails_with_a_known_code(one: Item, raw: Any) -> None:
    try:
        value = check(one, raw, TODAY)
    except CheckFailed as failed:
        assert failed.code in failures("en")
        assert fault_of({"q": one}, "q", failed, "en", "en").message
    else:
        assert value is None or from_json(one, as_json(value)) == value


@given(st.decimals(-1000, 1000, places=3), st.integers(0, 3))
def test_a_number_is_kept_exactly_or_refused(number: Decimal, decimals: int) -> None:
    one = of("number", decimals=decimals, at_least="-500", at_most="500")
    fits = number == number.quantize(Decimal(1).scaleb(-decimals)) and abs(number) <= 500
    try:
        assert check(one, str(number), TODAY) == number
        assert fits
    except CheckFailed:
        assert not fits


@given(st.decimals(-(10**9), 10**9, allow_nan=False))
def test_plain_has_no_exponent_and_no_loss(number: Decimal) -> None:
    text = plain(number)
    assert "E" not in text
    assert Decimal(text) == number


def test_a_question_may_have_its_own_words_but_not_for_an_empty_answer() -> None:
    one = of("number", at_most="3", required=True, error_text={"en": "Three at most, please."})
    for raw, message in (("9", "Three at most, please."), ("", failures("en")["required"])):
        with pytest.raises(CheckFailed) as failed:
            check(one, raw, TODAY)
        assert fault_of({"q": one}, "q", failed.value, "en", "en").message == message
