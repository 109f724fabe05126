"""How somebody stands, and whom a step goes to: one rule for every combination of facts."""

from itertools import product
from typing import get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.rounds.dispositions import DISPOSITIONS
from jotgate.core.rounds.round import Step, Way, Whom
from jotgate.core.rounds.standing import (
    OUTCOMES,
    STANDINGS,
    Facts,
    concerns,
    disposition,
    reached,
    standing,
)

FLAGS = st.booleans()
FACTS = st.builds(
    Facts,
    *(FLAGS for _ in range(4)),
    st.sampled_from(("", *OUTCOMES)),
    FLAGS,
    FLAGS,
    st.sampled_from(("", *DISPOSITIONS)),
    *(FLAGS for _ in range(4)),
)
STEPS = [
    Step(key="a", name="A", way=way, to=to) for way, to in product(get_args(Way), get_args(Whom))
]


@given(FACTS, st.sampled_from(STEPS))
def test_steps_go_to_nobody_who_is_done_with(facts: Facts, step: Step) -> None:
    if not concerns(step, facts):
        return
    assert not facts.out
    assert not facts.gone
    assert standing(facts) in ("open", "started", "not_reached")
    assert disposition(facts)[0] != "1"
    assert not (step.way == "mail" and (facts.bounced or not facts.mail))
    assert not (step.way == "paper" and (facts.outcome == "moved" or not facts.post))
    assert not (step.way == "call" and (facts.outcome == "wrong_number" or not facts.phone))
    assert facts.started or step.to != "broken_off"
    assert not facts.started or step.to != "not_started"


@given(FACTS)
def test_everybody_stands_somewhere_by_a_code_that_says_the_same(facts: Facts) -> None:
    code = DISPOSITIONS[disposition(facts)]
    stands = standing(facts)
    assert stands in STANDINGS
    assert (stands == "answered") == (code.group in ("complete", "partial"))
    assert (stands == "not_eligible") == (code.group == "not_eligible")
    if stands == "refused":
        assert code.group == "refusal"


@pytest.mark.parametrize("step", STEPS, ids=lambda one: f"{one.way} {one.to}")
def test_every_step_goes_to_somebody(step: Step) -> None:
    facts = Facts(started=step.to == "broken_off")
    assert concerns(step, facts)


@pytest.mark.parametrize(
    ("facts", "stands", "code"),
    [
        (Facts(), "open", "3.11"),
        (Facts(written=True), "open", "3.19"),
        (Facts(written=True, started=True), "started", "2.12"),
        (Facts(written=True, bounced=True), "not_reached", "3.30"),
        (Facts(answered=True, out=True), "answered", "1.1"),
        (Facts(out=True, started=True), "refused", "2.112"),
        (Facts(called=True, outcome="not_reached"), "open", "2.20"),
        (Facts(called=True, outcome="not_eligible"), "not_eligible", "4.70"),
        (Facts(called=True, outcome="answered"), "answered", "1.1"),
        (Facts(answered=True, code="2.31"), "not_reached", "2.31"),
    ],
)
def test_how_somebody_stands(facts: Facts, stands: str, code: str) -> None:
    assert (standing(facts), disposition(facts)) == (stands, code)


def test_who_spoke_was_reached() -> None:
    assert not reached(Facts(written=True, called=True, outcome="not_reached"))
    for facts in (Facts(started=True), Facts(out=True), Facts(outcome="again")):
        assert reached(facts)
