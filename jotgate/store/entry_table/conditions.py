"""Conditions over the columns of a table of entries as SQL.

They mean what `core/conditions` says they do, which tests hold them to. Equality is asked in the
one form that the index over the answers can serve; what is ordered, by the same expressions that
columns are sorted by.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, date, datetime, time, timedelta
from functools import partial
from typing import Any

from sqlalchemy import (
    Boolean,
    ColumnElement,
    Text,
    and_,
    case,
    cast,
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
from jotgate.core.common.values import ELSE, as_decimal, read_operand
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
from jotgate.core.entries.table import EntryTable, Held, held_by
from jotgate.core.items import Item, inside
from jotgate.store.entry_table.facts import FACTS, Fact
from jotgate.store.entry_table.rows import entry_rows
from jotgate.store.entry_table.sorting import Part, expression

Test = ColumnElement[bool]
Likes = Mapping[tuple[str, str], Sequence[str]]
"""By key and pattern: the texts under that key that are like it. PostgreSQL has other patterns."""


@dataclass(frozen=True)
class Scope:
    """Where names are looked up: `lines` are by key the JSON of the roster's entry that is asked
    about; what is not there is asked of the whole entry."""

    table: EntryTable
    today: Today
    likes: Likes
    lines: Mapping[str, tuple[ColumnElement[Any], Item]]


@dataclass(frozen=True)
class Said:
    """What is held under a key: `all` is the JSON that has the key, `guard` that an entry's edition
    holds something of the form that is meant."""

    key: str
    held: Held
    all: ColumnElement[Any]
    guard: Test | None
    item: Item
    inner: bool

    @property
    def json(self) -> ColumnElement[Any]:
        found: ColumnElement[Any] = self.all.op("->", return_type=JSONB())(literal(self.key, Text))
        return found

    @property
    def text(self) -> ColumnElement[Any]:
        found: ColumnElement[Any] = self.all.op("->>", return_type=Text())(literal(self.key, Text))
        return found

    def has(self, value: Any) -> Test:
        """That the JSON under the key contains `value`."""
        found: Test = self.all.op("@>", return_type=Boolean())(literal({self.key: value}, JSONB))
        return found

    @property
    def there(self) -> Test:
        return self.all.op("?", return_type=Boolean())(literal(self.key, Text))


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
            low, high = (("at_least", leaf.low), ("at_most", leaf.high))
            return and_(_compares(*low, said, scope), _compares(*high, said, scope))
        case OneOf(op="includes_all"):
            if said.held not in ("picks", "first"):
                return false()
            return and_(*(_includes(one, said) for one in leaf.values))
        case OneOf():
            return or_(*(_is_one(one, said, scope) for one in leaf.values))
        case Compare():
            return _compares(leaf.op, leaf.value, said, scope)
        case _:
            return _entries(leaf, said, scope)


def _is_one(value: str | bool, said: Said, scope: Scope) -> Test:
    found = []
    if said.held in ("picks", "first"):
        found.append(_includes(value, said))
    if said.held != "picks":
        found.append(_compares("is", value, said, scope))
    return or_(*found)


def _compares(op: str, value: str | bool, said: Said, scope: Scope) -> Test:
    if said.held in ("number", "day", "time", "moment"):
        return _ordered(op, value, said, scope.today)
    if op == "includes":
        return _includes(value, said) if said.held in ("picks", "first") else false()
    if said.held not in ("text", "pick", "truth", "first"):
        return false()
    if op == "contains":
        return _contains(value, said)
    if op == "like":
        return said.text.in_(list(scope.likes.get((said.key, str(value)), ())))
    if op not in ("is", "is_not"):
        return false()
    same = _is(value, said)
    if op == "is":
        return same
    single = func.jsonb_typeof(said.json).in_(["string", "boolean"])
    kinds = true() if said.held == "pick" else single
    return and_(said.there, kinds, same.is_not(true()))


def _is(value: str | bool, said: Said) -> Test:
    if said.held == "pick" and value == ELSE:
        return func.jsonb_typeof(said.json) == "object"
    if isinstance(value, bool) is not (said.held == "truth") and said.held != "first":
        return false()
    return said.has(value)


def _includes(value: str | bool, said: Said) -> Test:
    if value == ELSE:
        pattern = '$[*] ? (@.type() == "object")'
        is_list = func.jsonb_typeof(said.json) == "array"
        other = func.jsonb_path_exists(said.json, cast(literal(pattern), JSONB.JSONPathType))
        return and_(is_list, or_(said.has([ELSE]), other))
    return said.has([value]) if isinstance(value, str) else false()


def _contains(value: str | bool, said: Said) -> Test:
    if not isinstance(value, str) or said.held not in ("text", "first", "pick"):
        return false()
    is_text = func.jsonb_typeof(said.json) == "string"
    letters = expression(Part(said.key, "letters"), said.all)
    return and_(letters.like(f"%{_escaped(value.casefold())}%"), is_text)


def _escaped(words: str) -> str:
    for one in "\\%_":
        words = words.replace(one, f"\\{one}")
    return words


def _folded(text: ColumnElement[Any]) -> ColumnElement[Any]:
    """As `entry_letters` does: as `str.casefold`, but for letters that few keyboards have."""
    found: ColumnElement[Any] = func.lower(text.collate("und-x-icu"))
    for letter, folded in (("ß", "ss"), ("ς", "σ"), ("ŉ", "ʼn"), ("ſ", "s")):
        found = func.replace(found, letter, folded)
    return found


CLASSES: Mapping[str, type] = {"day": date, "time": time, "moment": datetime}


def _ordered(op: str, value: str | bool, said: Said, today: Today) -> Test:
    """Text in ISO 8601, and moments in UTC, stand in the order of what they mean."""
    if said.held == "number":
        number = as_decimal(value)
        if number is None:
            return said.there if op == "is_not" else false()
        return _related(op, number, said, "number")
    kind = CLASSES[said.held]
    operand: Any = read_operand(kind, value, today)
    if operand is None:
        return said.there if op == "is_not" else false()
    if kind is datetime:
        if not isinstance(operand, datetime):
            begin, end = (_utc(one) for one in day_of_zone(operand, today))
            related = partial(_related, said=said, by="raw")
            return in_day(op, said.there, related, begin, end)
        operand = _utc(operand)
    elif kind is time:
        operand = _short(operand)
    else:
        operand = operand.isoformat()
    return _related(op, operand, said, "raw")


def _related(op: str, operand: Any, said: Said, by: Any) -> Test:
    """What is empty stands below for what is to be large, above for what is to be small."""
    relation = RELATIONS.get(op)
    if relation is None:
        return false()
    part = Part(said.key, by, descending=op not in ("at_most", "less_than"))
    found: Any = relation(expression(part, said.all), operand)
    return and_(said.there, found) if op == "is_not" or said.inner else found


def day_of_zone(day: date, today: Today) -> tuple[datetime, datetime]:
    """The moments at which a day begins, and the one after it."""
    begins = datetime.combine(day, time(), today.zone)
    return begins, datetime.combine(day + timedelta(days=1), time(), today.zone)


def in_day(op: str, there: Test, related: Any, begin: Any, end: Any) -> Test:
    """A moment held against a day, from its `begin` to the next one's."""
    match op:
        case "is":
            return and_(related("at_least", begin), related("less_than", end))
        case "is_not":
            within = and_(related("at_least", begin), related("less_than", end))
            return and_(there, within.is_not(true()))
        case "at_least" | "less_than":
            found: Test = related(op, begin)
            return found
        case "more_than":
            found = related("at_least", end)
            return found
        case "at_most":
            found = related("less_than", end)
            return found
    return false()


