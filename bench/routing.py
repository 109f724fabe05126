"""Time to prove where dispatch rules lead, with every example walked and dispatched for real."""

import statistics
from collections.abc import Iterator
from random import Random
from typing import Any
from uuid import UUID

from bench.proof import TODAY, ms
from bench.support.branching import branching
from bench.support.figure import Figure
from jotgate.core.dispatch.known import Known
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.items import PickOne, is_valued
from jotgate.core.proof.routing import RulesToProve, prove_routing
from jotgate.core.registers.columns import Column, Register

SIZES = ((60, 40, 10, 7), (300, 250, 20, 3), (300, 250, 100, 1))
"""Questions, skip rules, dispatch rules, and how many questionnaires."""

COLUMNS = tuple(Column(key=f"c{n}", label=f"C{n}", type="long_text") for n in range(10))
REGISTER = Register(id=UUID(int=1), name="R", columns=COLUMNS)


def _condition(item: Any, dice: Random) -> dict[str, Any]:
    codes = [one.code for one in item.options] if isinstance(item, PickOne) else [True]
    return {"op": "is", "item": item.key, "value": dice.choice(codes)}


def dispatched(document: Questionnaire, count: int, seed: int) -> RulesToProve:
    """Rules that each ask for two answers and file a row with ten columns."""
    dice = Random(seed)
    items = list(document.items())
    told_apart = [item for item in items if item.kind in ("pick_one", "yes_no")]
    keys = [item.key for item in items if is_valued(item)]
    rules = []
    for number in range(count):
        columns = {one.key: {"kind": "entry", "name": dice.choice(keys)} for one in COLUMNS}
        file = {"kind": "file", "register_id": str(REGISTER.id), "columns": columns}
        parts = [_condition(dice.choice(told_apart), dice) for _ in range(2)]
        when = {"op": "all", "parts": parts}
        rules.append({"key": f"r{number}", "when": when, "acts": [file]})
    made = Dispatch.model_validate({"rules": rules})
    return RulesToProve(document, 1, made, Known(registers={REGISTER.id: REGISTER}))


def figures() -> Iterator[Figure]:
    for questions, skips, rules, how_many in SIZES:
        made = [
            dispatched(branching(questions, skips, seed), rules, seed) for seed in range(how_many)
        ]
        whole = statistics.median(ms(prove_routing, one, TODAY) for one in made)
        name = f"all findings of {rules} dispatch rules, {questions} questions"
        yield Figure("routing", name, whole, "ms")
