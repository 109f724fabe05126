"""Which entries a view of the table shows, as the parts of a statement."""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from sqlalchemy import (
    ARRAY,
    Boolean,
    ColumnElement,
    DateTime,
    FromClause,
    Integer,
    Select,
    Text,
    and_,
    case,
    cast,
    func,
    literal,
    select,
)
from sqlalchemy.sql.util import find_tables

from jotgate.core.common.today import Today
from jotgate.core.conditions.condition import Condition, leaves
from jotgate.core.entries.table import KEPT, EntryTable, TableColumn
from jotgate.core.items import options_of
from jotgate.core.table_views import SortBy, TableView
from jotgate.store.entries.entry_tables import entries, entry_ways
from jotgate.store.entry_table.conditions import compiled
from jotgate.store.entry_table.facts import FACTS
from jotgate.store.entry_table.rows import entry_rows
from jotgate.store.entry_table.said import Likes
from jotgate.store.entry_table.sorting import By, IndexSpec, Part, expression, part_of

_R, _E, _W = entry_rows.c, entries.c, entry_ways.c

ORDERED = ("number", "day", "time", "moment")


@dataclass(frozen=True)
class Chosen:
    """Entries with these numbers, or all `but` these."""

    numbers: tuple[int, ...]
    but: bool = False


@dataclass(frozen=True)
class Looking:
    """What is looked at: entries of a questionnaire by a view, all of them or those `chosen`;
    `archived` ones too, or not. `likes` are the texts that are like the patterns it asks for."""

    questionnaire_id: UUID
    table: EntryTable
    view: TableView
    today: Today
    archived: bool
    likes: Likes
    chosen: Chosen | None = None


@dataclass(frozen=True)
class SortKey:
    """One thing that is sorted by; `part` where an index can be made for it."""

    by: ColumnElement[Any]
    descending: bool
    part: Part | None = None


def sort_keys(look: Looking) -> tuple[SortKey, ...]:
    found = (_key(one, look) for one in look.view.order[:4])
    return tuple(one for one in found if one is not None)


def _key(one: SortBy, look: Looking) -> SortKey | None:
    column = look.table.open.get(one.column)
    if column is None:
        return None
    if column.fact:
        return SortKey(_fact(column, one.descending, look), one.descending)
    part = part_of(column, one.descending)
    return SortKey(expression(part, _R.answers), one.descending, part)


def _fact(column: TableColumn, descending: bool, look: Looking) -> ColumnElement[Any]:
    fact = FACTS[column.key]
    found = fact.at(look.today, look.table.terms)
    match fact.held:
        case "pick":
            codes = literal([one.code for one in options_of(column.item)], ARRAY(Text))
            place = func.array_position(codes, found, type_=Integer())
            other = case((fact.there, len(options_of(column.item)) + 1))
            return func.coalesce(place, other, 0 if descending else 2_147_483_647)
        case "truth":
            return cast(found, Integer)
        case "text":
            return func.coalesce(func.lower(found), "" if descending else "\uffff")
        case "moment" if column.key == KEPT:
            empty = cast("-infinity" if descending else "infinity", DateTime(timezone=True))
            return func.coalesce(found, empty)
        case _:
            return found


def fitting(look: Looking, rarest: str = "") -> list[ColumnElement[bool]]:
    """What has to be true of an entry beside that it is of the questionnaire; of the words that are
    searched the index is asked for the `rarest` alone, where that is given."""
    view = look.view
    found: list[ColumnElement[bool]] = []
    if view.filter is not None:
        found.append(compiled(view.filter, look.table, look.today, look.likes))
    if view.search:
        found.append(_has_words(view.search, look.table))
    if view.search and rarest:
        found[-1] = _has_words(rarest, look.table) & _seen_to_have(view.search, look.table)
    if not look.archived:
        found.append(_E.archived.is_(None))
    if look.chosen is not None:
        numbers = literal(list(look.chosen.numbers), ARRAY(Integer))
        is_one = _E.number == func.any(numbers)
        found.append(~is_one if look.chosen.but else is_one)
    return found


