"""Texts by their places, how translations stand to them, and XLIFF out and in."""

import json
from pathlib import Path
from xml.etree.ElementTree import fromstring

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.common.errors import Invalid
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.document.translations import Translated, state, texts, translated
from jotgate.core.formats import xliff
from jotgate.core.items import Question, Shown
from tests.core.strategies import questionnaires
from tests.documents import item, options, page, questionnaire, well_check

SMALL = questionnaire(page("p", item("pick_one", "q", options=options("a", "b"))))


def at(document: Questionnaire) -> dict[str, dict[str, str]]:
    return {said.at: said.text for said in texts(document)}


def test_every_text_has_its_place() -> None:
    assert list(at(SMALL)) == [
        "title",
        "look/introduction",
        "look/onward",
        "look/back",
        "look/send",
        "pages/p/title",
        "items/q/text",
        "items/q/help",
        "items/q/error_text",
        "items/q/else_label",
        "items/q/options/a/label",
        "items/q/options/b/label",
        "finishes/done/title",
        "finishes/done/message",
    ]


def test_how_a_translation_stands() -> None:
    assert state({}, "es", "en") == "none"
    assert state({"en": "A"}, "es", "en") == "missing"
    assert state({"en": "A", "es": "B"}, "es", "en") == "current"
    assert state({"en": "A", "es": "B", "es-x-of": "A"}, "es", "en") == "current"
    assert state({"en": "A", "es": "B", "es-x-of": "Was"}, "es", "en") == "older"


def test_the_desk_knows_the_same_texts() -> None:
    """The members that hold texts are listed once more where the desk looks for them."""
    listed = json.loads(Path("web/src/desk/translate/members.json").read_text())
    schema = Questionnaire.model_json_schema()
    parts = [schema, *schema["$defs"].values()]
    tag = next(iter(schema["properties"]["title"]["patternProperties"]))
    found = {
        name
        for part in parts
        for name, member in part.get("properties", {}).items()
        if tag in member.get("patternProperties", {})
    }
    assert sorted(found) == listed


# The names and values of XLIFF 1.2 (OASIS Standard, 1 February 2008): 2.2 the elements, 2.3 the
# attributes required of <file>, and the list of values of the attribute state.
NAMESPACES = {"x": "urn:oasis:names:tc:xliff:document:1.2"}
STATES = {"needs-translation", "needs-review-translation", "translated"}


def test_out_is_xliff() -> None:
    root = fromstring(xliff.write(well_check(), "es"))
    assert root.tag == "{urn:oasis:names:tc:xliff:document:1.2}xliff"
    assert root.get("version") == "1.2"
    file = root.find("x:file", NAMESPACES)
    assert file is not None
    assert set(file.attrib) == {"original", "source-language", "target-language", "datatype"}
    units = file.findall("x:body/x:trans-unit", NAMESPACES)
    assert len(units) == sum(bool(said.text.get("en", "").strip()) for said in texts(well_check()))
    assert len({unit.get("id") for unit in units}) == len(units)
    for unit in units:
        source, target = list(unit)
        assert source.text
        assert target.get("state") in STATES


# What XML 1.0 can say; the rest is left out of a file and is no change.
def test_out_and_in_again_is_no_change() -> None:
    whole = xliff.read(well_check(), xliff.write(well_check(), "es"))
    assert (whole.taken, whole.older, whole.unknown) == (0, 0, ())


@given(questionnaires(), st.text(min_size=1, max_size=40).filter(str.strip))
def test_any_translation_comes_back(document: Questionnaire, words: str) -> None:
    first = document.first_language
    target = "cy" if first != "cy" else "en"
    given = {
        said.at: Translated(words, said.text[first])
        for said in texts(document)
        if said.text.get(first, "").strip()
    }
    there = translated(document, target, given)
    back = xliff.read(document, xliff.write(there, target))
    assert back.unknown == ()
    wanted = xliff.sayable(words)
    for at_place, one in at(back.questionnaire).items():
        if at_place in given and wanted.strip():
            assert one[target] == wanted
            assert state(one, target, first) == "current"


def unit(place: str, source: str, target: str, more: str = "") -> str:
    return (
        f'<trans-unit id="{place}"><source>{source}</source>'
        f"<target {more}>{target}</target></trans-unit>"
    )


