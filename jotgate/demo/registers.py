"""The registers of the districts as people work in them: visits planned, views kept."""

from datetime import datetime, timedelta
from random import Random
from typing import Any

from jotgate.core.records.accounts import Account
from jotgate.core.registers.columns import Register
from jotgate.core.registers.edits import Edit
from jotgate.core.table_views import TableView
from jotgate.services.context import Context
from jotgate.services.staff import views
from jotgate.services.staff.registers import grid, writing
from jotgate.services.staff.registers.writing import Writing
from jotgate.services.staff.views import ViewGiven

SAMPLERS = ("edda@example.org", "juno@example.org")

OPEN = 12
"""Households of a district that nobody has planned a visit to yet, the newest."""

VIEWS: dict[str, dict[str, Any]] = {
    "Not planned yet": {"filter": {"op": "unanswered", "item": "visit_on"}, "frozen": 1},
    "By sampler": {
        "group": "sampler",
        "sort": [{"column": "visit_on"}],
        "filter": {"op": "answered", "item": "sampler"},
        "frozen": 1,
    },
}


async def plan_visits(
    context: Context, coordinator: Account, register: Register, random: Random, now: datetime
) -> None:
    """Visits on the days to come, by one sampler or the other; and the views for all."""
    order = await grid.order(context, coordinator, register.id, TableView())
    edits: list[Edit] = []
    for number, row in enumerate(order.ids[OPEN:]):
        day = (now + timedelta(days=1 + number // 4)).date().isoformat()
        edits.append(Edit(row, "sampler", random.choice(SAMPLERS), None))
        edits.append(Edit(row, "visit_on", day, None))
    await writing.write(context, coordinator, register.id, Writing(edits, [], False))
    for name, view in VIEWS.items():
        given = ViewGiven(name, TableView.model_validate(view), True)
        await views.keep(context, coordinator, ("register", register.id), None, given)
