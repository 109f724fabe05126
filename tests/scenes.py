"""A house with people, a questionnaire and rules in it, to begin a test from."""

from dataclasses import dataclass
from uuid import UUID

from jotgate.core.dispatch import Dispatch
from jotgate.core.gate import Gate
from jotgate.core.register import Column, Register
from jotgate.services import accounts, questionnaires, registers, submitting
from jotgate.services.answering import Answers
from jotgate.services.house import House
from jotgate.services.submitting import Taken
from jotgate.store import accounts as account_store
from jotgate.store.accounts import Account
from tests.documents import is_, well_check

PASSWORD = "a long enough password"
SECRET = "cramps after every glass"


@dataclass(frozen=True)
class Scene:
    house: House
    coordinator: Account
    reviewer: Account
    id: UUID
    address: str
    saltings: Register
    rest: Register

    async def submit(self, key: str, link: str = "", **given: str | bool) -> Taken:
        """Submit answers, with a key that is padded to the length of a real one."""
        answers = Answers(link, 1, {"name": "Ines", "source": "own", **given})
        return await submitting.submit(self.house, self.address, answers, key.rjust(20, "0"))


def rules(saltings: Register, rest: Register) -> Dispatch:
    mapping = {"name": "name", "drinkers": "drinkers"}
    file = {"kind": "file", "columns": mapping}
    notice = {
        "kind": "notice",
        "to": "crew@example.org",
        "subject": "New from {name}",
        "body": "{name} in {district}: {source}, {drinkers} people",
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


async def set_scene(house: House) -> Scene:
    coordinator = await accounts.add_account(
        house, "rowan@example.org", "Rowan", "coordinator", PASSWORD
    )
    reviewer = await accounts.add_account(house, "sam@example.org", "Sam", "reviewer", PASSWORD)
    id = await questionnaires.add(house, coordinator, "", well_check())
    await questionnaires.publish(house, coordinator, id, 1)
    await questionnaires.save_gate(house, coordinator, id, Gate(state="open"), 1)
    columns = [Column(key="name", label="Name"), Column(key="drinkers", label="D", type="number")]
    saltings = await registers.add(house, coordinator, "Saltings", columns)
    rest = await registers.add(house, coordinator, "Rest", columns)
    await questionnaires.save_dispatch(house, coordinator, id, rules(saltings, rest), 1)
    async with house.engine.begin() as conn:
        await account_store.give_clearance(conn, coordinator.id, id)
    address = (await questionnaires.summary(house, id)).address
    return Scene(house, coordinator, reviewer, id, address, saltings, rest)
