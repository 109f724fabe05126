"""Entries as they were before they were changed or corrected; correcting one, and entering one for
somebody."""

from uuid import UUID

from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.dispatch.effects import AnyEffect, effect_out
from jotgate.api.staff.entries.entries import Reveal
from jotgate.api.staff.entries.entry_words import ColumnOut, DetailOut, columns_of, in_full
from jotgate.core.entries.facts import Entered
from jotgate.services.staff.entries import corrections, entering, versions

router = routes("/api/questionnaires/{id}", "entries")
by_people = routes("/api/questionnaires/{id}", "handling")


class VersionRead(BaseModel):
    """`answers` read as a person reads them, by key; `columns` are of the version's edition.
    `changed` are the keys of those that were others afterwards, `after` how they read then."""

    columns: list[ColumnOut]
    answers: dict[str, str]
    details: dict[str, DetailOut]
    changed: list[str] = []
    after: dict[str, str] = {}


@router.get("/entries/{entry_id}/versions/{version}")
async def entry_version(
    id: UUID, entry_id: UUID, version: int, context: CurrentContext, account: CurrentAccount
) -> VersionRead:
    """The open answers of a version."""
    return _out(await versions.read(context, account, (id, entry_id), version))


@router.post("/entries/{entry_id}/versions/{version}/revealed")
async def reveal_version(
    id: UUID,
    entry_id: UUID,
    version: int,
    context: CurrentContext,
    account: CurrentAccount,
    body: Reveal | None = None,
) -> VersionRead:
    """Its restricted answers."""
    where, reason = (id, entry_id), body.reason if body else ""
    return _out(await versions.reveal(context, account, where, version, reason))


def _out(found: versions.Compared) -> VersionRead:
    words, details = in_full(found.plan, found.answers)
    then, _ = in_full(found.plan_after, found.after)
    return VersionRead(
        columns=columns_of(found.plan, None),
        answers=words,
        details=details,
        changed=list(found.changed),
        after={key: said for key, said in then.items() if key in found.changed},
    )


class CorrectIn(BaseModel):
    """Why it is corrected; it stands with the version that is replaced."""

    why: str = Field(max_length=500)


class PageToFill(BaseModel):
    """The path of the page, which only whoever asked for it can open."""

    path: str


@by_people.post("/entries/{entry_id}/corrections", status_code=201)
async def correct_entry(
    id: UUID, entry_id: UUID, body: CorrectIn, context: CurrentContext, account: CurrentAccount
) -> PageToFill:
    """Begin to correct an entry through its own edition."""
    path = await entering.correct(context, account, (id, entry_id), body.why)
    return PageToFill(path=path)


class CorrectionOut(BaseModel):
    """What dispatch would do by the rules in force now that the entry is corrected."""

    effects: list[AnyEffect]


@by_people.get("/entries/{entry_id}/corrections")
async def what_corrections_mean(
    id: UUID, entry_id: UUID, context: CurrentContext, account: CurrentAccount
) -> CorrectionOut:
    found = await corrections.meant(context, account, (id, entry_id))
    return CorrectionOut(effects=[effect_out(one) for one in found])


class SettleIn(BaseModel):
    """Whether dispatch acts on the corrected entry, or is left as it was."""

    act: bool


@by_people.post("/entries/{entry_id}/corrections/settled", status_code=204)
async def settle_corrections(
    id: UUID, entry_id: UUID, body: SettleIn, context: CurrentContext, account: CurrentAccount
) -> None:
    await corrections.settle(context, account, (id, entry_id), body.act)


class EnterIn(BaseModel):
    """How it came to whoever enters it."""

    entered: Entered


@by_people.post("/entered", status_code=201)
async def enter_entry(
    id: UUID, body: EnterIn, context: CurrentContext, account: CurrentAccount
) -> PageToFill:
    """Begin to enter entries for somebody, as many as one likes, for some hours."""
    return PageToFill(path=await entering.enter(context, account, id, body.entered))
