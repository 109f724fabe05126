"""The ways in of the demo scenario: leaflets, passes, contacts with letters, sign-in."""

from collections.abc import Mapping
from dataclasses import replace
from datetime import timedelta
from random import Random
from typing import Any
from uuid import UUID

from jotgate.adapters.simulated.identity_provider import CLIENT_ID, CLIENT_SECRET
from jotgate.core.contacts.fields import ContactField
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.formats.table import write
from jotgate.core.hand_off import HandedValue, HandOff
from jotgate.core.items import Question
from jotgate.core.items.parts import FromBank
from jotgate.core.links import Links
from jotgate.core.mailing import MailingText
from jotgate.core.records.accounts import Account
from jotgate.core.sign_in import ClaimMapping, IdentityProvider, VisitorSignIn
from jotgate.core.walking.arrival import Arrival, Came
from jotgate.ports.queue import Sql, Task
from jotgate.services import doing
from jotgate.services.context import Context
from jotgate.services.staff import bank, identity_providers, questionnaires
from jotgate.services.staff.contacts import bringing, contacts, fields, lists
from jotgate.services.staff.contacts.bringing import Bringing
from jotgate.services.staff.links import links_part, mailings, named_links, passes
from jotgate.services.staff.links.mailings import NewMailing
from jotgate.services.staff.links.passes import NewPasses
from jotgate.store.base import nothing

DISTRICTS = {
    "saltings": "Saltings",
    "upper_fell": "Upper Fell",
    "millbeck": "Millbeck",
    "long_moss": "Long Moss",
}


class Unasked:
    """A queue for the loader, which does itself what it would have asked for."""

    def asking(self, task: Task, arguments: Sql) -> Sql:
        return nothing()


Ways = Mapping[str, Arrival]
"""By district what is known of those who come by its leaflet."""


async def leaflets(context: Context, coordinator: Account, wells: UUID) -> Ways:
    """A named link for each district, which the visitor can neither read nor change."""
    found = {}
    for code, name in DISTRICTS.items():
        values = (("district", code),)
        link = await named_links.add(context, coordinator, wells, f"Leaflet, {name}", values)
        found[code] = Arrival(values=values, came=Came(link_id=link.id))
    return found


GOES_ALONG = (
    HandedValue(source="household", target="household"),
    HandedValue(source="well", target="well"),
    HandedValue(source="name", target="resident", locked=True),
    HandedValue(source="home", target="home"),
)


async def onward(context: Context, coordinator: Account, wells: UUID, visit: UUID) -> None:
    """Who asked for a visit may go on with the sampling visit; one site may frame the check."""
    to = (await questionnaires.summary(context, coordinator, visit)).address
    label = {"en": "Go on with the sampling visit", "es": "Continuar con la visita"}
    one = HandOff(finish="booked", to=to, label=label, values=GOES_ALONG)
    saved = await links_part.find(context, coordinator, wells)
    settings = Links(hand_offs=(one,), frames=("https://thornmere.example.org",))
    await links_part.save(context, coordinator, wells, settings, saved.revision)


HOUSEHOLDS = 24
"""Households that get a letter with a pass each."""


async def passes_of_table(context: Context, coordinator: Account, wells: UUID) -> None:
    """A pass for each household of a table, as the worker makes them."""
    random = Random(24)
    codes = list(DISTRICTS)
    rows = [
        (f"H-{number}", DISTRICTS[random.choice(codes)], f"TW-{random.randrange(2100, 2400)}")
        for number in range(401, 401 + HOUSEHOLDS)
    ]
    body = write(("Household", "District", "Well"), rows).encode()
    here = replace(context, queue=Unasked())
    table, columns = await passes.take_table(here, coordinator, wells, "letters-autumn.csv", body)
    until = context.clock.now() + timedelta(days=60)
    wanted = NewPasses("Letters of autumn", table.id, columns, (), until, 1)
    await doing.do(context, (await passes.ask(here, coordinator, wells, wanted)).id)


GIVEN = "Ines Tove Bram Liv Otto Nell Finn Ada Sol Ivo Mara Jon Vera Nils Hanne Per".split()
FAMILY = "Moor Lind Reed Holm Ash Fenn Dale Brook Hale Sand Vik Thorn Marsh Quill Beck Rowe".split()
HOUSEHOLDS_WRITTEN_TO = 32

