"""Every kind is known everywhere: a table by kind has it, or says here that it does without."""

import json
from collections.abc import Iterator, Mapping, Set
from random import Random
from typing import Any, get_args

import pytest

from jotgate.core.answers.by_kind import RULES
from jotgate.core.answers.checks import check
from jotgate.core.common.values import Value
from jotgate.core.entries.stored import as_json, from_json
from jotgate.core.formats.fhir import terms
from jotgate.core.items import KINDS, Inner, Item, gathered
from jotgate.core.items.kinds import MEASURED, OPERATORS, SHOWN, Holds, Operator, kinds_that_hold
from jotgate.core.outline.words import NAMED
from jotgate.core.walking.made_up import answer
from tests.core.kinds import of
from tests.documents import TODAY, item, options

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


def example(kind: str) -> Item:
    more: dict[str, Any] = {}
    if kind in PICKED:
        more["options"] = options("a", "b", "c")
    if kind == "grid":
        more |= {"rows": options("r", "s"), "columns": [item("number", "n")]}
    if kind == "roster":
        more["items"] = [item("date", "d"), item("pick_many", "p", options=options("a", "b"))]
    return of(kind, **more)


WITHOUT: Mapping[str, Set[str]] = {
    "check": SHOWN | {"grid", "roster", "computed"},
    "fast": SHOWN
    | BEHIND
    | {"phone", "web_address", "date", "date_time", "rank", "name", "address", "location", "file"}
    | {"signature", "grid", "roster"},
    "schema": SHOWN | {"grid", "roster"},
    "tell": TEXT
    | PICKED
    | SHOWN
    | BEHIND
    | {"date", "time", "date_time", "yes_no", "scale", "file", "grid", "roster"},
    "make": SHOWN | {"computed", "grid", "roster"},
}
"""The kinds that do without a part of their rules. Grids and rosters are looked into by others."""

TABLES: Mapping[str, tuple[Set[str], Set[str]]] = {
    "types of FHIR": (terms.TYPES.keys(), frozenset()),
    "names in outlines": (set(NAMED.values()), BEHIND | {"grid", "roster", "picture", "video"}),
    "rules of answers": (RULES.keys(), frozenset()),
}


@pytest.mark.parametrize("part", WITHOUT)
def test_rules_have_every_part_or_do_without_it(part: str) -> None:
    there = {kind for kind, rules in RULES.items() if getattr(rules, part) is not None}
    assert there == EVERY - WITHOUT[part]


def _values(kind: str) -> Iterator[tuple[Item, Value]]:
    """Values of made-up items of a kind, as their checks keep them."""
    for seed in range(200):
        dice = Random(seed)
        made = example(kind)
        raw = answer(made, {}, TODAY, dice)
        value = None if raw is None else check(made, raw, TODAY)
        if value is not None:
            yield made, value


@pytest.mark.parametrize("kind", sorted(EVERY - SHOWN - BEHIND))
def test_what_is_stored_is_read_again(kind: str) -> None:
    """Forgetting how a kind is read from JSON would give text in place of its value."""
    found = list(_values(kind))
    assert found
    for made, value in found:
        assert from_json(made, json.loads(json.dumps(as_json(value)))) == value


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
