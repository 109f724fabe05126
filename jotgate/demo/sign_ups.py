"""People who sign up to take samples: filed, given to who takes care of them, and put on a contact
list where they want to be."""

from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.records.accounts import Account
from jotgate.core.registers.columns import Column
from jotgate.demo.clock import FixedClock
from jotgate.services import joining_lists
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.public import submitting
from jotgate.services.public.answering import Answers
from jotgate.services.staff import questionnaires
from jotgate.services.staff.contacts import lists
from jotgate.services.staff.dispatch import dispatch_rules
from jotgate.services.staff.registers import registers
from jotgate.store.contacts import list_questions

PEOPLE = (
    ("Hana", "Niemi", "saltings", "4", True, True),
    ("Oskar", "Kearney", "upper_fell", "2", False, True),
    ("Lotta", "Haddad", "millbeck", "6", True, False),
    ("Jun", "Watanabe", "long_moss", "3", False, True),
    ("Sive", "Abernathy", "saltings", "1", False, False),
    ("Dara", "Raghavan", "upper_fell", "5", True, True),
    ("Bram", "Carvalho", "millbeck", "2", True, True),
)
"""Who signed up: given and family name, district, days a month, with a car, and with letters."""

COLUMNS: tuple[dict[str, Any], ...] = (
    {"key": "name", "label": "Name"},
    {"key": "email", "label": "Email", "type": "email"},
    {"key": "district", "label": "District"},
    {"key": "days", "label": "Days a month", "type": "number"},
    {"key": "car", "label": "Car", "type": "yes_no"},
    {"key": "crew", "label": "Crew"},
)


def _rules(register: UUID, list_id: UUID, crew: UUID, laboratory: UUID) -> Dispatch:
    """Of the Saltings its crew takes care, of everybody else the laboratory's people in turn."""
    keys = (*(one["key"] for one in COLUMNS), "entry_number")
    columns = {key: {"kind": "entry", "name": key} for key in keys}
    file = {"kind": "file", "register_id": str(register), "columns": columns}
    named = {"kind": "value", "key": "crew", "source": {"kind": "fixed", "text": "Saltings crew"}}
    by_crew = {"kind": "care", "who": {"kind": "team", "team_id": str(crew)}}
    in_turn = {"kind": "team", "team_id": str(laboratory), "in_turn": True}
    listed = {
        "kind": "list",
        "list_id": str(list_id),
        "consent": "letters",
        "email": "email",
        "name": "name",
        "confirm": True,
    }
    saltings = {"op": "is", "item": "district", "value": "saltings"}
    return Dispatch.model_validate(
        {
            "rules": [
                {"key": "saltings", "when": saltings, "acts": [named, by_crew, file]},
                {
                    "key": "letters",
                    "when": {"op": "is", "item": "letters", "value": True},
                    "catches": False,
                    "acts": [listed],
                    "note": "Only those who said yes are written to.",
                },
            ],
            "otherwise": [file, {"kind": "care", "who": in_turn}],
        }
    )


async def sign_up(
    context: Context, owner: Account, id: UUID, teams: dict[str, UUID], now: datetime
) -> None:
    own = {"key": "entry_number", "label": "Sign-up", "type": "entry", "of": id}
    columns = [Column.model_validate(one) for one in (*COLUMNS, own)]
    register = await registers.add(context, owner, "Samplers", columns)
    list_id = await lists.add(context, owner, "People who help")
    saved = await dispatch_rules.find(context, owner, id)
    rules = _rules(register.id, list_id, teams["Saltings crew"], teams["Laboratory"])
    await dispatch_rules.save(context, owner, id, rules, saved.revision)
    summary = await questionnaires.summary(context, owner, id)
    for number, person in enumerate(PEOPLE):
        age = timedelta(days=len(PEOPLE) - number, hours=number)
        then = replace(context, clock=FixedClock(now - age))
        given, key = _answers(*person), str(context.ids.id())
        taken = await submitting.submit(then, summary.address, Answers("", 1, given), key)
        await dispatch_entry(then, id, taken.id)
        if number < len(PEOPLE) - 1:
            later = replace(context, clock=FixedClock(now - age + timedelta(hours=1)))
            await _confirm(later, list_id, given["email"])


async def _confirm(context: Context, list_id: UUID, email: str) -> None:
    """Have somebody say yes to the letter, where one asked them."""
    async with context.engine.connect() as conn:
        asked = await list_questions.newest(conn, list_id, email)
    if asked is not None:
        await joining_lists.agree(context, joining_lists.token_of(context, asked))


def _answers(
    given: str, family: str, district: str, days: str, car: bool, letters: bool
) -> dict[str, Any]:
    return {
        "name": {"given": given, "family": family},
        "email": f"{given}.{family}@example.net".lower(),
        "district": district,
        "days": days,
        "car": car,
        "letters": letters,
    }
