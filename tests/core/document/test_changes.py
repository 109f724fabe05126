"""What changed between two versions, in words."""

from typing import Any

import pytest
from hypothesis import given

from jotgate.core.document.changes import changes
from jotgate.core.document.questionnaire import Questionnaire
from tests.core.strategies import questionnaires
from tests.documents import is_, item, options, page, questionnaire

BASE = questionnaire(
    page(
        "start",
        item("short_text", "name", required=True, longest=40),
        item("pick_one", "source", options=options("own", "mains")),
        item("number", "depth", at_most="20"),
    ),
    page("more", item("yes_no", "ill")),
    finishes=("done", "none"),
)


def told(change: dict[str, Any], *path: str | int) -> list[str]:
    """What is told where the members `change` are set at `path` of the document."""
    document = BASE.model_dump(mode="json")
    part: Any = document
    for step in path:
        part = part[step]
    part.update(change)
    after = Questionnaire.model_validate(document)
    return [one.says for one in changes(BASE, after)]


@pytest.mark.parametrize(
    ("look", "says"),
    [
        ({"accent": "#aa3300"}, "The accent colour changed."),
        ({"progress": False}, "Whether progress is shown changed."),
        ({"introduction": {"en": "Hello"}}, 'The introduction: "" became "Hello".'),
        ({"send": {"en": "Hand in"}}, 'The button at the end: "" became "Hand in".'),
    ],
)
def test_the_look(look: dict[str, Any], says: str) -> None:
    assert told({"look": look}) == [says]


NAME = ("pages", 0, "items", 0)
SOURCE = ("pages", 0, "items", 1)
DEPTH = ("pages", 0, "items", 2)


@pytest.mark.parametrize(
    ("change", "path", "says"),
    [
        ({"title": {"en": "New"}}, (), ['The title: "Test" became "New".']),
        ({"languages": ["en", "es"]}, (), ["The languages are en, es now."]),
        ({"time_zone": "Europe/Lisbon"}, (), ["The time zone is Europe/Lisbon now."]),
        ({"text": {"en": "Who"}}, NAME, ['name: "Name" became "Who".']),
        ({"required": False}, NAME, ["name is no longer required."]),
        ({"restricted": True}, NAME, ["name is restricted now."]),
        ({"longest": 60}, NAME, ["name: the longest was 40 and is 60 now."]),
        ({"longest": None}, NAME, ["name: the longest is not set any more."]),
        ({"shortest": 2}, NAME, ["name: the shortest is 2 now."]),
        ({"help": {"en": "H"}}, NAME, ['name, the help: "" became "H".']),
        ({"at_most": "30"}, DEPTH, ["depth: the most was 20 and is 30 now."]),
        ({"kind": "email", "longest": None}, NAME, None),
        (
            {"options": options("mains", "own")},
            SOURCE,
            ["source: the options are in another order."],
        ),
        (
            {"options": options("own", "spring")},
            SOURCE,
            ['source: the option "Mains" is gone.', 'source: the option "Spring" is new.'],
        ),
        ({"shown_when": is_("source", "own")}, DEPTH, ["depth is shown under a condition now."]),
        (
            {"shown_when": is_("source", "own")},
            ("pages", 1),
            ['Page "More" is shown under a condition now.'],
        ),
        (
            {"title": {"en": "End"}},
            ("finishes", 0),
            ['The heading of a finish: "Done" became "End".'],
        ),
    ],
)
def test_one_change_is_one_sentence(
    change: dict[str, Any], path: tuple[str | int, ...], says: list[str] | None
) -> None:
    if says is None:
        change.pop("longest")
        says = ["name was short text and is email now."]
        document = BASE.model_dump(mode="json")
        old = document["pages"][0]["items"][0]
        new = {name: old[name] for name in ("key", "text", "required")} | change
        document["pages"][0]["items"][0] = new
        after = Questionnaire.model_validate(document)
        assert [one.says for one in changes(BASE, after)] == says
        return
    assert told(change, *path) == says


def test_moved_new_and_gone() -> None:
    document = BASE.model_dump(mode="json")
    first, second = document["pages"]
    second["items"].append(first["items"].pop(2))
    first["items"].pop(0)
    first["items"].append(item("note", "hello"))
    document["finishes"].pop()
    after = Questionnaire.model_validate(document)
    assert [(one.at, one.says) for one in changes(BASE, after)] == [
        ("pages/start/items/name", 'name is gone: "Name".'),
        ("pages/start/items/hello", 'hello is new: "Hello".'),
        ("pages/more/items/depth", 'depth moved to the page "More".'),
        ("finishes/none", 'The finish "None" is gone.'),
    ]


@given(questionnaires(), questionnaires())
def test_no_change_is_told_where_there_is_none_and_one_where_there_is(
    one: Questionnaire, other: Questionnaire
) -> None:
    assert changes(one, one) == ()
    assert (changes(one, other) == ()) == (one == other)


def test_saved_conditions_and_what_a_finish_does_are_told() -> None:
    saved = [{"key": "ill", "name": "Is ill", "when": is_("ill", True)}]
    assert told({"saved": saved}) == ['The saved condition "Is ill" is new.']
    link = {"label": {"en": "On"}, "address": "https://example.org"}
    assert told({"link": link}, "finishes", 0) == ['The link onward of "Done" changed.']
    assert told({"sets": {"route": "x"}}, "finishes", 0) == ['The values that "Done" sets changed.']
