"""The branching of a draft, proved, and walk-throughs to play."""

from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotFound, Unavailable
from jotgate.core.common.today import Today, today_in
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.entries.stored import as_json
from jotgate.core.proof import IN_THE_WAY, Finding, Places, Proof, Run, run_of
from jotgate.core.proof.mending import mended
from jotgate.core.proof.sheet import Leg, legs, sheet
from jotgate.core.records.accounts import Account
from jotgate.core.walking.plan import Plan, compile_plan
from jotgate.ports.isolated import TookTooLong
from jotgate.services.context import Context
from jotgate.services.public.entering import with_filled
from jotgate.services.staff import questionnaires
from jotgate.services.staff.trial import read_files, told, visit


@dataclass(frozen=True)
class Proved:
    """The proof of the draft at `revision`; None while faults are `in_the_way` of it."""

    revision: int
    in_the_way: list[Finding]
    proof: Proof | None
    names: Places


@dataclass(frozen=True)
class WalkThrough:
    """A run to play: `answers` as they are sent, `link` what the visitor arrives with."""

    answers: dict[str, object]
    link: tuple[tuple[str, str], ...]
    legs: tuple[Leg, ...]
    rules: tuple[int | None, ...]
    finish: str | None


async def _draft(
    context: Context, account: Account, id: UUID
) -> tuple[int, Questionnaire, list[Fault]]:
    """Revision, document, and the faults that are in the way of a proof."""
    state = await questionnaires.draft(context, account, id)
    left = [one for one in state.faults if one.code in IN_THE_WAY]
    return state.revision, state.document, left


def _today(context: Context, document: Questionnaire) -> Today:
    return today_in(document.time_zone, context.clock.now())


async def proved(context: Context, account: Account, id: UUID) -> Proved:
    """What can happen in the draft, and what cannot. Raises Unavailable where it takes too long."""
    revision, document, left = await _draft(context, account, id)
    if left:
        return Proved(revision, mended(document, left), None, Places(document))
    today = _today(context, document)
    proof = context.proofs_kept.find((id, revision, today.day))
    if proof is None:
        try:
            proof = await context.proofs.proof(document, today)
        except TookTooLong:
            raise Unavailable("Nothing could be decided in the time available.") from None
        context.proofs_kept.keep((id, revision, today.day), proof)
    return Proved(revision, [], proof, Places(document))


async def example(context: Context, account: Account, id: UUID, number: int) -> WalkThrough:
    """One run of the proof. Raises NotFound."""
    found = await proved(context, account, id)
    if found.proof is None or not 0 <= number < len(found.proof.runs):
        raise NotFound("There is no such example.")
    document = found.names.questionnaire
    return walk_through(compile_plan(document), found.proof.runs[number], _today(context, document))


async def path(
    context: Context, account: Account, id: UUID, link: str, given: dict[str, object]
) -> Run:
    """Where answers lead, up to the first page on which something fails. Raises Invalid."""
    visitor = await visit(context, account, id, link, [])
    answers = with_filled(visitor.filled, read_files(visitor.plan, given))
    return run_of(visitor.plan, answers, visitor.filled.carried, visitor.today)


async def _runs(
    context: Context, account: Account, id: UUID
) -> tuple[Plan, tuple[Run, ...], Today]:
    _, document, left = await _draft(context, account, id)
    if left:
        raise Invalid("Fix what keeps it from being published first.", left)
    today = _today(context, document)
    try:
        runs = await context.proofs.walk_throughs(document, today)
    except TookTooLong:
        raise Unavailable("No walk-throughs were found in the time available.") from None
    return compile_plan(document), runs, today


async def walk_throughs(context: Context, account: Account, id: UUID) -> list[WalkThrough]:
    """A few runs that take every branch. Raises Invalid and Unavailable."""
    plan, runs, today = await _runs(context, account, id)
    return [walk_through(plan, run, today) for run in runs]


async def walk_sheet(context: Context, account: Account, id: UUID) -> str:
    """The walk-throughs as CSV. Raises Invalid and Unavailable."""
    return sheet(*await _runs(context, account, id))


def walk_through(plan: Plan, run: Run, today: Today) -> WalkThrough:
    """A run as it is played and told."""
    link = tuple((key, str(as_json(value))) for key, value in run.carried.items())
    answers = {key: told(raw) for key, raw in run.answers.items()}
    return WalkThrough(answers, link, legs(plan, run, today), run.rules, run.finish)
