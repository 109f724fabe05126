"""A context with people, a questionnaire and rules in it, to begin a test from."""

from dataclasses import dataclass
from uuid import UUID

import orjson
from sqlalchemy import text

from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.gate.settings import Gate
from jotgate.core.publishing.drafts import Draft, DraftJson
from jotgate.core.records.accounts import Account, Clearance
from jotgate.core.registers.columns import Column, Register
from jotgate.services.context import Context
from jotgate.services.public import submitting
from jotgate.services.public.answering import Answers
from jotgate.services.public.submitted import Submitted
from jotgate.services.staff import questionnaires
from jotgate.services.staff.accounts import people
from jotgate.services.staff.dispatch import dispatch_rules
from jotgate.services.staff.gate import gate
from jotgate.services.staff.registers import registers
from jotgate.store.accounts import parts
from tests.documents import is_, well_check

PASSWORD = "a long enough password"
SECRET = "cramps after every glass"


@dataclass(frozen=True)
class Scene:
    context: Context
    coordinator: Account
    reviewer: Account
    id: UUID
    address: str
    saltings: Register
    rest: Register

    async def submit(self, key: str, link: str = "", **given: str | bool) -> Submitted:
        """Submit answers, with a key that is padded to the length of a real one."""
        answers = Answers(link, 1, {"name": "Ines", "source": "own", **given})
        return await submitting.submit(self.context, self.address, answers, key.rjust(20, "0"))


def rules(saltings: Register, rest: Register) -> Dispatch:
    mapping = {key: {"kind": "entry", "name": key} for key in ("name", "drinkers")}
    file = {"kind": "file", "columns": mapping}
    notice = {
        "kind": "notice",
        "to": {"kind": "address", "address": "crew@example.org"},
        "subject": {"en": "New from {name}"},
        "body": {"en": "{name} in {district}: {source}, {drinkers} people"},
    }
    return Dispatch.model_validate(
        {
            "rules": [
                {
                    "key": "saltings",
                    "when": is_("district", "saltings"),
                    "acts": [{**file, "register_id": str(saltings.id)}, notice],
                }
            ],
            "otherwise": [{**file, "register_id": str(rest.id)}],
        }
    )


async def published(context: Context, owner: Account, document: Questionnaire) -> tuple[UUID, str]:
    """The id and the public address of a questionnaire that is open to answers."""
    id = await questionnaires.add(context, owner, "", document)
    await questionnaires.publish(context, owner, id, 1)
    await gate.save(context, owner, id, Gate(state="open"), 1)
    return id, (await questionnaires.summary(context, owner, id)).address


async def clear(context: Context, account: Account, id: UUID, asks_reason: bool = False) -> None:
    """Give clearance without asking who may."""
    now = context.clock.now()
    async with context.engine.begin() as conn:
        given = Clearance(account.id, id, now, account.id, None, asks_reason)
        await parts.clear(conn, given)


async def save(
    context: Context, account: Account, id: UUID, document: Questionnaire, revision: int
) -> DraftJson:
    """Save a draft as its route does."""
    body = Draft(revision=revision, document=document).model_dump_json().encode()
    return await questionnaires.save_draft(context, account, id, body)


async def set_scene(context: Context) -> Scene:
    coordinator = await people.add(context, "rowan@example.org", "Rowan", "coordinator", PASSWORD)
    reviewer = await people.add(context, "sam@example.org", "Sam", "reviewer", PASSWORD)
    id, address = await published(context, coordinator, well_check())
    columns = [Column(key="name", label="Name"), Column(key="drinkers", label="D", type="number")]
    saltings = await registers.add(context, coordinator, "Saltings", columns)
    rest = await registers.add(context, coordinator, "Rest", columns)
    await dispatch_rules.save(context, coordinator, id, rules(saltings, rest), 1)
    await clear(context, coordinator, id)
    return Scene(context, coordinator, reviewer, id, address, saltings, rest)


async def letters_asked(context: Context) -> list[dict[str, str]]:
    """The letters that wait for the worker, in their order: `to`, `subject`, `body`."""
    query = (
        "select args->>'sealed' from procrastinate_jobs where task_name = 'send_letter' order by id"
    )
    async with context.engine.connect() as conn:
        sealed = (await conn.execute(text(query))).scalars().all()
    return [orjson.loads(context.cipher.open(one.encode(), "letter")) for one in sealed]
