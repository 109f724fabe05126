"""Rules proved for every entry that can come, and rehearsed with answers that nobody sent."""

from dataclasses import replace
from typing import Any

import pytest

from jotgate.adapters.proofs import OwnProcess
from jotgate.core.common.errors import Invalid, InvalidAnswers, NotFound, Unavailable
from jotgate.core.common.today import Today
from jotgate.core.dispatch.effects import NoticePlanned, RowPlanned
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.proof.routing import RoutingProof, RulesToProve
from jotgate.ports.isolated import TookTooLong
from jotgate.services.context import Context
from jotgate.services.staff.dispatch import dispatch_rules, rehearsing, routing_proof
from jotgate.services.staff.dispatch.rehearsing import Rehearsal, Typed
from jotgate.services.staff.dispatch.routing_proof import RoutedExample
from tests.core.dispatch.rules import file, notice
from tests.documents import is_
from tests.scenes import SECRET, Scene, rules

GIVEN = {"name": "Ines", "source": "own", "drinkers": "3"}


def typed(answers: dict[str, Any], link: str = "", **facts: Any) -> Typed:
    return Typed(answers, link, {f"entry.{name}": one for name, one in facts.items()})


class Late(OwnProcess):
    async def routing(self, asked: RulesToProve, today: Today) -> RoutingProof:
        raise TookTooLong


async def rehearsed(scene: Scene, given: Typed, wanted: Dispatch | None = None) -> Rehearsal:
    found = wanted or rules(scene.saltings, scene.rest)
    who = scene.coordinator
    return await rehearsing.rehearse_typed(scene.context, who, scene.id, found, given)


def of_example(example: RoutedExample) -> Typed:
    link = "&".join(f"{key}={value}" for key, value in example.walk.link)
    facts = {name: value for name, (value, _) in example.facts.items()}
    return Typed(example.walk.answers, link, facts)


async def test_each_rule_catches_its_example_in_rehearsal(scene: Scene) -> None:
    wanted = rules(scene.saltings, scene.rest)
    proof = await routing_proof.proved(scene.context, scene.coordinator, scene.id, wanted)
    assert set(proof.rules) == {"rules/saltings", "otherwise"}
    for place, caught_by in (("rules/saltings", "saltings"), ("otherwise", None)):
        example = proof.examples[proof.rules[place]]
        found = await rehearsed(scene, of_example(example), wanted)
        assert (found.number, found.planned.caught_by) == (None, caught_by)


async def test_a_fact_of_an_example_is_so_in_its_rehearsal(scene: Scene) -> None:
    acts = [file(scene.rest.id, name="name")]
    days = [
        {"key": one, "when": is_("entry.weekday", one), "acts": acts}
        for one in ("sat", "sun", "wed")
    ]
    corrected = {"key": "again", "when": is_("entry.corrected", True), "acts": acts}
    wanted = Dispatch.model_validate({"rules": [corrected, *days]})
    proof = await routing_proof.proved(scene.context, scene.coordinator, scene.id, wanted)
    for key in ("again", "sat", "sun", "wed"):
        example = proof.examples[proof.rules[f"rules/{key}"]]
        found = await rehearsed(scene, of_example(example), wanted)
        assert found.planned.caught_by == key


async def test_what_typed_answers_would_come_to_is_what_an_entry_comes_to(scene: Scene) -> None:
    await scene.submit("before")
    for number, link in enumerate(("district=saltings", "")):
        before = await rehearsed(scene, typed(GIVEN, link))
        await scene.submit(f"sent {number}", link, drinkers="3")
        wanted = rules(scene.saltings, scene.rest)
        after = await rehearsing.rehearse(scene.context, scene.coordinator, scene.id, wanted, None)
        assert before.planned == after.planned
        kinds = {type(one.effect) for one in before.effects}
        assert kinds == ({RowPlanned, NoticePlanned} if link else {RowPlanned})


async def test_restricted_answers_that_are_typed_show_nowhere(scene: Scene) -> None:
    whole = Dispatch.model_validate({"otherwise": [notice("x", whole=True)]})
    found = await rehearsed(scene, typed({**GIVEN, "ill": True, "illness": SECRET}), whole)
    (effect,) = found.effects
    assert isinstance(effect.effect, NoticePlanned)
    assert "Ines" in effect.effect.plain
    assert SECRET not in effect.effect.plain


async def test_answers_that_cannot_be_rehearsed_are_told_why(scene: Scene) -> None:
    with pytest.raises(InvalidAnswers, match="come to no finish"):
        await rehearsed(scene, typed({"source": "own"}))
    with pytest.raises(Invalid, match="does not ask depth, well"):
        await rehearsed(scene, typed({**GIVEN, "well": "1", "depth": "2"}))
    with pytest.raises(Invalid, match="facts of the entry cannot be so"):
        await rehearsed(scene, typed(GIVEN, weekday="someday"))
    with pytest.raises(InvalidAnswers):
        await rehearsed(scene, typed({**GIVEN, "drinkers": ["\0"] * 3}))


async def test_only_rules_that_can_be_used_are_proved(scene: Scene, context: Context) -> None:
    unusable = Dispatch.model_validate({"rules": [{"key": "a", "when": is_("gone", "x")}]})
    with pytest.raises(Invalid):
        await routing_proof.proved(context, scene.coordinator, scene.id, unusable)
    with pytest.raises(NotFound):
        await routing_proof.proved(context, scene.coordinator, scene.rest.id, unusable)


async def test_a_proof_of_rules_is_kept_and_given_up_in_time(
    scene: Scene, context: Context
) -> None:
    wanted = rules(scene.saltings, scene.rest)
    kept = await routing_proof.proved(context, scene.coordinator, scene.id, wanted)
    late = replace(context, proofs=Late())
    again = await routing_proof.proved(late, scene.coordinator, scene.id, wanted)
    assert again.findings == kept.findings
    other = Dispatch.model_validate({"otherwise": [notice("x")]})
    with pytest.raises(Unavailable):
        await routing_proof.proved(late, scene.coordinator, scene.id, other)


async def test_hints_come_with_the_rules(scene: Scene, context: Context) -> None:
    written = {"otherwise": [notice("Dear{name}")]}
    found = await dispatch_rules.check(context, scene.coordinator, scene.id, written)
    assert "glued" in [one.code for one in found.hints]
