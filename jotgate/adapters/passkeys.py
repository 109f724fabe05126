"""Passkeys by py_webauthn."""

import json
from collections.abc import Sequence
from ipaddress import ip_address
from urllib.parse import urlsplit
from uuid import UUID

import webauthn
from webauthn.helpers import base64url_to_bytes
from webauthn.helpers.exceptions import WebAuthnException
from webauthn.helpers.structs import (
    AuthenticatorSelectionCriteria,
    PublicKeyCredentialDescriptor,
    ResidentKeyRequirement,
    UserVerificationRequirement,
)

from jotgate.ports.passkeys import NewPasskey, PasskeyRefused

MISFIT = (WebAuthnException, ValueError, KeyError, TypeError)


class WebAuthnPasskeys:
    """Passkeys for the application at `public_url`. The person is verified by the device each
    time, so that a passkey is two factors in one."""

    def __init__(self, public_url: str) -> None:
        split = urlsplit(public_url)
        self._host = split.hostname or ""
        self._origin = f"{split.scheme}://{split.netloc}"
        self._safe = split.scheme == "https" or self._host == "localhost"

    def possible(self) -> bool:
        try:
            ip_address(self._host)
        except ValueError:
            return self._safe
        return False

    def creation(
        self, challenge: bytes, account_id: UUID, email: str, name: str, has: Sequence[bytes]
    ) -> str:
        options = webauthn.generate_registration_options(
            rp_id=self._host,
            rp_name="Jot Gate",
            user_id=account_id.bytes,
            user_name=email,
            user_display_name=name,
            challenge=challenge,
            authenticator_selection=AuthenticatorSelectionCriteria(
                resident_key=ResidentKeyRequirement.REQUIRED,
                user_verification=UserVerificationRequirement.REQUIRED,
            ),
            exclude_credentials=[PublicKeyCredentialDescriptor(id=one) for one in has],
        )
        return webauthn.options_to_json(options)

    def created(self, challenge: bytes, credential: str) -> NewPasskey:
        try:
            found = webauthn.verify_registration_response(
                credential=credential,
                expected_challenge=challenge,
                expected_rp_id=self._host,
                expected_origin=self._origin,
                require_user_verification=True,
            )
        except MISFIT as error:
            raise PasskeyRefused(type(error).__name__) from None
        return NewPasskey(found.credential_id, found.credential_public_key, found.sign_count)

    def request(self, challenge: bytes) -> str:
        options = webauthn.generate_authentication_options(
            rp_id=self._host,
            challenge=challenge,
            user_verification=UserVerificationRequirement.REQUIRED,
        )
        return webauthn.options_to_json(options)

    def owner(self, credential: str) -> bytes:
        try:
            return base64url_to_bytes(json.loads(credential)["rawId"])
        except MISFIT as error:
            raise PasskeyRefused(type(error).__name__) from None

    def used(self, challenge: bytes, credential: str, public_key: bytes, count: int) -> int:
        try:
            found = webauthn.verify_authentication_response(
                credential=credential,
                expected_challenge=challenge,
                expected_rp_id=self._host,
                expected_origin=self._origin,
                credential_public_key=public_key,
                credential_current_sign_count=count,
                require_user_verification=True,
            )
        except MISFIT as error:
            raise PasskeyRefused(type(error).__name__) from None
        return found.new_sign_count
