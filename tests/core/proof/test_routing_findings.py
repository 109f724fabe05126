"""What is likely not meant in dispatch rules, or proved to be wrong, is told with its repairs; it
keeps nothing from being applied."""

from collections.abc import Iterable
from typing import Any

import pytest

from jotgate.core.dispatch.faults import problems
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.dispatch.scope import scope_of
from jotgate.core.dispatch.texts import spaced, with_words
from jotgate.core.proof.findings import Finding
from jotgate.core.proof.routing import RoutingProof, RulesToProve, prove_routing
from jotgate.core.proof.routing.hints import Answering, hints
from tests.core.dispatch.rules import KNOWN, OWN, A, composed, file, notice, rule, rules
from tests.core.proof.findings import applied
from tests.documents import TODAY, finish, is_, item, options, page, questionnaire

DOCUMENT = questionnaire(
    page(
        "p",
        item("short_text", "name", required=True),
        item("email", "mail"),
        item("pick_one", "source", options=options("own", "mains", "river"), required=True),
        item("number", "depth", shown_when=is_("source", "own")),
        item("yes_no", "ill", restricted=True),
    ),
    finishes=(finish("booked"),),
)
SCOPE = scope_of(DOCUMENT, KNOWN)
EVERY = file(A, name=composed("{name} {mail|none} {source} {depth|none}"))
TO_CLAIM = {"kind": "answer", "name": "claim.email"}


def hinted(dispatch: Dispatch, signs_in: bool = False) -> tuple[Finding, ...]:
    assert problems(dispatch, SCOPE) == ()
    return hints(dispatch, SCOPE, Answering(signs_in, 3))


def told(*made: Any, otherwise: tuple[Any, ...] = (), signs_in: bool = False) -> list[str]:
    """The codes of the hints, of rules that can be used."""
    return [one.code for one in hinted(rules(*made, otherwise=otherwise), signs_in)]


def proved(*made: Any, otherwise: tuple[Any, ...] = ()) -> RoutingProof:
    dispatch = rules(*made, otherwise=otherwise)
    assert problems(dispatch, SCOPE) == ()
    return prove_routing(RulesToProve(DOCUMENT, 3, dispatch, KNOWN), TODAY)


def codes(findings: Iterable[Finding]) -> list[tuple[str, str]]:
    return [(one.code, one.at) for one in findings]


def mended(dispatch: Dispatch, finding: Finding, repair: int = 0) -> Dispatch:
    return applied(dispatch, finding.repairs[repair])


@pytest.mark.parametrize(
    ("words", "glued", "apart"),
    [
        ("Dear {name}, of {source} and {mail}", False, "Dear {name}, of {source} and {mail}"),
        ("Dear{name}, of {source} and {mail}", True, "Dear {name}, of {source} and {mail}"),
        ("{name}{source} {mail}", True, "{name} {source} {mail}"),
        ("{name}s {source} {mail}", True, "{name} s {source} {mail}"),
        ("({name}) {source}: {mail}.", False, "({name}) {source}: {mail}."),
    ],
)
def test_a_slot_that_is_glued_to_its_neighbour(words: str, glued: bool, apart: str) -> None:
    for act in (notice(words + " {depth}"), file(A, name=composed(words + " {depth}"))):
        dispatch = rules(otherwise=(act,))
        found = hinted(dispatch)
        assert [one.code for one in found] == ["glued"] * glued
        for one in found:
            assert told(otherwise=mended(dispatch, one).model_dump()["otherwise"]) == []
    assert spaced(words) == apart


def test_answers_that_nobody_uses_go_into_the_column_of_their_name() -> None:
    dispatch = rules(otherwise=(file(A, n="depth"),))
    (one,) = hinted(dispatch)
    assert (one.code, one.at) == ("unused", "rules")
    assert "Name, Mail, Source" in one.says
    assert "Ill" not in one.says
    (repair,) = one.repairs
    assert repair.says == "Otherwise: put Name into Name"
    (left,) = hinted(mended(dispatch, one))
    assert "Mail, Source" in left.says
    assert "Name" not in left.says
    assert told(otherwise=(EVERY,)) == []
    assert told(otherwise=(notice("x", whole=True),)) == []
    receipt = notice("{name}", to={"kind": "answer", "name": "mail"}, whole=True)
    assert told(otherwise=(receipt,)) == ["unused"]


def test_the_address_of_a_sign_in_where_nobody_signs_in() -> None:
    letter = notice("x", to=TO_CLAIM)
    dispatch = rules(otherwise=(letter, EVERY))
    (one,) = hinted(dispatch)
    assert one.code == "no_sign_in"
    assert hinted(mended(dispatch, one)) == ()
    assert mended(dispatch, one).otherwise[0].model_dump()["to"]["name"] == "mail"
    assert hinted(dispatch, signs_in=True) == ()


def test_an_edition_that_is_answered_no_more() -> None:
    dispatch = rules(rule("a", is_("entry.edition", "2"), EVERY))
    (one,) = hinted(dispatch)
    assert (one.code, one.at) == ("other_edition", "rules/a")
    assert hinted(mended(dispatch, one)) == ()
    assert told(rule("a", is_("entry.edition", "3"), EVERY)) == []


def test_without_rules_there_is_nothing_to_say() -> None:
    assert told() == []
    assert proved().findings == ()


