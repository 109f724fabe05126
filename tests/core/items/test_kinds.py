"""Every kind is known everywhere: a table by kind has it, or says here that it does without."""

from collections.abc import Mapping, Set
from typing import Any, get_args

import pytest

from jotgate.api.public import limits, questions
from jotgate.core.checking import checks
from jotgate.core.entries import display, stored
from jotgate.core.formats import json_answers
from jotgate.core.formats.fhir import terms
from jotgate.core.items import KINDS, Inner, Item, gathered
from jotgate.core.items.kinds import MEASURED, OPERATORS, SHOWN, Holds, Operator, kinds_that_hold
from jotgate.core.outline.words import NAMED
from jotgate.core.publishing import item_faults
from jotgate.core.walking import made_up

TEXT = kinds_that_hold("text")
PICKED = kinds_that_hold("pick", "picks", "order")
BEHIND = frozenset({"carried", "computed"})


def kinds_of(union: Any) -> set[str]:
    found = get_args(union)
    if hasattr(union, "__metadata__"):
        return kinds_of(found[0])
    if found:
        return {kind for part in found for kind in kinds_of(part)}
    return set(get_args(union.model_fields["kind"].annotation))


EVERY = kinds_of(Item)

TABLES: Mapping[str, tuple[Set[str], Set[str]]] = {
    "checks of answers": (checks._CHECKS.keys() | checks._WITH_ROWS.keys(), frozenset()),
    "values out of JSON, where those are not the same": (
        stored._READ.keys(),
        TEXT | SHOWN | {"yes_no", "name", "address", "signature", "carried"},
    ),
    "the JSON Schema of an answer": (json_answers._SCHEMA.keys(), SHOWN | {"grid", "roster"}),
    "answers that are made up": (made_up._MAKERS.keys(), SHOWN | BEHIND),
    "how a value reads, where its class does not say": (
        display._TELL.keys(),
        (TEXT | PICKED | SHOWN | BEHIND) | {"date", "time", "date_time", "yes_no", "scale", "file"},
    ),
    "faults of its own": (
        item_faults._OWN.keys(),
        (TEXT - {"short_text"} | PICKED | BEHIND)
        | {"number", "scale", "yes_no", "file", "signature", "note"},
    ),
    "limits that the browser is told": (
        limits._LIMITS.keys(),
        (TEXT - {"short_text", "long_text"} | BEHIND) | {"yes_no", "signature", "note"},
    ),
    "kinds of the answering page": (set(get_args(questions.QuestionKind)), {"carried"}),
    "types of FHIR": (terms.TYPES.keys(), frozenset()),
    "names in outlines": (set(NAMED.values()), BEHIND | {"grid", "roster", "picture", "video"}),
}


def test_there_is_a_line_for_every_kind() -> None:
    assert set(KINDS) == EVERY


@pytest.mark.parametrize("name", TABLES)
def test_a_table_has_every_kind_or_does_without_it(name: str) -> None:
    known, without = TABLES[name]
    assert known | without == EVERY
    assert known & without == set()


def test_what_can_stand_inside_is_what_the_model_takes() -> None:
    assert kinds_of(Inner) == {name for name, kind in KINDS.items() if kind.in_roster}
    assert kinds_of(gathered.Cell) == {name for name, kind in KINDS.items() if kind.in_grid}


def test_whatever_is_held_can_be_asked_and_measured() -> None:
    held = set(get_args(Holds)) - {"carried", "computed"}
    assert held == set(OPERATORS) == set(MEASURED)
    assert {op for ops in OPERATORS.values() for op in ops} == set(get_args(Operator))
