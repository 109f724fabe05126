"""Loads the demo scenario through the same use cases that people's requests go through."""

import json
from collections.abc import Callable, Mapping
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path
from random import Random
from typing import Any
from urllib.parse import urlencode
from uuid import UUID

from jotgate.adapters.simulated.identity_provider import Known
from jotgate.core.common.today import Today
from jotgate.core.document.look import HeaderPicture
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.gate.settings import Gate
from jotgate.core.items import Question
from jotgate.core.office import Office
from jotgate.core.records.accounts import Account
from jotgate.core.registers.columns import Register
from jotgate.core.rights import Role
from jotgate.demo.clock import FixedClock
from jotgate.demo.gates import held_once, set_gates
from jotgate.demo.handling import handle
from jotgate.demo.people import answers_of
from jotgate.demo.photos import bottles, well_head, well_plan
from jotgate.demo.registers import plan_visits
from jotgate.demo.rounds import play_round
from jotgate.demo.rules import called, make_registers, set_rules
from jotgate.demo.shared import share_pages
from jotgate.demo.sign_ups import sign_up
from jotgate.demo.stopped import stop_some
from jotgate.demo.ways import (
    DISTRICTS,
    VOLUNTEERS,
    Unasked,
    Ways,
    contacts_of_table,
    leaflets,
    letters,
    linked_with_bank,
    onward,
    passes_of_table,
    sign_in,
)
from jotgate.local.cluster import SetupError
from jotgate.services.arrivals import seal
from jotgate.services.context import Context
from jotgate.services.dispatch.arriving import dispatch_entry
from jotgate.services.public import submitting, uploads
from jotgate.services.public.answering import Answers
from jotgate.services.public.uploads import AnnouncedFile
from jotgate.services.staff import bank, desk, media, office, questionnaires, sharing
from jotgate.services.staff.accounts import people
from jotgate.services.staff.gate import gate
from jotgate.settings import Settings
from jotgate.store.accounts import accounts as account_store
from jotgate.wiring import open_context

ORDER = ("taste_panel", "bottle_return", "sampler_sign_up", "sampling_visit", "private_well_check")

DOCUMENTS = Path(__file__).parent / "questionnaires"
PASSWORD = "well-water-2026"  # noqa: S105 - it is printed at every start
ACCOUNTS: tuple[tuple[str, str, Role | None], ...] = (
    ("rowan@example.org", "Rowan Oake", "owner"),
    ("edda@example.org", "Edda Brook", "coordinator"),
    ("juno@example.org", "Juno Marsh", None),
    ("sam@example.org", "Sam Tarn", "reviewer"),
)
PEOPLE: Mapping[str, Known] = {
    **{email: name for email, name, _ in ACCOUNTS},
    **VOLUNTEERS,
}
"""Whom the identity provider knows."""

TEAMS = (
    ("Laboratory", "laboratory@example.org", ("Rowan Oake", "Edda Brook")),
    ("Saltings crew", "saltings-crew@example.org", ("Sam Tarn", "Juno Marsh")),
)
SAYS = {
    "Rowan Oake": "owner, cleared for Private well check",
    "Edda Brook": "coordinator of the office",
    "Juno Marsh": "in Private well check as a reader, through the Saltings crew",
    "Sam Tarn": "reviewer of the office",
}
"""Who may do what, for those who try it."""
ENTRIES = {"bottle_return": 74, "taste_panel": 60, "sampling_visit": 22, "private_well_check": 168}
"""How many past entries each questionnaire gets; the rules see those of the well check."""

LATELY = 6
"""Entries of the well check that arrive last of all and are left for the worker to dispatch."""

DAYS = 14


def documents() -> dict[str, Questionnaire]:
    """The scenario's questionnaires by file name, in the order in which they were started."""
    return {
        path.stem: Questionnaire.model_validate(json.loads(path.read_text(encoding="utf-8")))
        for path in (DOCUMENTS / f"{name}.json" for name in ORDER)
    }


async def load_once(settings: Settings, say: Callable[[str], None]) -> bool:
    """Load the scenario unless it is there; whether it had to be loaded. Raises SetupError."""
    async with open_context(settings) as context:
        async with context.engine.connect() as conn:
            now = context.clock.now()
            if await account_store.by_email(conn, ACCOUNTS[-1][0], now):
                return False
            if await account_store.by_email(conn, ACCOUNTS[0][0], now):
                raise SetupError("The demo data came in only in part. Start over: bin/demo --fresh")
        say("Loading the demo data")
        port = settings.webhook_bench_port if settings.webhook_bench else None
        await _load(context, settings.oidc_issuer, port, say)
        return True


