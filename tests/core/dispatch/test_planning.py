"""Rules: which acts on an entry, and what it does."""

from dataclasses import replace
from decimal import Decimal
from typing import Any
from uuid import UUID

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from jotgate.core.contacts.contact import Contact
from jotgate.core.dispatch.acts import Notice
from jotgate.core.dispatch.effects import (
    CallPlanned,
    NoticePlanned,
    NotPlanned,
    RowPlanned,
    StatusPlanned,
)
from jotgate.core.dispatch.known import Hook
from jotgate.core.dispatch.rules import Dispatch
from tests.core.dispatch.rules import (
    CREW,
    KNOWN,
    OWN,
    POSTER,
    A,
    B,
    composed,
    file,
    notice,
    rule,
    rules,
    run,
)
from tests.documents import is_, page, plan
from tests.documents import item as asked


@pytest.mark.parametrize(
    "to",
    [
        *("", "crew", "crew@", "@example.org", "a b@example.org", "a@example..org"),
        *("a..b@example.org", "a@example.org, b@example.org", "A <a@example.org>"),
        *("a@example.org\nBcc: b@example.org", f"{'a' * 250}@example.org"),
    ],
)
def test_a_notice_goes_to_one_address_that_there_can_be(to: str) -> None:
    with pytest.raises(ValidationError):
        Dispatch.model_validate({"otherwise": [notice(to=to)]})


def test_the_address_of_a_notice_is_as_it_was_written_but_for_its_domain() -> None:
    (act,) = Dispatch.model_validate({"otherwise": [notice(to=" Crew+2@Example.ORG ")]}).otherwise
    assert isinstance(act, Notice)
    assert act.to.model_dump() == {"kind": "address", "address": "Crew+2@example.org"}


def test_the_first_rule_that_catches_is_the_only_one() -> None:
    dispatch = rules(
        rule("no", is_("source", "mains"), file(A)),
        rule("off", OWN, file(A), off=True),
        rule("first", OWN, file(A)),
        rule("second", OWN, file(B), notice("passed over")),
        rule("tell", OWN, notice("told"), catches=False),
        rule("always", None, notice("told"), catches=False),
        otherwise=(file(B),),
    )
    result = run(dispatch, {"source": "own"})
    assert result.caught_by == "first"
    assert [(effect.at.rule, type(effect)) for effect in result.effects] == [
        ("first", RowPlanned),
        ("tell", NoticePlanned),
        ("always", NoticePlanned),
    ]
    assert result.outcomes == {
        "no": "does_not_hold",
        "off": "off",
        "first": "caught",
        "second": "passed_over",
        "tell": "acted",
        "always": "acted",
        "otherwise": "passed_over",
    }


def test_otherwise_is_for_what_no_rule_caught() -> None:
    dispatch = rules(rule("tell", OWN, file(A), catches=False), otherwise=(file(B),))
    result = run(dispatch, {"source": "own"})
    assert result.caught_by is None
    assert [effect.at.rule for effect in result.effects] == ["tell", "otherwise"]
    assert result.outcomes["otherwise"] == "acted"


@pytest.mark.parametrize(
    ("when", "holds"),
    [
        (is_("entry.finish", "booked"), True),
        (is_("entry.finish", "none"), False),
        ({"op": "at_least", "item": "entry.edition", "value": "2"}, False),
        (is_("entry.language", "es"), True),
        (is_("entry.link", str(POSTER)), True),
        (is_("entry.weekday", "wed"), True),
        ({"op": "one_of", "item": "entry.weekday", "values": ["sat", "sun"]}, False),
        ({"op": "between", "item": "entry.time", "low": "12:00", "high": "13:00"}, True),
        ({"op": "less_than", "item": "entry.arrived", "value": "2026-11-25T12:00"}, False),
        (is_("entry.status", "received"), True),
        (is_("contact.name", "Ines"), True),
        (is_("claim.role", "sampler"), True),
        ({"op": "unanswered", "item": "contact.phone"}, True),
    ],
)
def test_what_only_an_entry_has_can_decide(when: dict[str, Any], holds: bool) -> None:
    """It arrived on a Wednesday at half past twelve."""
    result = run(
        rules(rule("r", when, notice())),
        contact=Contact(UUID(int=3), name="Ines"),
        language="es",
        status="received",
        link_id=POSTER,
        claims={"role": "sampler"},
    )
    assert result.caught_by == ("r" if holds else None)