def file(*units: str, head: str = 'source-language="en" target-language="es"') -> bytes:
    body = f"<body>{''.join(units)}</body>"
    whole = f'<file original="q" datatype="plaintext" {head}>{body}</file>'
    namespace = "urn:oasis:names:tc:xliff:document:1.2"
    return f'<xliff version="1.2" xmlns="{namespace}">{whole}</xliff>'.encode()


def test_a_file_from_elsewhere() -> None:
    """Inline elements, notes, empty targets, places that are gone, an original that has changed."""
    found = xliff.read(
        SMALL,
        file(
            unit("items/q/text", SMALL.pages[0].items[0].text["en"], 'Una <g id="1">pregunta</g>'),
            unit("pages/p/title", "Was", "Era"),
            unit("items/gone/text", "x", "y"),
            unit("items/q/options/a/label", "a", ""),
            unit("items/q/options/b/label", "b", "b", 'state="needs-translation"'),
        ),
    )
    after = at(found.questionnaire)
    assert after["items/q/text"]["es"] == "Una pregunta"
    assert state(after["pages/p/title"], "es", "en") == "older"
    assert "es" not in after["items/q/options/a/label"]
    assert "es" not in after["items/q/options/b/label"]
    assert (found.taken, found.older, found.unknown) == (2, 1, ("items/gone/text",))
    assert found.questionnaire.languages == ("en", "es")


def test_what_is_marked_for_review_stays_so() -> None:
    """Whatever of the review states of XLIFF 1.2 (2.3, state) a tool gives it."""
    original = SMALL.pages[0].items[0].text["en"]
    for mark in ("needs-review-translation", "needs-review-l10n", "needs-adaptation"):
        back = unit("items/q/text", original, "Una pregunta", f'state="{mark}"')
        found = xliff.read(SMALL, file(back))
        assert state(at(found.questionnaire)["items/q/text"], "es", "en") == "older"
        assert found.older == 1
        again = xliff.read(found.questionnaire, xliff.write(found.questionnaire, "es"))
        assert state(at(again.questionnaire)["items/q/text"], "es", "en") == "older"


def test_every_file_of_it_is_read_and_what_stands_twice_is_told() -> None:
    original = SMALL.pages[0].items[0].text["en"]
    one = file(unit("items/q/text", original, "Una pregunta")).decode()
    other = file(
        unit("pages/p/title", SMALL.pages[0].title["en"], "Agua"),
        unit("items/q/text", original, "Otra"),
    ).decode()
    inner = other[other.index("<file") : other.index("</xliff>")]
    found = xliff.read(SMALL, one.replace("</xliff>", f"{inner}</xliff>").encode())
    after = at(found.questionnaire)
    assert after["pages/p/title"]["es"] == "Agua"
    assert after["items/q/text"]["es"] == "Una pregunta"
    assert found.unknown == ("items/q/text",)
    german = inner.replace('target-language="es"', 'target-language="de"')
    with pytest.raises(Invalid):
        xliff.read(SMALL, one.replace("</xliff>", f"{german}</xliff>").encode())


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "This is not XML"),
        (b"<xliff", "This is not XML"),
        (b"<html/>", "This is not XLIFF 1.2."),
        (b'<xliff version="1.2" xmlns="urn:oasis:names:tc:xliff:document:1.2"/>', "no <file>"),
        (file(head='source-language="fr" target-language="es"'), "It is from fr"),
        (file(head='source-language="en"'), "is no language"),
        (file(head='source-language="en" target-language="??"'), "is no language"),
        (file(head='source-language="en" target-language="en"'), "is written in"),
        (file(unit("title", "t", "x" * 10_001)), "too long"),
        (b'<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>', "document type or entities"),
        (b'<?xml version="1.0" encoding="made-up"?><a/>', "encoding that cannot be read"),
        (b'<?xml version="1.0" encoding="utf-7"?><a/>', "encoding that cannot be read"),
    ],
)
def test_a_broken_file_changes_nothing(data: bytes, says: str) -> None:
    with pytest.raises(Invalid) as refused:
        xliff.read(SMALL, data)
    assert says in refused.value.faults[0].message


def test_the_kinds_have_the_texts_that_they_should() -> None:
    """Questions have words, help and what is said of a wrong answer; what is shown has words."""
    for kind in Question.__args__:
        assert {"text", "help", "error_text"} <= set(kind.model_fields)
    for kind in Shown.__args__:
        assert "text" in kind.model_fields