async def _load(
    context: Context, issuer: str, bench: int | None, say: Callable[[str], None]
) -> None:
    """Accounts come last in a load, so that a load that was cut off is seen as not done."""
    random = Random(20261125)
    now = context.clock.now()
    coordinator = await people.add(context, *ACCOUNTS[0], PASSWORD)
    await _office(context, coordinator)
    made = await make_registers(context, coordinator)
    ids: dict[str, UUID] = {}
    asked: dict[str, UUID] = {}
    for position, (name, document) in enumerate(documents().items()):
        earlier = replace(context, clock=FixedClock(now - timedelta(days=60 - position)))
        picture = bottles() if name == "bottle_return" else None
        if name == "sampler_sign_up":
            document, asked = await linked_with_bank(context, coordinator, document)
        ids[name] = await _questionnaire(earlier, coordinator, document, picture)
    wells = ids["private_well_check"]
    await held_once(lambda at: replace(context, clock=FixedClock(at)), coordinator, wells, now)
    by_leaflet = await leaflets(context, coordinator, wells)
    await onward(context, coordinator, wells, ids["sampling_visit"])
    await set_rules(context, coordinator, wells, made)
    say("  A round of outreach")
    households = await contacts_of_table(context, coordinator)
    await play_round(context, coordinator, wells)
    for name, count in ENTRIES.items():
        say(f"  {count} entries for {name.replace('_', ' ')}")
        by = by_leaflet if name == "private_well_check" else {}
        await _entries(context, coordinator, ids[name], count, random, now, by)
    await handle(context, coordinator, wells)
    await set_rules(
        context, coordinator, wells, made, now=await called(context, coordinator, wells, bench)
    )
    await _lately(context, coordinator, wells, random, by_leaflet)
    address = (await questionnaires.summary(context, coordinator, wells)).address
    await stop_some(context, address, wells, Random(197), now)
    await share_pages(context, coordinator, wells)
    await passes_of_table(context, coordinator, wells)
    await letters(context, coordinator, wells, households)
    for name in ("taste_panel", "sampler_sign_up"):
        await desk.put(context, coordinator, ids[name], folder="People who help")
    for item in documents()["private_well_check"].items():
        if item.key in ("name", "email", "home"):
            assert isinstance(item, Question)
            await bank.add(context, coordinator, item)
    await sharing.clear(context, coordinator, wells, coordinator.id, None, False)
    others = [await people.add(context, *one, PASSWORD) for one in ACCOUNTS[1:-1]]
    for name in DISTRICTS.values():
        await plan_visits(context, coordinator, made[name], random, now)
    last = await people.add(context, *ACCOUNTS[-1], PASSWORD)
    teams = await _teams(
        context, coordinator, [coordinator, *others, last], wells, made["Saltings"]
    )
    await sign_up(context, coordinator, ids["sampler_sign_up"], teams, now)
    await set_gates(context, coordinator, ids)
    if issuer:
        await sign_in(context, coordinator, issuer, ids["sampler_sign_up"], asked)


async def _office(context: Context, owner: Account) -> None:
    saved = await office.settings(context, owner)
    settings = Office(
        name=NAME,
        languages=("en", "es", "ar"),
        sender="post@example.org",
        reply_to="office@example.org",
        foot={
            "en": "Thornmere Well Watch, 4 Weir Street, Thornmere",
            "es": "Thornmere Well Watch, Weir Street 4, Thornmere",
        },
        imprint="https://example.org/imprint",
        privacy="https://example.org/privacy",
    )
    await office.save(context, owner, settings, saved.revision)


async def _teams(
    context: Context, owner: Account, everybody: list[Account], wells: UUID, saltings: Register
) -> dict[str, UUID]:
    """The Saltings crew reads the entries of the well check, and its own register. The teams by
    name."""
    ids = {account.name: account.id for account in everybody}
    made: dict[str, UUID] = {}
    for name, address, members in TEAMS:
        named = [ids[one] for one in members]
        made[name] = (await people.save_team(context, owner, None, name, address, named)).id
    crew = made["Saltings crew"]
    await sharing.give(context, owner, "questionnaire", wells, "reader", team=crew)
    await sharing.give(context, owner, "register", saltings.id, "reader", team=crew)
    return made


