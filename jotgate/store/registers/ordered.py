"""Rows of a register in the order of a view, and those that were written since a moment."""

from collections.abc import Collection, Iterator, Mapping, Sequence
from typing import Any
from uuid import UUID

from sqlalchemy import (
    ARRAY,
    BigInteger,
    ColumnElement,
    Date,
    Numeric,
    Text,
    and_,
    cast,
    collate,
    func,
    literal,
    or_,
    select,
)
from sqlalchemy.dialects.postgresql import JSONB, aggregate_order_by

from jotgate.core.records.dispatch import Row
from jotgate.core.registers.cells import Cell
from jotgate.core.registers.columns import Column
from jotgate.core.table_views import SortBy, TableView
from jotgate.store.base import SNAPSHOT_XMAX, SNAPSHOT_XMIN, Connection
from jotgate.store.registers.rows import ROW, row_of, rows

LANGUAGES = "und-x-icu"
"""The collation of texts: the root order of the Unicode Collation Algorithm, as ICU has it."""


def _under(key: str) -> ColumnElement[Any]:
    """The cell under a key, as JSON."""
    found: ColumnElement[Any] = rows.c["values"].op("->", return_type=JSONB())(literal(key, Text))
    return found


def _cell(column: Column) -> ColumnElement[Any]:
    found: ColumnElement[Any] = rows.c["values"].op("->>", return_type=Text())(
        literal(column.key, Text)
    )
    return found


def _by(column: Column, people: Sequence[str]) -> ColumnElement[Any]:
    """What a column is sorted by: numbers as such, options as they stand, people by `people`."""
    cell = _cell(column)
    match column.type:
        case "number" | "entry":
            return cell.cast(Numeric)
        case "computed":
            numeric = column.formula is not None and column.formula.do != "first"
            return cell.cast(Numeric) if numeric else cell
        case "pick_one":
            codes = [one.code for one in column.options]
            return func.array_position(literal(codes, ARRAY(Text)), cell)
        case "person":
            return func.array_position(literal(list(people), ARRAY(Text)), cell)
        case "files":
            return func.jsonb_array_length(_under(column.key))
        case "date" | "time" | "date_time" | "yes_no":
            return collate(cell, "C")
        case _:
            return collate(func.lower(cell), LANGUAGES)


def _there(register_id: UUID) -> ColumnElement[bool]:
    return and_(rows.c.register_id == register_id, rows.c.removed.is_(None))


def _found(words: str, columns: Sequence[Column], people: Mapping[str, str]) -> ColumnElement[bool]:
    """Each of the words in some cell as it reads, letter case ignored."""
    return and_(*(_has(word.casefold(), columns, people) for word in words.split()))


def _has(folded: str, columns: Sequence[Column], people: Mapping[str, str]) -> ColumnElement[bool]:
    found: list[ColumnElement[bool]] = []
    for column in columns:
        if column.options or column.type == "person":
            labels = {one.code: one.label for one in column.options} or people
            codes = [code for code, label in labels.items() if folded in label.casefold()]
            if codes:
                cell = _under(column.key)
                found.append(cell.op("?|")(literal(codes, ARRAY(Text))))
        elif column.type == "date":
            said = func.to_char(_cell(column).cast(Date), "FMDD Mon YYYY")
            found.append(func.strpos(func.lower(said), folded) > 0)
        elif column.type not in ("yes_no", "files"):
            found.append(func.strpos(func.lower(_cell(column)), folded) > 0)
    return or_(*found) if found else literal(False)


