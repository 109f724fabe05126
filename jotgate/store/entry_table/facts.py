"""What tables say of an entry beside its answers, as columns of the database."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import timedelta
from typing import Any

from sqlalchemy import (
    ColumnElement,
    DateTime,
    Text,
    Time,
    and_,
    case,
    cast,
    false,
    func,
    literal,
    null,
    or_,
    true,
)

from jotgate.core.common.today import Today
from jotgate.core.entries.facts import CORRECTED
from jotgate.core.entries.table import (
    ABOUT,
    ARCHIVED,
    CARE,
    FINISH,
    KEPT,
    LATE,
    NUMBER,
    SINCE,
    TEAM,
    Held,
)
from jotgate.core.handling import FIRST, Terms
from jotgate.store.entries.entry_tables import entries, entry_ways
from jotgate.store.entry_table.rows import entry_rows

_E, _W = entries.c, entry_ways.c


@dataclass(frozen=True)
class Fact:
    """`zoned` is what has to be looked at in the time zone of the questionnaire."""

    held: Held
    column: ColumnElement[Any]
    there: ColumnElement[bool]
    zoned: bool = False

    def is_there(self, today: Today, terms: Terms) -> ColumnElement[bool]:
        return self.at(today, terms).is_not(None) if self is _KEPT else self.there

    def at(self, today: Today, terms: Terms) -> ColumnElement[Any]:
        if self is _LATE:
            return _late(today, terms.limits)
        if self is _KEPT:
            return kept_until(terms.kept)
        if not self.zoned:
            return self.column
        local = func.timezone(str(today.zone), self.column)
        if self.held == "time":
            return cast(func.date_trunc("minute", local), Time)
        return func.lower(func.to_char(local, "Dy"))


_SINCE = func.coalesce(_E.status_since, _E.arrived)


def _late(today: Today, limits: Mapping[str, int]) -> ColumnElement[Any]:
    each = (
        and_(_E.status == status, today.now - timedelta(days=days) > _SINCE)
        for status, days in limits.items()
    )
    return and_(_E.archived.is_(None), or_(false(), *each))


def kept_until(kept: Mapping[str, int]) -> ColumnElement[Any]:
    """When an entry is let go by itself; null where it is not."""
    each = [
        (and_(_E.status == status, _E.anonymised.is_(None)), _SINCE + timedelta(days=days))
        for status, days in kept.items()
    ]
    return case(*each) if each else cast(null(), DateTime(timezone=True))


_KEPT = Fact("moment", false(), false())
_LATE = Fact("truth", false(), true())
"""Their columns depend on the statuses, and on when they are asked."""

_CARE = case(
    (_E.care_team_id.is_not(None), literal(TEAM).concat(cast(_E.care_team_id, Text))),
    else_=cast(_E.carer_id, Text),
)

STATUS = Fact("pick", case((_E.status == "", FIRST), else_=_E.status), true())
"""Equality is asked of what is stored, for which there is an index."""

FACTS: Mapping[str, Fact] = {
    NUMBER: Fact("number", _E.number, true()),
    "entry.edition": Fact("number", _E.edition, true()),
    "entry.arrived": Fact("moment", entry_rows.c.arrived, true()),
    "entry.time": Fact("time", _E.arrived, true(), zoned=True),
    "entry.weekday": Fact("pick", _E.arrived, true(), zoned=True),
    "entry.status": STATUS,
    SINCE: Fact("moment", _SINCE, true()),
    LATE: _LATE,
    KEPT: _KEPT,
    FINISH: Fact("pick", _E.finish, _E.finish != ""),
    "entry.language": Fact("pick", _E.language, _E.language != ""),
    "entry.link": Fact("pick", cast(_W.link_id, Text), _W.link_id.is_not(None)),
    "entry.entered": Fact("pick", _W.entered, _W.entered.is_not(None)),
    CARE: Fact("pick", _CARE, _CARE.is_not(None)),
    ARCHIVED: Fact("truth", _E.archived.is_not(None), true()),
    CORRECTED: Fact("truth", _E.corrected, true()),
    ABOUT: Fact("text", _W.about, and_(_W.about.is_not(None), _W.about != "")),
}
