"""Questionnaires that lead on to each other, which several tests of ways begin from."""

import asyncio
from uuid import UUID

import pytest

from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.hand_off import HandedValue, HandOff
from jotgate.core.links import Links
from jotgate.core.registers.columns import Column
from jotgate.local.installation import Installation
from jotgate.services.context import Context
from jotgate.services.staff.dispatch import dispatch_rules
from jotgate.services.staff.links import links_part
from jotgate.services.staff.registers import registers
from jotgate.store.accounts import accounts as account_store
from jotgate.wiring import open_context
from tests.documents import finish, is_, item, options, page, questionnaire, words
from tests.scenes import published

CANARY = "xq7canary"


CLIENTS = (CANARY, "brook", "fell")


def check() -> Questionnaire:
    clients = options(*CLIENTS)
    clients[0]["label"] = words("Quetzalcoatl")
    return questionnaire(
        page(
            "start",
            item("carried", "client", options=clients, sources=[{"kind": "pass"}], sealed=True),
            item("carried", "well", sources=[{"kind": "pass"}], shown="locked"),
            item("name", "who", text=words("Who are you?"), required=True),
        ),
        finishes=(finish("done", title=words("Thank you, {who.given}")),),
        title=words("Client check"),
    )


def visit() -> Questionnaire:
    return questionnaire(
        page(
            "p",
            item("name", "who", text=words("Who is visited?")),
            item("short_text", "remark", text=words("Remark")),
        ),
        title=words("Client visit"),
    )


class Set:
    """What the tests begin from: ids and addresses."""

    def __init__(self, id: UUID, address: str, registers: dict[str, UUID]) -> None:
        self.id, self.address, self.registers = id, address, registers


WHO = {"who": {"kind": "entry", "name": "who"}}


async def _set_up(context: Context) -> Set:
    async with context.engine.connect() as conn:
        known = await account_store.by_email(conn, "rowan@example.org", context.clock.now())
    assert known is not None
    owner = known[0]
    id, address = await published(context, owner, check())
    _, to = await published(context, owner, visit())
    columns = [Column(key="who", label="Who")]
    made = {
        code: (await registers.add(context, owner, f"Client {code}", columns)).id
        for code in CLIENTS
    }
    rules = [
        {
            "key": code,
            "when": is_("client", code),
            "acts": [{"kind": "file", "register_id": str(made[code]), "columns": WHO}],
        }
        for code in CLIENTS
    ]
    await dispatch_rules.save(context, owner, id, Dispatch.model_validate({"rules": rules}), 1)
    along = (HandedValue(source="who", target="who", locked=True),)
    on = HandOff(finish="done", to=to, label=words("To the visit"), values=along)
    await links_part.save(context, owner, id, Links(hand_offs=(on,)), 1)
    return Set(id, address, made)


@pytest.fixture(scope="session")
def made(installation: Installation) -> Set:
    async def go() -> Set:
        async with open_context(installation.settings) as context:
            return await _set_up(context)

    return asyncio.run(go())
