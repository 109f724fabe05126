"""Visitors who sign in and who opt out, as their browsers and mail programs see us."""

from dataclasses import replace
from datetime import UTC, datetime
from string import ascii_letters
from urllib.parse import parse_qs, urlsplit

import httpx
import pytest

from jotgate.adapters.openid import OpenIdProviders
from jotgate.adapters.simulated.identity_provider import (
    CLIENT_ID,
    CLIENT_SECRET,
    SimulatedProvider,
    provider_app,
)
from jotgate.core.links import Links
from jotgate.core.sign_in import IdentityProvider, VisitorSignIn
from jotgate.services.context import Context
from jotgate.services.identity import FLOW
from jotgate.services.staff import identity_providers
from jotgate.services.staff.accounts import people
from jotgate.services.staff.contacts import lists
from jotgate.services.staff.links import links_part
from tests.api.conftest import Visitor
from tests.conftest import Clock, Post
from tests.documents import item, page, questionnaire
from tests.scenes import PASSWORD, Scene, published
from tests.services.staff.test_mailings import Office

ISSUER = "http://127.0.0.1:9"
PEOPLE = {"tove@example.org": {"name": "Tove Lind", "crew": "Saltings crew"}}


class Volunteers:
    def __init__(self, anybody: Visitor, address: str, simulated: SimulatedProvider) -> None:
        self.anybody, self.address, self.simulated = anybody, address, simulated
        self.path = f"/q/{address}"

    async def begin(self, query: str = "") -> httpx.Response:
        first = await self.anybody.get(f"{self.path}{query}")
        (way,) = [one for one in first.text.split('"') if "/sign-in/" in one][:1]
        return await self.anybody.get(way)

    def there(self, sent: httpx.Response) -> str:
        """Where the provider sends the browser back to, once Tove was chosen."""
        asked = parse_qs(urlsplit(sent.headers["location"]).query)
        found = {name: one[0] for name, one in asked.items()}
        return self.simulated.grant(found, "tove@example.org")


@pytest.fixture
async def volunteers(scene: Scene, context: Context, anybody: Visitor, clock: Clock) -> Volunteers:
    clock.at = datetime.now(UTC)
    simulated = SimulatedProvider(ISSUER, PEOPLE, (FLOW.back(context),))
    transport = httpx.ASGITransport(provider_app(simulated))
    app = anybody._transport.app  # type: ignore[attr-defined]
    app.state.context = context = replace(context, providers=OpenIdProviders(transport))
    owner = await people.add(context, "owner@example.org", "Owner", "owner", PASSWORD)
    document = questionnaire(
        page(
            "start",
            item("carried", "crew", sources=[{"kind": "claim", "claim": "crew"}], sealed=True),
            item("short_text", "name"),
        )
    )
    id, address = await published(context, owner, document)
    provider = IdentityProvider(name="Accounts", issuer=ISSUER, client_id=CLIENT_ID)
    kept = await identity_providers.add(context, owner, provider, CLIENT_SECRET)
    needed = Links(sign_in=VisitorSignIn(providers=(kept,), needed=True))
    await links_part.save(context, owner, id, needed, 1)
    return Volunteers(anybody, address, simulated)


async def test_a_visitor_signs_in_and_out_again(volunteers: Volunteers) -> None:
    anybody, path = volunteers.anybody, volunteers.path
    shut = await anybody.get(f"{path}?name=T")
    assert shut.status_code == 403
    assert "Sign in with Accounts" in shut.text
    sent = await volunteers.begin("?name=T")
    assert sent.status_code == 303
    assert sent.headers["location"].startswith(f"{ISSUER}/authorize?")
    back = await anybody.get(volunteers.there(sent))
    assert (back.status_code, back.headers["location"]) == (303, f"{path}?name=T")
    cookie = next(one for one in back.headers.get_list("set-cookie") if "jotgate_visit" in one)
    assert f"Path={path};" in cookie + ";"
    assert "HttpOnly" in cookie
    open_now = await anybody.get(f"{path}?name=T")
    assert open_now.status_code == 200
    assert "Signed in as Tove Lind" in open_now.text
    assert "Saltings crew" not in open_now.text
    assert (await anybody.post(f"{path}/sign-out")).status_code == 303
    assert (await anybody.get(path)).status_code == 403


