"""One installation on this machine: its folder, its keys, its cluster and its settings."""

import hashlib
import json
import os
import shutil
from collections.abc import Mapping
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

from cryptography.fernet import Fernet
from sqlalchemy.engine import make_url

from jotgate.adapters.key_database import prepare
from jotgate.adapters.simulated.identity_provider import CLIENT_ID, CLIENT_SECRET, Known
from jotgate.local import checks, cluster
from jotgate.local.cluster import Cluster, SetupError
from jotgate.local.processes import Processes, web_arguments
from jotgate.settings import ROOT, Settings, is_service
from jotgate.store.grants import grant
from jotgate.store.migrate import migrate

ROOM_NEEDED = 500_000_000
"""Bytes of free disk that an installation asks for."""

DATABASE, KEYS = "jotgate", "jotgate_keys"
"""Our databases: that of everything, and that of data keys."""


def data_folder() -> Path:
    """Where data is kept: `.data` in the project, or under /var/lib where we are root and the
    server's user could not reach the project's folder."""
    chosen = os.environ.get("JOTGATE_DATA")
    if chosen:
        return Path(chosen).resolve()
    if os.geteuid() == 0 and any(not p.stat().st_mode & 0o001 for p in [ROOT, *ROOT.parents]):
        name = hashlib.sha256(str(ROOT).encode()).hexdigest()[:8]
        return Path("/var/lib/jotgate") / name
    return ROOT / ".data"


