"""What only an entry has beside its answers, for conditions, texts and tables."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from decimal import Decimal
from typing import Any, Literal

from jotgate.core.common.values import Value
from jotgate.core.contacts.contact import Contact, facts_of
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.entries.entry import Entry
from jotgate.core.handling import FIRST, named
from jotgate.core.items import DateTime, Item, Number, Option, PickOne, Time, YesNo

WEEKDAYS: Mapping[str, str] = {
    "mon": "Monday",
    "tue": "Tuesday",
    "wed": "Wednesday",
    "thu": "Thursday",
    "fri": "Friday",
    "sat": "Saturday",
    "sun": "Sunday",
}

CORRECTED = "entry.corrected"

Entered = Literal["phone", "paper", "in_person"]
ENTERED_AS: Mapping[str, str] = {
    "phone": "On the phone",
    "paper": "On paper",
    "in_person": "In person",
}
"""How what somebody of the office entered came to them."""

NAMES: Mapping[str, str] = {
    "entry.finish": "Finish",
    "entry.edition": "Edition",
    "entry.language": "Language",
    "entry.link": "Link it came by",
    "entry.weekday": "Day of the week it arrived",
    "entry.time": "Time of day it arrived",
    "entry.arrived": "When it arrived",
    "entry.status": "Status",
    CORRECTED: "It was corrected",
    "entry.entered": "Entered by staff",
}
"""What staff read for each fact."""


@dataclass(frozen=True)
class Around:
    """What stands around the questionnaire's entries: the names of its links by id, of its
    statuses by key."""

    links: Mapping[str, str] = field(default_factory=dict)
    statuses: Mapping[str, str] = field(default_factory=dict)

    @property
    def reached(self) -> frozenset[str]:
        """The statuses that entries do not arrive with."""
        return frozenset(self.statuses) - {FIRST}


NOTHING_AROUND = Around()


def fact_items(document: Questionnaire, around: Around) -> dict[str, Item]:
    """The facts of an entry as if they were questions, by name: what each can be, and is called.
    What has nothing to be picked from is left out."""
    picked = {
        "entry.finish": {one.key: one.key for one in document.finishes},
        "entry.language": {one: one for one in document.languages},
        "entry.link": around.links,
        "entry.weekday": WEEKDAYS,
        "entry.status": around.statuses,
        "entry.entered": ENTERED_AS,
    }
    first = document.first_language
    found: dict[str, Item] = {}
    for name, options in picked.items():
        if options:
            each = tuple(Option(code=code, label={first: said}) for code, said in options.items())
            found[name] = PickOne(kind="pick_one", options=each, **_called(name, first))
    found["entry.edition"] = Number(kind="number", **_called("entry.edition", first))
    found["entry.time"] = Time(kind="time", **_called("entry.time", first))
    found["entry.arrived"] = DateTime(kind="date_time", **_called("entry.arrived", first))
    found[CORRECTED] = YesNo(kind="yes_no", **_called(CORRECTED, first))
    return found


def _called(name: str, language: str) -> dict[str, Any]:
    key = name.replace(".", "_")
    return {"key": key, "text": {language: NAMES[name]}, "short_name": NAMES[name]}


def fact_values(entry: Entry, now: datetime, contact: Contact | None) -> dict[str, Value]:
    """The facts of an entry that arrived `now`, in the questionnaire's time zone, and of its
    visitor."""
    found: dict[str, Value] = {
        "entry.edition": Decimal(entry.edition),
        "entry.weekday": tuple(WEEKDAYS)[now.weekday()],
        "entry.time": now.time().replace(second=0, microsecond=0),
        "entry.arrived": entry.arrived,
        CORRECTED: entry.corrected,
    }
    said = {
        "entry.finish": entry.finish,
        "entry.language": entry.language,
        "entry.link": str(entry.link_id or ""),
        "entry.status": named(entry.status),
        "entry.entered": entry.entered,
    }
    found |= {name: one for name, one in said.items() if one}
    known = facts_of(contact) if contact else {}
    found |= {f"contact.{name}": one for name, one in known.items()}
    return found | {f"claim.{name}": one for name, one in entry.claims.items()}
