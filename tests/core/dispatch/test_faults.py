"""What is wrong with rules is named where it stands."""

from typing import Any
from uuid import UUID

import pytest

from jotgate.core.dispatch.faults import problems
from jotgate.core.dispatch.scope import scope_of
from tests.core.dispatch.rules import (
    CREW,
    KNOWN,
    OWN,
    PLAN,
    A,
    composed,
    file,
    notice,
    rule,
    rules,
)
from tests.documents import is_

SCOPE = scope_of(PLAN.questionnaire, KNOWN)

TO_NAME = {"kind": "answer", "name": "name"}


def codes(*acts: dict[str, Any]) -> list[str]:
    found = problems(rules(otherwise=acts), SCOPE)
    return [fault.code for fault in found]


@pytest.mark.parametrize(
    ("act", "wanted"),
    [
        (file(A, name="name", n="drinkers"), []),
        (file(A, name="entry.weekday", n="entry.edition"), []),
        (file(A, name="entry_number"), []),
        (file(A, name="contact.name"), []),
        (file(A, name=composed("{name} {entry.arrived:weekday|never}")), []),
        (file(UUID(int=9)), ["no_register"]),
        (file(A), ["no_columns"]),
        (file(A, gone="name"), ["no_column"]),
        (file(A, name="gone"), ["no_item"]),
        (file(A, name="name.given"), ["no_item"]),
        (file(A, n="district"), ["wrong_type"]),
        (file(A, n={"kind": "fixed", "text": "many"}), ["wrong_type"]),
        (file(A, name=composed("{gone}")), ["no_item"]),
        (file(A, name=composed("{name:loud}")), ["no_form"]),
        (file(A, {"matching": {"columns": ["n"]}}, name="name"), ["no_match"]),
        (file(A, {"per": "name"}, name="name"), ["no_roster"]),
        (notice("{gone} {questionnaire}"), ["no_item"]),
        (notice(" "), ["no_text"]),
        (notice(" ", whole=True), []),
        (notice(subject=" "), ["no_text"]),
        (notice(subject="x" * 201), ["too_long"]),
        (notice(subject="two\nlines"), ["lines"]),
        (notice("[here](https://example.org/{name})"), ["slot_in_link"]),
        (notice(to=TO_NAME), []),
        (notice(to={"kind": "answer", "name": "drinkers"}), ["no_address"]),
        (notice(to={"kind": "answer", "name": "claim.email"}), []),
        (notice(to={"kind": "team", "team_id": str(CREW)}), []),
        (notice(to={"kind": "team", "team_id": str(A)}), ["no_team"]),
        ({"kind": "status", "status": "received"}, []),
        ({"kind": "status", "status": "gone"}, ["no_status"]),
        (file(A, name="illness"), ["restricted"]),
        (file(A, name=composed("{illness}")), ["restricted"]),
        (notice("{illness}"), ["restricted"]),
        (notice(to={"kind": "answer", "name": "illness"}), ["restricted"]),
    ],
)
def test_an_act(act: dict[str, Any], wanted: list[str]) -> None:
    assert codes(act) == wanted


def of_rule(*made: Any) -> list[str]:
    return [fault.code for fault in problems(rules(*made), SCOPE)]


@pytest.mark.parametrize(
    ("when", "wanted"),
    [
        (None, []),
        (OWN, []),
        (is_("entry.finish", "booked"), []),
        (is_("entry.finish", "gone"), ["no_such_answer"]),
        (is_("entry.status", "received"), []),
        (is_("entry.language", "es"), ["no_such_answer"]),
        (is_("gone", "x"), ["no_item"]),
        (is_("", "x"), ["not_chosen"]),
        (is_("ill", True), ["restricted"]),
    ],
)
def test_a_condition(when: dict[str, Any] | None, wanted: list[str]) -> None:
    assert of_rule(rule("r", when, notice())) == wanted


def test_a_rule_does_something_unless_it_is_off_and_has_a_key_of_its_own() -> None:
    assert of_rule(rule("r", OWN)) == ["no_act"]
    assert of_rule(rule("r", is_("", "x"), off=True)) == []
    assert of_rule(rule("r", OWN, notice()), rule("r", OWN, notice())) == ["double_key"]
    assert of_rule(rule("otherwise", OWN, notice())) == ["double_key"]
