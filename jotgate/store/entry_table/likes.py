"""Patterns for RE2, which PostgreSQL has not: the different texts, for the core to ask."""

from uuid import UUID

from sqlalchemy import Text, literal, select, true
from sqlalchemy.dialects.postgresql import JSONB

from jotgate.core.common.today import Today
from jotgate.core.conditions.condition import (
    AllOf,
    AnyOf,
    Compare,
    Condition,
    Entries,
    EntryCount,
    Not,
)
from jotgate.core.entries.table import EntryTable
from jotgate.core.items import inside
from jotgate.store.base import Connection
from jotgate.store.entry_table.conditions import lines
from jotgate.store.entry_table.facts import FACTS
from jotgate.store.entry_table.looking import every
from jotgate.store.entry_table.rows import entry_rows


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
    conn: Connection,
    questionnaire_id: UUID,
    key: str,
    table: EntryTable,
    today: Today,
    most: int,
) -> list[str]:
    """The different texts under a key, inside of rosters too; `most` at most."""
    answers = entry_rows.c.answers
    if key in FACTS:
        fact = FACTS[key].at(today, table.terms)
        facts = every(questionnaire_id, [fact]).where(fact.is_not(None)).distinct().limit(most)
        return list((await conn.execute(facts)).scalars())
    if key in table.open:
        found = answers.op("->>", return_type=Text())(literal(key, Text))
        query = select(found)
    else:
        owner = next(
            (one.key for one in table.open.values() if any(i.key == key for i in inside(one.item))),
            "",
        )
        each = lines(answers.op("->", return_type=JSONB())(literal(owner, Text)))
        found = each.c.value.op("->>", return_type=Text())(literal(key, Text))
        query = select(found).select_from(entry_rows.join(each, true()))
    query = query.where(entry_rows.c.questionnaire_id == questionnaire_id, found.is_not(None))
    return list((await conn.execute(query.distinct().limit(most))).scalars())
