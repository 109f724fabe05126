"""What is wrong with the settings of an installation, each thing as a sentence."""

import asyncio
import os
import socket
from collections.abc import Iterator
from dataclasses import dataclass
from email.utils import parseaddr
from typing import Any
from urllib.parse import urlsplit
from uuid import UUID

import psycopg
from cryptography.fernet import Fernet
from pydantic import ValidationError

from jotgate.adapters.key_service import KeyService
from jotgate.core.common.errors import Unavailable
from jotgate.settings import Settings, for_libpq, is_service
from jotgate.store.migrate import newest_revision

LOOPBACK = {"localhost", "127.0.0.1", "::1"}


@dataclass(frozen=True)
class Finding:
    """`fatal` is what nothing can be started with."""

    says: str
    fatal: bool = True


def read() -> tuple[Settings | None, list[Finding]]:
    """The settings of the environment, or what keeps them from being read."""
    try:
        return Settings(), []
    except ValidationError as error:
        return None, [
            Finding(f"JOTGATE_{str(one['loc'][0]).upper()}: {one['msg']}")
            for one in error.errors(include_input=False)
        ]


def look(settings: Settings) -> list[Finding]:
    """What is wrong, the worst first."""
    found = [
        *_keys(settings),
        *_address(settings),
        *_folders(settings),
        *_mail(settings),
        *_provider(settings),
        *_database(settings),
        *_key_store(settings),
    ]
    return sorted(found, key=lambda one: not one.fatal)


def _keys(settings: Settings) -> Iterator[Finding]:
    if not settings.keys:
        yield Finding("JOTGATE_KEYS has no key: restricted answers could not be sealed.")
    for number, key in enumerate(settings.keys, start=1):
        try:
            Fernet(key)
        except ValueError:
            yield Finding(f"Key {number} of JOTGATE_KEYS is not a Fernet key.")


def _address(settings: Settings) -> Iterator[Finding]:
    split = urlsplit(settings.public_url)
    if split.scheme not in ("http", "https") or not split.hostname:
        yield Finding("JOTGATE_PUBLIC_URL is not an address such as https://answers.example.org.")
        return
    if split.path.strip("/") or split.query:
        yield Finding("JOTGATE_PUBLIC_URL has a path; the application needs a host of its own.")
    if split.scheme == "http" and settings.secure_cookies:
        yield Finding(
            "JOTGATE_PUBLIC_URL is not over HTTPS, and JOTGATE_SECURE_COOKIES is on: nobody could "
            "sign in."
        )
    if split.scheme == "http" and split.hostname not in LOOPBACK:
        yield Finding(
            "JOTGATE_PUBLIC_URL is not over HTTPS: passwords and answers can be read on the way.",
            fatal=False,
        )


def _folders(settings: Settings) -> Iterator[Finding]:
    if not (settings.web / "answer.html").exists():
        yield Finding(f"The front end is not built: {settings.web} has no answer.html.")
    near = next(one for one in (settings.files, *settings.files.parents) if one.exists())
    if not near.is_dir() or not os.access(near, os.W_OK):
        yield Finding(f"JOTGATE_FILES: {near} cannot be written to.")


def _mail(settings: Settings) -> Iterator[Finding]:
    if "@" not in parseaddr(settings.mail_from)[1]:
        yield Finding("JOTGATE_MAIL_FROM is not a sender such as Office <post@example.org>.")
    if settings.mail_room is not None:
        return
    try:
        with socket.create_connection((settings.smtp_host, settings.smtp_port), timeout=3):
            pass
    except OSError:
        yield Finding(
            f"No mail server answers at {settings.smtp_host}:{settings.smtp_port}, where "
            "JOTGATE_SMTP_HOST and JOTGATE_SMTP_PORT say: letters wait until one does.",
            fatal=False,
        )


def _provider(settings: Settings) -> Iterator[Finding]:
    given = {
        "JOTGATE_OIDC_NAME": settings.oidc_name,
        "JOTGATE_OIDC_ISSUER": settings.oidc_issuer,
        "JOTGATE_OIDC_CLIENT_ID": settings.oidc_client_id,
        "JOTGATE_OIDC_CLIENT_SECRET": settings.oidc_client_secret,
    }
    missing = [name for name, value in given.items() if not value]
    if missing and len(missing) < len(given):
        yield Finding(f"The identity provider lacks {', '.join(missing)}.")
    issuer = urlsplit(settings.oidc_issuer)
    if settings.oidc_issuer and issuer.scheme != "https" and issuer.hostname not in LOOPBACK:
        yield Finding("JOTGATE_OIDC_ISSUER is not over HTTPS.")


def _connected(url: str) -> "psycopg.Connection[tuple[Any, ...]]":
    return psycopg.connect(for_libpq(url), connect_timeout=5)


def _silent(name: str, error: psycopg.Error) -> Finding:
    why = str(error).strip().splitlines()[0]
    return Finding(f"{name}: the database does not answer ({why}).")


def _database(settings: Settings) -> Iterator[Finding]:
    try:
        with _connected(settings.database_url) as connection:
            number = connection.info.server_version // 10_000
            there = connection.execute("select to_regclass('alembic_version')").fetchone()
            found = (
                connection.execute("select version_num from alembic_version").fetchone()
                if there and there[0]
                else None
            )
    except psycopg.Error as error:
        yield _silent("JOTGATE_DATABASE_URL", error)
        return
    if number < 15:
        yield Finding(f"PostgreSQL {number} is too old; 15 or later is needed.")
    if found is None or found[0] != newest_revision():
        yield Finding("The database is not at this version: run python -m jotgate migrate.")


def _key_store(settings: Settings) -> Iterator[Finding]:
    if not settings.key_store_url:
        yield Finding("JOTGATE_KEY_STORE_URL names no database: data keys could not be kept.")
        return
    if is_service(settings.key_store_url):
        yield from _key_service(settings)
        return
    try:
        with _connected(settings.key_store_url) as connection:
            there = connection.execute("select to_regclass('data_keys')").fetchone()
    except psycopg.Error as error:
        yield _silent("JOTGATE_KEY_STORE_URL", error)
        return
    if there is None or there[0] is None:
        yield Finding("The store of data keys is not set up: run python -m jotgate migrate.")


def _key_service(settings: Settings) -> Iterator[Finding]:
    name, parts = "JOTGATE_KEY_STORE_URL", urlsplit(settings.key_store_url)
    if parts.scheme == "http" and parts.hostname not in LOOPBACK:
        yield Finding(f"{name} is not over HTTPS: data keys could be read on the way.")
        return
    try:
        asyncio.run(_asked(settings))
    except Unavailable:
        yield Finding(
            f"{name}: the key service does not answer, or not to JOTGATE_KEY_STORE_TOKEN."
        )


async def _asked(settings: Settings) -> None:
    service = KeyService(settings.key_store_url, settings.key_store_token)
    try:
        await service.find([UUID(int=0)])
    finally:
        await service.close()


def told(findings: list[Finding]) -> str:
    """The findings as lines."""
    return "\n".join(f"  {'✗' if one.fatal else '!'} {one.says}" for one in findings)
