"""The branching of a questionnaire, proved: what can happen, what cannot, and why.

    proof = prove(questionnaire, today)

Every answer is put into a class that no comparison tells apart, every walk becomes a way to
make statements true, and a solver for propositional logic looks for the ways. What it finds is
walked for real before it counts.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from jotgate.core.common.today import Today
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.proof.asking import Goal
from jotgate.core.proof.cover import cover
from jotgate.core.proof.encoding import encode
from jotgate.core.proof.findings import Finding, findings
from jotgate.core.proof.places import Places
from jotgate.core.proof.runs import Run, run_of
from jotgate.core.proof.search import Budget, Found, Prover, search
from jotgate.core.proof.why import Explainer
from jotgate.core.walking.plan import compile_plan

IN_THE_WAY = frozenset(
    {
        "double_key",
        "double_code",
        "not_earlier",
        "no_such_answer",
        "no_count",
        "no_saved",
        "saved_inside",
        "bad_pattern",
        "not_later",
        "no_finish",
        "no_comparison",
        "wrong_source",
    }
)
"""The faults of a draft (`core.publishing`) of which nothing is proved until they are mended."""


@dataclass(frozen=True)
class Proof:
    """`runs` were all walked for real; `examples` leads from the place of a page, an item or a
    finish to the number of a run that comes to it; `open` are the places that nothing was
    decided of."""

    findings: tuple[Finding, ...]
    open: tuple[str, ...]
    runs: tuple[Run, ...]
    examples: Mapping[str, int]


def prove(questionnaire: Questionnaire, today: Today, budget: Budget | None = None) -> Proof:
    """Everything that can be found out about a questionnaire without faults.

    It always ends, within `budget`; what that does not suffice for is in `open`.
    """
    plan = compile_plan(questionnaire)
    allowed = budget or Budget()
    encoding = encode(plan, today)
    prover = Prover(plan, encoding, today, allowed)
    found = search(encoding, prover)
    prover.close()
    told = findings(questionnaire, plan.questionnaire, found, Explainer(plan, today, allowed))
    return Proof(tuple(told), _open(found), tuple(found.runs), _examples(found))


def walk_throughs(
    questionnaire: Questionnaire, today: Today, budget: Budget | None = None
) -> tuple[Run, ...]:
    """A few runs that together take every branch that can be taken."""
    plan = compile_plan(questionnaire)
    encoding = encode(plan, today)
    prover = Prover(plan, encoding, today, budget or Budget())
    runs = cover(search(encoding, prover), encoding, prover)
    prover.close()
    return tuple(runs)


def _open(found: Found) -> tuple[str, ...]:
    places = (at for (_, at), verdict in found.verdicts.items() if verdict == "open")
    return tuple(dict.fromkeys(places))


def _examples(found: Found) -> dict[str, int]:
    return {
        at: number
        for (kind, at), number in found.witness.items()
        if kind in ("page", "item", "finish", "fires")
    }


__all__ = [
    "IN_THE_WAY",
    "Budget",
    "Finding",
    "Goal",
    "Places",
    "Proof",
    "Run",
    "prove",
    "run_of",
    "walk_throughs",
]