NAME = "Thornmere Well Watch"


async def _questionnaire(
    context: Context, coordinator: Account, document: Questionnaire, picture: bytes | None
) -> UUID:
    id = await questionnaires.add(context, coordinator, "", document)
    revision = 1
    if picture:
        revision = await _picture(context, coordinator, id, document, picture)
    await questionnaires.publish(context, coordinator, id, revision)
    await gate.save(context, coordinator, id, Gate(state="open"), 1)
    return id


async def _picture(
    context: Context, coordinator: Account, id: UUID, document: Questionnaire, picture: bytes
) -> int:
    """Put a picture beside the questions; the draft's revision after that."""
    medium, seen = await media.add(context, coordinator, id, "bottles.jpg", picture)
    about = {
        "media": medium.id,
        "width": seen.width,
        "height": seen.height,
        "text": {"en": "Three sample bottles on a shelf"},
        "place": "beside",
    }
    look = document.look.model_copy(update={"picture": HeaderPicture.model_validate(about)})
    whole = document.model_copy(update={"look": look})
    body = {"revision": 1, "document": whole.model_dump(mode="json")}
    saved = await questionnaires.save_draft(context, coordinator, id, json.dumps(body).encode())
    return saved.revision


async def _entries(
    context: Context,
    coordinator: Account,
    id: UUID,
    count: int,
    random: Random,
    now: datetime,
    ways: Ways,
) -> None:
    """Submit `count` entries, more of them lately, the oldest first, and dispatch each."""
    unasked = Unasked()
    summary = await questionnaires.summary(context, coordinator, id)
    async with context.engine.connect() as conn:
        plan = await context.plan(conn, id, 1)
    ages = sorted((random.triangular(0.02, DAYS, 1) for _ in range(count)), reverse=True)
    for age in ages:
        then = replace(context, clock=FixedClock(now - timedelta(days=age)), queue=unasked)
        carried = _carried(plan.questionnaire, random)
        given = answers_of(plan, random, carried, Today(then.clock.now()))
        if "photo" in plan.files and "wells" in given and random.random() < 0.15:
            given["photo"] = [await _photo(then, summary.address, random)]
        answers = _answers(then, id, carried, given, ways)
        taken = await submitting.submit(then, summary.address, answers, str(context.ids.id()))
        await dispatch_entry(then, id, taken.id)


def _answers(
    context: Context, id: UUID, carried: dict[str, str], given: dict[str, Any], ways: Ways
) -> Answers:
    """What somebody sends who came by the leaflet of their district, or with plain values."""
    arrival = ways.get(carried.get("district", ""))
    if arrival is None:
        return Answers(urlencode(carried), 1, given)
    return Answers("", 1, given, arrival=seal(context, id, arrival))


async def _photo(context: Context, address: str, random: Random) -> dict[str, str]:
    """A photo, or here and there a plan, sent as a browser sends it."""
    data, number = well_head(random), random.randrange(1000, 9999)
    name = f"IMG_{number}.jpg"
    if number % 3 == 0:
        data, name = well_plan(Random(number)), f"Well plan {number}.pdf"
    about = AnnouncedFile(1, "photo", name, len(data), "en")
    sent = await uploads.begin(context, address, about, "127.0.0.1")
    await uploads.take(context, address, sent.id, 0, data, "en", "127.0.0.1")
    return {"id": str(sent.id)}


async def _lately(
    context: Context, coordinator: Account, id: UUID, random: Random, ways: Ways
) -> None:
    """Entries of today with everything that follows from them, mail included."""
    address = (await questionnaires.summary(context, coordinator, id)).address
    async with context.engine.connect() as conn:
        plan = await context.plan(conn, id, 1)
    today = Today(context.clock.now())
    for number in range(LATELY):
        carried = {"district": "millbeck" if number == 2 else "saltings"}
        given = answers_of(plan, random, carried, today)
        answers = _answers(context, id, carried, given, ways)
        await submitting.submit(context, address, answers, str(context.ids.id()))


def _carried(document: Questionnaire, random: Random) -> dict[str, str]:
    """What the link of one visitor carries; some come without it."""
    keys = {item.key for item in document.items() if item.kind == "carried"}
    values = {}
    if "district" in keys and random.random() < 0.9:
        values["district"] = random.choice(list(DISTRICTS))
    if "household" in keys:
        values["household"] = f"H-{random.randrange(100, 999)}"
    return values
