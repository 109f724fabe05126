"""At the gate against reality: what it says of somebody at a moment, the public page then does."""

from collections import Counter
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from random import Random
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

import pytest

from jotgate.core.common.errors import InvalidAnswers, JotGateError, Shut, SignInNeeded
from jotgate.core.contacts.contact import Origin
from jotgate.core.gate.settings import Gate
from jotgate.core.walking.arrival import Arrival, Came
from jotgate.services.arrivals import Entrance, seal
from jotgate.services.context import Context
from jotgate.services.gate import Seen
from jotgate.services.public import answering, entering, submitting
from jotgate.services.public.answering import Answers, Turn
from jotgate.services.public.confirming import mail_id
from jotgate.services.staff.gate import at_the_gate, gate
from jotgate.services.staff.gate.at_the_gate import Supposed
from jotgate.store.contacts import contacts, lists
from tests.conftest import Clock
from tests.scenes import Scene, published
from tests.services.public.kits import ALL, BY, kits

CASES = 200
MOMENT = datetime(2026, 11, 27, 12, tzinfo=UTC)
ZONE = "UTC"


@dataclass
class Known:
    """A contact on one list, one on none, and one who opted out."""

    ids: dict[str, UUID]
    list_id: UUID


async def known(context: Context) -> Known:
    ids = {name: context.ids.id() for name in ("ada", "ben", "out")}
    list_id = context.ids.id()
    async with context.engine.begin() as conn:
        for name, id in ids.items():
            out = MOMENT if name == "out" else None
            await contacts.add(
                conn,
                id,
                {"name": name, "email": f"{name}@example.org"},
                out,
                Origin(context.clock.now(), "a test"),
            )
        await lists.add(conn, list_id, "Wells", MOMENT)
        await lists.put_on(conn, list_id, [ids["ada"], ids["out"]])
    return Known(ids, list_id)


def any_gate(random: Random, some: Known) -> Gate:
    """A gate by chance: about half of what can be set is."""

    def maybe(value: Any, other: Any) -> Any:
        return value if random.random() < 0.5 else other

    def local(hours: float) -> str:
        at = (MOMENT + timedelta(hours=hours)).astimezone(ZoneInfo(ZONE))
        return at.strftime("%Y-%m-%dT%H:%M")

    opens = random.uniform(-60, 40)
    window = {"opens": local(opens), "shuts": local(opens + random.uniform(1, 50))}
    weekly = {"days": [1, 2, 3, 4, 5], "opens": "08:00", "shuts": maybe("18:00", "02:00")}
    audience = random.choice(
        [
            [],
            [],
            [{"kind": "passes", "lists": maybe([str(some.list_id)], [])}],
            [{"kind": "signed_in", "domains": maybe(["example.org"], [])}],
            [{"kind": "mail", "domains": maybe(["example.org"], [])}],
        ]
    )
    return Gate.model_validate(
        {
            "state": random.choice(["open"] * 6 + ["shut", "held"]),
            "times": {
                "windows": maybe([window], []),
                "hours": maybe([weekly], []),
                "days_off": maybe([{"on": "2026-11-28"}], []),
            },
            "grace": random.choice([0, 60, 600]),
            "places": maybe([{**ALL, "most": random.randint(0, 3)}, {**BY, "most": 1}], []),
            "per_person": maybe({"most": random.randint(1, 2), "days": 3, "pause": 1}, None),
            "audience": audience,
        }
    )


def any_visitor(random: Random, some: Known) -> tuple[Supposed, Arrival]:
    """Somebody as the desk supposes them, and as they really come."""
    kind = random.choice(["anybody", "contact", "signed_in", "mail"])
    name = random.choice(list(some.ids))
    claims = {"email": f"{name}@example.{random.choice(['org', 'net'])}", "email_verified": "yes"}
    begun = MOMENT + timedelta(hours=random.uniform(-30, 30))
    begun = begun.replace(second=0, microsecond=0)
    going_on = random.random() < 0.5
    moment = begun + timedelta(minutes=random.randint(1, 900)) if going_on else begun
    district = random.choice(["", "saltings", "millbeck"])
    shown = "%Y-%m-%dT%H:%M"
    mail = claims["email"] if kind == "mail" else ""
    supposed = Supposed(
        mail=mail,
        moment=moment.strftime(shown),
        contact=f"{name}@example.org" if kind == "contact" else "",
        claims=claims if kind == "signed_in" else None,
        begun=begun.strftime(shown) if going_on else None,
        given={"district": district} if district and going_on else {},
    )
    came = Came(
        pass_id=UUID(int=7) if kind == "contact" else None,
        contact_id=some.ids[name] if kind == "contact" else None,
        subject_id=at_the_gate.SOMEBODY if kind == "signed_in" else None,
        mail_id=mail_id(mail) if mail else None,
    )
    real = Arrival(
        claims=claims if kind == "signed_in" else {},
        begun=begun.isoformat() if going_on else "",
        mail=mail,
        came=came,
    )
    return supposed, real


async def really(
    context: Context, id: UUID, address: str, supposed: Supposed, real: Arrival
) -> str:
    """What the public page does: lets them in, or on from the page that divides places."""
    sealed = seal(context, id, real)
    entrance = Entrance(arrival=sealed)
    try:
        if supposed.begun is None:
            await entering.visit(context, address, "", entrance=entrance)
            return "admitted"
        given = {"name": "Ines", **supposed.given}
        answers = Answers("", 1, given, arrival=sealed)
        _, following = await answering.page(context, address, answers, Turn("onward", "kit"))
        failed = getattr(following, "failed", {})
        if "district" in failed and failed["district"].code == "option_full":
            return "gone"
    except SignInNeeded:
        return "not_invited"
    except Shut as refused:
        return str(refused.params["reason"])
    return "admitted"


@pytest.mark.long
async def test_what_it_says_is_what_happens(scene: Scene, clock: Clock) -> None:
    random, context, owner = Random(20261127), scene.context, scene.coordinator
    some = await known(context)
    id, address = await published(context, owner, kits())
    seen: Counter[str] = Counter()
    for number in range(CASES):
        clock.at = MOMENT + timedelta(hours=random.uniform(-30, 30))
        saved = await gate.find(context, owner, id)
        value = any_gate(random, some)
        await gate.save(context, owner, id, value, saved.revision)
        supposed, real = any_visitor(random, some)
        if number % 2 == 0:
            await sent(context, address, real, number)
        assert supposed.moment is not None
        clock.at = datetime.fromisoformat(supposed.moment).replace(tzinfo=UTC)
        told = (await at_the_gate.ask(context, owner, id, supposed)).decision
        said = told.why[0].reason if told.why else "admitted"
        assert said == await really(context, id, address, supposed, real), (number, value, supposed)
        seen[said] += 1
        seen["in grace"] += told.in_grace
    wanted = {"admitted", "shut", "held", "not_yet", "over", "opted_out", "not_invited"}
    assert not [one for one in (*wanted, "answered", "full", "gone", "in grace") if not seen[one]]


async def sent(context: Context, address: str, real: Arrival, number: int) -> None:
    """Send an entry as they would, if the gate lets them."""
    state = await entering.state_of(context, address)
    assert state is not None
    key = f"{number:020}"
    answers = Answers(
        "",
        1,
        {"name": "Ines", "district": "saltings"},
        arrival=seal(context, state.id, real),
        seen=Seen(key),
    )
    try:
        await submitting.submit(context, address, answers, key)
    except (InvalidAnswers, JotGateError):
        return
