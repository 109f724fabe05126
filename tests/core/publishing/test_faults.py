"""What keeps a draft from being published."""

from typing import Any

import pytest

from jotgate.core.document.questionnaire import blank
from jotgate.core.publishing.faults import faults
from tests.documents import is_, item, options, page, questionnaire, well_check

OK = item("yes_no", "ok")


def codes(*pages: dict[str, Any], finishes: tuple[str, ...] = ("done",)) -> list[str]:
    return [fault.code for fault in faults(questionnaire(*pages, finishes=finishes))]


def skip(to: dict[str, str]) -> list[dict[str, Any]]:
    return [{"when": is_("ok", True), "to": to}]


def test_a_sound_one_has_none() -> None:
    assert faults(well_check()) == ()


def test_a_blank_one_asks_nothing() -> None:
    assert [fault.code for fault in faults(blank("New"))] == ["nothing_asked"]


@pytest.mark.parametrize(
    ("pages", "code"),
    [
        ([page("a", OK, OK)], "double_key"),
        ([page("a", OK), page("a", item("yes_no", "b"))], "double_key"),
        ([page("a", {**OK, "text": {"en": "  "}})], "no_text"),
        ([page("a", item("pick_one", "p"))], "no_options"),
        ([page("a", item("pick_one", "p", options=options("x", "x")))], "double_code"),
        ([page("a", item("number", "n", at_least="5", at_most="4"))], "empty_range"),
        ([page("a", item("short_text", "s", shortest=9, longest=3))], "empty_range"),
        ([page("a", OK, shown_when=is_("later", True))], "not_earlier"),
        ([page("a", item("yes_no", "x", shown_when=is_("ok", True)), OK)], "not_earlier"),
        ([page("a", item("yes_no", "x", shown_when=is_("x", True)))], "not_earlier"),
        ([page("a", OK, item("yes_no", "x", shown_when=is_("ok", "yes")))], "no_such_answer"),
        ([page("a", OK, skips=skip({"kind": "page", "page": "a"}))], "not_later"),
        ([page("a", OK, skips=skip({"kind": "finish", "finish": "gone"}))], "no_finish"),
        ([page("a", OK, skips=skip({"kind": "finish", "finish": ""}))], "no_finish"),
        (
            [
                page("a", item("carried", "c"), OK, shown_when=is_("c", "x")),
            ],
            "no_sure_page",
        ),
    ],
)
def test_each_fault_is_found(pages: list[dict[str, Any]], code: str) -> None:
    assert code in codes(*pages)


def test_a_carried_value_can_be_named_from_the_first_page_on() -> None:
    first = page("a", OK)
    second = page("b", item("yes_no", "x"), item("carried", "c"), shown_when=is_("c", "y"))
    assert codes(first, second) == []


def test_a_fault_says_where_it_is() -> None:
    found = faults(questionnaire(page("a", OK, item("pick_one", "p"))))
    assert [fault.at for fault in found] == ["pages/a/items/p"]
