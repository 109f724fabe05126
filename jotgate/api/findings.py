"""Findings, walk-throughs and repairs as they are sent."""

from collections.abc import Callable, Iterable
from typing import Any, Literal

from pydantic import BaseModel

from jotgate.core.proof import Finding
from jotgate.services.staff.proof import WalkThrough

Names = Callable[[str], str]
"""A place -> what people call it."""


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


def named(names: Names, places: Iterable[str]) -> list[NamedPlace]:
    return [NamedPlace(at=at, name=names(at)) for at in places]


def finding_out(found: Finding, names: Names) -> FindingOut:
    return FindingOut(
        code=found.code,
        level=found.level,
        at=found.at,
        says=found.says,
        because=named(names, found.because),
        repairs=[
            RepairOut(says=one.says, changes=[OperationOut(**change) for change in one.changes])
            for one in found.repairs
        ],
        example=found.example,
    )


def walk_out(one: WalkThrough) -> WalkThroughOut:
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
