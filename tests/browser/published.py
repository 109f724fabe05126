"""Questionnaires that several of these tests answer, and how to publish them."""

import asyncio
import uuid
from typing import Any

from jotgate.core.document.questionnaire import Questionnaire
from jotgate.local.installation import Installation
from jotgate.store.accounts import accounts as account_store
from jotgate.wiring import open_context
from tests.documents import item, options, page, questionnaire, words
from tests.scenes import published

CHECKS = [{"left": "to", "relation": "at_least", "right": "from", "message": words("Too early.")}]
EVERY_KIND = questionnaire(
    page(
        "all",
        item("note", "hello"),
        item("short_text", "word", required=True, longest=5, help=words("Five letters.")),
        item("long_text", "story", required=True),
        item("email", "mail", required=True),
        item("phone", "ring", required=True),
        item("web_address", "site", required=True),
        item("number", "amount", required=True, at_most="9", unit=words("litres")),
        item("date", "from", required=True),
        item("date", "to"),
        item("time", "clock", required=True),
        item("date_time", "moment", required=True),
        item("yes_no", "sure", required=True),
        item("pick_one", "one", options=options("own", "shared"), required=True),
        item("pick_one", "menu", options=options("red", "blue"), look="dropdown", required=True),
        item("pick_one", "row", options=options("up", "down"), look="buttons", required=True),
        item("pick_many", "many", options=options("tea", "milk"), required=True),
        item("rank", "order", options=options("first", "second"), required=True),
        item("scale", "loud", low_label=words("soft"), high_label=words("noisy"), required=True),
        item("name", "who", required=True),
        item("address", "where", required=True, countries=["GB", "PT"]),
        item(
            "location", "spot", near={"latitude": "52.4", "longitude": "-20.6", "kilometres": "40"}
        ),
        item("file", "photo", kinds=["picture"], most=3, largest=1, required=True),
        item("signature", "signed", required=True),
        item(
            "grid",
            "taps",
            required=True,
            rows=options("kitchen", "garden"),
            columns=[item("number", "drawn"), item("yes_no", "hot")],
            totals=["drawn"],
        ),
        item(
            "roster",
            "wells",
            noun=words("well"),
            title={"en": "{well}"},
            required=True,
            items=[item("short_text", "well", required=True), item("number", "depth")],
        ),
        checks=CHECKS,
    )
)
LONG = questionnaire(
    page(
        "p",
        item("pick_one", "place", options=options(*(f"place{n}" for n in range(2000)))),
        item("pick_many", "places", options=options(*(f"spot{n}" for n in range(2000)))),
        item(
            "roster",
            "people",
            most=50,
            noun=words("person"),
            title={"en": "{person}"},
            items=[
                item("short_text", "person"),
                *(item("short_text", f"more{n}") for n in range(8)),
                item("yes_no", "adult"),
            ],
        ),
    )
)

PICTURE = {"media": str(uuid.uuid4()), "width": 1200, "height": 900, "text": words("A well head")}
LAYOUTS: dict[str, dict[str, Any]] = {
    "one by one": {"one_by_one": True},
    "wide": {"width": "wide"},
    "beside": {"picture": {**PICTURE, "place": "beside"}},
    "all of it": {
        "one_by_one": True,
        "width": "wide",
        "picture": {**PICTURE, "place": "beside"},
        "introduction": words("Ten minutes."),
    },
}


def in_layout(name: str, document: Questionnaire = EVERY_KIND) -> Questionnaire:
    whole = document.model_dump(mode="json") | {"look": LAYOUTS[name]}
    return Questionnaire.model_validate(whole)


def public(installation: Installation, document: Questionnaire) -> str:
    async def open_it() -> str:
        async with open_context(installation.settings) as context:
            async with context.engine.connect() as conn:
                found = await account_store.by_email(conn, "rowan@example.org", context.clock.now())
            assert found is not None
            return (await published(context, found[0], document))[1]

    return f"{installation.settings.public_url}/q/{asyncio.run(open_it())}"
