"""The rows of a register: as a view shows them, written, taken out, and what others do."""

from typing import Annotated, Literal
from uuid import UUID

import orjson
from fastapi import Query
from fastapi.responses import Response
from pydantic import BaseModel, Field, StringConstraints

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.registers.registers import RegisterRowOut, row_out
from jotgate.api.staff.table_views import InAddress, ViewIn, ViewOut, view_out
from jotgate.core.common.part import Key
from jotgate.core.common.zones import TimeZone
from jotgate.core.registers.cells import LONGEST, Cell
from jotgate.core.registers.edits import Edit
from jotgate.core.table_views import TableView
from jotgate.services.staff import views
from jotgate.services.staff.registers import grid, writing
from jotgate.services.staff.registers.grid import AT_ONCE, Looking
from jotgate.services.staff.registers.writing import Writing

router = routes("/api/registers/{id}", "registers")


class RowGroup(BaseModel):
    """So many rows that follow each other and have the same cell; null where it is empty."""

    cell: Cell | None
    rows: int


class RowOrder(BaseModel):
    """The ids of the rows that a view shows, in its order. `more` tells that there are others
    behind the last one; `mark` is for what is written later; `revision` is of the columns."""

    ids: list[int]
    groups: list[RowGroup]
    more: bool
    mark: int
    revision: int


@router.get("/order", response_model=RowOrder)
async def order_rows(
    id: UUID, view: InAddress, context: CurrentContext, account: CurrentAccount
) -> Response:
    found = await grid.order(context, account, id, view)
    # Written as it is: looked through number by number, 100,000 ids would hold up everybody else.
    return Response(orjson.dumps(found), media_type="application/json")


@router.get("/rows")
async def read_rows(
    id: UUID,
    ids: Annotated[str, Query(max_length=10_000, pattern=r"^\d{1,18}(,\d{1,18})*$")],
    context: CurrentContext,
    account: CurrentAccount,
) -> list[RegisterRowOut]:
    """Those of these rows that are there; `ids` with commas between them."""
    wanted = [int(one) for one in ids.split(",")][:AT_ONCE]
    return [row_out(row) for row in await grid.read(context, account, id, wanted)]


class NewsWanted(BaseModel):
    """What is new to `view` since a mark. `tab` tells apart where one has the register open, `at`
    is the cell in which one is: row and column."""

    view: TableView
    since: int = Field(ge=0)
    tab: Annotated[str, StringConstraints(min_length=1, max_length=64)]
    at: Annotated[str, StringConstraints(max_length=80)] = ""


class RowWritten(BaseModel):
    """A row that was written; `fits` tells whether the view shows it."""

    row: RegisterRowOut
    fits: bool
    removed: bool


class OtherHere(BaseModel):
    name: str
    at: str


class RegisterNews(BaseModel):
    """With `many` too much was written to be told: the order is to be asked anew."""

    rows: list[RowWritten]
    many: bool
    mark: int
    revision: int
    others: list[OtherHere]


@router.post("/news")
async def register_news(
    id: UUID, body: NewsWanted, context: CurrentContext, account: CurrentAccount
) -> RegisterNews:
    looking = Looking(body.tab, body.at)
    found = await grid.news(context, account, id, body.view, body.since, looking)
    return RegisterNews(
        rows=[
            RowWritten(row=row_out(one.row), fits=one.fits, removed=one.row.removed is not None)
            for one in found.rows
        ],
        many=found.many,
        mark=found.mark,
        revision=found.revision,
        others=[OtherHere(name=one.name, at=one.at) for one in found.others],
    )


Given = (
    bool
    | Annotated[str, Field(max_length=LONGEST + 1_000)]
    | Annotated[list[Annotated[str, Field(max_length=200)]], Field(max_length=500)]
)


class CellEdit(BaseModel):
    """What is given for a cell, as it is written or as it was; `before` is what stood there when
    one looked at it."""

    row: int
    column: Key
    given: Given | None
    before: Given | None


class CellsIn(BaseModel):
    """Cells of rows that are there, and rows to add. With `partly` what fits is written where
    something else does not. Moments without an offset are meant in the time zone `zone`, or where
    the office is."""

    edits: list[CellEdit] = Field([], max_length=20_000)
    added: list[dict[Key, Given | None]] = Field([], max_length=1_000)
    partly: bool = False
    zone: TimeZone | None = None


class CellRefused(BaseModel):
    """An edit that was not made, with why. `now` is what stands in the cell where somebody else
    changed it; rows to add are counted from -1 down."""

    row: int
    column: str
    code: Literal["unfit", "changed", "no_row", "no_column"]
    why: str
    now: Cell | None


class CellsOut(BaseModel):
    """The rows as they are by now, those that were added last. Nothing was written where `taken` is
    false."""

    taken: bool
    rows: list[RegisterRowOut]
    refused: list[CellRefused]


@router.post("/cells")
async def write_cells(
    id: UUID, body: CellsIn, context: CurrentContext, account: CurrentAccount
) -> CellsOut:
    edits = [Edit(one.row, one.column, one.given, one.before) for one in body.edits]
    given = Writing(edits, [dict(one) for one in body.added], body.partly, body.zone)
    found = await writing.write(context, account, id, given)
    return CellsOut(
        taken=found.taken,
        rows=[row_out(row) for row in found.rows],
        refused=[CellRefused(**vars(one)) for one in found.refused],
    )


class RowsMoved(BaseModel):
    """Rows to take out, or to put `back`."""

    ids: list[int] = Field(min_length=1, max_length=20_000)
    back: bool = False


@router.post("/rows/remove")
async def remove_rows(
    id: UUID, body: RowsMoved, context: CurrentContext, account: CurrentAccount
) -> list[int]:
    """The ids of those that were there."""
    return [row.id for row in await writing.remove(context, account, id, body.ids, body.back)]


@router.post("/views", status_code=201)
async def add_view(
    id: UUID, body: ViewIn, context: CurrentContext, account: CurrentAccount
) -> ViewOut:
    return view_out(await views.keep(context, account, ("register", id), None, body.given()))


@router.put("/views/{view_id}")
async def put_view(
    id: UUID,
    view_id: UUID,
    body: ViewIn,
    context: CurrentContext,
    account: CurrentAccount,
) -> ViewOut:
    return view_out(await views.keep(context, account, ("register", id), view_id, body.given()))


@router.delete("/views/{view_id}", status_code=204)
async def remove_view(
    id: UUID, view_id: UUID, context: CurrentContext, account: CurrentAccount
) -> None:
    await views.remove(context, account, ("register", id), view_id)
