"""Comparisons and trees; what is unanswered compares false."""

from decimal import Decimal
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from jotgate.core.common.values import Values
from jotgate.core.conditions.condition import Condition, holds, named
from tests.documents import TODAY

CONDITION: TypeAdapter[Condition] = TypeAdapter(Condition)
VALUES: Values = {"source": "own", "people": Decimal("4.0"), "ill": False}


def true_of(condition: dict[str, Any], values: Values = VALUES) -> bool:
    return holds(CONDITION.validate_python(condition), values, TODAY)


@pytest.mark.parametrize(
    ("op", "item", "value", "expected"),
    [
        ("is", "source", "own", True),
        ("is", "source", "Own", False),
        ("is_not", "source", "mains", True),
        ("is", "people", "4", True),
        ("is", "people", "4.00", True),
        ("at_least", "people", "4", True),
        ("at_least", "people", "4.1", False),
        ("at_most", "people", "3.9", False),
        ("at_least", "people", "many", False),
        ("is", "ill", False, True),
        ("is", "ill", "false", False),
        ("is_not", "ill", True, True),
        ("is", "people", True, False),
    ],
)
def test_comparisons(op: str, item: str, value: Any, expected: bool) -> None:
    assert true_of({"op": op, "item": item, "value": value}) is expected


@given(
    st.sampled_from(["is", "is_not", "at_least", "at_most"]),
    st.one_of(st.booleans(), st.text(max_size=5)),
)
def test_comparing_with_something_unanswered_is_false(op: str, value: Any) -> None:
    """HL7 FHIR R4, Questionnaire.item.enableWhen: without an answer only `exists` = false holds."""
    assert not true_of({"op": op, "item": "absent", "value": value})
    assert not true_of({"op": "one_of", "item": "absent", "values": [value]})
    assert not true_of({"op": "answered", "item": "absent"})
    assert true_of({"op": "unanswered", "item": "absent"})


LEAF = st.sampled_from(
    [
        {"op": "is", "item": "source", "value": "own"},
        {"op": "is", "item": "source", "value": "mains"},
        {"op": "is_not", "item": "absent", "value": "x"},
        {"op": "unanswered", "item": "absent"},
    ]
)
TREE = st.recursive(
    LEAF,
    lambda part: (
        st.builds(
            lambda op, parts: {"op": op, "parts": parts},
            st.sampled_from(["all", "any"]),
            st.lists(part, min_size=1, max_size=3),
        )
        | st.builds(lambda one: {"op": "not", "part": one}, part)
    ),
    max_leaves=8,
)


def negated(tree: dict[str, Any]) -> dict[str, Any]:
    """De Morgan's laws, written down a second time."""
    if tree["op"] == "not":
        result: dict[str, Any] = tree["part"]
        return result
    if "parts" in tree:
        other = "any" if tree["op"] == "all" else "all"
        return {"op": other, "parts": [negated(part) for part in tree["parts"]]}
    return {"op": "not", "part": tree}


@given(TREE)
def test_trees_obey_de_morgan(tree: dict[str, Any]) -> None:
    assert true_of(tree) is not true_of(negated(tree))


@given(TREE)
def test_a_tree_depends_only_on_what_it_names(tree: dict[str, Any]) -> None:
    keys = named(CONDITION.validate_python(tree))
    seen = {key: value for key, value in VALUES.items() if key in keys}
    assert true_of(tree) is true_of(tree, seen)
