"""The gates of the scenario: one with places and an end, one that is full, hours, signing in."""

from collections.abc import Callable, Mapping
from datetime import datetime, timedelta
from uuid import UUID

from jotgate.core.gate.people import Changing, PerPerson, Robots, SignedIn
from jotgate.core.gate.settings import Gate, Limit, Places, Waiting
from jotgate.core.gate.times import DayOff, Hours, Times, Window
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.staff.gate import gate

FULL = {
    "en": "All seats at the table are taken. The next panel meets in spring.",
    "es": "Todos los asientos están ocupados. El próximo panel se reúne en primavera.",
}
BOTTLES = "All bottles of this round are given out. The next round opens in spring."

At = Callable[[datetime], Context]


async def held_once(at: At, owner: Account, id: UUID, now: datetime) -> None:
    """Some weeks ago the form was corrected for two days."""
    for days, state, note in ((20, "held", "Form being corrected"), (18, "open", "")):
        then = at(now - timedelta(days=days))
        saved = await gate.find(then, owner, id)
        value = saved.value.model_copy(update={"state": state, "note": note})
        await gate.save(then, owner, id, value, saved.revision)


async def set_gates(context: Context, owner: Account, ids: Mapping[str, UUID]) -> None:
    now = context.clock.now()
    for name, value in _gates(now).items():
        saved = await gate.find(context, owner, ids[name])
        await gate.save(context, owner, ids[name], value, saved.revision)


def _gates(now: datetime) -> dict[str, Gate]:
    until = (now + timedelta(days=12)).date()
    off = (now + timedelta(days=5)).date()
    districts = (("upper_fell", 90), ("saltings", 120), ("millbeck", 120), ("long_moss", 70))
    return {
        "private_well_check": Gate(
            state="open",
            times=Times(windows=(Window(shuts=f"{until}T18:00"),)),
            grace=30,
            hold=20,
            freed_by=("cancelled",),
            changing=Changing(until=f"{until}T18:00", statuses=("", "received")),
            places=(
                Places(key="kits", name="Test kits", most=400),
                Places(
                    key="districts",
                    name="Kits by district",
                    by=("district",),
                    limits=tuple(Limit(values=(code,), most=most) for code, most in districts),
                ),
            ),
            waiting=Waiting(on=True, hours=48),
            per_person=PerPerson(most=2, days=90, known_by=("sign_in", "contact", "pass")),
            robots=Robots(proof=14, trap=True),
            tell=("laboratory@example.org",),
            low=20,
            words={"full": {"en": BOTTLES}},
        ),
        "taste_panel": Gate(
            state="open",
            places=(Places(key="seats", name="Seats", most=60),),
            waiting=Waiting(on=True, hours=72),
            words={"full": FULL},
        ),
        "bottle_return": Gate(
            state="open",
            times=Times(
                hours=(Hours(days=(1, 2, 3, 4, 5, 6, 7), opens="00:00", shuts="24:00"),),
                days_off=(DayOff(on=off, note="Stocktaking"),),
            ),
        ),
        "sampler_sign_up": Gate(
            state="open",
            audience=(SignedIn(),),
            per_person=PerPerson(known_by=("sign_in",)),
            changing=Changing(),
        ),
    }
