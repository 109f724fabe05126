"""Entries: the table, the reading pane, and revealing restricted answers.

No answer to a restricted question is in any response but that of `reveal`, and for people
without clearance neither is which restricted questions were answered.
"""

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Annotated
from urllib.parse import quote
from uuid import UUID

from fastapi import Response
from pydantic import BaseModel, StringConstraints

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.runs import RunOut, run_out
from jotgate.core.answers.file_kinds import kind_of
from jotgate.core.common.values import Value
from jotgate.core.common.wording import say
from jotgate.core.entries.about import Thing, about_item, thing
from jotgate.core.entries.clearance import needs_clearance
from jotgate.core.entries.display import Reader, files_in
from jotgate.core.entries.entry import Entry, Stored
from jotgate.core.entries.stored import values_of
from jotgate.core.items import Item, is_valued
from jotgate.core.items.staff_names import staff_name
from jotgate.core.walking.plan import Plan
from jotgate.services.staff import entries, versions
from jotgate.services.staff.links.came_by import CameBy, Linked

router = routes("/api/questionnaires", "entries")

Reason = Annotated[str, StringConstraints(max_length=500)]


class ColumnOut(BaseModel):
    key: str
    label: str
    kind: str
    restricted: bool


class ThingOut(BaseModel):
    """What an entry is about, in another system; `address` is empty where that shows nothing."""

    id: str
    name: str
    address: str


class LinkedOut(BaseModel):
    """An entry, perhaps of another questionnaire, that this one goes on from or goes on in."""

    questionnaire_id: UUID
    entry_id: UUID
    title: str
    number: int


class CalledOut(BaseModel):
    id: UUID
    name: str


class CameByOut(BaseModel):
    """`name` is that of a named link, or of passes with the `number` of their row; `contact` is who
    came."""

    name: str
    number: int | None
    contact: CalledOut | None
    before: LinkedOut | None
    after: list[LinkedOut]


class CareOut(BaseModel):
    """Who takes care: a person or a team, by name."""

    person_id: UUID | None
    team_id: UUID | None
    name: str


class EntryOut(BaseModel):
    """An entry. `answers` read as a person reads them, by key.

    `withheld` are the restricted questions that were answered, None without clearance; `finish`
    is empty where it is restricted, `status` the key of where it stands, empty for the first one,
    `since` when it does. `language` is the one it was answered in, `link_id` the link it came by.
    """

    id: UUID
    number: int
    edition: int
    arrived: datetime
    finish: str
    answers: dict[str, str]
    withheld: list[str] | None
    flags: list[str]
    since: datetime
    status: str = ""
    archived: datetime | None = None
    care: CareOut | None = None
    about: ThingOut | None = None
    language: str = ""
    link_id: UUID | None = None
    corrected: bool = False


class LineOut(BaseModel):
    heading: str
    cells: list[str]


class EntryFileOut(BaseModel):
    """A file that came with the entry. `size` is in bytes; a picture has a preview."""

    id: UUID
    name: str
    size: int
    type: str
    picture: bool


class DetailOut(BaseModel):
    """What an answer has besides its words: a table, files, a drawn line (SVG path data)."""

    columns: list[str] = []
    lines: list[LineOut] = []
    files: list[EntryFileOut] = []
    drawn: str = ""


class VersionOut(BaseModel):
    """An entry as it was until it was `replaced` by whoever sent it."""

    version: int
    replaced: datetime
    edition: int


class EntryRead(BaseModel):
    """An entry in full; `details` by key, of the answers that have some."""

    entry: EntryOut
    details: dict[str, DetailOut]
    columns: list[ColumnOut]
    runs: list[RunOut]
    came: CameByOut
    versions: list[VersionOut] = []
    cleared: bool
    asks_reason: bool


class Reveal(BaseModel):
    """`reason` is asked for by some clearances; it stands on the trail."""

    reason: Reason = ""


class Revealed(BaseModel):
    """What of an entry is restricted; `finish` is empty where that is open."""

    answers: dict[str, str]
    finish: str
    details: dict[str, DetailOut]


def _columns(plan: Plan | None, newest: Plan | None) -> list[ColumnOut]:
    if plan is None:
        return []
    return [_column(item, plan, newest) for item in plan.questionnaire.items() if is_valued(item)]


def _column(item: Item, plan: Plan, newest: Plan | None) -> ColumnOut:
    first = plan.questionnaire.first_language
    return ColumnOut(
        key=item.key,
        label=staff_name(item, first),
        kind=item.kind,
        restricted=needs_clearance(plan, newest, item.key),
    )


def _in_full(plan: Plan, answers: Stored) -> tuple[dict[str, str], dict[str, DetailOut]]:
    """Answers as a person reads them, and what some have besides their words."""
    reader, values = Reader(plan), values_of(plan.items, answers)
    found = {key: _detail(reader, plan.items[key], value) for key, value in values.items()}
    return reader.all(values), {key: one for key, one in found.items() if one is not None}


