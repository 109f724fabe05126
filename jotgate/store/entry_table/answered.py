"""What the entries of a view answered: each different answer once, with how many gave it."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import (
    ARRAY,
    ColumnElement,
    Date,
    FromClause,
    Integer,
    Text,
    and_,
    case,
    cast,
    column,
    false,
    func,
    literal,
    or_,
    select,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.entries.table import TableColumn
from jotgate.core.figures.traffic import Alike
from jotgate.store.base import Connection
from jotgate.store.entries.entry_tables import entries
from jotgate.store.entry_table.looking import Looking, chosen, fitting


@dataclass(frozen=True)
class Answers:
    """`said` are different answers to a question as they are stored, each with how many gave it,
    the most frequent first; `different` says how many there are, and `answered` how many gave any,
    whether they stand in `said` or not."""

    said: list[tuple[Any, int]]
    answered: int
    different: int


@dataclass(frozen=True)
class Shown:
    """How many entries a view shows; of how many it was `noted` what they left empty; and by key
    how many were asked and left it empty."""

    entries: int
    noted: int
    left_empty: dict[str, int]


def _shown(look: Looking) -> FromClause:
    e = entries.c
    return chosen(look, [e.edition, e.answers, e.left_empty], fitting(look)).subquery("shown")


def _otherwise(one: TableColumn, edition: ColumnElement[int]) -> ColumnElement[bool]:
    """Whether an edition holds something of another form there."""
    return edition.in_(sorted(one.other))


async def answers(
    conn: Connection, look: Looking, columns: Collection[TableColumn], most: Collection[int]
) -> dict[str, Answers]:
    """Of the columns that anybody answered, by key; of each at most so many different answers as
    stands in its place in `most`."""
    shown = _shown(look)
    each = func.jsonb_each(shown.c.answers).table_valued(
        column("key", Text()), column("value", JSONB()), joins_implicitly=True
    )
    each = each.render_derived("each")
    key, value = each.c.key, each.c.value
    keys = literal([one.key for one in columns], ARRAY(Text))
    otherwise = (
        and_(key == one.key, _otherwise(one, shown.c.edition)) for one in columns if one.other
    )
    tallied = (
        select(key, value, func.count().label("many"))
        .select_from(shown, each)
        .where(key == func.any(keys), ~or_(false(), *otherwise))
        .group_by(key, value)
        .subquery("tallied")
    )
    t = tallied.c
    ranked = select(
        t.key,
        t.value,
        t.many,
        func.row_number()
        .over(partition_by=t.key, order_by=(t.many.desc(), t.value))
        .label("place"),
        cast(func.sum(t.many).over(partition_by=t.key), Integer).label("answered"),
        func.count().over(partition_by=t.key).label("different"),
    ).subquery("ranked")
    limits = {one.key: limit for one, limit in zip(columns, most, strict=True)}
    limit = case(limits, value=ranked.c.key, else_=0)
    query = select(ranked).where(ranked.c.place <= limit).order_by(ranked.c.key, ranked.c.place)
    found: dict[str, Answers] = {}
    for row in await conn.execute(query):
        own_row = found.setdefault(row.key, Answers([], row.answered, row.different))
        own_row.said.append((row.value, row.many))
    return found


async def shown(conn: Connection, look: Looking) -> Shown:
    table = _shown(look)
    counted = select(func.count(), func.count(table.c.left_empty)).select_from(table)
    entries_, noted = (await conn.execute(counted)).one()
    left = func.unnest(table.c.left_empty).table_valued(
        column("key", Text()), joins_implicitly=True
    )
    left = left.render_derived("left")
    answered = table.c.answers.has_key(left.c.key)
    query = select(left.c.key, func.count().label("many")).select_from(table, left)
    query = query.where(~answered).group_by(left.c.key)
    by_key = {row.key: row.many for row in await conn.execute(query)}
    return Shown(entries_, noted, by_key)


async def both(
    conn: Connection, look: Looking, row: TableColumn, column: TableColumn, most: int
) -> list[tuple[Any, Any, int]]:
    """What entries say to two questions, as it is stored, each pair once with how many say it: of
    those that answered both, at most so many different pairs."""
    table = _shown(look)
    first, second = (
        table.c.answers.op("->", return_type=JSONB())(literal(one.key, Text))
        for one in (row, column)
    )
    answered: list[ColumnElement[bool]] = [first.is_not(None), second.is_not(None)]
    answered += [~_otherwise(one, table.c.edition) for one in (row, column)]
    query = select(first.label("a"), second.label("b"), func.count().label("many"))
    query = query.select_from(table).where(*answered).group_by(text("1"), text("2"))
    return [(one.a, one.b, one.many) for one in await conn.execute(query.limit(most))]


async def alike(
    conn: Connection, look: Looking, edition: int, keys: Sequence[str], by_day: bool, most: int
) -> list[Alike]:
    """Entries of an edition that answered alike to these keys, and on the same day where it is
    asked for that: at most so many different ones. Those that were anonymised are left out."""
    answers = entries.c.answers
    said = [answers.op("->", return_type=JSONB())(literal(key, Text)) for key in keys]
    day = cast(func.timezone(str(look.today.zone), entries.c.arrived), Date)
    columns = [*said, day if by_day else literal(None, Date)]
    named = [one.label(f"said_{at}") for at, one in enumerate(columns)]
    of_edition = (entries.c.edition == edition, entries.c.anonymised.is_(None))
    table = chosen(look, named, [*fitting(look), *of_edition]).subquery("shown")
    query = select(*table.c, func.count().label("many")).group_by(*table.c).limit(most)
    return [
        Alike({key: one for key, one in zip(keys, row, strict=False) if one is not None}, *row[-2:])
        for row in await conn.execute(query)
    ]


async def ended(conn: Connection, look: Looking, edition: int) -> tuple[dict[str, int], int]:
    """How many entries of an edition ended at each finish, and how many of them all were
    anonymised."""
    e = entries.c
    named = [e.finish.label("finish"), e.anonymised.label("anonymised")]
    table = chosen(look, named, [*fitting(look), e.edition == edition]).subquery("shown")
    query = select(table.c.finish, func.count().label("many"), func.count(table.c.anonymised))
    rows = (await conn.execute(query.group_by(table.c.finish))).all()
    return {row[0]: row[1] for row in rows}, sum(row[2] for row in rows)


async def arrivals(conn: Connection, look: Looking) -> dict[datetime, int]:
    """How many entries arrived in each hour, as clocks showed it in the questionnaire's time
    zone."""
    local = func.timezone(str(look.today.zone), entries.c.arrived)
    hour = func.date_trunc("hour", local).label("hour")
    shown = chosen(look, [hour], fitting(look)).subquery("shown")
    query = select(shown.c.hour, func.count().label("many")).group_by(shown.c.hour)
    return {row.hour: row.many for row in await conn.execute(query)}
