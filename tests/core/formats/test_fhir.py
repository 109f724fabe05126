"""Questionnaires as HL7 FHIR R4, held against the package fhir.resources, and back.

Sources: HL7 FHIR R4, "Questionnaire" (https://hl7.org/fhir/R4/questionnaire.html) for the
resource, for `enableWhen` and `enableBehavior`; the PyPI package fhir.resources, which has R4 as
R4B, for the shape.
"""

import copy
from collections.abc import Iterator
from contextlib import suppress
from random import Random
from typing import Any

import pytest
from fhir.resources.R4B.questionnaire import Questionnaire as Resource
from hypothesis import given

from jotgate.core.common.errors import Invalid
from jotgate.core.common.values import Values
from jotgate.core.conditions.condition import holds, named
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.formats.fhir import from_fhir, to_fhir
from jotgate.core.formats.fhir.terms import HIDDEN, MIN_VALUE
from jotgate.core.items import PickOne
from jotgate.core.walking.plan import compile_plan
from jotgate.demo.load import documents
from tests.core.proof.enumerated import TooMany, walks
from tests.core.proof.wide import wide
from tests.core.strategies import questionnaires
from tests.documents import TODAY, is_, item, options, page, questionnaire

pytestmark = pytest.mark.long

SAID = questionnaire(
    page(
        "start",
        item("note", "hello"),
        item("short_text", "who", required=True, shortest=2, longest=40, help={"en": "In full"}),
        item("short_text", "kit", pattern={"expression": "TW-[0-9]+"}, placeholder={"en": "TW-1"}),
        item("long_text", "story", longest=500),
        item("web_address", "site"),
        item("number", "people", at_least="1", at_most="60"),
        item("number", "depth", decimals=2, at_most="12.5", unit={"en": "m"}),
        item("date", "day", earliest="2026-01-01"),
        item("time", "hour", latest="17:30"),
        item("date_time", "moment"),
        item("yes_no", "ill"),
        item("scale", "taste", low=0, high=10),
        item("file", "photo", most=3, largest=5),
        item("pick_one", "source", options=options("own", "mains"), look="dropdown"),
        item("pick_many", "uses", options=options("drink", "wash"), fewest=1, most=2),
        item("carried", "district"),
    ),
    page(
        "more",
        item("roster", "wells", fewest=1, most=4, items=[item("short_text", "called")]),
        item("yes_no", "again", shown_when=is_("source", "own")),
        shown_when={
            "op": "any",
            "parts": [is_("ill", True), {"op": "at_least", "item": "people", "value": "3"}],
        },
    ),
)
"""What FHIR can say, all of it."""


def same(resource: dict[str, Any]) -> dict[str, Any]:
    """The resource after coming in and going out again."""
    return to_fhir(from_fhir(resource)[0])[0]


def test_what_fhir_can_say_comes_back_the_same() -> None:
    resource, lost = to_fhir(SAID)
    back, left = from_fhir(resource)
    assert left == ()
    assert back.pages[1] == SAID.pages[1]
    told = {one.key: one for one in back.items()}
    for one in SAID.items():
        if one.kind in ("carried", "file"):
            assert told[one.key].kind == one.kind
        else:
            assert told[one.key] == one
    assert same(resource) == resource
    assert lost == (
        "photo: which kinds of files.",
        "district: what may be carried, and what happens to a wrong value.",
    )


@given(questionnaires())
def test_any_questionnaire_is_a_valid_resource_that_comes_back(one: Questionnaire) -> None:
    resource, lost = to_fhir(one)
    Resource.model_validate(resource)
    assert same(resource) == resource
    keys = [item.key for item in one.items()]
    assert [item.key for item in from_fhir(resource)[0].items()] == keys
    if not any(page.skips for page in one.pages):
        assert not any("skip rules" in sentence for sentence in lost)


