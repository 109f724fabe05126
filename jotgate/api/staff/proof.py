"""The proof of a draft's branching, and walk-throughs of it."""

from collections.abc import Iterable, Mapping
from typing import Any, Literal
from uuid import UUID

from fastapi import Response
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.proof import Finding, Places
from jotgate.services.staff import proof
from jotgate.services.staff.proof import WalkThrough

router = routes("/api/questionnaires/{id}/draft/proof", "proof")


class OperationOut(BaseModel):
    """One operation of a JSON Patch (RFC 6902)."""

    op: Literal["test", "add", "remove", "replace"]
    path: str
    value: Any = None


class RepairOut(BaseModel):
    says: str
    changes: list[OperationOut]


class NamedPlace(BaseModel):
    """A place, such as `pages/well/skips/1`, and what people call it."""

    at: str
    name: str


class FindingOut(BaseModel):
    """`example` is the number of an example in which it happens."""

    code: str
    level: Literal["wrong", "advice"]
    at: str
    says: str
    because: list[NamedPlace]
    repairs: list[RepairOut]
    example: int | None


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


class ReadAnswerOut(BaseModel):
    key: str
    question: str
    answer: str


class RunPageOut(BaseModel):
    """`rule` is the skip rule, from 1, that leads on, null where none does."""

    page: str
    title: str
    answers: list[ReadAnswerOut]
    then: str
    rule: int | None


class LinkValue(BaseModel):
    """A value that the visitor arrives with: a carried value, or a fact such as `claim.role`."""

    key: str
    value: str


class WalkThroughOut(BaseModel):
    """`finish` is null where the walk cannot go on from its last page."""

    answers: dict[str, Any]
    link: list[LinkValue]
    legs: list[RunPageOut]
    finish: str | None


def _named(names: Places, places: Iterable[str]) -> list[NamedPlace]:
    return [NamedPlace(at=at, name=names.name(at)) for at in places]


def _finding(found: Finding, names: Places) -> FindingOut:
    return FindingOut(
        code=found.code,
        level=found.level,
        at=found.at,
        says=found.says,
        because=_named(names, found.because),
        repairs=[
            RepairOut(says=one.says, changes=[OperationOut(**change) for change in one.changes])
            for one in found.repairs
        ],
        example=found.example,
    )


def _walk(one: WalkThrough) -> WalkThroughOut:
    return WalkThroughOut(
        answers=one.answers,
        link=[LinkValue(key=key, value=value) for key, value in one.link],
        legs=[
            RunPageOut(
                page=leg.page,
                title=leg.title,
                answers=[ReadAnswerOut(**vars(told)) for told in leg.answers],
                then=leg.then,
                rule=rule,
            )
            for leg, rule in zip(one.legs, one.rules, strict=True)
        ],
        finish=one.finish,
    )


@router.get("")
async def get_proof(id: UUID, context: CurrentContext, account: CurrentAccount) -> ProofOut:
    """What can happen in the draft and what cannot; 503 where that takes too long."""
    found = await proof.proved(context, account, id)
    if found.proof is None:
        findings = [_finding(one, found.names) for one in found.in_the_way]
        return ProofOut(revision=found.revision, proved=False, findings=findings)
    return ProofOut(
        revision=found.revision,
        proved=True,
        findings=[_finding(one, found.names) for one in found.proof.findings],
        open=_named(found.names, found.proof.open),
        examples=found.proof.examples,
    )


@router.get("/examples/{number}")
async def get_example(
    id: UUID, number: int, context: CurrentContext, account: CurrentAccount
) -> WalkThroughOut:
    return _walk(await proof.example(context, account, id, number))


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
    return [_walk(one) for one in await proof.walk_throughs(context, account, id)]


@router.get("/walk-throughs.csv", response_class=Response)
async def get_walk_sheet(id: UUID, context: CurrentContext, account: CurrentAccount) -> Response:
    """The walk-throughs as a test sheet."""
    text = await proof.walk_sheet(context, account, id)
    headers = {"Content-Disposition": 'attachment; filename="walk-throughs.csv"'}
    return Response(text, media_type="text/csv; charset=utf-8", headers=headers)