def test_columns_take_words_or_values_and_leave_out_what_is_unanswered() -> None:
    dispatch = rules(otherwise=(file(A, name="source", n="drinkers"),))
    (row,) = run(dispatch, {"source": "own", "drinkers": Decimal("4.0")}).effects
    assert isinstance(row, RowPlanned)
    assert row.values == {"name": "Own", "n": "4"}
    (row,) = run(dispatch, {"source": "own"}).effects
    assert isinstance(row, RowPlanned)
    assert row.values == {"name": "Own"}


def test_columns_take_fixed_words_texts_and_facts() -> None:
    text = composed("{name}, {source:code} ({entry_number})")
    fixed = {"kind": "fixed", "text": "12.50"}
    (row,) = run(rules(otherwise=(file(A, name=text, n=fixed),)), {"name": "Ines"}).effects
    assert isinstance(row, RowPlanned)
    assert row.values == {"name": "Ines, (0007)", "n": "12.5"}
    act = file(A, name="entry_number", n="entry.edition")
    (row,) = run(rules(otherwise=(act,))).effects
    assert isinstance(row, RowPlanned)
    assert row.values == {"name": "0007", "n": "1"}


def test_what_does_not_fit_its_column_is_told_and_the_rest_goes_on() -> None:
    dispatch = rules(otherwise=(file(A, n=composed("{name}")), notice("x")))
    told, letter = run(dispatch, {"name": "Ines"}).effects
    assert isinstance(told, NotPlanned)
    assert "N: Write a number" in told.why
    assert isinstance(letter, NoticePlanned)


def test_a_register_that_is_gone_is_told() -> None:
    (told,) = run(rules(otherwise=(file(UUID(int=9)),))).effects
    assert isinstance(told, NotPlanned)
    assert "register is gone" in told.why


def test_a_row_is_found_by_columns_that_the_entry_fills() -> None:
    act = file(A, {"matching": {"columns": ["name"]}}, name="name", n="drinkers")
    (row,) = run(rules(otherwise=(act,)), {"name": "Ines", "drinkers": Decimal(2)}).effects
    assert isinstance(row, RowPlanned)
    assert row.alike == {"name": "Ines"}
    (told,) = run(rules(otherwise=(act,)), {"drinkers": Decimal(2)}).effects
    assert isinstance(told, NotPlanned)
    assert "leaves empty" in told.why


def test_a_roster_makes_a_row_for_each_of_its_entries() -> None:
    wells = asked("roster", "wells", items=[asked("short_text", "called"), asked("number", "deep")])
    document = plan(page("p", asked("short_text", "name"), wells))
    act = file(A, {"per": "wells"}, name=composed("{called} of {name}"), n="deep")
    lines = ({"called": "East", "deep": Decimal(9)}, {"called": "West"})
    answers = {"name": "Ines", "wells": lines}
    found = run(rules(otherwise=(act,)), answers, plan=document).effects
    assert [(one.at.part, one.values) for one in found if isinstance(one, RowPlanned)] == [
        (0, {"name": "East of Ines", "n": "9"}),
        (1, {"name": "West of Ines"}),
    ]
    (told,) = run(rules(otherwise=(act,)), {"name": "Ines"}, plan=document).effects
    assert isinstance(told, NotPlanned)
    assert told.left_out


def test_slots_are_filled_and_a_subject_stays_one_line() -> None:
    letter = notice("{name}: {drinkers}, {missing}no {entry_number}", "For {name}")
    answers = {"name": "Ines\nBcc: x", "drinkers": Decimal(4)}
    (effect,) = run(rules(otherwise=(letter,)), answers).effects
    assert isinstance(effect, NoticePlanned)
    assert effect.subject == "For Ines Bcc: x"
    assert effect.plain == "Ines\nBcc: x: 4, no 0007"


