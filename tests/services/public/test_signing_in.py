"""Visitors sign in at the simulated provider, over its real protocol, honest and not (OpenID
Connect Core 1.0, 3.1.3.7; RFC 9207 for the issuer in the answer)."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from types import MappingProxyType
from typing import Any
from urllib.parse import parse_qs, urlsplit
from uuid import UUID

import httpx
import pytest

from jotgate.adapters.openid import OpenIdProviders
from jotgate.adapters.simulated.identity_provider import (
    CLIENT_ID,
    CLIENT_SECRET,
    SimulatedProvider,
    provider_app,
)
from jotgate.core.common.errors import (
    Invalid,
    LinkRefused,
    NotAllowed,
    SignInNeeded,
    Stale,
)
from jotgate.core.items.parts import FromBank
from jotgate.core.links import Links
from jotgate.core.records.accounts import Account
from jotgate.core.sign_in import ROOM, ClaimMapping, IdentityProvider, VisitorSignIn
from jotgate.services.arrivals import Entrance, opened
from jotgate.services.code_flow import Sent
from jotgate.services.context import Context
from jotgate.services.identity import FLOW
from jotgate.services.public import entering, signing_in, submitting
from jotgate.services.public.answering import Answers
from jotgate.services.public.entering import Visit
from jotgate.services.public.signing_in import Back
from jotgate.services.staff import bank, identity_providers
from jotgate.services.staff.accounts import people
from jotgate.services.staff.entries import entry_table
from jotgate.services.staff.links import links_part
from tests.conftest import Clock
from tests.documents import item, page, questionnaire
from tests.scenes import PASSWORD, Scene, published

ISSUERS = ("http://one.localhost.test", "http://two.localhost.test")
PEOPLE: dict[str, Any] = {
    "tove@example.org": {
        "name": "Tove Lind",
        "given_name": "Tove",
        "family_name": "Lind",
        "crew": "Saltings",
        "groups": ["samplers", "drivers"],
        "address": {"locality": "Thornmere"},
        "trained": True,
    },
    "bram@example.org": "Bram Reed",
}


class Both(httpx.AsyncBaseTransport):
    """Reaches each of two simulated providers by its address, or neither while they are away."""

    def __init__(self, providers: dict[str, SimulatedProvider]) -> None:
        self.apps = {
            urlsplit(issuer).hostname: httpx.ASGITransport(provider_app(one))
            for issuer, one in providers.items()
        }
        self.away = False

    async def handle_async_request(self, request: httpx.Request) -> httpx.Response:
        if self.away:
            raise httpx.ConnectError("away")
        return await self.apps[request.url.host].handle_async_request(request)


@dataclass
class Volunteers:
    """A questionnaire that volunteers sign in to at one of two providers."""

    context: Context
    owner: Account
    simulated: dict[str, SimulatedProvider]
    transport: Both
    ids: list[UUID]
    id: UUID
    address: str

    async def send(self, at: int = 0, link: str = "", entrance: Entrance | None = None) -> Sent:
        entrance = entrance or Entrance(address=self.address)
        return await signing_in.send(self.context, entrance, self.ids[at], link)

    def chosen(self, sent: Sent, email: str, at: int = 0) -> dict[str, str]:
        """What a browser comes back with, once somebody was chosen."""
        asked = {n: one[0] for n, one in parse_qs(urlsplit(sent.address).query).items()}
        simulated = self.simulated[ISSUERS[at]]
        assert simulated.refuses(asked) == ""
        there = simulated.grant(asked, email)
        return {n: one[0] for n, one in parse_qs(urlsplit(there).query).items()}

    async def back(
        self,
        email: str = "tove@example.org",
        at: int = 0,
        changed: Mapping[str, str] = MappingProxyType({}),
    ) -> Back:
        sent = await self.send(at, "?days=3")
        told = {**self.chosen(sent, email, at), **changed}
        return await signing_in.come_back(self.context, sent.kept, told)

    async def visit(self, back: Back) -> Visit:
        entrance = Entrance(visit=back.visit)
        query = back.link.removeprefix("?")
        return await entering.visit(self.context, self.address, query, entrance=entrance)

    async def needs(self, needed: bool = True) -> None:
        saved = await links_part.find(self.context, self.owner, self.id)
        wanted = Links(sign_in=VisitorSignIn(providers=tuple(self.ids), needed=needed))
        await links_part.save(self.context, self.owner, self.id, wanted, saved.revision)

    async def answers(self) -> list[dict[str, Any]]:
        found = await entry_table.page(self.context, self.owner, self.id)
        return [dict(one.answers) for one in found.entries]


def name_question() -> dict[str, Any]:
    return item("name", "who", parts=["given", "family"], needed=["given", "family"], required=True)


@pytest.fixture
async def volunteers(scene: Scene, context: Context, clock: Clock) -> Volunteers:
    clock.at = datetime.now(UTC)
    simulated = {
        issuer: SimulatedProvider(issuer, PEOPLE, (FLOW.back(context),)) for issuer in ISSUERS
    }
    transport = Both(simulated)
    context = replace(context, providers=OpenIdProviders(transport))
    owner = await people.add(context, "owner@example.org", "Owner", "owner", PASSWORD)
    plain = questionnaire(page("start", name_question()))
    (who,) = plain.items()
    kept = await bank.add(context, owner, who)  # type: ignore[arg-type]
    mappings = (
        ClaimMapping(claim="given_name", question=kept.id, part="given"),
        ClaimMapping(claim="family_name", question=kept.id, part="family"),
    )
    document = questionnaire(
        page(
            "start",
            name_question() | {"banked": FromBank(id=kept.id, revision=1).model_dump(mode="json")},
            item("number", "days"),
            item("carried", "crew", sources=[{"kind": "claim", "claim": "crew"}]),
            item("carried", "town", sources=[{"kind": "claim", "claim": "address.locality"}]),
        )
    )
    ids = []
    for number, issuer in enumerate(ISSUERS):
        provider = IdentityProvider.model_construct(
            name=f"Provider {number}",
            issuer=issuer,
            client_id=CLIENT_ID,
            scopes=("profile",),
            mappings=mappings,
        )
        ids.append(await identity_providers.add(context, owner, provider, CLIENT_SECRET))
    id, address = await published(context, owner, document)
    made = Volunteers(context, owner, simulated, transport, ids, id, address)
    await made.needs(False)
    return made


@pytest.fixture(autouse=True)
def unsecured(monkeypatch: pytest.MonkeyPatch) -> None:
    """Issuers of these tests are reached without TLS, inside of this process."""
    monkeypatch.setattr("jotgate.core.sign_in.urlsplit", _as_if_near)


def _as_if_near(address: str) -> Any:
    return urlsplit(
        address.replace("http://one.localhost.test", "http://localhost").replace(
            "http://two.localhost.test", "http://127.0.0.1"
        )
    )


async def test_claims_fill_in_and_lock_and_are_carried(volunteers: Volunteers) -> None:
    back = await volunteers.back()
    assert (back.address, back.link) == (volunteers.address, "?days=3")
    visit = await volunteers.visit(back)
    assert visit.filled.locked == {"who": {"given": "Tove", "family": "Lind"}}
    assert visit.filled.carried["crew"] == "Saltings"
    assert visit.filled.carried["town"] == "Thornmere"
    assert visit.filled.answers == {"days": "3"}
    assert (visit.is_known, visit.called) == (True, "Tove Lind")
    tried = {"who": {"given": "Somebody", "family": "Else"}, "days": "4"}
    sent = Answers("", 1, tried, arrival=visit.arrival)
    await submitting.submit(volunteers.context, volunteers.address, sent, "k".rjust(20, "0"))
    (answers,) = await volunteers.answers()
    assert answers["who"] == {"given": "Tove", "family": "Lind"}
    assert (answers["crew"], answers["days"]) == ("Saltings", "4")


async def test_once_answered_the_next_one_here_is_nobody(volunteers: Volunteers) -> None:
    back = await volunteers.back()
    visit = await volunteers.visit(back)
    sent = Answers("", 1, {}, arrival=visit.arrival)
    await submitting.submit(volunteers.context, volunteers.address, sent, "k".rjust(20, "0"))
    assert (await volunteers.visit(back)).is_known is False


async def test_what_is_used_goes_along_however_much_a_provider_tells(
    volunteers: Volunteers, monkeypatch: Any
) -> None:
    simulated = volunteers.simulated[ISSUERS[0]]
    honest = simulated.claims
    much = {f"a{number}": "x" * 400 for number in range(60)}
    monkeypatch.setattr(simulated, "claims", lambda grant: {**much, **honest(grant)})
    visit = await volunteers.visit(await volunteers.back())
    assert visit.filled.carried["crew"] == "Saltings"
    assert visit.called == "Tove Lind"
    known = opened(volunteers.context, volunteers.id, visit.arrival).claims
    assert 5 < len(known) < 20
    assert sum(len(name) + len(text) for name, text in known.items()) <= ROOM
    assert len(visit.arrival) < 9_000


async def test_what_somebody_does_not_have_is_asked(volunteers: Volunteers) -> None:
    visit = await volunteers.visit(await volunteers.back("bram@example.org"))
    assert (visit.filled.locked, visit.is_known) == ({}, True)


async def test_nothing_of_who_was_here_before_goes_along(volunteers: Volunteers) -> None:
    """Tove leaves without signing out, and Bram, of whom less is known, signs in after her."""
    first = await volunteers.back()
    entrance = Entrance(address=volunteers.address, visit=first.visit)
    sent = await volunteers.send(entrance=entrance)
    told = volunteers.chosen(sent, "bram@example.org")
    second = await signing_in.come_back(volunteers.context, sent.kept, told)
    visit = await volunteers.visit(second)
    assert visit.called == "Bram Reed"
    assert visit.filled.locked == {}
    assert "crew" not in visit.filled.carried


async def test_a_link_that_no_browser_could_keep_is_refused(volunteers: Volunteers) -> None:
    sent = await volunteers.send(link=f"?days={'3' * 2_000}")
    assert len(sent.kept) <= signing_in.MOST_KEPT
    with pytest.raises(LinkRefused, match="too long"):
        await volunteers.send(link=f"?days={'3' * 3_000}")


async def test_signing_out_forgets_who_it_was(volunteers: Volunteers) -> None:
    back = await volunteers.back()
    await signing_in.leave(volunteers.context, volunteers.address, back.visit)
    assert (await volunteers.visit(back)).is_known is False


async def test_two_providers_are_two_people(volunteers: Volunteers) -> None:
    one = await volunteers.visit(await volunteers.back(at=0))
    two = await volunteers.visit(await volunteers.back(at=1))
    assert one.filled.locked == two.filled.locked
    subjects = [
        opened(volunteers.context, volunteers.id, visit.arrival).came.subject_id
        for visit in (one, two)
    ]
    assert None not in subjects
    assert subjects[0] != subjects[1]


async def test_where_it_is_needed_nobody_answers_without(volunteers: Volunteers) -> None:
    before = await entering.visit(volunteers.context, volunteers.address, "")
    assert list(before.sign_in) == volunteers.ids
    await volunteers.needs()
    with pytest.raises(SignInNeeded):
        await entering.visit(volunteers.context, volunteers.address, "")
    answers = {"who": {"given": "A", "family": "B"}}
    for number, arrival in enumerate((before.arrival, "")):
        sent = Answers("", 1, answers, arrival=arrival)
        with pytest.raises(SignInNeeded):
            await submitting.submit(
                volunteers.context, volunteers.address, sent, f"k{number}".rjust(20, "0")
            )
    assert await volunteers.answers() == []
    visit = await volunteers.visit(await volunteers.back())
    sent = Answers("", 1, {}, arrival=visit.arrival)
    await submitting.submit(volunteers.context, volunteers.address, sent, "k3".rjust(20, "0"))
    assert len(await volunteers.answers()) == 1


Claims = dict[str, Any]
NOW = int(datetime.now(UTC).timestamp())


async def looked(volunteers: Volunteers, **changed: Any) -> dict[str, bool]:
    setup = await identity_providers.every(volunteers.context, volunteers.owner)
    kept = setup.providers[0]
    secret = changed.pop("secret", "")
    settings = kept.settings.model_copy(update=changed)
    context = replace(volunteers.context, providers=OpenIdProviders(volunteers.transport))
    steps, _ = await identity_providers.look(context, volunteers.owner, settings, secret, kept.id)
    return {one.step: one.good for one in steps}


async def test_the_setup_is_looked_at_step_by_step(
    volunteers: Volunteers, monkeypatch: Any
) -> None:
    good = {"reached": True, "issuer": True, "flow": True, "keys": True, "client": True}
    assert await looked(volunteers) == good
    assert (await looked(volunteers, secret="wrong"))["client"] is False
    assert (await looked(volunteers, client_id="wrong"))["client"] is False
    other = {"issuer": f"{ISSUERS[0]}/"}
    assert await looked(volunteers, **other) == {"reached": True, "issuer": False}
    simulated = volunteers.simulated[ISSUERS[0]]
    about = simulated.about()
    for lie in (
        {"code_challenge_methods_supported": ["plain"]},
        {"response_types_supported": ["token"]},
        {"id_token_signing_alg_values_supported": ["HS256"]},
        {"token_endpoint": None},
    ):
        monkeypatch.setattr(simulated, "about", lambda lie=lie: {**about, **lie})
        assert (await looked(volunteers))["flow"] is False
    monkeypatch.setattr(simulated, "about", lambda: about)
    monkeypatch.setattr(simulated, "keys", lambda: {"keys": []})
    assert (await looked(volunteers))["keys"] is False
    volunteers.transport.away = True
    assert await looked(volunteers) == {"reached": False}


async def test_the_setup_is_for_owners_and_saved_once(volunteers: Volunteers, scene: Scene) -> None:
    context, owner = volunteers.context, volunteers.owner
    with pytest.raises(NotAllowed):
        await identity_providers.every(context, scene.coordinator)
    kept = (await identity_providers.every(context, owner)).providers[0]
    renamed = kept.settings.model_copy(update={"name": "Anew"})
    await identity_providers.put(context, owner, kept.id, 1, renamed, "")
    with pytest.raises(Stale):
        await identity_providers.put(context, owner, kept.id, 1, renamed, "")
    assert (await volunteers.visit(await volunteers.back())).is_known
    partless = (ClaimMapping(claim="name", question=kept.settings.mappings[0].question),)
    for mappings in (partless, (ClaimMapping(claim="name", question=UUID(int=1)),)):
        wrong = kept.settings.model_copy(update={"mappings": mappings})
        with pytest.raises(Invalid) as refused:
            await identity_providers.put(context, owner, kept.id, 2, wrong, "")
        assert [one.at for one in refused.value.faults] == ["mappings/0"]
    with pytest.raises(Invalid, match="secret"):
        await identity_providers.add(context, owner, renamed, "")
