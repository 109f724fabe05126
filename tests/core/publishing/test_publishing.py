"""What keeps each kind, check and computed value from being published."""

from typing import Any

import pytest

from jotgate.core.publishing.faults import faults
from tests.documents import is_, item, options, page, questionnaire, words


def codes(*items: dict[str, Any], **more: Any) -> list[str]:
    return [fault.code for fault in faults(questionnaire(page("p", *items, **more)))]


NUMBER = item("number", "n")
SECRET = item("number", "s", restricted=True)
DAY = item("date", "d")
WELLS = item("roster", "wells", items=[item("number", "depth")])


def check(left: str, relation: str, **more: Any) -> dict[str, Any]:
    return {"left": left, "relation": relation, "message": words("No."), **more}


def computed(**formula: Any) -> dict[str, Any]:
    return item("computed", "c", formula=formula)


@pytest.mark.parametrize(
    ("items", "found"),
    [
        ([item("roster", "r")], ["nothing_asked"]),
        ([WELLS], []),
        ([WELLS, item("number", "depth")], ["double_key"]),
        ([item("roster", "r", fewest=5, most=2, items=[NUMBER])], ["empty_range"]),
        ([item("roster", "r", items=[SECRET])], ["restricted_inside"]),
        ([item("grid", "g")], ["nothing_asked"]),
        ([item("grid", "g", rows=options("a", "a"), columns=[NUMBER])], ["double_code"]),
        ([item("grid", "g", rows=options("a"), columns=[NUMBER], totals=["x"])], ["wrong_source"]),
        ([item("grid", "g", rows=options("a"), columns=[NUMBER], totals=["n"])], []),
        ([item("rank", "r")], ["no_options"]),
        ([item("name", "x", parts=["given"], needed=["family"])], ["wrong_source"]),
        ([item("picture", "x"), NUMBER], ["no_media"]),
        ([item("video", "x"), NUMBER], ["no_media", "no_captions"]),
        ([item("date_time", "x", earliest="today", latest="today-1")], ["empty_range"]),
        ([item("date_time", "x", earliest="now", latest="today-1")], []),
        ([NUMBER, computed(do="sum", of=["n"])], []),
        ([WELLS, computed(do="sum", of=["depth"])], []),
        ([computed(do="sum", of=["n"]), NUMBER], ["not_earlier"]),
        ([DAY, computed(do="sum", of=["d"])], ["wrong_source"]),
        ([SECRET, computed(do="sum", of=["s"])], []),
        ([SECRET, {**computed(do="sum", of=["s"]), "restricted": True}], []),
        ([NUMBER, computed(do="difference", since="n", until="today")], ["wrong_source"]),
        ([DAY, computed(do="difference", since="d", until="today")], []),
        ([NUMBER, computed(do="score", points={"n": {"1": "1"}})], ["wrong_source"]),
        (
            [
                item("pick_one", "o", options=options("a")),
                computed(do="score", points={"o": {"b": "1"}}),
            ],
            ["no_such_answer"],
        ),
        ([NUMBER, computed(do="sum", of=["n"]), item("yes_no", "y", shown_when=is_("c", "3"))], []),
        ([WELLS, item("yes_no", "y", shown_when=is_("wells", "x"))], ["no_such_answer"]),
        ([WELLS, item("yes_no", "y", shown_when=is_("depth", "3"))], ["not_earlier"]),
        (
            [
                item(
                    "roster",
                    "r",
                    items=[item("yes_no", "a"), item("yes_no", "b", shown_when=is_("a", True))],
                )
            ],
            [],
        ),
        (
            [
                item(
                    "roster",
                    "r",
                    items=[item("yes_no", "b", shown_when=is_("a", True)), item("yes_no", "a")],
                )
            ],
            ["not_earlier"],
        ),
        (
            [item("pick_one", "o", options=[{**options("a")[0], "shown_when": is_("x", True)}])],
            ["not_earlier"],
        ),
    ],
)
def test_items(items: list[dict[str, Any]], found: list[str]) -> None:
    assert codes(*items) == found


@pytest.mark.parametrize(
    ("made", "found"),
    [
        (check("e", "at_least", right="d"), []),
        (check("n", "at_least", number="2"), []),
        (check("wells", "at_least", right="n"), []),
        (check("n", "at_least"), ["no_comparison"]),
        (check("n", "at_least", right="n", number="1"), ["no_comparison"]),
        (check("d", "at_least", right="n"), ["no_comparison"]),
        (check("t", "at_least", right="t"), ["no_comparison"]),
        (check("t", "is", right="t"), []),
        (check("x", "is", right="n"), ["not_earlier"]),
        ({**check("n", "is", number="1"), "message": {}}, ["no_text"]),
        (check("n", "is", number="1", when=is_("x", True)), ["not_earlier"]),
    ],
)
def test_checks(made: dict[str, Any], found: list[str]) -> None:
    here = [NUMBER, DAY, item("date", "e"), item("short_text", "t"), WELLS]
    assert codes(*here, checks=[made]) == found


def test_a_check_stands_where_its_last_answer_is_asked() -> None:
    document = questionnaire(
        page("a", NUMBER), page("b", item("yes_no", "y"), checks=[check("n", "is", number="1")])
    )
    assert [fault.code for fault in faults(document)] == ["check_elsewhere"]


def test_places_lead_to_the_innermost_question() -> None:
    document = questionnaire(page("p", item("roster", "r", items=[item("pick_one", "o")])))
    assert [fault.at for fault in faults(document)] == ["pages/p/items/r/items/o"]
