"""For what JSON Schema 2020-12 can say, our check and the reference validator agree.

The reference is the PyPI package jsonschema, on the schema that we export.
"""

import unicodedata
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from jsonschema import Draft202012Validator

from jotgate.core.common.values import FileFacts
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.formats.json_schema import entry_schema, unsaid
from jotgate.core.walking.path import walk
from jotgate.core.walking.plan import compile_plan
from tests.documents import TODAY, item, options, page, questionnaire

pytestmark = pytest.mark.long

CODES = ("a", "b", "c")


SIMPLE = (
    "short_text",
    "long_text",
    "number",
    "yes_no",
    "pick_one",
    "pick_many",
    "scale",
    "date",
    "time",
    "rank",
    "name",
    "signature",
)
CELLS = ("short_text", "number", "yes_no", "pick_one", "scale", "date")


@st.composite
def items(draw: st.DrawFn, key: str, kinds: tuple[str, ...] = SIMPLE) -> dict[str, Any]:
    """A question whose checks a schema can say in full."""
    kind = draw(st.sampled_from(kinds))
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
    if kind.startswith("pick") or kind == "rank":
        more = {"options": options(*CODES)}
    if kind.startswith("pick") and draw(st.booleans()):
        more["else_label"] = {"en": "Other"}
    if kind == "rank":
        more["top"] = draw(st.none() | st.integers(1, 4))
    if kind == "name":
        more = {"parts": ["given", "family"], "needed": draw(st.sampled_from([["given"], []]))}
    if kind == "pick_many":
        more["fewest"], more["most"] = sorted(draw(st.tuples(*[st.integers(1, 3)] * 2)))
        if draw(st.booleans()):
            more["options"][2]["alone"] = True
    return item(kind, key, required=required, **more)


@st.composite
def tables(draw: st.DrawFn, key: str) -> dict[str, Any]:
    """A roster or a grid whose checks a schema can say in full."""
    inner = [draw(items(f"{key}_{n}", CELLS)) for n in range(draw(st.integers(1, 2)))]
    required = draw(st.booleans())
    if draw(st.booleans()):
        fewest, most = sorted(draw(st.tuples(st.integers(0, 2), st.integers(1, 2))))
        return item("roster", key, items=inner, fewest=fewest, most=most, required=required)
    rows = [
        {**row, "required": draw(st.booleans()), "repeats": draw(st.integers(1, 2))}
        for row in options("x", "y")
    ]
    return item("grid", key, columns=inner, rows=rows, required=required)


WRITTEN = st.text("ab é\n\t\x07", min_size=1, max_size=8)
NUMBERS = st.integers(-8, 12)
OTHER = st.builds(lambda words: {"else": words}, WRITTEN)
PICKED = st.lists(st.sampled_from([*CODES, "d"]), min_size=1, max_size=4, unique=True).map(
    sorted
) | st.just(["c"])
NAMES = st.dictionaries(st.sampled_from(["given", "family", "nick"]), WRITTEN, min_size=1)
SIGNED = st.one_of(
    st.builds(lambda typed: {"typed": typed}, WRITTEN),
    st.sampled_from([{"drawn": "M1 2L3 4"}, {"drawn": "M1 2"}, {"drawn": "L1 2M3 4"}, {"x": "y"}]),
)
RIGHT: dict[str, st.SearchStrategy[Any]] = {
    "short_text": WRITTEN,
    "long_text": WRITTEN,
    "number": NUMBERS,
    "scale": NUMBERS,
    "yes_no": st.booleans(),
    "pick_one": st.sampled_from([*CODES, "d"]) | OTHER,
    "pick_many": PICKED | st.builds(lambda codes, one: [*codes, one], PICKED, OTHER),
    "rank": st.lists(st.sampled_from([*CODES, "d"]), min_size=1, max_size=4),
    "name": NAMES,
    "signature": SIGNED,
    "date": st.sampled_from(["2026-02-28", "2026-02-30", "2024-02-29", "26-02-28", "soon"]),
    "time": st.sampled_from(["12:30", "24:00", "7:00", "00:00", "12:30:00"]),
}
"""Answers of the kind that a question takes; many of them fail its checks."""