@pytest.mark.parametrize("name", documents())
def test_the_demo_questionnaires_are_valid_resources(name: str) -> None:
    resource, _ = to_fhir(documents()[name])
    Resource.model_validate(resource)
    imported, _ = from_fhir(resource)
    assert imported.languages == documents()[name].languages


def test_what_fhir_cannot_say_is_told() -> None:
    _, lost = to_fhir(documents()["private_well_check"])
    for sentence in (
        "taps: the rows.",
        "The finishes: their headings and messages.",
        "water: its skip rules.",
    ):
        assert sentence in lost


def decide(when: list[dict[str, Any]], behavior: str | None, values: Values) -> bool:
    """Whether an item with these conditions is enabled, through our import and evaluator."""
    resource = {
        "resourceType": "Questionnaire",
        "status": "draft",
        "item": [
            {"linkId": "b", "type": "boolean"},
            {"linkId": "n", "type": "integer"},
            {"linkId": "d", "type": "date"},
            {"linkId": "c", "type": "choice", "answerOption": [{"valueCoding": {"code": "x"}}]},
            {"linkId": "m", "type": "choice", "repeats": True},
            {"linkId": "t", "type": "string", "enableWhen": when},
        ],
    }
    if behavior:
        resource["item"][-1]["enableBehavior"] = behavior  # type: ignore[index]
    Resource.model_validate(resource)
    found, left = from_fhir(resource)
    assert left == ()
    return holds(list(found.items())[-1].shown_when, values, TODAY)


def row(question: str, operator: str, **answer: Any) -> dict[str, Any]:
    return {"question": question, "operator": operator, **answer}


def number(text: str) -> Any:
    from decimal import Decimal

    return {"n": Decimal(text)}


YES = row("b", "=", answerBoolean=True)
BIG = row("n", ">", answerInteger=5)
CASES: list[tuple[list[dict[str, Any]], str | None, Any, bool]] = [
    ([row("b", "exists", answerBoolean=True)], None, {"b": False}, True),
    ([row("b", "exists", answerBoolean=True)], None, {}, False),
    ([row("b", "exists", answerBoolean=False)], None, {}, True),
    ([row("b", "exists", answerBoolean=False)], None, {"b": True}, False),
    ([YES], None, {"b": True}, True),
    ([YES], None, {"b": False}, False),
    ([YES], None, {}, False),
    ([row("b", "!=", answerBoolean=True)], None, {"b": False}, True),
    ([row("b", "!=", answerBoolean=True)], None, {}, False),
    ([row("n", ">", answerInteger=5)], None, number("6"), True),
    ([row("n", ">", answerInteger=5)], None, number("5"), False),
    ([row("n", ">", answerInteger=5)], None, {}, False),
    ([row("n", "<", answerInteger=5)], None, number("4"), True),
    ([row("n", "<", answerInteger=5)], None, number("5"), False),
    ([row("n", "<", answerInteger=5)], None, {}, False),
    ([row("n", ">=", answerInteger=5)], None, number("5"), True),
    ([row("n", "<=", answerInteger=5)], None, number("5"), True),
    ([row("n", "<=", answerInteger=5)], None, number("6"), False),
    ([row("c", "=", answerCoding={"code": "x"})], None, {"c": "x"}, True),
    ([row("c", "=", answerCoding={"code": "x"})], None, {"c": "y"}, False),
    ([row("m", "=", answerCoding={"code": "x"})], None, {"m": ("w", "x")}, True),
    ([row("m", "=", answerCoding={"code": "x"})], None, {"m": ("w",)}, False),
    ([YES, BIG], "all", {"b": True, **number("6")}, True),
    ([YES, BIG], "all", {"b": True, **number("4")}, False),
    ([YES, BIG], "any", {"b": True}, True),
    ([YES, BIG], "any", number("9"), True),
    ([YES, BIG], "any", {}, False),
]
"""`enableWhen` by the definitions of its operators: `exists` asks for any answer, the others hold
where an answer does (of repeating ones, where any does), none holds without an answer."""


