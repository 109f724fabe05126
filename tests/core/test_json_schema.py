"""For what JSON Schema 2020-12 can say, our check and the reference validator agree.

The reference is the PyPI package jsonschema, on the schema that we export.
"""

import unicodedata
from typing import Any

from hypothesis import given, settings
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


WRITTEN = st.text("ab é\n\t\x07", min_size=1, max_size=8)
NUMBERS = st.integers(-8, 12)
PICKED = st.lists(st.sampled_from([*CODES, "d"]), min_size=1, max_size=4, unique=True).map(
    sorted
) | st.just(["c"])
RIGHT: dict[str, st.SearchStrategy[Any]] = {
    "short_text": WRITTEN,
    "long_text": WRITTEN,
    "number": NUMBERS,
    "scale": NUMBERS,
    "yes_no": st.booleans(),
    "pick_one": st.sampled_from([*CODES, "d"]),
    "pick_many": PICKED,
    "date": st.sampled_from(["2026-02-28", "2026-02-30", "2024-02-29", "26-02-28", "soon"]),
    "time": st.sampled_from(["12:30", "24:00", "7:00", "00:00", "12:30:00"]),
}
"""Answers of the kind that a question takes; many of them fail its checks."""

ANY = st.one_of(NUMBERS, WRITTEN, st.booleans(), PICKED, st.just({"a": True}))


@st.composite
def cases(draw: st.DrawFn) -> tuple[Questionnaire, dict[str, Any]]:
    """A questionnaire and answers to it, in the form in which they would be kept."""
    made = [draw(items(f"q{n}")) for n in range(draw(st.integers(1, 2)))]
    answers = {}
    for one in made:
        if draw(st.integers(0, 7)) == 0:
            continue
        other = draw(st.integers(0, 7)) == 0
        value = draw((ANY if other else RIGHT[one["kind"]]).filter(canonical))
        if not (one["kind"] in ("number", "scale") and isinstance(value, str)):
            answers[one["key"]] = value
    return questionnaire(page("p", *made)), answers


def canonical(value: Any) -> bool:
    """Whether a value is in the form in which it is kept; checking brings others to it.

    Numbers are JSON numbers here: text that reads as one is for the wire only.
    """
    if not isinstance(value, str):
        return True
    return bool(value) and value == unicodedata.normalize("NFC", value).strip()


@settings(max_examples=400)
@given(cases())
def test_we_accept_exactly_what_the_schema_accepts(
    case: tuple[Questionnaire, dict[str, Any]],
) -> None:
    document, answers = case
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
    answers = entry_schema(document)["properties"]
    assert all("$comment" in answers[key] for key, _ in unsaid(document))
