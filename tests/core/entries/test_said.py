"""Texts that speak of the visitor: what stands in their slots, and what never does."""

from typing import Any

import pytest

from jotgate.core.common.wording import fill, slots
from jotgate.core.entries.about import about_for_visitor, thing
from jotgate.core.entries.display import Reader
from jotgate.core.entries.said import Saying
from jotgate.core.publishing.faults import faults
from tests.documents import finish, is_, item, options, page, plan, questionnaire, words

PLAN = plan(
    page(
        "a",
        item("name", "who"),
        item("pick_one", "way", options=options("left", "right")),
        item("date", "day"),
        item("carried", "well"),
    )
)
KNOWN: dict[str, Any] = {
    "who": {"given": "Ines", "family": "<b>Carvalho</b>"},
    "way": "left",
    "contact.email": "ines@example.org",
    "well": "{way}",
}


def tell(text: str, **more: Any) -> str:
    return Saying(Reader(PLAN), {**KNOWN, **more}).tell(words(text))


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ("Welcome, {who.given}", "Welcome, Ines"),
        ("You went {way}.", "You went Left."),
        ("We write to {contact.email}", "We write to ines@example.org"),
        ("On {day|some day}", "On some day"),
        ("{claim.role}{contact.phone|no phone}", "no phone"),
        ("{who.title|}{who.suffix}|", "|"),
        ("{ way } {Way} {way", "{ way } {Way} {way"),
        ("{well}", "{way}"),
    ],
)
def test_what_is_told(text: str, told: str) -> None:
    """What was answered is told as it is: its own braces are no slots."""
    assert tell(text) == told


def test_answers_are_words_in_html_and_never_markup() -> None:
    said = Saying(Reader(PLAN), KNOWN).filled_html("<p>{who.family}</p>")
    assert said == "<p>&lt;b&gt;Carvalho&lt;/b&gt;</p>"


def test_slots_and_what_stands_for_them() -> None:
    assert slots("{a|b {c} {d.e|f} {a}") == ("c", "d.e", "a")
    assert fill("{a|x}{a|}{b|y|z}", {"b": "", "a": "1"}) == "11{b|y|z}"


SEALED = item("carried", "d", sources=[{"kind": "pass"}], sealed=True)


@pytest.mark.parametrize(
    ("items", "codes"),
    [
        ([item("yes_no", "x", text=words("{d}"))], ["sealed_told"]),
        ([item("note", "n", text=words("{d}")), item("yes_no", "x")], ["sealed_told"]),
        ([item("yes_no", "x", help=words("{contact.name|you}"))], []),
        ([item("yes_no", "x", text=words("{later}")), item("yes_no", "later")], ["no_item"]),
        ([item("yes_no", "x", text=words("{x}"))], ["no_item"]),
        ([item("name", "who"), item("yes_no", "x", text=words("{who.given}"))], []),
        ([item("name", "who"), item("yes_no", "x", text=words("{who.shoe}"))], ["no_item"]),
        (
            [
                item("pick_one", "p", options=[{"code": "a", "label": words("{d}")}]),
            ],
            ["sealed_told"],
        ),
    ],
)
def test_what_may_be_spoken_of(items: list[dict[str, Any]], codes: list[str]) -> None:
    made = questionnaire(page("p", SEALED, *items))
    assert [one.code for one in faults(made)] == codes
    told = questionnaire(page("p", {**SEALED, "told": True}, *items))
    assert [one.code for one in faults(told) if one.code == "sealed_told"] == []


def test_titles_checks_and_finishes_too() -> None:
    check = {"left": "a", "relation": "is", "right": "b", "message": words("{d}")}
    made = questionnaire(
        page("p", SEALED, item("number", "a"), item("number", "b"), title=words("{d}"))
        | {"title": words("{d}"), "checks": [check]},
        finishes=(finish("done", message=words("{d} {e}")),),
    )
    assert [one.code for one in faults(made)] == [
        "sealed_told",
        "sealed_told",
        "sealed_told",
        "no_item",
    ]


ABOUT = {"name": words("Well {well}"), "address": "https://example.org/wells/{well}?d={d}"}


def about(**more: Any) -> dict[str, Any]:
    return item("carried", "well", about={**ABOUT, **more})


def test_what_an_entry_is_about() -> None:
    made = plan(page("p", about(), SEALED, item("yes_no", "x")))
    found = thing(made, {"well": "TW 22/66", "d": "a&b"})
    assert found is not None
    assert found.name == "Well TW 22/66"
    assert found.address == "https://example.org/wells/TW%2022%2F66?d=a%26b"
    assert thing(made, {}) is None


def test_visitors_read_its_name_unless_it_is_sealed() -> None:
    sealed = {**about(name={}), "sealed": True, "sources": [{"kind": "pass"}]}
    hidden = plan(page("p", sealed, item("yes_no", "x")))
    assert about_for_visitor(hidden, {"well": "TW-1"}, "en") == ""
    shown = plan(page("p", about(name={}), item("yes_no", "x")))
    assert about_for_visitor(shown, {"well": "TW-1"}, "en") == "TW-1"


@pytest.mark.parametrize(
    ("one", "codes"),
    [
        (about(), []),
        (about(name=words("{d}")), ["sealed_told"]),
        (about(name=words("{x}")), ["no_item"]),
        (about(address="javascript:alert(1)"), ["bad_address"]),
        (about(address="https://{well}/x"), ["bad_address"]),
        ({**about(), "restricted": True}, ["restricted"]),
    ],
)
def test_what_it_can_be_about(one: dict[str, Any], codes: list[str]) -> None:
    made = questionnaire(page("p", one, SEALED, item("yes_no", "x")))
    assert [fault.code for fault in faults(made)] == codes


def test_a_page_is_asked_again_when_it_speaks_of_an_answer_on_it() -> None:
    made = plan(
        page("p", item("short_text", "a"), item("yes_no", "x", text=words("{a}"))),
        page("q", item("yes_no", "y", shown_when=is_("x", True))),
    )
    assert made.watched["p"] == {"a"}
    assert set(made.speaking) == {"x"}


@pytest.mark.parametrize(
    ("known", "spoke"), [({}, False), ({"contact.email": "i@example.org"}, True)]
)
def test_only_what_was_said_of_somebody_makes_a_page_theirs_alone(
    known: dict[str, Any], spoke: bool
) -> None:
    """Words for when there is nothing are the same for everybody: one drawing serves them all."""
    saying = Saying(Reader(PLAN), known)
    saying.tell(words("Welcome, {contact.email|neighbour}, {who.given|you}"))
    assert saying.spoke is spoke
