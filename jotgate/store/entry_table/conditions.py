"""Conditions over the columns of a table of entries as SQL.

They mean what `core/conditions` says they do, which tests hold them to. Equality is asked in the
one form that the index over the answers can serve; what is ordered, by the same expressions that
columns are sorted by.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any

from sqlalchemy import (
    ColumnElement,
    and_,
    case,
    column,
    false,
    func,
    literal,
    not_,
    or_,
    select,
    true,
)
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.common.today import Today
from jotgate.core.common.values import as_decimal, read_operand
from jotgate.core.conditions.comparison import RELATIONS
from jotgate.core.conditions.condition import (
    AllOf,
    Answered,
    AnyOf,
    Between,
    Compare,
    Condition,
    Entries,
    EntryCount,
    Not,
    OneOf,
)
from jotgate.core.entries.table import EntryTable, held_by
from jotgate.core.handling import stored
from jotgate.core.items import Item, inside
from jotgate.store.entries.entry_tables import entries
from jotgate.store.entry_table.days import CLASSES, Test, day_of_zone, in_day
from jotgate.store.entry_table.facts import FACTS, STATUS, Fact
from jotgate.store.entry_table.rows import entry_rows
from jotgate.store.entry_table.said import Likes, Said, compares, folded, includes, is_one
from jotgate.store.entry_table.sorting import Part, expression


@dataclass(frozen=True)
class Scope:
    """Where names are looked up: `lines` are by key the JSON of the roster's entry that is asked
    about; what is not there is asked of the whole entry."""

    table: EntryTable
    today: Today
    likes: Likes
    lines: Mapping[str, tuple[ColumnElement[Any], Item]]


def compiled(condition: Condition, table: EntryTable, today: Today, likes: Likes) -> Test:
    """Of the rows that `condition` is true of; null counts as false."""
    return _test(condition, Scope(table, today, likes, {}))


def _test(condition: Condition, scope: Scope) -> Test:
    match condition:
        case AllOf():
            return and_(*(_test(part, scope) for part in condition.parts))
        case AnyOf():
            return or_(*(_test(part, scope) for part in condition.parts))
        case Not():
            return _test(condition.part, scope).is_not(true())
        case Compare() | Between() | OneOf() | Answered() | Entries() | EntryCount():
            fact = FACTS.get(condition.item) if condition.item not in scope.lines else None
            if fact is not None:
                return _fact(condition, fact, scope)
            return _said(condition, _found(condition.item, scope), scope)
        case _:
            return false()


def _found(key: str, scope: Scope) -> Said | None:
    if key in scope.lines:
        line, item = scope.lines[key]
        return Said(key, held_by(item), line, None, item, inner=True)
    column = scope.table.open.get(key)
    if column is None:
        return None
    guard = None
    if column.other:
        guard = ~FACTS["entry.edition"].column.in_(sorted(column.other))
    return Said(key, column.holds, entry_rows.c.answers, guard, column.item, inner=False)


def _said(leaf: Any, said: Said | None, scope: Scope) -> Test:
    if said is None:
        return true() if leaf.op == "unanswered" else false()
    if leaf.op == "unanswered":
        if said.guard is None and not said.inner:
            empty = Part(said.key, "raw", descending=True)
            found: Test = expression(empty, said.all) == ""
            return found
        there = said.there if said.guard is None else and_(said.there, said.guard)
        return there.is_not(true())
    test = _asked(leaf, said, scope)
    return test if said.guard is None else and_(test, said.guard)


def _asked(leaf: Any, said: Said, scope: Scope) -> Test:
    match leaf:
        case Answered():
            return said.there
        case Between():
            both = (("at_least", leaf.low), ("at_most", leaf.high))
            one_way = replace(said, falling=True)
            return and_(*(compares(*one, one_way, scope.today, scope.likes) for one in both))
        case OneOf(op="includes_all"):
            if said.held not in ("picks", "first"):
                return false()
            return and_(*(includes(one, said) for one in leaf.values))
        case OneOf():
            return or_(*(is_one(one, said, scope.today, scope.likes) for one in leaf.values))
        case Compare():
            return compares(leaf.op, leaf.value, said, scope.today, scope.likes)
        case _:
            return _entries(leaf, said, scope)


def _entries(leaf: Entries | EntryCount, said: Said, scope: Scope) -> Test:
    if said.held != "entries":
        return false()
    each = lines(said.json)
    own = {one.key: (each.c.value, one) for one in inside(said.item)}
    inner = replace(scope, lines={**scope.lines, **own})
    where = _test(leaf.where, inner) if leaf.where is not None else true()
    fitting: Any = select(func.count()).select_from(each).where(where).scalar_subquery()
    whole: Any = select(func.count()).select_from(each).scalar_subquery()
    some = whole > 0
    match leaf:
        case Entries(op="any_entry"):
            found: Test = fitting > 0
            return found
        case Entries():
            return and_(some, fitting == whole)
        case _:
            low, high = leaf.at_least or 0, leaf.at_most
            enough = and_(some, fitting >= low)
            return enough if high is None else and_(enough, fitting <= high)


def lines(json: ColumnElement[Any]) -> Any:
    """The entries of a roster, each as `value`; none where it is something else."""
    is_list = func.jsonb_typeof(json) == "array"
    empty = literal([], JSONB)
    each = func.jsonb_array_elements(case((is_list, json), else_=empty))
    return each.table_valued(column("value", JSONB), name="line")


def _fact(leaf: Any, fact: Fact, scope: Scope) -> Test:
    there = fact.is_there(scope.today, scope.table.terms)
    match leaf:
        case Answered(op="unanswered"):
            return not_(there)
        case Answered():
            return there
        case Between():
            both = (("at_least", leaf.low), ("at_most", leaf.high))
            return and_(*(_fact_compares(op, one, fact, scope) for op, one in both))
        case OneOf(op="one_of"):
            each = (_fact_compares("is", one, fact, scope) for one in leaf.values)
            return or_(*each)
        case Compare(op="contains"):
            is_text = fact.held == "text" and isinstance(leaf.value, str)
            found = func.strpos(folded(fact.column), str(leaf.value).casefold()) > 0
            return and_(there, found) if is_text else false()
        case Compare(op="like"):
            return fact.column.in_(list(scope.likes.get((leaf.item, str(leaf.value)), ())))
        case Compare():
            return _fact_compares(leaf.op, leaf.value, fact, scope)
        case _:
            return false()


def _fact_compares(op: str, value: str | bool, fact: Fact, scope: Scope) -> Test:
    today, terms, relation = scope.today, scope.table.terms, RELATIONS.get(op)
    column, there = fact.at(today, terms), fact.is_there(today, terms)
    if relation is None:
        return false()
    operand: Any = value
    if fact is STATUS and isinstance(value, str) and op in ("is", "is_not"):
        at: Any = relation(entries.c.status, stored(value))
        return and_(there, at)
    if fact.held == "number":
        operand = as_decimal(value)
    elif fact.held in CLASSES:
        operand = read_operand(CLASSES[fact.held], value, today)
    elif isinstance(value, bool) is not (fact.held == "truth") or op not in ("is", "is_not"):
        operand = None
    if operand is None:
        return there if op == "is_not" else false()
    if fact.held == "moment" and not isinstance(operand, datetime):
        begin, end = day_of_zone(operand, today)
        return in_day(op, there, lambda op, edge: RELATIONS[op](column, edge), begin, end)
    same: Any = relation(column, operand)
    return and_(there, same)
