"""A chain of three questionnaires: what the first asked is not asked again in the third, and who it
was stays known through all of them."""

from dataclasses import dataclass
from itertools import pairwise
from typing import Any
from uuid import UUID

import pytest

from jotgate.core.common.errors import LinkRefused
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.hand_off import HandedValue, HandOff
from jotgate.core.links import Links
from jotgate.services.arrivals import Entrance
from jotgate.services.context import Context
from jotgate.services.public import entering, handing, submitting
from jotgate.services.public.answering import Answers
from jotgate.services.public.entering import Visit
from jotgate.services.staff.contacts import contacts, lists
from jotgate.services.staff.entries import entry_table
from jotgate.services.staff.links import links_part
from jotgate.store.entries import entries as entry_store
from tests.documents import item, page, questionnaire
from tests.scenes import Scene, published
from tests.services.staff.test_mailings import Office

ALONG = (HandedValue(source="who", target="who", locked=True),)


def leg(*more: dict[str, Any]) -> Questionnaire:
    sources = [{"kind": "contact", "field": "key"}]
    return questionnaire(
        page(
            "start",
            item("carried", "household", sources=sources),
            item("name", "who", parts=["given", "family"]),
            *more,
        )
    )


@dataclass
class Chain:
    context: Context
    scene: Scene
    ids: list[UUID]
    addresses: list[str]

    async def come(self, at: int, visit: str) -> Visit:
        entrance = Entrance(visit=visit)
        return await entering.visit(self.context, self.addresses[at], "", entrance=entrance)

    async def send(self, at: int, arrival: str, **given: Any) -> None:
        answers = Answers("", 1, given, arrival=arrival)
        key = f"k{at}".rjust(20, "0")
        await submitting.submit(self.context, self.addresses[at], answers, key)

    async def on(self, at: int, arrival: str) -> str:
        """Go on from questionnaire `at`: the secret of the visit that follows."""
        key = f"k{at}".rjust(20, "0")
        onward = await handing.begin(self.context, self.addresses[at], key, arrival)
        assert onward.address == self.addresses[at + 1]
        visit = await handing.redeem(self.context, onward.address, onward.token)
        with pytest.raises(LinkRefused):
            await handing.redeem(self.context, onward.address, onward.token)
        return visit


@pytest.fixture
async def chain(scene: Scene, context: Context) -> Chain:
    owner = scene.coordinator
    legs = [leg(), leg(item("number", "bottles")), leg(item("short_text", "remark"))]
    made = [await published(context, owner, one) for one in legs]
    for (id, _), (_, to) in pairwise(made):
        one = HandOff(finish="done", to=to, label={"en": "On"}, values=ALONG)
        await links_part.save(context, owner, id, Links(hand_offs=(one,)), 1)
    return Chain(context, scene, [id for id, _ in made], [address for _, address in made])


async def test_three_in_a_row(chain: Chain) -> None:
    who = {"given": "Noor", "family": "Haddad"}
    await chain.send(0, "", who=who)
    second = await chain.come(1, await chain.on(0, ""))
    assert second.filled.locked == {"who": who}
    await chain.send(1, second.arrival, bottles="3")
    secret = await chain.on(1, second.arrival)
    third = await chain.come(2, secret)
    assert third.filled.locked == {"who": who}
    again = await chain.come(2, secret)
    assert again.filled.locked == {"who": who}
    await chain.send(2, third.arrival, remark="Dog", who={"given": "A", "family": "B"})
    found = []
    for id in chain.ids:
        (one,) = (await entry_table.page(chain.context, chain.scene.coordinator, id)).entries
        found.append(one)
    assert [one.answers["who"] for one in found] == [who] * 3
    assert [one.from_entry for one in found] == [None, found[0].id, found[1].id]
    async with chain.context.engine.connect() as conn:
        on = await entry_store.handed_on(conn, chain.ids[1], found[1].id)
    assert [one.id for one in on] == [found[2].id]
    assert (await chain.come(2, secret)).filled.locked == {}


async def test_the_contact_of_a_pass_is_known_to_the_last(chain: Chain, wells: Office) -> None:
    """Somebody comes by the pass of a letter, and is the same contact in the third."""
    wells.id, wells.address = chain.ids[0], chain.addresses[0]
    await wells.ask()
    await wells.sent()
    letter = next(one for one in wells.post.letters if one.to == "ines@example.org")
    secret = letter.body.split("/p/")[1].split("/")[1].split()[0]
    entrance = Entrance(way="p", secret=secret)
    first = await entering.visit(chain.context, wells.address, "", entrance=entrance)
    await chain.send(0, first.arrival, who={"given": "Ines", "family": "Moor"})
    second = await chain.come(1, await chain.on(0, first.arrival))
    assert second.filled.carried["household"] == "H-1"
    await chain.send(1, second.arrival)
    third = await chain.come(2, await chain.on(1, second.arrival))
    assert third.filled.carried["household"] == "H-1"
    await chain.send(2, third.arrival)
    found = await contacts.page(chain.context, wells.who, "ines", None, None)
    whole = await contacts.whole(chain.context, wells.who, found.contacts[0].id)
    assert len(whole.entries) == 3
    assert [name for _, name in whole.lists] == [
        one.name for one in await lists.every(chain.context, wells.who)
    ]


@pytest.fixture
async def wells(scene: Scene, context: Context, post: Any, clock: Any) -> Office:
    return await Office(scene, context, post, clock).opened()