def test_rules_that_one_before_leaves_nothing_to() -> None:
    first, second = rule("a", OWN, EVERY), rule("b", OWN, EVERY)
    rest = rule("z", None, EVERY)
    proof = proved(first, second, rest)
    (one,) = proof.findings
    assert (one.code, one.at, one.because) == ("shadowed", "rules/b", ("rules/a",))
    assert [repair.says for repair in one.repairs] == ["Try rule 2 before rule 1", "Delete rule 2"]
    without = mended(rules(first, second, rest), one, 1)
    assert [rule.key for rule in without.rules] == ["a", "z"]
    assert proved(first, {**second, "catches": False}, rest).findings == ()
    assert proved({**first, "off": True}, second, rest).findings == ()
    assert codes(proved(rest, second).findings) == [("shadowed", "rules/b")]
    depth = {"op": "answered", "item": "depth"}
    assert codes(proved(first, rule("b", depth, EVERY), rest).findings) == [("shadowed", "rules/b")]


def test_rules_that_several_before_leave_nothing_to() -> None:
    each = [rule(code, is_("source", code), EVERY) for code in ("own", "mains", "river")]
    (one,) = proved(*each, rule("z", None, EVERY)).findings
    assert (one.code, one.because) == ("shadowed", ())
    assert "the rules before it together" in one.says


def test_a_rule_for_what_never_comes() -> None:
    both = {"op": "all", "parts": [is_("source", "mains"), {"op": "answered", "item": "depth"}]}
    (one,) = proved(rule("a", both, EVERY), rule("z", None, EVERY)).findings
    assert (one.code, one.at) == ("never", "rules/a")


def test_options_that_lead_to_no_rule() -> None:
    two = [rule(code, is_("source", code), EVERY) for code in ("own", "mains")]
    proof = proved(*two)
    (one,) = proof.findings
    assert (one.code, one.level, one.at) == ("no_rule", "wrong", "rules")
    assert one.says == "Source: River leads to no rule of its own."
    assert one.example is not None
    assert proof.runs[one.example].answers["source"] == "river"
    new = mended(rules(*two), one).rules[-1]
    assert (new.acts, new.when) == ((), rules(rule("x", is_("source", "river"))).rules[0].when)
    (advice,) = proved(*two, otherwise=(EVERY,)).findings
    assert (advice.code, advice.level) == ("no_rule", "advice")
    both = {"op": "one_of", "item": "source", "values": ["mains", "river"]}
    assert proved(two[0], rule("c", both, EVERY)).findings == ()


def test_entries_that_no_rule_catches() -> None:
    proof = proved(rule("a", OWN, EVERY))
    (one,) = proof.findings
    assert (one.code, one.at) == ("uncaught", "otherwise")
    assert one.example is not None
    assert proof.runs[one.example].answers["source"] != "own"
    assert proved(rule("a", OWN, EVERY), otherwise=(EVERY,)).findings == ()
    along = rule("a", OWN, EVERY, catches=False)
    assert codes(proved(along).findings) == [("uncaught", "otherwise")]
    assert proved(along, rule("b", None, EVERY, catches=False)).findings == ()


def test_columns_slots_and_addresses_that_stay_empty() -> None:
    receipt = notice("{name} {depth}", to={"kind": "answer", "name": "mail"})
    own = rule("a", OWN, file(A, name="mail", n="depth"), receipt)
    mains = rule("b", is_("source", "mains"), file(A, name="name", n="depth"), notice("{depth}"))
    river = rule("c", is_("source", "river"), EVERY)
    proof = proved(own, mains, river)
    assert codes(proof.findings) == [
        ("sometimes_empty", "rules/a/acts/1"),
        ("sometimes_empty", "rules/a/acts/1"),
        ("always_empty", "rules/b/acts/0"),
        ("always_empty", "rules/b/acts/1"),
        ("sometimes_empty", "rules/a/acts/0"),
    ]
    says = [one.says for one in proof.findings]
    assert says[0] == "No letter goes to those of whom there is no Mail."
    assert says[1] == "Some letters lack Depth."
    assert says[2] == "The column N stays empty: no entry of rule 2 has Depth."
    assert says[4] == "Some rows have nothing in Name, N."
    first = proof.findings[4].example
    assert first is not None
    assert "mail" not in proof.runs[first].answers
    dispatch = rules(own, mains, river)
    for at in (1, 2, 3):
        dispatch = mended(dispatch, proof.findings[at])
    again = prove_routing(RulesToProve(DOCUMENT, 3, dispatch, KNOWN), TODAY)
    assert codes(again.findings) == [codes(proof.findings)[0], codes(proof.findings)[4]]


def test_columns_that_several_rules_leave_empty_are_told_of_once() -> None:
    two = [rule(code, is_("source", code), file(A, name="mail")) for code in ("own", "mains")]
    (one,) = proved(*two, otherwise=(EVERY,)).findings[1:]
    assert (one.code, one.at) == ("sometimes_empty", "rules")
    assert one.says == "Some rows of rule 1, rule 2 have nothing in Name."


def test_words_for_what_is_missing() -> None:
    assert with_words("{a} {a:short} {a|x} {b}", "a", "–") == "{a|–} {a:short|–} {a|x} {b}"


def test_every_rule_has_an_example_that_it_acts_on() -> None:
    proof = proved(
        rule("a", OWN, EVERY),
        rule("b", is_("entry.language", "en"), EVERY, catches=False),
        otherwise=(file(A, name="name"),),
    )
    assert set(proof.examples) == {"rules/a", "rules/b", "otherwise"}
    assert proof.runs[proof.examples["rules/a"]].answers["source"] == "own"
    assert proof.runs[proof.examples["rules/b"]].facts["entry.language"] == "en"
    assert proof.open == ()
