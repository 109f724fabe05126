"""Numbers, days and times as people read them: the same words as in the browser."""

import json
from datetime import date, datetime
from decimal import Decimal
from typing import Any

import pytest

from jotgate.core.answers.failure_messages import fault_of
from jotgate.core.answers.failures import CheckFailed
from jotgate.core.common.formatting import day, moment, number, plural
from jotgate.core.entries.finishing import ending
from jotgate.core.walking.path import walk
from jotgate.core.words import LANGUAGES
from jotgate.settings import ROOT
from tests.core.kinds import of
from tests.documents import TODAY, finish, item, page, plan

CASES: dict[str, Any] = json.loads((ROOT / "web/tests/readable.json").read_text())
SAY: dict[str, Any] = {
    "numbers": lambda raw, language: number(Decimal(raw), language),
    "days": lambda raw, language: day(date.fromisoformat(raw), language),
    "moments": lambda raw, language: moment(datetime.fromisoformat(raw), language),
    "plurals": plural,
}


@pytest.mark.parametrize("name", CASES)
def test_they_read_as_the_browser_says_them(name: str) -> None:
    for raw, *expected in CASES[name]:
        assert [SAY[name](raw, language) for language in ("en", "es", "ar")] == expected
    assert set(LANGUAGES) == {"en", "es", "ar"}


@pytest.mark.parametrize(
    ("code", "params", "messages"),
    [
        (
            "too_short",
            {"limit": 1, "length": 0},
            (
                "Write at least 1 character; it has 0.",
                "Escriba al menos 1 carácter; tiene 0.",
                "الحد الأدنى لعدد الأحرف: 1؛ كُتب منها 0.",
            ),
        ),
        (
            "too_large",
            {"limit": Decimal("12.5")},
            (
                "Give a number of at most 12.5.",
                "Indique un número no mayor que 12,5.",
                "اكتب عددًا لا يزيد على 12.5.",
            ),
        ),
        (
            "too_late",
            {"limit": date(2026, 11, 25)},
            (
                "Give 25 November 2026 or earlier.",
                "Indique 25 de noviembre de 2026 o antes.",
                "اختر 25 نوفمبر 2026 أو ما قبله.",
            ),
        ),
        (
            "too_many_files",
            {"limit": 1},
            ("Add at most 1 file.", "Añada como máximo 1 archivo.", "الحد الأقصى لعدد الملفات: 1."),
        ),
    ],
)
def test_failures_read_in_the_readers_form(
    code: str, params: dict[str, Any], messages: tuple[str, ...]
) -> None:
    one = {"q": of("short_text")}
    told = [
        fault_of(one, "q", CheckFailed(code, **params), lang, "en") for lang in ("en", "es", "ar")
    ]
    assert tuple(fault.message for fault in told) == messages


def test_a_finish_says_answers_in_the_readers_form() -> None:
    said = "{depth}; {since}; {at}; {when}"
    made = plan(
        page(
            "p",
            item("number", "depth", decimals=1, unit={"en": "m"}),
            item("date", "since"),
            item("time", "at"),
            item("date_time", "when"),
        ),
        finishes=(finish("done", message={"en": said}),),
        languages=["en", "es", "ar"],
    )
    given = {"depth": "12.5", "since": "2025-05-01", "at": "09:00", "when": "2026-11-25T14:05"}
    whole = walk(made, given, {}, TODAY)
    told = [ending(made, whole.finish, whole.kept, 1, one).message for one in ("en", "es", "ar")]
    assert told == [
        "12.5 m; 1 May 2025; 09:00; 25 November 2026, 14:05",
        "12,5 m; 1 de mayo de 2025; 09:00; 25 de noviembre de 2026, 14:05",
        "12.5 m; 1 مايو 2025; 09:00; 25 نوفمبر 2026، 14:05",
    ]