@pytest.mark.parametrize(("when", "behavior", "values", "enabled"), CASES)
def test_enable_when_means_what_the_standard_says(
    when: list[dict[str, Any]], behavior: str | None, values: Any, enabled: bool
) -> None:
    assert decide(when, behavior, values) is enabled


def test_what_we_have_nothing_like_is_told_and_the_rest_comes_in() -> None:
    resource = {
        "resourceType": "Questionnaire",
        "status": "active",
        "title": "From elsewhere",
        "item": [
            {"linkId": "1.1", "type": "quantity", "text": "Weight"},
            {"linkId": "1.2", "type": "choice", "text": "Which?", "answerValueSet": "x"},
            {
                "linkId": "2",
                "type": "group",
                "text": "Second",
                "item": [
                    {
                        "linkId": "2.1",
                        "type": "boolean",
                        "text": "Any?",
                        "item": [{"linkId": "2.1.1", "type": "text", "text": "Which ones?"}],
                    },
                    {
                        "linkId": "2.2",
                        "type": "group",
                        "item": [{"linkId": "2.2.1", "type": "integer", "text": "How many?"}],
                    },
                ],
            },
        ],
    }
    Resource.model_validate(resource)
    found, left = from_fhir(resource)
    assert [page.title for page in found.pages] == [{}, {"en": "Second"}]
    asked = list(found.items())
    assert [(one.kind, one.text["en"]) for one in asked] == [
        ("pick_one", "Which?"),
        ("yes_no", "Any?"),
        ("long_text", "Which ones?"),
        ("number", "How many?"),
    ]
    assert asked[2].shown_when is not None
    assert asked[2].shown_when.model_dump() == {"op": "answered", "item": asked[1].key}
    assert left == (
        "the whole: status.",
        "1.2: answerValueSet.",
        "1.1: items of the type quantity.",
        "2.2: that its questions are a group.",
    )


@pytest.mark.parametrize(
    "resource",
    [
        {"resourceType": "Questionnaire", "item": {}},
        {"resourceType": "Questionnaire", "item": [1]},
        {"resourceType": "Questionnaire", "item": [{"type": "string"}]},
        {
            "resourceType": "Questionnaire",
            "item": [{"linkId": "a", "type": "string"}, {"linkId": "a", "type": "string"}],
        },
        {"resourceType": "Questionnaire", "language": "not a tag!"},
        {
            "resourceType": "Questionnaire",
            "item": [{"linkId": "a", "type": "string", "text": "x" * 20_000}],
        },
    ],
)
def test_what_is_no_resource_is_refused_whole(resource: dict[str, Any]) -> None:
    with pytest.raises(Invalid, match="Nothing has changed"):
        from_fhir(resource)


@pytest.mark.parametrize("seed", range(120))
def test_conditions_go_out_as_valid_fhir_that_means_the_same(seed: int) -> None:
    """Of every kind, relation and operator: what is said is valid for fhir.resources, and reads
    back as a condition that holds of the same answers; what cannot be said is told."""
    document = wide(seed)
    resource, lost = to_fhir(document)
    Resource.model_validate(resource)
    back, _ = from_fhir(resource)
    plan = compile_plan(document)
    said = {one.key: one for one in plan.questionnaire.items()}
    came = {one.key: one for one in back.items()}
    pairs = [
        (one.shown_when, came[key].shown_when)
        for key, one in said.items()
        if one.shown_when is not None and key in came
    ]
    assert all(mine is None or theirs is not None or lost for mine, theirs in pairs)
    kept = []
    with suppress(TooMany):
        kept = [one.kept for one in walks(plan, 60)]
    for mine, theirs in pairs:
        if theirs is not None and not named(mine) & {"contact.email"}:
            for values in kept:
                assert holds(mine, values, TODAY) is holds(theirs, values, TODAY)


