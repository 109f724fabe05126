"""Where dispatch rules lead, proved for every entry there can be."""

from uuid import UUID

from pydantic import BaseModel

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.findings import (
    FindingOut,
    NamedPlace,
    WalkThroughOut,
    finding_out,
    named,
    walk_out,
)
from jotgate.api.routes import routes
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.entries.facts import NAMES
from jotgate.services.staff.dispatch import routing_proof
from jotgate.services.staff.dispatch.routing_proof import RoutedExample

router = routes("/api/questionnaires", "dispatch")


class FactOut(BaseModel):
    """A fact of an entry: its name, such as `entry.language`, what staff read for that, its value
    as it is stored, and in words."""

    name: str
    label: str
    value: bool | str
    words: str


class RoutedExampleOut(BaseModel):
    walk: WalkThroughOut
    facts: list[FactOut]


class ToProve(BaseModel):
    dispatch: Dispatch


class RoutingProofOut(BaseModel):
    """`rules` lead from the place of a rule, `rules/KEY` or `otherwise`, to the number of an
    example that it acts on; `examples` are by number, for those and for findings. `open` is what
    nothing was decided of."""

    findings: list[FindingOut]
    open: list[NamedPlace]
    rules: dict[str, int]
    examples: dict[int, RoutedExampleOut]


@router.post("/{id}/dispatch/proof")
async def prove_dispatch(
    id: UUID, body: ToProve, context: CurrentContext, account: CurrentAccount
) -> RoutingProofOut:
    """What can become of entries of the newest edition by these rules, and what cannot; 503 where
    that takes too long."""
    found = await routing_proof.proved(context, account, id, body.dispatch)

    def name(at: str) -> str:
        return found.names.get(at, at)

    return RoutingProofOut(
        findings=[finding_out(one, name) for one in found.findings],
        open=named(name, found.open),
        rules=dict(found.rules),
        examples={number: _example(one) for number, one in found.examples.items()},
    )


def _example(one: RoutedExample) -> RoutedExampleOut:
    facts = [
        FactOut(name=name, label=NAMES[name], value=value, words=words)
        for name, (value, words) in one.facts.items()
    ]
    return RoutedExampleOut(walk=walk_out(one.walk), facts=facts)