def _detail(reader: Reader, item: Item, value: Value) -> DetailOut | None:
    table = reader.table(item, value)
    files = [
        EntryFileOut(
            id=UUID(one.id),
            name=one.name,
            size=one.size,
            type=one.type,
            picture=kind_of(one.type) == "picture",
        )
        for one in files_in(value)
    ]
    drawn = value.get("drawn", "") if item.kind == "signature" and isinstance(value, dict) else ""
    if table is None and not files and not drawn:
        return None
    out = DetailOut(files=files, drawn=str(drawn))
    if table is not None:
        out.columns = list(table.columns)
        out.lines = [LineOut(heading=one.heading, cells=list(one.cells)) for one in table.lines]
    return out


def _entry(
    entry: Entry,
    plan: Plan,
    words: dict[str, str],
    withheld: Sequence[str] | None,
    carers: Mapping[UUID, str],
) -> EntryOut:
    return EntryOut(
        id=entry.id,
        number=entry.number,
        edition=entry.edition,
        arrived=entry.arrived,
        finish=_finish(plan, entry.finish),
        answers=words,
        withheld=None if withheld is None else list(withheld),
        flags=list(entry.flags),
        status=entry.status,
        since=entry.since,
        archived=entry.archived,
        care=_care(entry, carers),
        language=entry.language,
        link_id=entry.link_id,
        corrected=entry.corrected,
        about=_about(entry, plan),
    )


def _about(entry: Entry, plan: Plan) -> ThingOut | None:
    if about_item(plan) is None:
        return None
    return thing_out(thing(plan, values_of(plan.items, entry.answers)))


def _care(entry: Entry, carers: Mapping[UUID, str]) -> CareOut | None:
    id = entry.carer_id or entry.care_team_id
    if id is None:
        return None
    name = carers.get(id, "")
    return CareOut(person_id=entry.carer_id, team_id=entry.care_team_id, name=name)


def thing_out(found: Thing | None) -> ThingOut | None:
    return ThingOut(**vars(found)) if found else None


def linked_out(one: Linked) -> LinkedOut:
    return LinkedOut(**vars(one))


def _came(came: CameBy) -> CameByOut:
    return CameByOut(
        name=came.name,
        number=came.number,
        contact=came.contact and CalledOut(id=came.contact[0], name=came.contact[1]),
        before=came.before and linked_out(came.before),
        after=[linked_out(one) for one in came.after],
    )


def _finish(plan: Plan, key: str) -> str:
    first = plan.questionnaire.first_language
    return say(plan.finishes[key].title, first, first) if key else ""


def entry_row(
    entry: Entry, plan: Plan, withheld: Sequence[str] | None, carers: Mapping[UUID, str]
) -> EntryOut:
    """An entry as a table shows it."""
    words = Reader(plan).all(values_of(plan.items, entry.answers))
    return _entry(entry, plan, words, withheld, carers)


@router.get("/{id}/entries/{entry_id}")
async def entry(
    id: UUID, entry_id: UUID, context: CurrentContext, account: CurrentAccount
) -> EntryRead:
    found = await entries.read(context, account, id, entry_id)
    words, details = _in_full(found.plan, found.entry.answers)
    withheld = found.withheld if found.cleared else None
    return EntryRead(
        entry=_entry(found.entry, found.plan, words, withheld, found.carers),
        details=details,
        columns=_columns(found.plan, found.newest),
        runs=[run_out(run) for run in found.runs],
        came=_came(found.came),
        versions=[VersionOut(**vars(one)) for one in found.versions],
        cleared=found.cleared,
        asks_reason=found.asks_reason,
    )


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
    reason = body.reason if body else ""
    plan, found = await entries.reveal(context, account, id, entry_id, reason)
    words, details = _in_full(plan, found.answers)
    return Revealed(answers=words, finish=_finish(plan, found.finish), details=details)


class VersionRead(BaseModel):
    """`answers` read as a person reads them, by key; `columns` are of the version's edition."""

    columns: list[ColumnOut]
    answers: dict[str, str]
    details: dict[str, DetailOut]


@router.get("/{id}/entries/{entry_id}/versions/{version}")
async def entry_version(
    id: UUID, entry_id: UUID, version: int, context: CurrentContext, account: CurrentAccount
) -> VersionRead:
    """The open answers of a version."""
    plan, answers = await versions.read(context, account, (id, entry_id), version)
    words, details = _in_full(plan, answers)
    return VersionRead(columns=_columns(plan, None), answers=words, details=details)


@router.post("/{id}/entries/{entry_id}/versions/{version}/revealed")
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
    plan, answers = await versions.reveal(context, account, where, version, reason)
    words, details = _in_full(plan, answers)
    return VersionRead(columns=_columns(plan, None), answers=words, details=details)


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
