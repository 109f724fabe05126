"""What is likely not meant is told, and keeps nothing from being applied."""

from typing import Any

import pytest

from jotgate.core.dispatch.faults import problems
from jotgate.core.dispatch.hints import hints
from jotgate.core.dispatch.scope import scope_of
from tests.core.dispatch.rules import KNOWN, OWN, A, composed, file, notice, rule, rules
from tests.documents import is_, item, options, page, questionnaire

DOCUMENT = questionnaire(
    page(
        "p",
        item("short_text", "name"),
        item("email", "mail"),
        item("pick_one", "source", options=options("own", "mains", "river")),
        item("yes_no", "ill", restricted=True),
    )
)
EVERY = file(A, name=composed("{name} {mail} {source}"))
TO_CLAIM = {"kind": "answer", "name": "claim.email"}


def told(*made: Any, otherwise: tuple[Any, ...] = (), signs_in: bool = False) -> list[str]:
    """The codes of the hints, of rules that can be used."""
    dispatch = rules(*made, otherwise=otherwise)
    scope = scope_of(DOCUMENT, KNOWN)
    assert problems(dispatch, scope) == ()
    return [one.code for one in hints(dispatch, scope, signs_in)]


@pytest.mark.parametrize(
    ("words", "wanted"),
    [
        ("Dear {name}, of {source} and {mail}", []),
        ("Dear{name}, of {source} and {mail}", ["glued"]),
        ("{name}{source} {mail}", ["glued"]),
        ("{name}s {source} {mail}", ["glued"]),
        ("({name}) {source}: {mail}.", []),
    ],
)
def test_a_slot_that_is_glued_to_its_neighbour(words: str, wanted: list[str]) -> None:
    assert told(otherwise=(notice(words),)) == wanted
    assert told(otherwise=(file(A, name=composed(words)),)) == wanted


def test_answers_that_nobody_uses() -> None:
    dispatch = rules(otherwise=(file(A, name="name"),))
    (one,) = hints(dispatch, scope_of(DOCUMENT, KNOWN), False)
    assert (one.code, one.at) == ("unused", "rules")
    assert "Mail, Source" in one.message
    assert "Ill" not in one.message
    assert told(otherwise=(EVERY,)) == []
    assert told(otherwise=(notice("x", whole=True),)) == []
    receipt = notice("{name}", to={"kind": "answer", "name": "mail"}, whole=True)
    assert told(otherwise=(receipt,)) == ["unused"]


def test_the_address_of_a_sign_in_where_nobody_signs_in() -> None:
    letter = notice("x", to=TO_CLAIM)
    assert told(otherwise=(letter, EVERY)) == ["no_sign_in"]
    assert told(otherwise=(letter, EVERY), signs_in=True) == []


def test_rules_that_one_before_leaves_nothing_to() -> None:
    first, second = rule("a", OWN, EVERY), rule("b", OWN, EVERY)
    assert told(first, second) == ["never"]
    assert told(first, {**second, "catches": False}) == []
    assert told({**first, "off": True}, second) == []
    assert told(rule("a", None, EVERY), rule("b", OWN, EVERY)) == ["never"]


def test_options_that_lead_to_no_rule() -> None:
    two = [rule(code, is_("source", code), EVERY) for code in ("own", "mains")]
    assert told(*two) == ["no_rule"]
    assert told(*two, otherwise=(EVERY,)) == []
    assert told(two[0]) == []
    assert told(*two, rule("c", is_("source", "river"), EVERY)) == []
    both = {"op": "one_of", "item": "source", "values": ["mains", "river"]}
    assert told(two[0], rule("c", both, EVERY)) == []


def test_without_rules_there_is_nothing_to_say() -> None:
    assert told() == []
