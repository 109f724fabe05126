"""How far the office has come with the entries of the scenario: statuses, cancelled ones, and an
archive of the oldest."""

from random import Random
from uuid import UUID

from jotgate.core.handling import Handling, Status
from jotgate.core.records.accounts import Account
from jotgate.core.table_views import TableView
from jotgate.services.context import Context
from jotgate.services.handling import Change
from jotgate.services.staff import entry_table, handling, views
from jotgate.services.staff.views import ViewGiven

STATUSES = {
    "received": "Received",
    "scheduled": "Scheduled",
    "sampled": "Sampled",
    "result_sent": "Result sent",
    "cancelled": "Cancelled",
}
FRESH = 6
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


async def handle(context: Context, owner: Account, id: UUID) -> None:
    """With chances of its own: what comes after it is the same with it and without."""
    random = Random(20261127)
    value = Handling(statuses=tuple(Status(key=key, name=STATUSES[key]) for key in STATUSES))
    await handling.save(context, owner, id, value, 1)
    given = ViewGiven("To schedule", TableView.model_validate(TO_SCHEDULE), True)
    await views.keep(context, owner, ("questionnaire", id), None, given)
    page = await entry_table.page(context, owner, id)
    found = [one.id for one in page.entries][FRESH:]
    for number, entry_id in enumerate(found):
        done = number / len(found)
        key = list(STATUSES)[min(int(done * 4 + random.random() * 0.8), 3)]
        status = "cancelled" if random.random() < 0.06 else key
        archived = number >= len(found) - ARCHIVED and status == "result_sent"
        change = Change(status, True if archived else None)
        await handling.handle(context, owner, id, [entry_id], change)
