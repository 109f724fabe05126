"""The table of entries: its columns, pages by a view, counts, groups, and views under a name.

Columns that are restricted can be seen to be there; nothing of what they hold is asked or told.
"""

from typing import Annotated
from uuid import UUID

import orjson
from fastapi import Query
from pydantic import BaseModel

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.entries.entry_words import EntryOut, entry_row
from jotgate.api.staff.table_views import InAddress, ViewIn, ViewOut, view_out
from jotgate.core.common import base64url
from jotgate.core.common.errors import Invalid
from jotgate.core.common.wording import say
from jotgate.core.entries.display import Reader
from jotgate.core.entries.table import TableColumn
from jotgate.core.items import Item, Roster, inside, is_valued
from jotgate.core.items.staff_names import staff_name
from jotgate.services.staff import views
from jotgate.services.staff.entries import entry_table
from jotgate.services.staff.entries.entry_table import Asked

router = routes("/api/questionnaires/{id}", "entries")
kept = routes("/api/questionnaires/{id}", "handling")
"""Views are kept by people: no token opens this."""


class ColumnOptionOut(BaseModel):
    code: str
    label: str


class MeaningOut(BaseModel):
    """How something was asked in the editions from `since` to `until`."""

    since: int
    until: int
    words: str
    kind: str


class SubjectOut(BaseModel):
    """What a condition can ask for: a question, or one inside of a roster."""

    key: str
    label: str
    kind: str
    options: list[ColumnOptionOut]
    inner: list["SubjectOut"] = []


class TableColumnOut(SubjectOut):
    """A column; `fact` where nobody answered it. `meanings` are how it was asked where editions
    differ in that; `other` are those that hold something of another form, which cannot be compared
    or sorted."""

    restricted: bool = False
    fact: bool = False
    meanings: list[MeaningOut] = []
    other: list[int] = []


class EntryColumns(BaseModel):
    """`total` are all entries, those in the archive too; `zone` is the time zone that times of day
    are in."""

    columns: list[TableColumnOut]
    views: list[ViewOut]
    total: int
    zone: str


def _subject(item: Item, key: str, label: str, first: str) -> SubjectOut:
    options = [
        ColumnOptionOut(code=one.code, label=say(one.label, first, first) or one.code)
        for one in getattr(item, "options", ())
    ]
    if (other := say(getattr(item, "else_label", {}), first, first)) and options:
        options.append(ColumnOptionOut(code="else", label=other))
    asked = [one for one in inside(item) if is_valued(one)] if isinstance(item, Roster) else []
    inner = [_subject(one, one.key, staff_name(one, first), first) for one in asked]
    return SubjectOut(key=key, label=label, kind=item.kind, options=options, inner=inner)


def _column(column: TableColumn, first: str) -> TableColumnOut:
    subject = _subject(column.item, column.key, column.label, first)
    return TableColumnOut(
        **dict(subject),
        restricted=column.restricted,
        fact=column.fact,
        meanings=[MeaningOut(**vars(one)) for one in column.meanings],
        other=sorted(column.other),
    )


@router.get("/entry-columns")
async def entry_columns(id: UUID, context: CurrentContext, account: CurrentAccount) -> EntryColumns:
    found = await entry_table.open_table(context, account, id)
    own = await views.kept(context, account, ("questionnaire", id))
    table = found.table
    return EntryColumns(
        columns=[_column(one, table.language) for one in table.columns.values()] if table else [],
        views=[view_out(one) for one in own],
        total=found.total,
        zone=found.zone,
    )


class EntriesOut(BaseModel):
    """`next` is where the next page begins; `highest` the largest number of all entries. `lag`
    entries are not found or sorted yet; an index for the order is being made where `making` says
    so."""

    entries: list[EntryOut]
    next: str | None
    total: int
    highest: int
    cleared: bool
    asks_reason: bool
    lag: int
    making: bool


def _cursor(after: str) -> tuple[str, ...] | None:
    """Raises Invalid for what no page has ended with."""
    if not after:
        return None
    try:
        found = orjson.loads(base64url.read(after))
        if isinstance(found, list) and found and all(isinstance(one, str) for one in found):
            int(found[-1])
            return tuple(found)
    except ValueError:
        pass
    raise Invalid("The address of this page is not whole. Begin with the first page again.")


def _written(cursor: tuple[str, ...] | None) -> str | None:
    return base64url.written(orjson.dumps(cursor)) if cursor else None


@router.get("/entries")
async def entry_page(
    id: UUID,
    view: InAddress,
    context: CurrentContext,
    account: CurrentAccount,
    after: Annotated[str, Query(max_length=8_000)] = "",
    archived: bool = False,
    over: int | None = None,
) -> EntriesOut:
    """A page of the table, by a view; with those that were archived, or without them."""
    asked = Asked(view, _cursor(after), archived, over)
    found = await entry_table.page(context, account, id, asked)
    return EntriesOut(
        entries=_rows(found),
        next=_written(found.next),
        total=found.opened.total,
        highest=found.highest,
        cleared=found.cleared,
        asks_reason=found.asks_reason,
        lag=found.lag,
        making=found.making,
    )


def _rows(found: entry_table.EntryPage) -> list[EntryOut]:
    readers = {number: Reader(plan) for number, plan in found.opened.plans.items()}
    return [
        entry_row(one, readers[one.edition], found.withheld.get(one.id), found.carers)
        for one in found.entries
    ]


class EntryCountOut(BaseModel):
    entries: int


@router.get("/entry-count")
async def entry_count(
    id: UUID,
    view: InAddress,
    context: CurrentContext,
    account: CurrentAccount,
    archived: bool = False,
    over: int | None = None,
) -> EntryCountOut:
    """How many entries a view shows."""
    asked = Asked(view, None, archived, over)
    return EntryCountOut(entries=await entry_table.count(context, account, id, asked))


class EntryGroup(BaseModel):
    """So many entries that say the same, in words; empty where they say nothing."""

    words: str
    entries: int


@router.get("/entry-groups")
async def entry_groups(
    id: UUID,
    view: InAddress,
    context: CurrentContext,
    account: CurrentAccount,
    archived: bool = False,
) -> list[EntryGroup]:
    """What a view groups by, in its order."""
    found = await entry_table.groups(context, account, id, Asked(view, None, archived))
    return [EntryGroup(**vars(one)) for one in found]


@kept.post("/entry-views", status_code=201)
async def add_entry_view(
    id: UUID, body: ViewIn, context: CurrentContext, account: CurrentAccount
) -> ViewOut:
    made = await views.keep(context, account, ("questionnaire", id), None, body.given())
    return view_out(made)


@kept.put("/entry-views/{view_id}")
async def put_entry_view(
    id: UUID, view_id: UUID, body: ViewIn, context: CurrentContext, account: CurrentAccount
) -> ViewOut:
    put = await views.keep(context, account, ("questionnaire", id), view_id, body.given())
    return view_out(put)


@kept.delete("/entry-views/{view_id}", status_code=204)
async def remove_entry_view(
    id: UUID, view_id: UUID, context: CurrentContext, account: CurrentAccount
) -> None:
    await views.remove(context, account, ("questionnaire", id), view_id)
