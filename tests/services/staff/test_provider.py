"""Signing in through an identity provider: the simulated one, over its real protocol, honest and
not (OpenID Connect Core 1.0, 3.1.3.7; PKCE, RFC 7636)."""

import base64
import hmac
from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from typing import Any
from urllib.parse import parse_qs, urlsplit

import httpx
import pytest
from joserfc import jwt
from joserfc.jwk import RSAKey

from jotgate.adapters.openid import OpenIdProvider
from jotgate.adapters.simulated.identity_provider import (
    CLIENT_ID,
    CLIENT_SECRET,
    SimulatedProvider,
    provider_app,
)
from jotgate.core.common.errors import NotFound, NotSignedIn, Unavailable, WrongSignIn
from jotgate.core.records.accounts import Client
from jotgate.ports.identity import Known
from jotgate.services.context import Context
from jotgate.services.staff.accounts import people, provider
from jotgate.services.staff.accounts.sessions import SignedIn
from jotgate.store.accounts import accounts
from tests.conftest import Clock
from tests.scenes import PASSWORD, Scene

ISSUER = "http://provider.test"
BACK = "http://jotgate.test/api/sign-in/provider/back"
CLIENT = Client("10.0.0.1")


@dataclass
class Begun:
    """A browser that was sent to the provider."""

    context: Context
    simulated: SimulatedProvider
    kept: str
    asked: dict[str, str]

    def chosen(self, email: str = "rowan@example.org") -> dict[str, str]:
        """Where the browser comes back with, once somebody was chosen."""
        address = self.simulated.grant(self.asked, email)
        return {name: one[0] for name, one in parse_qs(urlsplit(address).query).items()}

    async def back(self, kept: str | None = None, **changed: str) -> SignedIn:
        given = {**self.chosen(), **changed}
        kept = self.kept if kept is None else kept
        return await provider.come_back(self.context, kept, given["state"], given["code"], CLIENT)


@pytest.fixture
def simulated() -> SimulatedProvider:
    known = {"rowan@example.org": "Rowan", "nobody@example.org": "Nobody"}
    return SimulatedProvider(ISSUER, known, (BACK,))


@pytest.fixture
def with_provider(context: Context, simulated: SimulatedProvider, clock: Clock) -> Context:
    clock.at = datetime.now(UTC)
    transport = httpx.ASGITransport(provider_app(simulated))
    known = OpenIdProvider(Known("Test", ISSUER, CLIENT_ID, CLIENT_SECRET), transport)
    return replace(context, provider=known)


async def begun(context: Context, simulated: SimulatedProvider) -> Begun:
    sent = await provider.send(context)
    asked = {name: one[0] for name, one in parse_qs(urlsplit(sent.address).query).items()}
    assert simulated.refuses(asked) == ""
    return Begun(context, simulated, sent.kept, asked)


async def test_somebody_comes_in_by_their_verified_address_and_then_by_who_they_are(
    scene: Scene, with_provider: Context, simulated: SimulatedProvider
) -> None:
    found = await (await begun(with_provider, simulated)).back()
    assert found.session.account == scene.coordinator
    async with with_provider.engine.begin() as conn:
        await accounts.change(conn, scene.coordinator.id, email="renamed@example.org")
    again = await (await begun(with_provider, simulated)).back()
    assert again.session.account.id == scene.coordinator.id


async def test_who_is_not_of_the_office_does_not_come_in(
    scene: Scene, with_provider: Context, simulated: SimulatedProvider
) -> None:
    begin = await begun(with_provider, simulated)
    with pytest.raises(WrongSignIn, match="no account here"):
        await begin.back(**begin.chosen("nobody@example.org"))


async def test_an_address_that_is_not_verified_is_nobody_s(
    scene: Scene, with_provider: Context, simulated: SimulatedProvider, monkeypatch: Any
) -> None:
    honest = simulated.claims
    monkeypatch.setattr(
        simulated, "claims", lambda grant: {**honest(grant), "email_verified": False}
    )
    with pytest.raises(WrongSignIn, match="no account here"):
        await (await begun(with_provider, simulated)).back()


async def test_an_account_that_somebody_has_is_not_taken_by_another(
    scene: Scene, with_provider: Context, simulated: SimulatedProvider, monkeypatch: Any
) -> None:
    await (await begun(with_provider, simulated)).back()
    honest = simulated.claims
    monkeypatch.setattr(simulated, "claims", lambda grant: {**honest(grant), "sub": "other"})
    with pytest.raises(WrongSignIn, match="no account here"):
        await (await begun(with_provider, simulated)).back()


NOW = int(datetime.now(UTC).timestamp())

FALSE: dict[str, dict[str, Any]] = {
    "another issuer": {"iss": "http://other.test"},
    "the issuer with a stroke": {"iss": f"{ISSUER}/"},
    "another audience": {"aud": "another"},
    "no audience": {"aud": None},
    "several audiences, and not for us": {"aud": [CLIENT_ID, "x"], "azp": "x"},
    "several audiences, and for nobody": {"aud": [CLIENT_ID, "x"]},
    "another nonce": {"nonce": "other"},
    "no nonce": {"nonce": None},
    "too old": {"exp": NOW - 3600},
    "without an end": {"exp": None},
    "an end in words": {"exp": "tomorrow"},
    "from the future": {"iat": NOW + 3600},
    "for nobody": {"sub": ""},
}