def test_a_team_gets_a_letter_each() -> None:
    crew = notice(to={"kind": "team", "team_id": str(CREW)})
    found = run(rules(otherwise=(crew,))).effects
    assert [(one.at.part, one.to) for one in found if isinstance(one, NoticePlanned)] == [
        (0, "a@example.org"),
        (1, "b@example.org"),
    ]
    gone = notice(to={"kind": "team", "team_id": str(UUID(int=99))})
    (told,) = run(rules(otherwise=(gone,))).effects
    assert isinstance(told, NotPlanned)
    assert not told.left_out


RECEIPT = plan(
    page("p", asked("short_text", "name"), asked("email", "mail"), asked("carried", "way")),
    languages=["en", "ar"],
)


def test_a_receipt_is_in_the_language_of_the_answers_and_has_what_was_asked() -> None:
    words = {"en": "Thank you {name}", "ar": "شكرا {name}"}
    act = {
        **notice(to={"kind": "answer", "name": "mail"}, whole=True),
        "subject": {"en": "Thanks"},
        "body": words,
    }
    answers = {"name": "See http://x.example <b>", "mail": "i@example.org", "way": "poster"}
    (letter,) = run(rules(otherwise=(act,)), answers, plan=RECEIPT, language="ar").effects
    assert isinstance(letter, NoticePlanned)
    assert (letter.to, letter.language, letter.subject) == ("i@example.org", "ar", "Thanks")
    assert letter.plain.startswith("شكرا See … <b>")
    assert "poster" not in letter.plain + letter.html
    assert "http" not in letter.plain + letter.html
    assert "<b>" not in letter.html
    (none,) = run(rules(otherwise=(act,)), {"name": "Ines"}, plan=RECEIPT).effects
    assert isinstance(none, NotPlanned)
    assert none.left_out


def test_a_status_is_set() -> None:
    (effect,) = run(rules(otherwise=({"kind": "status", "status": "received"},))).effects
    assert isinstance(effect, StatusPlanned)
    assert effect.status == "received"


@given(
    st.lists(st.tuples(st.booleans(), st.booleans(), st.booleans()), max_size=6),
)
def test_exactly_one_catches_whatever_the_rules(made: list[tuple[bool, bool, bool]]) -> None:
    """However many rules hold, one that catches acts, else what is done otherwise; each that does
    not catch acts where it holds."""
    written = [
        rule(f"r{n}", OWN if true else is_("source", "mains"), file(A), catches=catches, off=off)
        for n, (true, catches, off) in enumerate(made)
    ]
    result = run(rules(*written, otherwise=(file(B),)), {"source": "own"})
    acting = [n for n, (true, catches, off) in enumerate(made) if true and not off]
    catching = [n for n in acting if made[n][1]]
    wanted = [f"r{n}" for n in acting if not made[n][1] or n == catching[0]]
    assert [one.at.rule for one in result.effects] == wanted + ([] if catching else ["otherwise"])
    assert result.caught_by == (f"r{catching[0]}" if catching else None)
    assert set(result.outcomes) == {one["key"] for one in written} | {"otherwise"}


def test_a_call_has_no_about_that_is_restricted_by_now() -> None:
    """The entry's own note of what it is about is from when that was open."""
    thing = asked("carried", "well", about={"name": {"en": ""}, "address": ""})
    document = plan(page("p", asked("short_text", "name"), thing))
    called = UUID(int=4)
    known = replace(KNOWN, hooks={called: Hook(called, "Lab", "https://lab.example.org/")})
    act = {"kind": "call", "hook_id": str(called)}
    for answers, told in (({"well": "W1"}, "W1"), ({}, None)):
        found = run(
            rules(otherwise=(act,)), answers, plan=document, known=known, about="W1"
        ).effects
        (call,) = found
        assert isinstance(call, CallPlanned)
        assert call.body["data"]["about"] == told
    (gone,) = run(rules(otherwise=(act,))).effects
    assert isinstance(gone, NotPlanned)
