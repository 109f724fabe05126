"""Our own words: complete in every language, with the same slots; failures told in them."""

import re
from datetime import UTC, date, datetime, time
from decimal import Decimal
from typing import Any

import pytest

from jotgate.core.answers.failure_messages import fault_of, item_at
from jotgate.core.answers.failures import CheckFailed
from jotgate.core.common.wording import closest
from jotgate.core.words import LANGUAGES, direction, failures, figures, gate, letter, page
from tests.core.kinds import of
from tests.documents import item, words

ROSTER = of("roster", items=[item("name", "who", error_text=words("Say who."))])


ALIKE = {"total"}
"""Words that are the same in English and in Spanish."""


def slots(template: str) -> set[str]:
    return set(re.findall(r"\{(\w+)\}", template))


@pytest.mark.parametrize("language", LANGUAGES)
@pytest.mark.parametrize("table", [failures, page, gate, letter, figures])
def test_every_language_has_every_word_with_its_slots(language: str, table: Any) -> None:
    english, mine = (
        {key: words for key, words in all.items() if "." not in key}
        for all in (table("en"), table(language))
    )
    for key, said in table(language).items():
        assert slots(said) == slots(table(language)[key.partition(".")[0]])
    assert set(mine) == set(english)
    for key, template in english.items():
        assert mine[key].strip()
        assert slots(mine[key]) == slots(template), key
        bare = re.sub(r"\{\w+\}", "", template)
        same = language == "en" or key in ALIKE
        assert same or mine[key] != template or not re.search("[a-z]{4}", bare)


def test_another_language_reads_in_english_and_a_region_in_its_language() -> None:
    assert page("fi") is page("en")
    assert page("es-MX") is page("es")
    assert [direction(one) for one in ("en", "ar", "ar-EG", "he", "fi")] == [
        "ltr",
        "rtl",
        "rtl",
        "rtl",
        "ltr",
    ]


@pytest.mark.parametrize(
    ("offered", "wanted", "chosen"),
    [
        (("en", "es"), ("es",), "es"),
        (("en", "es"), ("es-MX", "en"), "es"),
        (("en", "es"), ("fi", "es"), "es"),
        (("en", "es"), ("fi",), "en"),
        (("en", "es"), (), "en"),
        (("ar",), ("en",), "ar"),
    ],
)
def test_the_closest_language(offered: Any, wanted: Any, chosen: str) -> None:
    """The lookup of RFC 4647, section 3.4."""
    assert closest(offered, wanted) == chosen


@pytest.mark.parametrize(
    ("limit", "language", "message"),
    [
        (date(2026, 5, 4), "en", "Give 4 May 2026 or later."),
        (time(7), "en", "Give 07:00 or later."),
        (datetime(2026, 5, 4, 7, tzinfo=UTC), "en", "Give 4 May 2026, 07:00 or later."),
    ],
)
def test_limits_in_words(limit: Any, language: str, message: str) -> None:
    failed = CheckFailed("too_early", limit=limit)
    assert fault_of({"q": ROSTER}, "q", failed, language, "en").message == message


def test_a_month_is_named_in_the_reader_s_language() -> None:
    failed = CheckFailed("too_early", limit=date(2026, 5, 4))
    assert "mayo" in fault_of({"q": ROSTER}, "q", failed, "es", "en").message
    assert "مايو" in fault_of({"q": ROSTER}, "q", failed, "ar", "en").message


def test_parameters_in_several_languages() -> None:
    failed = CheckFailed("not_like", like={"en": "like X1", "es": "como X1"})
    told = [fault_of({"q": ROSTER}, "q", failed, one, "en").message for one in ("en", "es", "fi")]
    assert told == ["Write it like X1.", "Escríbalo como X1.", "Write it like X1."]
    number = CheckFailed("too_small", limit=Decimal("0.50"))
    assert fault_of({"q": ROSTER}, "q", number, "en", "en").params == {"limit": "0.5"}


def test_a_fault_inside_is_about_the_innermost_question() -> None:
    items = {"q": ROSTER}
    assert item_at(items, "q/0/who/given").key == "who"
    assert item_at(items, "q/0").key == "q"
    own = fault_of(items, "q/0/who/given", CheckFailed("control_character"), "en", "en")
    assert own.message == "Say who."
    missing = fault_of(
        items, "q/0/who/given", CheckFailed("part_missing", part={"en": "Given"}), "en", "en"
    )
    assert missing.message == "Fill in: Given."