def keys(folder: Path) -> list[str]:
    """The installation's Fernet keys, made on first use, readable by the owner alone."""
    path = folder / "keys.json"
    if not path.exists():
        with os.fdopen(os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as file:
            json.dump([Fernet.generate_key().decode()], file)
    found: list[str] = json.loads(path.read_text())
    return found


@dataclass(frozen=True)
class Installation:
    """What its processes are told; `cluster` is a database of our own, where it has one."""

    folder: Path
    cluster: Cluster | None
    settings: Settings

    def environment(self) -> dict[str, str]:
        """The settings as the environment variables that they are read from."""
        dumped = self.settings.model_dump(mode="json", exclude_none=True)
        return {
            f"JOTGATE_{name.upper()}": value if isinstance(value, str) else json.dumps(value)
            for name, value in dumped.items()
        }

    @property
    def server(self) -> Cluster:
        """The database of our own. Raises ValueError where there is none."""
        if self.cluster is None:
            raise ValueError("this installation works on another database")
        return self.cluster

    def with_cluster(self, cluster: Cluster) -> "Installation":
        return replace(self, cluster=cluster)

    def processes(self) -> Processes:
        return Processes(self.environment(), self.folder / "jotgate.log")

    def stop(self) -> None:
        if self.cluster is not None:
            self.cluster.stop()


def _with_database(folder: Path, safe: bool) -> tuple[Cluster, dict[str, Any]]:
    """Start a database in `folder`, and what settings say of it. Raises SetupError."""
    folder.mkdir(parents=True, exist_ok=True)
    if shutil.disk_usage(folder).free < ROOM_NEEDED:
        raise SetupError(f"Less than 500 MB are free in {folder}. Make room, then start again.")
    server = cluster.start(folder / "postgres", safe=safe)
    try:
        cluster.create_database(server, DATABASE)
        cluster.create_database(server, KEYS)
    except BaseException:
        server.stop()
        raise
    return server, {
        "database_url": server.url(DATABASE, cluster.REQUESTS),
        "restricted_url": server.url(DATABASE, cluster.RESTRICTED),
        "migrations_url": server.url(DATABASE),
        "key_store_url": server.url(KEYS, cluster.REQUESTS),
        "key_store_migrations_url": server.url(KEYS),
        "keys": tuple(keys(folder)),
        "files": folder / "files",
    }


def bring(settings: Settings) -> None:
    """Bring the databases to the newest schema, and give their roles what they need."""
    owner = settings.migrations_url or settings.database_url
    migrate(owner)
    requests = make_url(settings.database_url).username or ""
    restricted = make_url(settings.restricted_url or settings.database_url).username or ""
    grant(owner, requests, restricted)
    if settings.key_store_url and not is_service(settings.key_store_url):
        role = make_url(settings.key_store_url).username or ""
        prepare(settings.key_store_migrations_url or settings.key_store_url, role)


def open_installation(
    folder: Path, port: int, safe: bool = True, people: Mapping[str, Known] | None = None
) -> Installation:
    """An installation with the simulated outside world, for the demo and for tests: its database
    started and at the newest schema. `people` are known to the identity provider, by address:
    their names, or claims.
    Raises SetupError."""
    server, told = _with_database(folder, safe)
    try:
        settings = Settings(
            **told,
            **_outside(folder, people or {}),
            port=port,
            secure_cookies=False,
            public_url=f"http://localhost:{port}",
        )
        bring(settings)
    except BaseException:
        server.stop()
        raise
    return Installation(folder, server, settings)


def _same_port(file: Path) -> int:
    """A free port, the same at every start: what visitors sign in at is set up with it."""
    if not file.exists():
        file.write_text(str(cluster.free_port()), encoding="ascii")
    return int(file.read_text(encoding="ascii"))


def _outside(folder: Path, people: Mapping[str, Known]) -> dict[str, Any]:
    """What settings say of the simulated mail room, webhook bench and identity provider."""
    told: dict[str, Any] = {
        "smtp_port": cluster.free_port(),
        "mail_room": folder / "mail-room",
        "bounces": "bounces@jotgate.example.org",
        "reports_port": cluster.free_port(),
        "webhook_bench": folder / "webhook-bench",
        "webhook_bench_port": _same_port(folder / "webhook-bench-port"),
        "calls_private": True,
    }
    if people:
        known = folder / "people.json"
        known.write_text(json.dumps(dict(people)), encoding="utf-8")
        told |= {
            "identity_people": known,
            "oidc_name": "Thornmere sign-in",
            "oidc_issuer": f"http://127.0.0.1:{_same_port(folder / 'provider-port')}",
            "oidc_client_id": CLIENT_ID,
            "oidc_client_secret": CLIENT_SECRET,
        }
    return told


def open_for_use(folder: Path, port: int, with_mail_room: bool) -> Installation:
    """An installation for real use: as the environment says, with a database of our own in `folder`
    where it names none. Raises SetupError with what is wrong."""
    given, findings = checks.read()
    if given is None:
        raise SetupError(f"The settings cannot be used:\n{checks.told(findings)}")
    changes: dict[str, Any] = {"port": port}
    if "public_url" not in given.model_fields_set:
        changes |= {"public_url": f"http://localhost:{port}", "secure_cookies": False}
    if with_mail_room:
        changes |= {"mail_room": folder / "mail-room", "smtp_port": cluster.free_port()}
    server = None
    if "database_url" not in given.model_fields_set:
        server, told = _with_database(folder, safe=True)
        changes |= {k: v for k, v in told.items() if k not in given.model_fields_set}
    settings = given.model_copy(update=changes)
    folder.mkdir(parents=True, exist_ok=True)
    try:
        if server is not None:
            bring(settings)
        findings = checks.look(settings)
        if any(one.fatal for one in findings):
            raise SetupError(f"The settings cannot be used:\n{checks.told(findings)}")
    except BaseException:
        if server is not None:
            server.stop()
        raise
    return Installation(folder, server, settings)


def start_processes(installation: Installation, host: str = "127.0.0.1") -> Processes:
    """Start the outside world, the worker and the application, and wait for its answer."""
    processes, settings = installation.processes(), installation.settings
    try:
        if settings.mail_room is not None:
            processes.start("mail room", ("-m", "jotgate", "mail-room"))
        if settings.webhook_bench is not None:
            processes.start("webhook bench", ("-m", "jotgate", "webhook-bench"))
        if settings.identity_people is not None:
            processes.start("identity provider", ("-m", "jotgate", "identity-provider"))
        if settings.reports_port:
            processes.start("reports", ("-m", "jotgate", "reports"))
        processes.start("worker", ("-m", "jotgate", "worker"))
        processes.start("application", web_arguments(settings.port, host))
        processes.wait_for_web(f"http://127.0.0.1:{settings.port}")
    except BaseException:
        processes.stop()
        raise
    return processes