def _utc(moment: datetime) -> str:
    """As entries keep it, to the minute where it has no seconds."""
    moment = moment.astimezone(UTC)
    whole = moment.second == 0 and moment.microsecond == 0
    return moment.isoformat(timespec="minutes" if whole else "auto")


def _short(one: time) -> str:
    return one.isoformat("minutes" if one.second == 0 and one.microsecond == 0 else "auto")


def _entries(leaf: Entries | EntryCount, said: Said, scope: Scope) -> Test:
    if said.held != "entries":
        return false()
    lines = _lines(said.json)
    own = {one.key: (lines.c.value, one) for one in inside(said.item)}
    inner = replace(scope, lines={**scope.lines, **own})
    where = _test(leaf.where, inner) if leaf.where is not None else true()
    fitting: Any = select(func.count()).select_from(lines).where(where).scalar_subquery()
    whole: Any = select(func.count()).select_from(lines).scalar_subquery()
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


def _lines(json: ColumnElement[Any]) -> Any:
    """The entries of a roster, each as `value`; none where it is something else."""
    is_list = func.jsonb_typeof(json) == "array"
    empty = literal([], JSONB)
    each = func.jsonb_array_elements(case((is_list, json), else_=empty))
    return each.table_valued(column("value", JSONB), name="line")