@pytest.mark.parametrize("what", FALSE)
async def test_claims_that_do_not_hold(
    scene: Scene,
    with_provider: Context,
    simulated: SimulatedProvider,
    monkeypatch: Any,
    what: str,
) -> None:
    honest = simulated.claims
    monkeypatch.setattr(simulated, "claims", lambda grant: {**honest(grant), **FALSE[what]})
    with pytest.raises(WrongSignIn, match="could not be used"):
        await (await begun(with_provider, simulated)).back()


def _another_key(claims: dict[str, Any], own: RSAKey) -> str:
    other = RSAKey.generate_key(2048, {"kid": "outside"})
    return jwt.encode({"alg": "RS256", "kid": "outside"}, claims, other)


def _unsigned(claims: dict[str, Any], own: RSAKey) -> str:
    header = "eyJhbGciOiJub25lIn0"
    body = jwt.encode({"alg": "RS256"}, claims, own).split(".")[1]
    return f"{header}.{body}."


def _by_the_public_key(claims: dict[str, Any], own: RSAKey) -> str:
    """Signed with HMAC, the public key as its secret."""
    head = base64.urlsafe_b64encode(b'{"alg":"HS256","kid":"outside"}').rstrip(b"=")
    body = jwt.encode({"alg": "RS256"}, claims, own).split(".")[1].encode()
    secret = own.as_pem(private=False)
    mark = hmac.digest(secret, head + b"." + body, "sha256")
    return b".".join((head, body, base64.urlsafe_b64encode(mark).rstrip(b"="))).decode()


def _cut(claims: dict[str, Any], own: RSAKey) -> str:
    return jwt.encode({"alg": "RS256", "kid": "outside"}, claims, own)[:-8]


def _nothing(claims: dict[str, Any], own: RSAKey) -> str:
    return "x"


SIGNERS: tuple[Callable[[dict[str, Any], RSAKey], str], ...] = (
    _another_key,
    _unsigned,
    _by_the_public_key,
    _cut,
    _nothing,
)


@pytest.mark.filterwarnings("ignore")
@pytest.mark.parametrize("sign", SIGNERS)
async def test_signatures_that_do_not_hold(
    scene: Scene,
    with_provider: Context,
    simulated: SimulatedProvider,
    monkeypatch: Any,
    sign: Callable[[dict[str, Any], RSAKey], str],
) -> None:
    monkeypatch.setattr(simulated, "signed", lambda claims: sign(claims, simulated.key))
    with pytest.raises(WrongSignIn, match="could not be used"):
        await (await begun(with_provider, simulated)).back()


async def test_a_provider_that_has_changed_its_keys(
    scene: Scene, with_provider: Context, simulated: SimulatedProvider
) -> None:
    await (await begun(with_provider, simulated)).back()
    simulated.key = RSAKey.generate_key(2048, {"kid": "outside", "use": "sig", "alg": "RS256"})
    await (await begun(with_provider, simulated)).back()


async def test_a_state_is_used_once_by_who_began(
    scene: Scene, with_provider: Context, simulated: SimulatedProvider
) -> None:
    one, other = await begun(with_provider, simulated), await begun(with_provider, simulated)
    for kept, changed in (
        (None, {"state": "made up"}),
        ("", {}),
        ("made up", {}),
        (other.kept, {}),
        (None, {"state": other.asked["state"]}),
    ):
        with pytest.raises(NotSignedIn):
            await one.back(kept, **changed)
    await one.back()
    with pytest.raises(NotSignedIn):
        await one.back()


async def test_it_may_not_take_long(
    scene: Scene, with_provider: Context, simulated: SimulatedProvider, clock: Clock
) -> None:
    begin = await begun(with_provider, simulated)
    clock.move(provider.FLOW.lasts)
    clock.move(provider.FLOW.lasts)
    with pytest.raises(NotSignedIn):
        await begin.back()


async def test_a_code_of_somebody_else_s_sign_in_is_refused(
    scene: Scene, with_provider: Context, simulated: SimulatedProvider
) -> None:
    """PKCE: a code that was stolen does nothing without the verifier of who began."""
    one, other = await begun(with_provider, simulated), await begun(with_provider, simulated)
    with pytest.raises(WrongSignIn):
        await one.back(code=other.chosen()["code"])
    with pytest.raises(WrongSignIn):
        await other.back(code="made up")


@pytest.mark.parametrize("path", ["/.well-known/openid-configuration", "/token", "/keys"])
async def test_a_provider_that_is_away_says_so(
    scene: Scene, context: Context, simulated: SimulatedProvider, clock: Clock, path: str
) -> None:
    clock.at = datetime.now(UTC)
    app = provider_app(simulated)

    async def broken(scope: Any, receive: Any, send: Any) -> None:
        if scope["path"] == path:
            raise httpx.ConnectError("away")
        await app(scope, receive, send)

    transport = httpx.ASGITransport(broken)
    known = OpenIdProvider(Known("Test", ISSUER, CLIENT_ID, CLIENT_SECRET), transport)
    away = replace(context, provider=known)
    with pytest.raises(Unavailable):
        await (await begun(away, simulated)).back()


async def test_without_one_there_is_none(scene: Scene, context: Context) -> None:
    with pytest.raises(NotFound):
        await provider.send(context)


async def test_who_has_left_does_not_come_in(
    scene: Scene, with_provider: Context, simulated: SimulatedProvider
) -> None:
    owner = await people.add(with_provider, "o@example.org", "O", "owner", PASSWORD)
    await (await begun(with_provider, simulated)).back()
    await people.leave(with_provider, owner, scene.coordinator.id, None)
    with pytest.raises(WrongSignIn):
        await (await begun(with_provider, simulated)).back()
