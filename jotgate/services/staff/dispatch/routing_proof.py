"""Where dispatch rules lead, proved for every entry there can be."""

import asyncio
from collections.abc import Mapping
from dataclasses import dataclass, replace
from hashlib import blake2b
from uuid import UUID

from jotgate.core.common.errors import NotFound, Unavailable
from jotgate.core.common.today import Today, today_in
from jotgate.core.common.values import Value
from jotgate.core.dispatch.known import Known
from jotgate.core.dispatch.rules import OTHERWISE, Dispatch
from jotgate.core.entries.display import Reader
from jotgate.core.entries.facts import NAMES, fact_items
from jotgate.core.entries.stored import as_json
from jotgate.core.proof import Finding
from jotgate.core.proof.routing import RoutedRun, RoutingProof, RulesToProve
from jotgate.core.proof.routing.repairs import RuleRepairs
from jotgate.core.proof.routing.taken import place_of
from jotgate.core.records.accounts import Account
from jotgate.core.walking.plan import Plan
from jotgate.ports.isolated import TookTooLong
from jotgate.services.context import Context
from jotgate.services.dispatch.known import known_to
from jotgate.services.staff.dispatch.dispatch_rules import refuse_unusable
from jotgate.services.staff.proof import WalkThrough, walk_through
from jotgate.services.staff.rights import needs
from jotgate.store import questionnaires


@dataclass(frozen=True)
class RoutedExample:
    """A walk to play, and the facts of its entry by name: each as it is stored, and in words."""

    walk: WalkThrough
    facts: Mapping[str, tuple[bool | str, str]]


@dataclass(frozen=True)
class ProvedRouting:
    """`examples` are of findings and rules; those that `rules` and the findings name, by number.
    `open` are the places of rules that nothing was decided of; `names` is what people call each."""

    names: Mapping[str, str]
    findings: tuple[Finding, ...]
    open: tuple[str, ...]
    rules: Mapping[str, int]
    examples: Mapping[int, RoutedExample]


async def proved(context: Context, account: Account, id: UUID, rules: Dispatch) -> ProvedRouting:
    """What can become of entries by `rules`, and what cannot. Raises NotFound where nothing is
    published yet, Invalid, and Unavailable where it takes too long."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        summary = await questionnaires.summary(conn, id)
        edition = summary.edition if summary else None
        if edition is None:
            raise NotFound("Rules are looked at once the questionnaire is published.")
        plan = await context.plan(conn, id, edition)
        known = await known_to(conn, id, context.clock.now())
    await refuse_unusable(rules, plan, known)
    today = today_in(plan.questionnaire.time_zone, context.clock.now())
    needed = replace(known, people={}, hooks={}, teams={})
    asked = RulesToProve(plan.written, edition, rules, needed)
    proof = await _proof(context, id, asked, today)
    return await asyncio.to_thread(_told, rules, proof, plan, known, today)


async def _proof(context: Context, id: UUID, asked: RulesToProve, today: Today) -> RoutingProof:
    name = _name(id, asked, today)
    proof = context.routings_kept.find(name)
    if proof is None:
        try:
            proof = await context.proofs.routing(asked, today)
        except TookTooLong:
            raise Unavailable("Nothing could be decided in the time available.") from None
        context.routings_kept.keep(name, proof)
    return proof


def _name(id: UUID, asked: RulesToProve, today: Today) -> bytes:
    """What is the same for the same question."""
    registers = [one.model_dump_json() for one in asked.known.registers.values()]
    parts = (id, asked.edition, today.day, asked.rules.model_dump_json(), registers)
    return blake2b(f"{parts} {asked.known.around}".encode()).digest()


def _told(
    rules: Dispatch, proof: RoutingProof, plan: Plan, known: Known, today: Today
) -> ProvedRouting:
    """With the examples that are named, in words."""
    named = {*proof.examples.values()}
    named |= {one.example for one in proof.findings if one.example is not None}
    items = fact_items(plan.questionnaire, known.around)
    reader = Reader(plan)

    def example(run: RoutedRun) -> RoutedExample:
        facts = {
            name: (_stored(value), reader.reads(items[name], value))
            for name, value in run.facts.items()
            if name in NAMES and name in items and name not in _SEEN
        }
        return RoutedExample(walk_through(plan, run, today), facts)

    called = RuleRepairs(rules)
    names = {place_of(rule.key): called.name(rule.key) for rule in rules.rules}
    names |= {OTHERWISE: "what is done otherwise", "rules": "all that the rules take of an entry"}
    examples = {number: example(proof.runs[number]) for number in sorted(named)}
    return ProvedRouting(names, proof.findings, proof.open, proof.examples, examples)


def _stored(value: Value) -> bool | str:
    stored = as_json(value)
    return stored if isinstance(stored, bool) else str(stored)


_SEEN = frozenset({"entry.finish", "entry.arrived", "entry.edition"})
"""The facts that an example need not tell."""
