"""What dispatch rules do with the entry of a walk that was walked for real."""

from collections.abc import Iterator
from dataclasses import dataclass, field
from decimal import Decimal
from random import Random

from jotgate.core.common.today import Today
from jotgate.core.common.values import Value, Values
from jotgate.core.conditions.condition import entries_of, holds
from jotgate.core.dispatch.planning import outcomes_of
from jotgate.core.dispatch.rules import OTHERWISE
from jotgate.core.dispatch.texts import value_of
from jotgate.core.entries.facts import CORRECTED
from jotgate.core.entries.finishing import to_keep
from jotgate.core.items import PickOne
from jotgate.core.proof.asking import Encoding, Goal
from jotgate.core.proof.routing.encoding import MAY_LACK, Routing, is_option, place_of_option
from jotgate.core.proof.routing.taken import Taken, place_of
from jotgate.core.proof.runs import Run
from jotgate.core.proof.search import Budget, Prover
from jotgate.core.walking.path import Walk, walk

FACT = "entry."


@dataclass(frozen=True)
class RoutedRun(Run):
    """A run, and the facts of its entry."""

    facts: Values = field(default_factory=dict)


class RoutingProver(Prover):
    """A solver whose ways are walked for real and dispatched for real."""

    def __init__(self, routing: Routing, encoding: Encoding, today: Today, budget: Budget) -> None:
        super().__init__(routing.plan, encoding, today, budget)
        self._routing = routing

    def run(self) -> Run:
        run = super().run()
        facts = {key: one for key, one in run.carried.items() if key.startswith(FACT)}
        return self._routed(run, facts)

    def chance(self, seed: int) -> Run:
        return self._routed(super().chance(seed), _some_facts(self._routing, seed))

    def _routed(self, run: Run, facts: Values) -> RoutedRun:
        carried = {key: one for key, one in run.carried.items() if not key.startswith(FACT)}
        whole = walk(self._routing.plan, run.answers, carried, self._today)
        known = {**facts, "entry.arrived": self._today.now, "entry.finish": whole.finish.key}
        ends = run.finish is not None
        reached = happenings(self._routing, whole, known, self._today) if ends else ()
        values = vars(run) | {"carried": carried, "reached": frozenset(reached)}
        return RoutedRun(**values, facts=known)


def _some_facts(routing: Routing, seed: int) -> dict[str, Value]:
    dice = Random(seed)
    found: dict[str, Value] = {CORRECTED: dice.random() < 0.5}
    found["entry.edition"] = Decimal(routing.edition)
    for name, item in routing.facts.items():
        if isinstance(item, PickOne) and not (name in MAY_LACK and dice.random() < 0.5):
            found[name] = dice.choice([one.code for one in item.options])
    return found


def happenings(routing: Routing, whole: Walk, facts: Values, today: Today) -> Iterator[Goal]:
    """All that happens to the entry of a walk that came to its finish."""
    plan = routing.plan
    kept = {key: one for key, one in to_keep(plan, whole).items() if not plan.is_restricted(key)}
    visitor = {key: one for key, one in whole.kept.items() if "." in key}
    values = {**kept, **visitor, **facts}
    caught_by, outcomes = outcomes_of(routing.dispatch, plan.written.saved, values, today)
    acting = {key for key, one in outcomes.items() if one in ("acted", "caught")}
    for key, when in routing.conditions.items():
        if holds(when, values, today):
            yield "holds", place_of(key)
    yield from (("acts", place_of(key)) for key in acting)
    if acting == {OTHERWISE}:
        yield "nothing", "rules"
    for key, code in routing.told_apart:
        if holds(is_option(key, code), values, today):
            yield "comes", place_of_option(key, code)
            if caught_by is not None:
                yield "caught", place_of_option(key, code)
    for one in routing.taken:
        if one.rule in acting:
            yield from _taken(one, values)


def _taken(one: Taken, values: Values) -> Iterator[Goal]:
    each = [values]
    if one.per:
        each = [{**values, **entry} for entry in entries_of(values.get(one.per))]
    for known in each:
        is_there = value_of(known, one.name) is not None
        yield "filled" if is_there else "empty", one.place
