"""The proof of a draft's branching, and walk-throughs of it."""

from collections.abc import Mapping
from typing import Any
from uuid import UUID

from fastapi import Response
from pydantic import BaseModel, Field

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
from jotgate.services.staff import proof

router = routes("/api/questionnaires/{id}/draft/proof", "proof")


class ProofOut(BaseModel):
    """What was found out. Nothing is `proved` while faults are in the way; those are told then.

    `open` are the places of which nothing could be decided, `examples` lead from a place to the
    number of an example that comes to it.
    """

    revision: int
    proved: bool
    findings: list[FindingOut] = []
    open: list[NamedPlace] = []
    examples: Mapping[str, int] = {}


@router.get("")
async def get_proof(id: UUID, context: CurrentContext, account: CurrentAccount) -> ProofOut:
    """What can happen in the draft and what cannot; 503 where that takes too long."""
    found = await proof.proved(context, account, id)
    if found.proof is None:
        findings = [finding_out(one, found.names.name) for one in found.in_the_way]
        return ProofOut(revision=found.revision, proved=False, findings=findings)
    return ProofOut(
        revision=found.revision,
        proved=True,
        findings=[finding_out(one, found.names.name) for one in found.proof.findings],
        open=named(found.names.name, found.proof.open),
        examples=found.proof.examples,
    )


@router.get("/examples/{number}")
async def get_example(
    id: UUID, number: int, context: CurrentContext, account: CurrentAccount
) -> WalkThroughOut:
    return walk_out(await proof.example(context, account, id, number))


class PathIn(BaseModel):
    link: str = Field("", max_length=8000)
    answers: dict[str, Any] = {}


class PathOut(BaseModel):
    """`rules` are the skip rules, from 1, that lead out of each of the `pages`; `finish` is null
    where the answers so far lead to none."""

    pages: list[str]
    rules: list[int | None]
    finish: str | None


@router.post("/path")
async def get_path(
    id: UUID, body: PathIn, context: CurrentContext, account: CurrentAccount
) -> PathOut:
    """Where answers lead in the draft."""
    found = await proof.path(context, account, id, body.link, body.answers)
    return PathOut(pages=list(found.pages), rules=list(found.rules), finish=found.finish)


@router.get("/walk-throughs")
async def get_walk_throughs(
    id: UUID, context: CurrentContext, account: CurrentAccount
) -> list[WalkThroughOut]:
    """A few walks that together take every branch and reach every finish."""
    return [walk_out(one) for one in await proof.walk_throughs(context, account, id)]


@router.get("/walk-throughs.csv", response_class=Response)
async def get_walk_sheet(id: UUID, context: CurrentContext, account: CurrentAccount) -> Response:
    """The walk-throughs as a test sheet."""
    text = await proof.walk_sheet(context, account, id)
    headers = {"Content-Disposition": 'attachment; filename="walk-throughs.csv"'}
    return Response(text, media_type="text/csv; charset=utf-8", headers=headers)