AUTUMN = MailingText(
    subject={"en": "A free test of your well, {contact.name}", "es": "Un análisis gratuito"},
    body={
        "en": "Dear {contact.name|neighbour},\n\nThornmere Well Watch tests private wells in "
        "{contact.district|your district} this autumn, free of charge. Your well is "
        "{contact.well|not on our map yet}.\n\nAnswer a few questions here, and a sampler comes "
        "to you:\n{link}\n\nThe crew of Thornmere Well Watch",
        "es": "Estimada familia {contact.name|vecina}:\n\nThornmere Well Watch analiza este otoño "
        "los pozos particulares, sin coste alguno.\n\nResponda aquí unas preguntas:\n{link}",
    },
    per_minute=60,
)


async def contacts_of_table(context: Context, owner: Account) -> UUID:
    """Households with wells, brought in from a table; one of them wants no letters. Their list."""
    random = Random(32)
    names = tuple(DISTRICTS.values())
    district = ContactField(key="district", label="District", kind="pick", options=names)
    for field in (district, ContactField(key="well", label="Well")):
        await fields.add(context, owner, field)
    called = [
        (GIVEN[number % 16], FAMILY[(number * 5 + number // 16 * 3) % 16])
        for number in range(HOUSEHOLDS_WRITTEN_TO)
    ]
    rows = [
        (
            f"H-{501 + number}",
            f"{called[number][0]} {called[number][1]}",
            f"{called[number][0]}.{called[number][1]}@example.net".lower(),
            ("en", "en", "en", "es")[number % 4],
            random.choice(names),
            f"TW-{random.randrange(2400, 2700)}",
        )
        for number in range(HOUSEHOLDS_WRITTEN_TO)
    ]
    head = ("Household number", "Name", "Mail address", "Language", "District", "Well")
    here = replace(context, queue=Unasked())
    body = write(head, rows).encode()
    table, columns = await bringing.take_table(here, owner, "households.csv", body)
    looked = await bringing.look(here, owner, table.id, {**columns, 0: "key"})
    await doing.do(context, looked.id)
    wanted = Bringing(table.id, "update", None, "Households with wells")
    await doing.do(context, (await bringing.bring(here, owner, wanted)).id)
    found = (await contacts.page(context, owner, "H-507", None, None)).contacts
    await contacts.set_out(context, owner, found[0].id, True)
    return (await lists.every(context, owner))[0].id


async def letters(context: Context, owner: Account, wells: UUID, list_id: UUID) -> None:
    """A letter to everybody on the list, which the worker sends."""
    until = context.clock.now() + timedelta(days=60)
    wanted = NewMailing("Letter of autumn", AUTUMN, list_id, "", (), until, 1)
    await mailings.ask(context, owner, wells, wanted)


VOLUNTEERS: Mapping[str, Mapping[str, Any]] = {
    "tove.lind@example.net": {
        "name": "Tove Lind",
        "given_name": "Tove",
        "family_name": "Lind",
        "groups": ["samplers"],
        "crew": "Saltings crew",
    },
    "bram.reed@example.net": {
        "name": "Bram Reed",
        "given_name": "Bram",
        "family_name": "Reed",
        "groups": ["samplers", "drivers"],
        "crew": "Fell crew",
    },
}
"""People whom the identity provider knows beside those of the office."""


async def linked_with_bank(
    context: Context, owner: Account, document: Questionnaire
) -> tuple[Questionnaire, dict[str, UUID]]:
    """The questionnaire with its questions of name and address kept in the bank, by key."""
    ids: dict[str, UUID] = {}
    pages = []
    for page in document.pages:
        items = []
        for item in page.items:
            if item.key in ("name", "email"):
                assert isinstance(item, Question)
                kept = await bank.add(context, owner, item)
                ids[item.key] = kept.id
                item = item.model_copy(
                    update={"banked": FromBank(id=kept.id, revision=kept.revision)}
                )
            items.append(item)
        pages.append(page.model_copy(update={"items": tuple(items)}))
    return document.model_copy(update={"pages": tuple(pages)}), ids


async def sign_in(
    context: Context, owner: Account, issuer: str, id: UUID, asked: Mapping[str, UUID]
) -> None:
    """Volunteers sign in at the simulated provider, which fills in who they are."""
    mappings = (
        ClaimMapping(claim="given_name", question=asked["name"], part="given"),
        ClaimMapping(claim="family_name", question=asked["name"], part="family"),
        ClaimMapping(claim="email", question=asked["email"], locked=False),
    )
    provider = IdentityProvider(
        name="Thornmere accounts", issuer=issuer, client_id=CLIENT_ID, mappings=mappings
    )
    kept = await identity_providers.add(context, owner, provider, CLIENT_SECRET)
    saved = await links_part.find(context, owner, id)
    needed = Links(sign_in=VisitorSignIn(providers=(kept,), needed=True))
    await links_part.save(context, owner, id, needed, saved.revision)
