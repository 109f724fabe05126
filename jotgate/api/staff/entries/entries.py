"""Entries: the table, the reading pane, and revealing restricted answers.

No answer to a restricted question is in any response but that of `reveal`, and for people
without clearance neither is which restricted questions were answered.
"""

from collections.abc import Mapping
from datetime import datetime
from typing import Annotated
from urllib.parse import quote
from uuid import UUID

from fastapi import Query, Response
from pydantic import BaseModel, Field, StringConstraints

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.dispatch.runs import RunOut, run_out
from jotgate.api.staff.entries.entry_words import (
    CameByOut,
    ColumnOut,
    DetailOut,
    EntryOut,
    came_out,
    columns_of,
    entry_out,
    finish_name,
    in_full,
)
from jotgate.core.records.entries import Version
from jotgate.services.staff.entries import entries

router = routes("/api/questionnaires", "entries")

Reason = Annotated[str, StringConstraints(max_length=500)]


class VersionOut(BaseModel):
    """An entry as it was until it was `replaced`, by whoever sent it or by somebody of the office:
    then `by` is their name, `why` what they said, and it `waits` to be decided whether dispatch
    acts on that."""

    version: int
    replaced: datetime
    edition: int
    by: str | None = None
    why: str = ""
    waits: bool = False


class EntryRead(BaseModel):
    """An entry in full; `details` by key, of the answers that have some."""

    entry: EntryOut
    details: dict[str, DetailOut]
    columns: list[ColumnOut]
    runs: list[RunOut]
    came: CameByOut
    versions: list[VersionOut] = []
    languages: list[str] = []
    cleared: bool
    asks_reason: bool


class Reveal(BaseModel):
    """`reason` is asked for by some clearances; it stands on the trail. Answers read in `language`,
    else in the first one."""

    reason: Reason = ""
    language: str = Field("", max_length=40)


class Revealed(BaseModel):
    """What of an entry is restricted; `finish` is empty where that is open."""

    answers: dict[str, str]
    finish: str
    details: dict[str, DetailOut]


@router.get("/{id}/entries/{entry_id}")
async def entry(
    id: UUID,
    entry_id: UUID,
    context: CurrentContext,
    account: CurrentAccount,
    language: Annotated[str, Query(max_length=40)] = "",
) -> EntryRead:
    """In `language`, one of the questionnaire's, questions read as they were asked."""
    found = await entries.read(context, account, id, entry_id)
    language = language if language in found.plan.questionnaire.languages else ""
    words, details = in_full(found.plan, found.entry.answers, language)
    withheld = found.withheld if found.cleared else None
    return EntryRead(
        entry=entry_out(found.entry, found.plan, words, withheld, found.carers),
        details=details,
        columns=columns_of(found.plan, found.newest, language),
        runs=[run_out(run) for run in found.runs],
        came=came_out(found.came),
        versions=[_version(one, found.correctors) for one in found.versions],
        languages=list(found.plan.questionnaire.languages),
        cleared=found.cleared,
        asks_reason=found.asks_reason,
    )


def _version(one: Version, names: Mapping[UUID, str]) -> VersionOut:
    by = names.get(one.account_id, "") if one.account_id else None
    return VersionOut(by=by, **{k: v for k, v in vars(one).items() if k != "account_id"})


class OwnClearance(BaseModel):
    """Whether the reader has clearance now."""

    cleared: bool


@router.get("/{id}/clearance")
async def own_clearance(id: UUID, context: CurrentContext, account: CurrentAccount) -> OwnClearance:
    """Asked every few seconds while restricted answers are shown, so that they go when it ends."""
    return OwnClearance(cleared=await entries.cleared_now(context, account, id))


@router.post("/{id}/entries/{entry_id}/revealed")
async def reveal(
    id: UUID,
    entry_id: UUID,
    context: CurrentContext,
    account: CurrentAccount,
    body: Reveal | None = None,
) -> Revealed:
    asked = body or Reveal()
    plan, found = await entries.reveal(context, account, id, entry_id, asked.reason)
    language = asked.language if asked.language in plan.questionnaire.languages else ""
    words, details = in_full(plan, found.answers, language)
    return Revealed(answers=words, finish=finish_name(plan, found.finish), details=details)


@router.get("/{id}/entries/{entry_id}/files/{file_id}", response_class=Response)
async def entry_file(
    id: UUID,
    entry_id: UUID,
    file_id: UUID,
    context: CurrentContext,
    account: CurrentAccount,
    small: bool = False,
    reason: Reason = "",
) -> Response:
    """The file to save, or its preview to look at; a browser never runs either."""
    found = await entries.file(context, account, (id, entry_id), file_id, small, reason)
    return sent_file(found, small)


def sent_file(found: entries.Download, small: bool) -> Response:
    """What a browser saves, or shows of a `small` one, and never runs."""
    shown = "inline" if small else "attachment"
    headers = {
        "Content-Disposition": f"{shown}; filename*=UTF-8''{quote(found.name)}",
        "Content-Security-Policy": "default-src 'none'; sandbox",
        "Cache-Control": "private, no-store",
    }
    return Response(found.data, media_type=found.type, headers=headers)