async def test_coming_back_twice_is_a_plain_page_that_leads_on(volunteers: Volunteers) -> None:
    there = volunteers.there(await volunteers.begin())
    kept = dict(volunteers.anybody.cookies)
    assert (await volunteers.anybody.get(there)).status_code == 303
    volunteers.anybody.cookies.update(kept)
    again = await volunteers.anybody.get(there)
    assert again.status_code == 403
    assert "used already" in again.text
    assert f'href="{volunteers.path}"' in again.text


@pytest.mark.parametrize("query", ["", "?state=x&code=y", "?error=access_denied", "?state=%00"])
async def test_nobody_comes_back_who_was_not_sent(volunteers: Volunteers, query: str) -> None:
    reply = await volunteers.anybody.get(f"/sign-in/back{query}")
    assert reply.status_code in (400, 403)
    assert "jotgate_visit" not in reply.headers.get("set-cookie", "")


async def test_another_site_signs_nobody_out(volunteers: Volunteers) -> None:
    await volunteers.anybody.get(volunteers.there(await volunteers.begin()))
    headers = {"Sec-Fetch-Site": "cross-site"}
    reply = await volunteers.anybody.post(f"{volunteers.path}/sign-out", headers=headers)
    assert reply.status_code == 403
    assert (await volunteers.anybody.get(volunteers.path)).status_code == 200


@pytest.fixture
async def wells(scene: Scene, context: Context, post: Post, clock: Clock) -> Office:
    return await Office(scene, context, post, clock).opened()


async def path_out(wells: Office, to: str = "tove@example.org") -> str:
    await wells.ask()
    await wells.sent()
    out = next(one.opt_out for one in wells.post.letters if one.to == to)
    return urlsplit(out).path


async def is_out(wells: Office) -> bool:
    (made,) = await lists.every(wells.context, wells.who)
    return made.reachable < made.contacts


async def test_opening_the_link_opts_nobody_out(wells: Office, anybody: Visitor) -> None:
    """Programs that look at every link of a letter must not."""
    path = await path_out(wells)
    for _ in range(2):
        page = await anybody.get(path)
        assert page.status_code == 200
        assert "Send me no more letters" in page.text
    assert not await is_out(wells)


@pytest.mark.parametrize(
    "sent",
    [
        {"data": {"List-Unsubscribe": "One-Click"}},
        {"files": {"List-Unsubscribe": (None, "One-Click")}},
    ],
    ids=["urlencoded", "multipart"],
)
async def test_a_mail_program_opts_out_in_one_step(
    wells: Office, anybody: Visitor, sent: dict[str, dict[str, str]]
) -> None:
    """RFC 8058, 3.1: no cookies, no page before it, either form of body; twice is as once."""
    path = await path_out(wells)
    for _ in range(2):
        reply = await anybody.post(path, headers={"Sec-Fetch-Site": "cross-site"}, **sent)  # type: ignore[arg-type]
        assert reply.status_code == 200
    assert await is_out(wells)


async def test_somebody_opts_out_and_thinks_again(wells: Office, anybody: Visitor) -> None:
    path = await path_out(wells)
    page = await anybody.post(path, data={"choice": "out"})
    assert "You will get no more letters" in page.text
    assert "Write to me again after all" in (await anybody.get(path)).text
    page = await anybody.post(path, data={"choice": "back"})
    assert "You will get letters again" in page.text
    assert not await is_out(wells)


async def test_an_unknown_link_says_so(wells: Office, anybody: Visitor) -> None:
    path = await path_out(wells)
    others = [f"{path[:-1]}{one}" for one in ascii_letters if one != path[-1]]
    for wrong in (path[:-4], *others, "/out/x"):
        reply = await anybody.post(wrong)
        assert reply.status_code == 404
        assert "not complete" in (await anybody.get(wrong)).text
    assert not await is_out(wells)
