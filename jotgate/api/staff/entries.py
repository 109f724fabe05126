"""Entries: the table, the reading pane, and revealing restricted answers.

No answer to a restricted question is in any response but that of `reveal`, and for people
without clearance neither is which restricted questions were answered.
"""

from datetime import datetime
from typing import Literal
from uuid import UUID

from fastapi import APIRouter
from pydantic import BaseModel

from jotgate.api.given import GivenAccount, GivenHouse
from jotgate.api.problems import PROBLEMS
from jotgate.core.checks import from_json
from jotgate.core.entry import Entry, Stored, readable
from jotgate.core.items import Item, is_restricted, is_valued
from jotgate.core.plan import Plan
from jotgate.core.questionnaire import Questionnaire
from jotgate.core.wording import say
from jotgate.services import entries
from jotgate.store.runs import Run, RunState

router = APIRouter(prefix="/api/questionnaires", tags=["entries"], responses=PROBLEMS)


class ColumnOut(BaseModel):
    key: str
    label: str
    kind: str
    restricted: bool


class EntryOut(BaseModel):
    """An entry. `answers` read as a person reads them, by key.

    `withheld` are the restricted questions that were answered, None without clearance.
    """

    id: UUID
    number: int
    edition: int
    arrived: datetime
    finish: str
    answers: dict[str, str]
    withheld: list[str] | None
    flags: list[str]


class EntriesOut(BaseModel):
    columns: list[ColumnOut]
    entries: list[EntryOut]
    more: bool
    total: int
    cleared: bool


class RunOut(BaseModel):
    """What dispatch did: a row in a register, or a notice."""

    id: UUID
    rule: str
    kind: Literal["row", "notice"]
    state: RunState
    to: str | None
    subject: str | None
    register_id: UUID | None
    row: int | None
    tries: int
    last_error: str | None
    changed: datetime


class EntryRead(BaseModel):
    entry: EntryOut
    columns: list[ColumnOut]
    runs: list[RunOut]
    cleared: bool


class Revealed(BaseModel):
    answers: dict[str, str]


def _columns(document: Questionnaire | None) -> list[ColumnOut]:
    if document is None:
        return []
    return [_column(item, document) for item in document.items() if is_valued(item)]


def _column(item: Item, document: Questionnaire) -> ColumnOut:
    first = document.first_language
    return ColumnOut(
        key=item.key,
        label=say(item.text, first, first),
        kind=item.kind,
        restricted=is_restricted(item),
    )


def _words(plan: Plan, answers: Stored) -> dict[str, str]:
    return readable(plan, {key: from_json(plan.items[key], v) for key, v in answers.items()})


def _entry(entry: Entry, plan: Plan, cleared: bool) -> EntryOut:
    first = plan.questionnaire.first_language
    return EntryOut(
        id=entry.id,
        number=entry.number,
        edition=entry.edition,
        arrived=entry.arrived,
        finish=say(plan.finishes[entry.finish].title, first, first),
        answers=_words(plan, entry.answers),
        withheld=list(entry.withheld) if cleared else None,
        flags=list(entry.flags),
    )


def _run(run: Run) -> RunOut:
    detail = run.detail
    return RunOut(
        id=run.id,
        rule=run.rule,
        kind=run.kind,
        state=run.state,
        to=detail.get("to"),
        subject=detail.get("subject"),
        register_id=detail.get("register_id"),
        row=detail.get("row"),
        tries=run.tries,
        last_error=run.last_error,
        changed=run.changed,
    )


@router.get("/{id}/entries")
async def entry_page(
    id: UUID, house: GivenHouse, account: GivenAccount, before: int | None = None
) -> EntriesOut:
    found = await entries.page(house, account, id, before)
    return EntriesOut(
        columns=_columns(found.newest),
        entries=[_entry(e, found.plans[e.edition], found.cleared) for e in found.entries],
        more=found.more,
        total=found.total,
        cleared=found.cleared,
    )


@router.get("/{id}/entries/{entry_id}")
async def entry(id: UUID, entry_id: UUID, house: GivenHouse, account: GivenAccount) -> EntryRead:
    found = await entries.read(house, account, id, entry_id)
    return EntryRead(
        entry=_entry(found.entry, found.plan, found.cleared),
        columns=_columns(found.plan.questionnaire),
        runs=[_run(run) for run in found.runs],
        cleared=found.cleared,
    )


@router.post("/{id}/entries/{entry_id}/revealed")
async def reveal(id: UUID, entry_id: UUID, house: GivenHouse, account: GivenAccount) -> Revealed:
    plan, answers = await entries.reveal(house, account, id, entry_id)
    return Revealed(answers=_words(plan, answers))
