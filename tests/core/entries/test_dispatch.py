"""Rules: which one catches an entry, what they do, what is wrong with them."""

from decimal import Decimal
from typing import Any
from uuid import UUID

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from jotgate.core.common.values import Values
from jotgate.core.entries.dispatch import (
    Dispatch,
    Notice,
    NoticePlanned,
    Planned,
    RowPlanned,
    planned,
    problems,
)
from jotgate.core.entries.register import Column, Register
from jotgate.core.walking.plan import compile_plan
from tests.documents import TODAY, is_, well_check

PLAN = compile_plan(well_check())
A, B = UUID(int=1), UUID(int=2)
COLUMNS = (Column(key="name", label="Name"), Column(key="n", label="N", type="number"))
REGISTERS = {id: Register(id=id, name=f"R{id.int}", columns=COLUMNS) for id in (A, B)}


def file(id: UUID, **columns: str) -> dict[str, Any]:
    return {"kind": "file", "register_id": str(id), "columns": columns}


def notice(body: str = "", subject: str = "s", to: str = "a@example.org") -> dict[str, Any]:
    return {"kind": "notice", "to": to, "subject": subject, "body": body}


def rule(key: str, when: dict[str, Any], *acts: dict[str, Any]) -> dict[str, Any]:
    return {"key": key, "when": when, "acts": list(acts)}


def rules(*rules: dict[str, Any], otherwise: tuple[dict[str, Any], ...] = ()) -> Dispatch:
    return Dispatch.model_validate({"rules": rules, "otherwise": otherwise})


def run(dispatch: Dispatch, **answers: Any) -> Planned:
    return planned(dispatch, PLAN, answers, 7, REGISTERS, TODAY)


OWN = is_("source", "own")


@pytest.mark.parametrize(
    "to",
    [
        *(
            "",
            "crew",
            "crew@",
            "@example.org",
            "a b@example.org",
            "a@example..org",
            "a..b@example.org",
        ),
        *("a@example.org, b@example.org", "A <a@example.org>", "a@example.org\nBcc: b@example.org"),
        f"{'a' * 250}@example.org",
    ],
)
def test_a_notice_goes_to_one_address_that_there_can_be(to: str) -> None:
    with pytest.raises(ValidationError):
        Dispatch.model_validate({"otherwise": [notice(to=to)]})


def test_the_address_of_a_notice_is_as_it_was_written_but_for_its_domain() -> None:
    (act,) = Dispatch.model_validate({"otherwise": [notice(to=" Crew+2@Example.ORG ")]}).otherwise
    assert isinstance(act, Notice)
    assert act.to == "Crew+2@example.org"


def test_an_entry_is_filed_once_by_the_first_rule_that_holds() -> None:
    dispatch = rules(
        rule("no", is_("source", "mains"), file(A)),
        rule("first", OWN, file(A)),
        rule("second", OWN, file(B), notice("passed over")),
        rule("tell", OWN, notice("told")),
        otherwise=(file(B),),
    )
    result = run(dispatch, source="own")
    assert result.caught_by == "first"
    assert [(effect.rule, type(effect)) for effect in result.effects] == [
        ("first", RowPlanned),
        ("tell", NoticePlanned),
    ]


def test_otherwise_is_for_what_no_filing_rule_caught() -> None:
    dispatch = rules(rule("tell", OWN, notice()), otherwise=(file(B),))
    result = run(dispatch, source="own")
    assert result.caught_by is None
    assert [effect.rule for effect in result.effects] == ["tell", "otherwise"]


def test_columns_take_words_or_values_and_leave_out_what_is_unanswered() -> None:
    dispatch = rules(otherwise=(file(A, name="source", n="drinkers"),))
    (row,) = run(dispatch, source="own", drinkers=Decimal("4.0")).effects
    assert isinstance(row, RowPlanned)
    assert row.values == {"name": "Own", "n": "4"}
    (row,) = run(dispatch, source="own").effects
    assert isinstance(row, RowPlanned)
    assert row.values == {"name": "Own"}


def test_slots_are_filled_and_a_subject_stays_one_line() -> None:
    letter = notice("{name}: {drinkers}, {missing}no {entry_number}", "For {name}")
    (effect,) = run(rules(otherwise=(letter,)), name="Ines\nBcc: x", drinkers=Decimal(4)).effects
    assert isinstance(effect, NoticePlanned)
    assert effect.subject == "For Ines Bcc: x"
    assert effect.body == "Ines\nBcc: x: 4, no 0007"


def codes(dispatch: Dispatch) -> list[str]:
    return [fault.code for fault in problems(dispatch, PLAN.questionnaire, REGISTERS)]


def test_problems_are_named() -> None:
    assert codes(rules(rule("r", OWN, file(A, name="name", n="drinkers")))) == []
    assert codes(rules(rule("r", OWN))) == ["no_act"]
    assert codes(rules(otherwise=(file(UUID(int=9)),))) == ["no_register"]
    assert codes(rules(otherwise=(file(A, gone="name"),))) == ["no_column"]
    assert codes(rules(otherwise=(file(A, name="gone"),))) == ["no_item"]
    assert codes(rules(otherwise=(file(A, n="name"),))) == ["wrong_type"]
    assert codes(rules(rule("r", is_("gone", "x"), file(A)))) == ["no_item"]
    assert codes(rules(rule("r", OWN, file(A)), rule("r", OWN, file(A)))) == ["double_key"]
    assert codes(rules(otherwise=(notice("{gone} {questionnaire}"),))) == ["no_item"]


def test_a_restricted_answer_neither_decides_nor_leaves() -> None:
    assert codes(rules(rule("r", is_("ill", True), notice()))) == ["restricted"]
    assert codes(rules(otherwise=(file(A, name="illness"),))) == ["restricted"]
    assert codes(rules(otherwise=(notice("{illness}"),))) == ["restricted"]


@given(st.lists(st.tuples(st.booleans(), st.booleans()), max_size=6), st.sampled_from("ab"))
def test_exactly_one_filing_whatever_the_rules(holds: list[tuple[bool, bool]], code: str) -> None:
    """However many rules hold, one row is filed: by the first of them, else by otherwise."""
    source: Values = {"source": "own"}
    made = [
        rule(
            f"r{n}",
            OWN if true else is_("source", "mains"),
            *([file(A)] if files else [notice()]),
        )
        for n, (true, files) in enumerate(holds)
    ]
    result = planned(rules(*made, otherwise=(file(B),)), PLAN, source, 1, REGISTERS, TODAY)
    rows = [effect for effect in result.effects if isinstance(effect, RowPlanned)]
    first = next((f"r{n}" for n, pair in enumerate(holds) if pair == (True, True)), None)
    assert [row.rule for row in rows] == [first or "otherwise"]
    assert result.caught_by == first
