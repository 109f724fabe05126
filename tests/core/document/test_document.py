"""The questionnaire as a file: out and in again the same; broken ones refused with their lines."""

import json
from typing import Any

import jsonschema
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.common.errors import Invalid
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.formats import document
from jotgate.demo.load import documents
from jotgate.settings import ROOT
from tests.core.strategies import questionnaires

PUBLISHED = ROOT / "docs" / "questionnaire.schema.json"


@given(questionnaires())
def test_any_questionnaire_comes_back_the_same(questionnaire: Questionnaire) -> None:
    assert document.read(document.write(questionnaire)) == questionnaire


@pytest.mark.parametrize("name", documents())
def test_the_demo_questionnaires_come_back_and_have_the_published_shape(name: str) -> None:
    questionnaire = documents()[name]
    data = document.write(questionnaire)
    assert document.read(data) == questionnaire
    schema = json.loads(PUBLISHED.read_text())
    jsonschema.Draft202012Validator.check_schema(schema)
    jsonschema.Draft202012Validator(schema).validate(json.loads(data))


def test_the_published_schema_is_the_one_in_use() -> None:
    assert json.loads(PUBLISHED.read_text()) == document.schema()


LINES = [
    "{",
    '  "format": "jotgate-questionnaire", "version": 1,',
    '  "title": {"en": "T, [{:"},',
    '  "pages": [',
    '    {"key": "p", "title": {}, "items": [',
    '      {"kind": "note", "key": "a", "text": {}},',
    '      {"kind": "number", "key": "b", "text": {},',
    '       "decimals": 9},',
    '      {"kind": "grid", "key": "c", "text": {}, "columns": [',
    '        {"kind": "scale", "key": "d", "text": {}, "high": 99}]}',
    "    ]}",
    "  ],",
    '  "finishes": [{"key": "done", "title": {}}]',
    "}",
]


def faults_of(lines: list[str] | bytes) -> list[tuple[str, Any, str]]:
    data = lines if isinstance(lines, bytes) else "\n".join(lines).encode()
    with pytest.raises(Invalid) as refused:
        document.read(data)
    assert refused.value.message == "The file was not imported. Nothing has changed."
    return [(one.code, one.params["line"], one.at) for one in refused.value.faults]


def changed(number: int, line: str) -> list[str]:
    good = [one.replace("99}", "9}").replace(": 9},", ": 2},") for one in LINES]
    return [*good[: number - 1], line, *good[number:]]


def test_every_fault_has_its_line_and_path() -> None:
    assert faults_of(LINES) == [
        ("less_than_equal", 8, "pages/0/items/1/decimals"),
        ("less_than_equal", 10, "pages/0/items/2/columns/0/high"),
    ]
    assert document.read("\n".join(changed(1, "{")).encode()).pages[0].key == "p"


@pytest.mark.parametrize(
    ("number", "line", "fault"),
    [
        (3, '  "title": {"en": 5},', ("string_type", 3, "title/en")),
        (3, '  "title": {"en": "T"}, "colour": 1,', ("extra_forbidden", 3, "colour")),
        (3, '  "subtitle": {},', ("missing", 1, "title")),
        (2, '  "format": "jotgate-questionnaire", "version": 7,', ("other_version", 2, "version")),
        (2, '  "version": 1,', ("not_a_questionnaire", 1, "format")),
        (
            6,
            '      {"kind": "song", "key": "a", "text": {}},',
            ("union_tag_invalid", 6, "pages/0/items/0"),
        ),
        (
            7,
            '      {"kind": "number", "key": "B!", "text": {},',
            ("string_pattern_mismatch", 7, "pages/0/items/1/key"),
        ),
        (6, '      {"kind": "note" "key": "a"},', ("not_json", 6, "")),
    ],
)
def test_a_broken_file_is_refused_where_it_breaks(
    number: int, line: str, fault: tuple[str, int, str]
) -> None:
    assert faults_of(changed(number, line))[0] == fault


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"", "not_json"),
        (b"[1, 2", "not_json"),
        (b"\xff\xfe{}", "not_utf8"),
        (b'{"a": NaN}', "not_json"),
        (b"[" * 100_000, "not_json"),
        (b"[]", "not_a_questionnaire"),
    ],
)
def test_what_is_no_questionnaire_is_refused(data: bytes, code: str) -> None:
    assert faults_of(data)[0][0] == code


@given(st.binary(max_size=80) | st.text(max_size=80).map(str.encode))
def test_no_file_breaks_the_reader(data: bytes) -> None:
    with pytest.raises(Invalid):
        document.read(data)
