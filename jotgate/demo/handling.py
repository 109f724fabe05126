"""How far the office has come with the entries of the scenario: statuses, cancelled ones, and an
archive of the oldest."""

from random import Random
from typing import Any
from uuid import UUID

from jotgate.core.dispatch.rules import StatusRule
from jotgate.core.handling import Handling, Status
from jotgate.core.records.accounts import Account
from jotgate.core.table_views import TableView
from jotgate.services.context import Context
from jotgate.services.handling import Change
from jotgate.services.staff import views
from jotgate.services.staff.dispatch import dispatch_rules
from jotgate.services.staff.entries import entry_table, handling
from jotgate.services.staff.entries.entry_table import Asked
from jotgate.services.staff.views import ViewGiven

LINE: dict[str, Any] = {
    "first": {"name": "New", "days": 1, "next": ["received", "cancelled"]},
    "statuses": [
        {
            "key": "received",
            "name": "Received",
            "glyph": "half",
            "tone": "going",
            "next": ["scheduled", "cancelled"],
            "role": "reviewer",
            "days": 5,
        },
        {
            "key": "scheduled",
            "name": "Scheduled",
            "glyph": "diamond",
            "tone": "waiting",
            "next": ["sampled", "received", "cancelled"],
            "days": 14,
        },
        {
            "key": "sampled",
            "name": "Sampled",
            "glyph": "square",
            "tone": "going",
            "next": ["result_sent"],
            "days": 10,
        },
        {
            "key": "result_sent",
            "name": "Result sent",
            "glyph": "tick",
            "tone": "good",
            "final": True,
            "next": [],
        },
        {
            "key": "cancelled",
            "name": "Cancelled",
            "glyph": "cross",
            "tone": "bad",
            "final": True,
            "next": ["received"],
        },
    ],
}
"""How an entry goes through the office."""

KEYS = [one["key"] for one in LINE["statuses"]]

SENT: dict[str, Any] = {
    "key": "result_sent",
    "status": "result_sent",
    "acts": [
        {
            "kind": "notice",
            "to": {"kind": "answer", "name": "email"},
            "subject": {
                "en": "The result of your well water, {entry_number}",
                "es": "El resultado del agua de su pozo, {entry_number}",
                "ar": "نتيجة مياه بئرك، {entry_number}",
            },
            "body": {
                "en": "The result lies in your post. Call us if you have a question.",
                "es": "El resultado va por correo. Llámenos si tiene alguna pregunta.",
                "ar": "النتيجة في بريدك. اتصل بنا إن كان لديك سؤال.",
            },
        }
    ],
}
FRESH = 14
"""Entries, the newest, that nobody has looked at yet."""

ARCHIVED = 30
"""Entries that are done with, behind those."""


TO_SCHEDULE = {
    "filter": {
        "op": "all",
        "parts": [
            {"op": "is", "item": "entry.status", "value": "received"},
            {"op": "one_of", "item": "district", "values": ["saltings", "millbeck"]},
        ],
    },
    "frozen": 1,
    "columns": [
        {"column": "name", "width": 170},
        {"column": "entry.arrived", "width": 140},
        {"column": "district", "width": 120},
        {"column": "uses", "width": 190},
        {"column": "drinkers", "width": 110},
        {"column": "entry.status", "away": True},
    ],
}
"""A view that everybody finds."""


async def _every(context: Context, owner: Account, id: UUID) -> list[UUID]:
    """The entries, the newest first."""
    found: list[UUID] = []
    page = await entry_table.page(context, owner, id)
    while True:
        found += [one.id for one in page.entries]
        if page.next is None:
            return found
        page = await entry_table.page(context, owner, id, Asked(after=page.next))


async def handle(context: Context, owner: Account, id: UUID) -> None:
    """With chances of its own: what comes after it is the same with it and without. The statuses
    get their rules once the entries have theirs."""
    random = Random(20261127)
    value = Handling(statuses=tuple(Status(key=key, name=key) for key in KEYS))
    await handling.save(context, owner, id, value, 1)
    given = ViewGiven("To schedule", TableView.model_validate(TO_SCHEDULE), True)
    await views.keep(context, owner, ("questionnaire", id), None, given)
    found = (await _every(context, owner, id))[FRESH:]
    for number, entry_id in enumerate(found):
        done = number / len(found)
        key = KEYS[min(int(done * 4 + random.random() * 0.8), 3)]
        status = "cancelled" if random.random() < 0.06 else key
        archived = number >= len(found) - ARCHIVED and status == "result_sent"
        change = Change(status, True if archived else None)
        await handling.handle(context, owner, id, [entry_id], change)
    await handling.save(context, owner, id, Handling.model_validate(LINE), 2)
    saved = await dispatch_rules.find(context, owner, id)
    rules = saved.rules.model_copy(update={"on_status": (StatusRule.model_validate(SENT),)})
    await dispatch_rules.save(context, owner, id, rules, saved.revision)
