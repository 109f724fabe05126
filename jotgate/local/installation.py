"""One installation on this machine: its folder, its keys, its cluster and its settings."""

import hashlib
import json
import os
import shutil
from dataclasses import dataclass, replace
from pathlib import Path

from cryptography.fernet import Fernet

from jotgate.local import cluster
from jotgate.local.cluster import Cluster, SetupError
from jotgate.local.processes import Processes, web_arguments
from jotgate.settings import ROOT, Settings
from jotgate.store.migrate import migrate

ROOM_NEEDED = 500_000_000
"""Bytes of free disk that an installation asks for."""

DATABASE = "jotgate"


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
    """A started database and what its processes are told."""

    folder: Path
    cluster: Cluster
    settings: Settings

    def environment(self) -> dict[str, str]:
        """The settings as the environment variables that they are read from."""
        dumped = self.settings.model_dump(mode="json", exclude_none=True)
        return {
            f"JOTGATE_{name.upper()}": value if isinstance(value, str) else json.dumps(value)
            for name, value in dumped.items()
        }

    def with_cluster(self, cluster: Cluster) -> "Installation":
        return replace(self, cluster=cluster)

    def processes(self) -> Processes:
        return Processes(self.environment(), self.folder / "jotgate.log")


def open_installation(folder: Path, port: int, safe: bool = True) -> Installation:
    """Start the database in `folder` and bring it to the newest schema. Raises SetupError."""
    folder.mkdir(parents=True, exist_ok=True)
    if shutil.disk_usage(folder).free < ROOM_NEEDED:
        raise SetupError(f"Less than 500 MB are free in {folder}. Make room, then start again.")
    server = cluster.start(folder / "postgres", safe=safe)
    try:
        cluster.create_database(server, DATABASE)
        settings = Settings(
            database_url=server.url(DATABASE),
            keys=tuple(keys(folder)),
            port=port,
            secure_cookies=False,
            public_url=f"http://127.0.0.1:{port}",
            smtp_port=cluster.free_port(),
            mail_room=folder / "mail-room",
            files=folder / "files",
        )
        migrate(settings.database_url)
    except BaseException:
        server.stop()
        raise
    return Installation(folder, server, settings)


def start_processes(installation: Installation) -> Processes:
    """Start the outside world, the worker and the application, and wait for its answer."""
    processes = installation.processes()
    try:
        processes.start("mail room", ("-m", "jotgate", "mail-room"))
        processes.start("worker", ("-m", "jotgate", "worker"))
        processes.start("application", web_arguments(installation.settings.port))
        processes.wait_for_web(installation.settings.public_url)
    except BaseException:
        processes.stop()
        raise
    return processes
