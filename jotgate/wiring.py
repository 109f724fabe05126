"""Puts the adapters behind the ports: the only place that knows both."""

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import timedelta

from jotgate.adapters.calls import HttpCalls
from jotgate.adapters.data_keys import EnvelopeKeys, KeyStore
from jotgate.adapters.files import FolderFiles, PillowInspector
from jotgate.adapters.isolated import OwnProcesses
from jotgate.adapters.key_database import KeyDatabase
from jotgate.adapters.key_service import KeyService
from jotgate.adapters.openid import OpenIdProvider, OpenIdProviders
from jotgate.adapters.passkeys import WebAuthnPasskeys
from jotgate.adapters.printing import WeasyPrinting
from jotgate.adapters.proofs import OwnProcess
from jotgate.adapters.queue import ProcrastinateQueue
from jotgate.adapters.rendering import NodeRendering
from jotgate.adapters.sealed_links import JoseLinks
from jotgate.adapters.secrets import Argon2Passwords, FernetCipher, TotpCodes
from jotgate.adapters.simulated.mail_room import FolderMailRoom
from jotgate.adapters.smtp import Server, SmtpMail
from jotgate.adapters.system import SystemClock, SystemIds
from jotgate.ports.identity import Known
from jotgate.services.context import Context
from jotgate.settings import Settings, is_service
from jotgate.store.base import connect


def build_context(settings: Settings) -> Context:
    """The context of the settings' database; its engine is the caller's to dispose of."""
    if not settings.keys:
        raise SystemExit("Set JOTGATE_KEYS to at least one Fernet key; see docs/operations.md.")
    if not settings.key_store_url:
        raise SystemExit(
            "Set JOTGATE_KEY_STORE_URL to a database or a key service; see docs/operations.md."
        )
    cipher = FernetCipher(settings.keys)
    return Context(
        engine=connect(settings.database_url, settings.pool_size),
        single=connect(settings.database_url, 2 * settings.pool_size, statementwise=True),
        restricted=connect(settings.restricted_url or settings.database_url, settings.pool_size),
        clock=SystemClock(),
        ids=SystemIds(),
        cipher=cipher,
        data_keys=EnvelopeKeys(
            open_key_store(settings.key_store_url, settings.key_store_token), cipher
        ),
        passwords=Argon2Passwords(),
        codes=TotpCodes(),
        passkeys=WebAuthnPasskeys(settings.public_url),
        sealed_links=JoseLinks(),
        provider=_provider(settings),
        providers=OpenIdProviders(),
        queue=ProcrastinateQueue(),
        mail=SmtpMail(_mail_server(settings), settings.mail_from),
        mail_room=FolderMailRoom(settings.mail_room) if settings.mail_room else None,
        calls=HttpCalls(settings.calls_private),
        files=FolderFiles(settings.files),
        inspector=PillowInspector(OwnProcesses(1, 20, 1_000)),
        proofs=OwnProcess(),
        reading=OwnProcesses(2, 10, 1_500),
        writing=OwnProcesses(1, 120, 3_000),
        printing=WeasyPrinting(OwnProcesses(2, 30, 1_000)),
        rendering=NodeRendering(settings.web / "render" / "render.js"),
        public_url=settings.public_url.rstrip("/"),
        session_hours=settings.session_hours,
        replaced_for=timedelta(hours=settings.replaced_hours),
        bounces=settings.bounces if settings.reports_port else "",
    )


def open_key_store(url: str, token: str) -> KeyStore:
    return KeyService(url, token) if is_service(url) else KeyDatabase(url)


def _mail_server(settings: Settings) -> Server:
    return Server(
        settings.smtp_host,
        settings.smtp_port,
        settings.smtp_user,
        settings.smtp_password,
        settings.smtp_tls,
    )


def _provider(settings: Settings) -> OpenIdProvider | None:
    if not settings.oidc_issuer:
        return None
    return OpenIdProvider(
        Known(
            settings.oidc_name,
            settings.oidc_issuer,
            settings.oidc_client_id,
            settings.oidc_client_secret,
        )
    )


@asynccontextmanager
async def open_context(settings: Settings) -> AsyncIterator[Context]:
    context = build_context(settings)
    try:
        yield context
    finally:
        await context.close()
