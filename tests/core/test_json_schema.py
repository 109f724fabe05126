"""For what JSON Schema 2020-12 can say, our check and the reference validator agree.

The reference is the PyPI package jsonschema, on the schema that we export.
"""

import unicodedata
from typing import Any

from hypothesis import given
from hypothesis import strategies as st
from jsonschema import Draft202012Validator

from jotgate.core.formats.json_schema import entry_schema, unsaid
from jotgate.core.path import walk
from jotgate.core.plan import compile_plan
from jotgate.core.questionnaire import Questionnaire
from tests.documents import TODAY, item, options, page, questionnaire

CODES = ("a", "b", "c")


@st.composite
def items(draw: st.DrawFn, key: str) -> dict[str, Any]:
    """A question whose checks a schema can say in full."""
    kind = draw(
        st.sampled_from(
            [
                "short_text",
                "long_text",
                "number",
                "yes_no",
                "pick_one",
                "pick_many",
                "scale",
                "date",
                "time",
            ]
        )
    )
    required = draw(st.booleans())
    more: dict[str, Any] = {}
    if kind in ("short_text", "long_text"):
        low, high = sorted(draw(st.tuples(st.integers(1, 6), st.integers(1, 6))))
        more = {"shortest": low, "longest": high}
    if kind == "number":
        low, high = sorted(draw(st.tuples(st.integers(-5, 5), st.integers(-5, 5))))
        more = {"at_least": str(low), "at_most": str(high)}
    if kind == "scale":
        more = {"low": draw(st.integers(0, 1)), "high": draw(st.integers(2, 10))}
    if kind.startswith("pick"):
        more = {"options": options(*CODES)}
    if kind == "pick_many":
        more["fewest"], more["most"] = sorted(draw(st.tuples(*[st.integers(1, 3)] * 2)))
        if draw(st.booleans()):
            more["options"][2]["alone"] = True
    return item(kind, key, required=required, **more)


@st.composite
def cases(draw: st.DrawFn) -> tuple[Questionnaire, dict[str, Any]]:
    made = [draw(items(f"q{n}")) for n in range(draw(st.integers(1, 4)))]
    value = st.one_of(
        st.booleans(),
        st.integers(-8, 12),
        st.text(st.characters(codec="utf-8"), min_size=1, max_size=8),
        st.sampled_from([*CODES, "12:30", "24:00", "2026-02-28", "2026-02-30", "7:00", "a\nb"]),
        st.lists(st.sampled_from([*CODES, "d"]), min_size=1, max_size=4),
        st.dictionaries(st.text(max_size=2), st.booleans(), max_size=1),
    )
    answers = {one["key"]: draw(value) for one in made if draw(st.integers(0, 5))}
    return questionnaire(page("p", *made)), answers


def canonical(value: Any) -> bool:
    """Whether a value is in the form in which it would be kept; others are brought to it."""
    if isinstance(value, str):
        plain = unicodedata.normalize("NFC", value.replace("\r\n", "\n").replace("\r", "\n"))
        return value == plain.strip() and value != ""
    return not isinstance(value, list) or value == [c for c in (*CODES, "d") if c in value]


def said_as_kept(document: Questionnaire, answers: dict[str, Any]) -> bool:
    """Numbers as JSON numbers: text that reads as a number is for the wire only."""
    kinds = {one.key: one.kind for one in document.items()}
    return all(
        canonical(value) and not (kinds[key] in ("number", "scale") and isinstance(value, str))
        for key, value in answers.items()
    )


@given(cases())
def test_we_accept_exactly_what_the_schema_accepts(
    case: tuple[Questionnaire, dict[str, Any]],
) -> None:
    document, answers = case
    if not said_as_kept(document, answers):
        return
    assert not unsaid(document)
    schema = entry_schema(document)
    Draft202012Validator.check_schema(schema)
    validator = Draft202012Validator(schema, format_checker=Draft202012Validator.FORMAT_CHECKER)
    ours = walk(compile_plan(document), answers, {}, TODAY).stuck is None
    assert validator.is_valid(answers) is ours


def test_what_a_schema_cannot_say_is_listed() -> None:
    document = questionnaire(
        page(
            "p",
            item("email", "e"),
            item("number", "n", decimals=2),
            item("date", "d", latest="today"),
            item("short_text", "s", pattern={"expression": "a+"}),
            item("yes_no", "y", shown_when={"op": "answered", "item": "n"}),
        )
    )
    assert [key for key, _ in unsaid(document)] == ["e", "n", "d", "s", "y"]