ANY = st.one_of(NUMBERS, WRITTEN, st.booleans(), PICKED, st.just({"a": True}))


@st.composite
def answers_to(draw: st.DrawFn, one: dict[str, Any]) -> Any:
    """An answer to a question in the form in which it would be kept, None for none."""
    if draw(st.integers(0, 7)) == 0:
        return None
    if one["kind"] in ("roster", "grid"):
        inner = one.get("items") or one.get("columns") or []
        line = lines(inner)
        if one["kind"] == "roster":
            return draw(st.lists(line, min_size=1, max_size=3))
        rows = st.sampled_from(["x", "y"])
        return draw(st.dictionaries(rows, st.lists(line, min_size=1, max_size=3), min_size=1))
    other = draw(st.integers(0, 7)) == 0
    value = draw((ANY if other else RIGHT[one["kind"]]).filter(canonical))
    return None if one["kind"] in ("number", "scale") and isinstance(value, str) else value


@st.composite
def lines(draw: st.DrawFn, inner: list[dict[str, Any]]) -> dict[str, Any]:
    """One entry of a roster or row of a grid, with at least one answer."""
    answers = {one["key"]: draw(answers_to(one)) for one in inner}
    found = {key: value for key, value in answers.items() if value is not None}
    first = inner[0]["key"]
    return found or {first: True}


@st.composite
def cases(draw: st.DrawFn) -> tuple[Questionnaire, dict[str, Any]]:
    """A questionnaire and answers to it, in the form in which they would be kept."""
    made = [
        draw(tables(f"q{n}") if draw(st.integers(0, 2)) == 0 else items(f"q{n}"))
        for n in range(draw(st.integers(1, 2)))
    ]
    answers = {one["key"]: draw(answers_to(one)) for one in made}
    return questionnaire(page("p", *made)), {k: v for k, v in answers.items() if v is not None}


def canonical(value: Any) -> bool:
    """Whether a value is in the form in which it is kept; checking brings others to it.

    Numbers are JSON numbers here: text that reads as one is for the wire only.
    """
    if isinstance(value, dict):
        return all(canonical(one) for one in value.values())
    if isinstance(value, list):
        return all(canonical(one) for one in value)
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


NAMED = item("name", "q", parts=["given", "family"], needed=["given"])
WITH_OTHER = item("pick_many", "q", options=options("a"), else_label={"en": "Other"}, most=3)
PHOTO = item("file", "q", kinds=["picture"], most=1)
FACTS = {"id": "1", "name": "a.png", "size": 5, "type": "image/png"}


@pytest.mark.parametrize(
    ("one", "answer", "accepted"),
    [
        (NAMED, {"given": "Ines"}, True),
        (NAMED, {"family": "Carvalho"}, False),
        (WITH_OTHER, ["a", {"else": "x"}], True),
        (WITH_OTHER, [{"else": "x"}, {"else": "y"}], False),
        (WITH_OTHER, [{"else": "x" * 501}], False),
        (PHOTO, [FACTS], True),
        (PHOTO, [FACTS, {**FACTS, "id": "2"}], False),
        (PHOTO, [{**FACTS, "size": 0}], False),
        (PHOTO, [{**FACTS, "type": "text/html"}], False),
        (item("address", "q", needed=[]), {"country": "PT"}, True),
        (item("address", "q", needed=[]), {"country": "XX"}, False),
        (item("rank", "q", options=options("a", "b"), top=1), ["a", "b"], False),
    ],
)
def test_cases_at_the_edge(one: dict[str, Any], answer: Any, accepted: bool) -> None:
    """Files stand in answers as facts for our check, which knows them from elsewhere."""
    document = questionnaire(page("p", one))
    assert Draft202012Validator(entry_schema(document)).is_valid({"q": answer}) is accepted
    ours = [FileFacts(**fact) for fact in answer] if one["kind"] == "file" else answer
    stuck = walk(compile_plan(document), {"q": ours}, {}, TODAY).stuck
    assert (stuck is None) is accepted