def test_one_of_under_all_is_not_reversed() -> None:
    one_of = {"op": "one_of", "item": "c", "values": ["x", "y"]}
    both = {"op": "all", "parts": [one_of, is_("b", True)]}
    asked = item("pick_one", "c", options=options("x", "y", "z")), item("yes_no", "b")
    for when, rows in ((both, 0), ({"op": "all", "parts": [one_of]}, 2), (one_of, 2)):
        made = questionnaire(page("p", *asked, item("yes_no", "q", shown_when=when)))
        resource, lost = to_fhir(made)
        shown = resource["item"][0]["item"][-1]
        assert len(shown.get("enableWhen", [])) == rows
        assert shown.get("enableBehavior") == ("any" if rows else None)
        assert ("q: the condition under which it is shown." in lost) is (rows == 0)


def test_a_condition_on_a_recoded_option_follows_it() -> None:
    resource = {
        "resourceType": "Questionnaire",
        "status": "draft",
        "item": [
            {
                "linkId": "c",
                "type": "choice",
                "answerOption": [{"valueCoding": {"code": "1 2/3", "display": "Well"}}],
            },
            {
                "linkId": "t",
                "type": "string",
                "enableWhen": [
                    {"question": "c", "operator": "=", "answerCoding": {"code": "1 2/3"}}
                ],
            },
        ],
    }
    (first, second) = from_fhir(resource)[0].items()
    assert isinstance(first, PickOne)
    assert second.shown_when is not None
    assert second.shown_when.model_dump() == is_("c", first.options[0].code)


LEFT = [
    ({"readOnly": True}, "a: readOnly."),
    ({"modifierExtension": [{"url": "x"}]}, "a: modifierExtension."),
    ({"repeats": True}, "a: that it can be answered several times."),
    ({"initial": [{"valueString": "x"}]}, "a: initial."),
    ({"prefix": "1."}, "a: prefix."),
    ({"extension": [{"url": "http://x/calculated", "valueString": "1"}]}, "a: the extension"),
    (
        {"extension": [{"url": HIDDEN, "valueBoolean": True}], "type": "date"},
        "a: that it is hidden",
    ),
    (
        {"type": "dateTime", "extension": [{"url": MIN_VALUE, "valueDate": "2026-01-01"}]},
        "minValue",
    ),
    ({"type": "date", "maxLength": 4}, "a: maxLength."),
]


@pytest.mark.parametrize(("more", "told"), LEFT)
def test_every_element_is_used_or_told(more: dict[str, Any], told: str) -> None:
    one = {"linkId": "a", "type": "string", "text": "A", **more}
    resource = {"resourceType": "Questionnaire", "status": "draft", "item": [one]}
    _, left = from_fhir({**resource, "publisher": "Well Watch"})
    assert "the whole: publisher." in left
    assert any(told in sentence for sentence in left)


WRONG: tuple[Any, ...] = (None, 1, -7, 2.5, True, "x", [], {}, [1], {"a": 1}, ["x", None], 10**30)


@pytest.mark.parametrize("turn", range(4))
def test_every_mutation_is_taken_or_refused_with_its_path(turn: int) -> None:
    """Single mutations of every element: none raises anything but a refusal."""
    dice = Random(turn)
    resources = [to_fhir(one)[0] for one in (SAID, documents()["private_well_check"])]
    for _ in range(300):
        mutated = copy.deepcopy(dice.choice(resources))
        *holders, last = list(parts(mutated))[:: dice.choice((1, -1))]
        holder, name = dice.choice([*holders, last])
        if dice.random() < 0.3:
            del holder[name]
        else:
            holder[name] = copy.deepcopy(dice.choice(WRONG))
        try:
            from_fhir(mutated)
        except Invalid as refused:
            assert all(fault.message for fault in refused.faults)


def parts(part: Any) -> Iterator[tuple[Any, Any]]:
    """Every member of every object and list, with what holds it."""
    inner = part.items() if isinstance(part, dict) else enumerate(part)
    for name, value in list(inner):
        yield part, name
        if isinstance(value, dict | list):
            yield from parts(value)
