"""What entries say in the columns of a table, worked out here from whole entries: what the database
finds, sorts and writes is compared with it."""

from datetime import timedelta
from decimal import Decimal

from jotgate.core.common.today import Today
from jotgate.core.common.values import Value
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.facts import fact_values
from jotgate.core.entries.stored import values_of
from jotgate.core.entries.table import (
    ABOUT,
    ARCHIVED,
    CARE,
    KEPT,
    LATE,
    NUMBER,
    SINCE,
    EntryTable,
    care_of,
)
from jotgate.core.handling import is_late
from jotgate.core.walking.plan import Plan


def table_values(entry: Entry, plan: Plan, table: EntryTable, today: Today) -> dict[str, Value]:
    """What an entry says in the columns that everybody may see; `plan` is its edition, `today` in
    the time zone of the newest."""
    kept = {
        key: one
        for key, one in values_of(plan.items, entry.answers).items()
        if key in table.open and entry.edition not in table.open[key].other
    }
    found = entry_facts(entry, table, today)
    return kept | {name: one for name, one in found.items() if name in table.open}


def entry_facts(entry: Entry, table: EntryTable, today: Today) -> dict[str, Value]:
    """What tables say of an entry beside its answers, those too that are restricted."""
    found = fact_values(entry, entry.arrived.astimezone(today.zone), None)
    archived = entry.archived is not None
    late = is_late(entry.status, entry.since, archived, table.terms.limits, today.now)
    found |= {NUMBER: Decimal(entry.number), ARCHIVED: archived, SINCE: entry.since, LATE: late}
    days = None if entry.anonymised else table.terms.kept.get(entry.status)
    found |= {} if days is None else {KEPT: entry.since + timedelta(days=days)}
    said = {CARE: care_of(entry), ABOUT: entry.about or ""}
    return found | {name: one for name, one in said.items() if one}