def _fact(leaf: Any, fact: Fact, scope: Scope) -> Test:
    there = fact.there
    match leaf:
        case Answered(op="unanswered"):
            return not_(there)
        case Answered():
            return there
        case Between():
            both = (("at_least", leaf.low), ("at_most", leaf.high))
            return and_(*(_fact_compares(op, one, fact, scope.today) for op, one in both))
        case OneOf(op="one_of"):
            each = (_fact_compares("is", one, fact, scope.today) for one in leaf.values)
            return or_(*each)
        case Compare(op="contains"):
            is_text = fact.held == "text" and isinstance(leaf.value, str)
            found = func.strpos(_folded(fact.column), str(leaf.value).casefold()) > 0
            return and_(there, found) if is_text else false()
        case Compare(op="like"):
            return fact.column.in_(list(scope.likes.get((leaf.item, str(leaf.value)), ())))
        case Compare():
            return _fact_compares(leaf.op, leaf.value, fact, scope.today)
        case _:
            return false()


def _fact_compares(op: str, value: str | bool, fact: Fact, today: Today) -> Test:
    column, there, relation = fact.at(today), fact.there, RELATIONS.get(op)
    if relation is None:
        return false()
    operand: Any = value
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


def likes_in(condition: Condition | None) -> set[tuple[str, str]]:
    """The keys and patterns of what is asked to be like something, those inside rosters too."""
    match condition:
        case None:
            return set()
        case AllOf() | AnyOf():
            return set().union(*(likes_in(part) for part in condition.parts))
        case Not():
            return likes_in(condition.part)
        case Entries() | EntryCount():
            return likes_in(condition.where)
        case Compare(op="like"):
            return {(condition.item, str(condition.value))}
        case _:
            return set()


async def texts(
    conn: Any, questionnaire_id: Any, key: str, table: EntryTable, most: int
) -> list[str]:
    """The different texts under a key, inside of rosters too; `most` at most."""
    answers = entry_rows.c.answers
    if key in FACTS:
        return []
    if key in table.open:
        found = answers.op("->>", return_type=Text())(literal(key, Text))
        query = select(found)
    else:
        owner = next(
            (one.key for one in table.open.values() if any(i.key == key for i in inside(one.item))),
            "",
        )
        lines = _lines(answers.op("->", return_type=JSONB())(literal(owner, Text)))
        found = lines.c.value.op("->>", return_type=Text())(literal(key, Text))
        query = select(found).select_from(entry_rows.join(lines, true()))
    query = query.where(entry_rows.c.questionnaire_id == questionnaire_id, found.is_not(None))
    return list((await conn.execute(query.distinct().limit(most))).scalars())