def _has_words(search: str, table: EntryTable) -> ColumnElement[bool]:
    """Every word, or its beginning, in whatever form the languages know it; a number also as that
    of an entry."""
    has: ColumnElement[bool] = _R.words.op("@@", return_type=Boolean())(_query(search, table))
    if re.fullmatch(r"0*[1-9][0-9]{0,8}", search):
        return has | (_R.number == int(search))
    return has


def _query(search: str, table: EntryTable) -> ColumnElement[Any]:
    words = literal(search.split(), ARRAY(Text))
    return func.entry_query(words, literal(list(table.languages), ARRAY(Text)))


def _seen_to_have(search: str, table: EntryTable) -> ColumnElement[bool]:
    """The same, in a form that PostgreSQL asks no index for: it looks at the entry."""
    return func.ts_match_vq(_R.words, _query(search, table), type_=Boolean())


def how_often(look: Looking) -> dict[str, ColumnElement[int]]:
    """The words that are searched, each with how many of some entries have it."""
    every = dict.fromkeys(look.view.search.split())
    return {
        one: func.count().filter(_seen_to_have(one, look.table)).label(f"w{at}")
        for at, one in enumerate(every)
    }


def chosen(
    look: Looking, columns: Sequence[Any], tests: Sequence[ColumnElement[bool]]
) -> Select[Any]:
    """Columns of the entries of which all `tests` are true, from no more tables than that needs."""
    named = tables_of([*columns, *tests])
    return _from(look.questionnaire_id, named, columns).where(and_(True, *tests))


def every(id: UUID, columns: Sequence[Any]) -> Select[Any]:
    """Columns of all entries of a questionnaire."""
    return _from(id, tables_of(columns), columns)


def _from(id: UUID, named: set[FromClause], columns: Sequence[Any]) -> Select[Any]:
    query = select(*columns)
    joins: Any = entries
    of = [_E.questionnaire_id == id]
    if entry_rows in named:
        joins, of = entry_rows, [_R.questionnaire_id == id]
        if entries in named or entry_ways in named:
            same = and_(_E.questionnaire_id == _R.questionnaire_id, _E.number == _R.number)
            joins = joins.join(entries, same)
            of.append(_E.questionnaire_id == id)
    if entry_ways in named:
        own = and_(_W.questionnaire_id == _E.questionnaire_id, _W.entry_id == _E.id)
        joins = joins.outerjoin(entry_ways, own)
    return query.select_from(joins).where(*of)


def number_in(tests: Sequence[Any]) -> ColumnElement[Any]:
    """The number of an entry, from the table that is read anyway."""
    return _R.number if entry_rows in tables_of(tests) else _E.number


def tables_of(parts: Sequence[Any]) -> set[FromClause]:
    """The tables whose columns are named."""
    return {table for one in parts for table in find_tables(one, check_columns=True)}


def specs(look: Looking, keys: Sequence[SortKey]) -> Iterator[IndexSpec]:
    """The indexes that would make the order, and what the filter asks, quick."""
    parts = [one.part for one in keys]
    whole = [one for one in parts if one is not None]
    if parts and len(whole) == len(parts) and len({one.descending for one in whole}) == 1:
        yield IndexSpec(look.questionnaire_id, tuple(whole))
    for part in _asked(look.view.filter, look.table):
        yield IndexSpec(look.questionnaire_id, (part,))


def _asked(condition: Condition | None, table: EntryTable) -> Iterator[Part]:
    """What a filter asks that no index over the answers as a whole serves."""
    for leaf in leaves(condition):
        column = table.open.get(getattr(leaf, "item", ""))
        if column is None or column.fact:
            continue
        op = leaf.op
        if op == "unanswered":
            yield Part(column.key, "raw", descending=True)
        elif op == "contains":
            yield Part(column.key, "letters")
        elif column.holds in ("number", "day", "time", "moment") and op not in (
            "answered",
            "is_not",
        ):
            by: By = "number" if column.holds == "number" else "raw"
            yield Part(column.key, by, descending=op not in ("at_most", "less_than"))
