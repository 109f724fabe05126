"""Answers and tokens of identity providers that hold, and such as do not."""

import json
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from authlib.jose import JsonWebKey, jwt
from joserfc.jwk import RSAKey

from jotgate.adapters.openid import OpenIdProviders
from jotgate.core.common.errors import (
    NotFound,
    SignInFailed,
)
from jotgate.core.links import Links
from jotgate.core.sign_in import VisitorSignIn
from jotgate.services.arrivals import Entrance
from jotgate.services.identity import FLOW
from jotgate.services.public import signing_in
from jotgate.services.staff import identity_providers
from jotgate.services.staff.links import links_part
from tests.conftest import Clock
from tests.services.public.test_signing_in import (
    ISSUERS,
    NOW,
    Claims,
    Volunteers,
    unsecured,
    volunteers,
)

__all__ = ["unsecured", "volunteers"]


async def test_a_sign_in_is_good_once_and_for_a_while(volunteers: Volunteers, clock: Clock) -> None:
    sent = await volunteers.send()
    told = volunteers.chosen(sent, "tove@example.org")
    await signing_in.come_back(volunteers.context, sent.kept, told)
    for kept, changed in ((sent.kept, {}), ("x", {}), (sent.kept, {"state": "other"})):
        with pytest.raises(SignInFailed) as failed:
            await signing_in.come_back(volunteers.context, kept, {**told, **changed})
        assert failed.value.code == "sign_in_stale"
    late = await volunteers.send()
    told = volunteers.chosen(late, "tove@example.org")
    clock.move(FLOW.lasts + timedelta(seconds=1))
    with pytest.raises(SignInFailed, match="too long"):
        await signing_in.come_back(volunteers.context, late.kept, told)


@pytest.mark.parametrize(
    "changed",
    [
        {"iss": ISSUERS[1]},
        {"code": ""},
        {"code": "made-up"},
        {"error": "access_denied", "code": ""},
    ],
)
async def test_an_answer_that_does_not_hold_is_refused(
    volunteers: Volunteers, changed: dict[str, str]
) -> None:
    with pytest.raises(SignInFailed) as failed:
        await volunteers.back(changed=changed)
    assert failed.value.code == "sign_in_refused"
    assert failed.value.params == {"address": volunteers.address}


@pytest.mark.parametrize(
    "lie",
    [
        lambda claims: {**claims, "iss": ISSUERS[1]},
        lambda claims: {**claims, "aud": "other"},
        lambda claims: {**claims, "nonce": "other"},
        lambda claims: {**claims, "exp": NOW - 3600, "iat": NOW - 7200},
        lambda claims: {**claims, "iat": NOW + 3600, "exp": NOW + 7200},
        lambda claims: {**claims, "sub": ""},
    ],
    ids=["issuer", "audience", "nonce", "expired", "clock", "subject"],
)
async def test_a_token_that_does_not_hold_is_refused(
    volunteers: Volunteers, monkeypatch: Any, lie: Callable[[Claims], Claims]
) -> None:
    simulated = volunteers.simulated[ISSUERS[0]]
    honest = simulated.claims
    monkeypatch.setattr(simulated, "claims", lambda grant: lie(honest(grant)))
    with pytest.raises(SignInFailed, match="could not be checked"):
        await volunteers.back()


async def test_a_clock_that_is_a_little_off_does_not_matter(
    volunteers: Volunteers, monkeypatch: Any
) -> None:
    simulated = volunteers.simulated[ISSUERS[0]]
    honest = simulated.claims
    now = int(datetime.now(UTC).timestamp())
    off = {"iat": now + 30, "exp": now + 300}
    monkeypatch.setattr(simulated, "claims", lambda grant: {**honest(grant), **off})
    assert (await volunteers.visit(await volunteers.back())).is_known


async def test_tokens_of_one_library_are_read_by_the_other(
    volunteers: Volunteers, monkeypatch: Any
) -> None:
    """What Authlib signs is taken; what we (joserfc) sign, Authlib reads."""
    simulated = volunteers.simulated[ISSUERS[0]]
    private = JsonWebKey.import_key(json.loads(json.dumps(simulated.key.as_dict(private=True))))
    ours = simulated.signed({"sub": "x"})
    assert jwt.decode(ours, private)["sub"] == "x"
    header = {"alg": "RS256", "kid": "outside"}
    monkeypatch.setattr(
        simulated, "signed", lambda claims: jwt.encode(header, claims, private).decode()
    )
    assert (await volunteers.visit(await volunteers.back())).is_known
    stranger = RSAKey.generate_key(2048, {"kid": "outside"})
    forged = JsonWebKey.import_key(stranger.as_dict(private=True))
    monkeypatch.setattr(
        simulated, "signed", lambda claims: jwt.encode(header, claims, forged).decode()
    )
    with pytest.raises(SignInFailed, match="could not be checked"):
        await volunteers.back()


async def test_while_the_provider_is_away_that_is_said(volunteers: Volunteers) -> None:
    sent = await volunteers.send()
    told = volunteers.chosen(sent, "tove@example.org")
    volunteers.transport.away = True
    with pytest.raises(SignInFailed, match="does not answer"):
        await signing_in.come_back(volunteers.context, sent.kept, told)
    fresh = replace(volunteers.context, providers=OpenIdProviders(volunteers.transport))
    entrance = Entrance(address=volunteers.address)
    with pytest.raises(SignInFailed, match="does not answer"):
        await signing_in.send(fresh, entrance, volunteers.ids[0], "")


async def test_a_provider_that_is_not_offered_is_none(volunteers: Volunteers) -> None:
    context, owner = volunteers.context, volunteers.owner
    saved = await links_part.find(context, owner, volunteers.id)
    only = Links(sign_in=VisitorSignIn(providers=(volunteers.ids[0],)))
    await links_part.save(context, owner, volunteers.id, only, saved.revision)
    with pytest.raises(NotFound):
        await volunteers.send(at=1)
    await identity_providers.remove(context, owner, volunteers.ids[0])
    with pytest.raises(NotFound):
        await volunteers.send(at=0)
