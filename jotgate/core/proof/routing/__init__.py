"""The proof of the branching carried on into dispatch: which entries there can be, which rule
takes each, and what none takes.

    proof = prove_routing(RulesToProve(questionnaire, edition, rules, known), today)
"""

from collections.abc import Mapping
from dataclasses import dataclass

from jotgate.core.common.today import Today
from jotgate.core.dispatch.known import Known
from jotgate.core.dispatch.rules import OTHERWISE, Dispatch
from jotgate.core.dispatch.scope import scope_of
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.entries.facts import fact_items
from jotgate.core.proof.findings import Finding
from jotgate.core.proof.routing.encoding import Routing, encode_routing
from jotgate.core.proof.routing.findings import RoutingFindings
from jotgate.core.proof.routing.happening import RoutedRun, RoutingProver
from jotgate.core.proof.search import Budget, Found, search
from jotgate.core.walking.plan import compile_plan


@dataclass(frozen=True)
class RulesToProve:
    """Rules that can be used, for the entries of an edition of a questionnaire; `known` is what
    they speak of beside it."""

    questionnaire: Questionnaire
    edition: int
    rules: Dispatch
    known: Known


@dataclass(frozen=True)
class RoutingProof:
    """`runs` were all walked and dispatched for real; `examples` leads from the place of a rule to
    the number of a run that it acts on; `open` are the places of rules that nothing was decided of,
    and `rules` where acts take more than is looked at."""

    findings: tuple[Finding, ...]
    open: tuple[str, ...]
    runs: tuple[RoutedRun, ...]
    examples: Mapping[str, int]


def prove_routing(asked: RulesToProve, today: Today, budget: Budget | None = None) -> RoutingProof:
    """Everything that can be found out about rules.

    It always ends, within `budget`; what that does not suffice for is in `open`.
    """
    scope = scope_of(asked.questionnaire, asked.known)
    facts = fact_items(asked.questionnaire, asked.known.around)
    routing = Routing(compile_plan(asked.questionnaire), asked.edition, asked.rules, facts)
    encoding = encode_routing(routing, today)
    prover = RoutingProver(routing, encoding, today, budget or Budget())
    found = search(encoding, prover)
    told = tuple(RoutingFindings(routing, scope, encoding, prover, found).all())
    prover.close()
    runs = tuple(run for run in found.runs if isinstance(run, RoutedRun))
    return RoutingProof(told, _open(routing, found), runs, _examples(found))


def _open(routing: Routing, found: Found) -> tuple[str, ...]:
    of_rules = (
        at
        for (kind, at), verdict in found.verdicts.items()
        if verdict == "open" and kind in ("holds", "acts") and at != OTHERWISE
    )
    left = () if len(routing.taken) == len(routing.all_taken) else ("rules",)
    return tuple(dict.fromkeys([*of_rules, *left]))


def _examples(found: Found) -> dict[str, int]:
    return {at: number for (kind, at), number in found.witness.items() if kind == "acts"}


__all__ = ["RoutedRun", "Routing", "RoutingProof", "RulesToProve", "prove_routing"]
