"""A mail address that is confirmed by a letter: as a way in, and to be known by."""

import re
from datetime import timedelta
from typing import Any

import pytest

from jotgate.core.common.errors import Invalid, PassRefused, Shut, TooManyTries
from jotgate.services.arrivals import Entrance
from jotgate.services.public import confirming, entering
from jotgate.services.public.confirming import Asked
from jotgate.services.public.entering import Visit
from jotgate.services.staff.entries import entry_table
from tests.scenes import letters_asked
from tests.services.public.kits import ALL, Kits, reason

MAIL: Any = {"audience": [{"kind": "mail", "domains": ["example.org"]}]}


async def asked(wells: Kits, email: str) -> None:
    entrance = Entrance(address=wells.address)
    await confirming.ask(wells.context, Asked(email, entrance, "a=1", "en", "127.0.0.1"))


async def secret(wells: Kits) -> str:
    """That of the newest letter."""
    letter = (await letters_asked(wells.context))[-1]
    found = re.search(rf"/c/{wells.address}/([\w-]+)\?a=1\n", letter["body"])
    assert found
    return found.group(1)


async def opened(wells: Kits) -> Visit:
    visit = await secret(wells)
    await confirming.open_link(wells.context, wells.address, visit)
    return await wells.come(Entrance(visit=visit))


async def test_whoever_opens_the_letter_is_let_in(wells: Kits) -> None:
    await wells.set(**MAIL)
    with pytest.raises(Shut) as refused:
        await wells.come()
    params = refused.value.params
    assert (params["reason"], params["confirm"]) == ("not_invited", "yes")
    assert params["heading"] == "Confirm your mail address"
    assert await reason(wells.send("a")) == "not_invited"
    await asked(wells, "Ines@Example.org")
    visit = await opened(wells)
    assert (visit.called, visit.is_known) == ("ines@example.org", True)
    sent = await wells.send("a", visit.arrival)
    found = await entry_table.page(wells.context, wells.scene.coordinator, wells.id)
    assert [one.mail_id for one in found.entries] == [confirming.mail_id("ines@example.org")]
    assert sent.known


async def test_a_letter_goes_only_where_its_link_lets_somebody_in(wells: Kits) -> None:
    with pytest.raises(Invalid, match="no mail address to confirm"):
        await asked(wells, "a@example.org")
    await wells.set(**MAIL)
    with pytest.raises(Invalid, match="nobody is let in"):
        await asked(wells, "a@example.com")
    await wells.set(**MAIL, places=[{**ALL, "most": 0}])
    assert await reason(asked(wells, "a@example.org")) == "full"
    await wells.set(**MAIL, state="shut")
    assert await reason(asked(wells, "a@example.org")) == "shut"
    assert await letters_asked(wells.context) == []


async def test_one_address_answers_as_often_as_is_said_from_any_browser(wells: Kits) -> None:
    await wells.set(**MAIL, per_person={"most": 1, "known_by": ["mail"]})
    await asked(wells, "a@example.org")
    first = await opened(wells)
    await wells.send("a", first.arrival)
    assert await reason(asked(wells, "A@example.org")) == "answered"
    assert await reason(wells.come(Entrance(visit=await secret(wells)))) == "answered"
    assert await reason(wells.send("b", first.arrival)) == "answered"
    await asked(wells, "b@example.org")
    await wells.send("c", (await opened(wells)).arrival)


async def test_a_letter_is_over_after_a_day_and_good_at_one_questionnaire(wells: Kits) -> None:
    await wells.set(**MAIL)
    await asked(wells, "a@example.org")
    visit = await secret(wells)
    for wrong in (visit[:-1], "x" * 43, ""):
        with pytest.raises(PassRefused):
            await confirming.open_link(wells.context, wells.address, wrong)
    wells.clock.move(timedelta(hours=25))
    with pytest.raises(PassRefused):
        await confirming.open_link(wells.context, wells.address, visit)
    assert await reason(wells.come(Entrance(visit=visit))) == "not_invited"


async def test_only_so_many_letters_go_to_an_address(wells: Kits) -> None:
    await wells.set(**MAIL)
    for _ in range(confirming.A_DAY["address"]):
        await asked(wells, "a@example.org")
    with pytest.raises(TooManyTries):
        await asked(wells, "a@example.org")
    await asked(wells, "b@example.org")


async def test_signing_in_is_offered_beside_it(wells: Kits) -> None:
    """Both are ways in; without a provider there is only the letter."""
    await wells.set(audience=[{"kind": "mail"}, {"kind": "signed_in"}])
    with pytest.raises(Shut) as refused:
        await wells.come()
    assert (refused.value.params["confirm"], refused.value.params["sign_in"]) == ("yes", "")
    assert await entering.state_of(wells.context, wells.address) is not None