async def order(
    conn: Connection,
    register_id: UUID,
    columns: Sequence[Column],
    view: TableView,
    people: Mapping[str, str],
    limit: int,
) -> tuple[list[int], list[Cell | None]]:
    """The ids of the rows with the words that are searched, in the order of the view, at most
    `limit`, and where it groups them the cell of each that it groups by. The filter is not asked.
    `people` are names by id, in their order."""
    by_key = {one.key: one for one in columns}
    by = [part for one in view.order for part in _parts(one, by_key, view, tuple(people))]
    by.append(rows.c.id.desc())
    place = func.row_number().over(order_by=by).label("place")
    cell = _under(view.group) if view.group else cast(literal(None), JSONB)
    query = select(rows.c.id, cell.label("cell"), place).where(_there(register_id))
    if view.search:
        query = query.where(_found(view.search, columns, people))
    found = query.order_by(place).limit(limit).subquery()
    ids = aggregate_order_by(found.c.id, found.c.place)
    cells = aggregate_order_by(found.c.cell, found.c.place)
    # In one value each: as rows of their own 100,000 take four times as long to be read.
    whole = select(func.array_agg(ids), func.jsonb_agg(cells) if view.group else literal(None))
    there, grouped = (await conn.execute(whole)).one()
    return there or [], grouped or []


def _parts(
    one: SortBy, columns: Mapping[str, Column], view: TableView, people: Sequence[str]
) -> Iterator[ColumnElement[Any]]:
    by = _by(columns[one.column], people)
    yield (by.desc() if one.descending else by.asc()).nulls_last()
    if one.column == view.group:
        yield _under(one.column)


async def alike_in(
    conn: Connection, register_id: UUID, keys: Sequence[str], ids: Collection[int] | None = None
) -> Iterator[tuple[dict[str, Cell], list[int]]]:
    """What the rows say in some columns, each combination once with the ids of its rows; of `ids`
    alone where they are given."""
    named = [part for key in keys for part in (literal(key, Text), _under(key))]
    cells = func.jsonb_strip_nulls(func.jsonb_build_object(*named)).label("cells")
    query = select(cells, func.array_agg(rows.c.id)).where(_there(register_id)).group_by(cells)
    if ids is not None:
        query = query.where(_among(ids))
    return ((found, there) for found, there in await conn.execute(query))


def _among(ids: Collection[int]) -> ColumnElement[bool]:
    return rows.c.id == func.any(literal(list(ids), ARRAY(BigInteger)))


async def read(conn: Connection, register_id: UUID, ids: Collection[int]) -> list[Row]:
    """Those of these rows that are there."""
    query = select(*ROW).where(_there(register_id), _among(ids))
    return [row_of(one) for one in await conn.execute(query)]


async def mark(conn: Connection) -> int:
    """For `written_since`: asked before rows are read, so that nothing is missed after it."""
    found: int = (await conn.execute(select(SNAPSHOT_XMIN))).scalar_one()
    return found


async def written_since(conn: Connection, register_id: UUID, since: int, limit: int) -> list[Row]:
    """The rows that were written since a mark, those that were removed too, at most `limit`; some
    may have been seen before."""
    query = select(*ROW).where(
        rows.c.register_id == register_id, rows.c.touched >= since, rows.c.touched < SNAPSHOT_XMAX
    )
    found = await conn.execute(query.order_by(rows.c.touched, rows.c.id).limit(limit))
    return [row_of(one) for one in found]


async def every(conn: Connection, register_id: UUID) -> list[int]:
    """The ids of all rows, the oldest first."""
    query = select(rows.c.id).where(_there(register_id)).order_by(rows.c.id)
    return list((await conn.execute(query)).scalars())


async def count(conn: Connection, register_id: UUID) -> int:
    query = select(func.count()).select_from(rows).where(_there(register_id))
    number: int = (await conn.execute(query)).scalar_one()
    return number


async def searched(
    conn: Connection,
    register_id: UUID,
    columns: Sequence[Column],
    words: str,
    people: Mapping[str, str],
    ids: Collection[int],
) -> set[int]:
    """Which of `ids` have the words."""
    has = _found(words, columns, people)
    query = select(rows.c.id).where(_there(register_id), _among(ids), has)
    return set((await conn.execute(query)).scalars())
