"""A PostgreSQL cluster in a folder of the project's own, on loopback, on a free port."""

import os
import pwd
import secrets
import shutil
import socket
import subprocess
import time
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path

USER = "postgres"
"""The system user that runs the server when we are root; the server refuses root itself."""

ROLE = "jotgate"
"""The role that the tables belong to."""

REQUESTS, RESTRICTED = "jotgate_requests", "jotgate_restricted"
"""The roles of ordinary requests and of those for restricted answers (`store/grants.py`)."""

Say = Callable[[str], None]


class SetupError(Exception):
    """Something that a person has to put right; the message says what to do."""


@dataclass(frozen=True)
class Cluster:
    """A running cluster. `port` is on 127.0.0.1."""

    folder: Path
    port: int
    process: "subprocess.Popen[bytes]"
    safe: bool = True

    def url(self, database: str, role: str = ROLE) -> str:
        """The SQLAlchemy address of a database of this cluster."""
        return f"postgresql+psycopg://{role}@127.0.0.1:{self.port}/{database}"

    def runs(self) -> bool:
        return self.process.poll() is None

    def start_again(self) -> "Cluster":
        """The same cluster on the same port, after it has ended. Raises SetupError."""
        return start(self.folder, self.safe, self.port)

    def stop(self, timeout: float = 15) -> None:
        """Fast shutdown: disconnects everybody, keeps everything that was committed. One that takes
        longer than `timeout` seconds is told to end at once, and has as long as it then needs on a
        busy machine."""
        if self.process.poll() is None:
            self.process.send_signal(2)
            try:
                self.process.wait(timeout)
            except subprocess.TimeoutExpired:
                self.process.send_signal(3)
                self.process.wait(max(timeout, 30))


def programs() -> Path:
    """Where PostgreSQL's programs are, the newest version first. Raises SetupError."""
    found = sorted(
        Path("/usr/lib/postgresql").glob("*/bin/initdb"), key=lambda p: -int(p.parts[-3])
    )
    if found:
        return found[0].parent
    on_path = shutil.which("initdb")
    if on_path:
        return Path(on_path).parent
    raise SetupError("PostgreSQL is missing. Install it: apt-get install postgresql")


def as_user() -> dict[str, object]:
    """How to start the server's programs: as root, under the user of the Debian package."""
    if os.geteuid() != 0:
        return {}
    try:
        user = pwd.getpwnam(USER)
    except KeyError:
        raise SetupError("The user postgres is missing: apt-get install postgresql") from None
    return {"user": user.pw_uid, "group": user.pw_gid, "extra_groups": []}


def free_port() -> int:
    """A port of this machine that nothing listens on: below those that outgoing connections get,
    which could take it before somebody listens there (Linux, ip_local_port_range)."""
    while True:
        port = secrets.choice(range(20_000, 32_000))
        with socket.socket() as probe:
            try:
                probe.bind(("127.0.0.1", port))
            except OSError:
                continue
        return port


def _environment() -> dict[str, str]:
    return {"PATH": os.environ.get("PATH", "/usr/bin:/bin"), "LC_ALL": "C.UTF-8"}


def _run(arguments: list[str], **options: object) -> None:
    done = subprocess.run(
        arguments,
        capture_output=True,
        text=True,
        cwd="/",
        env=_environment(),
        **as_user(),  # type: ignore[call-overload]
        **options,
    )
    if done.returncode != 0:
        tail = " ".join((done.stderr or done.stdout).split())[-400:]
        raise SetupError(f"{Path(arguments[0]).name} failed: {tail}")


def create(folder: Path) -> None:
    """Make the cluster's files, unless they are there whole; a half-made one is made anew."""
    done = folder / "jotgate-ready"
    if done.exists():
        return
    if folder.exists():
        shutil.rmtree(folder)
    folder.mkdir(parents=True, mode=0o700)
    user = as_user()
    if user:
        os.chown(folder, user["user"], user["group"])  # type: ignore[arg-type]
    _run(
        [
            str(programs() / "initdb"),
            f"--pgdata={folder}",
            f"--username={ROLE}",
            "--auth=trust",
            "--encoding=UTF8",
            "--locale=C.UTF-8",
            "--no-instructions",
        ]
    )
    done.touch()


LEAST_CACHE, MOST_CACHE = 128, 4_096
"""Megabytes that the server keeps pages in: what it has without a word, and what is enough."""


def _cache() -> int:
    """A quarter of the memory, in megabytes, as PostgreSQL's manual advises (20.4)."""
    found = [os.sysconf("SC_PAGE_SIZE") * os.sysconf("SC_PHYS_PAGES")]
    with suppress(OSError, ValueError):  # A group that may have less; else "max", or no file.
        found.append(int(Path("/sys/fs/cgroup/memory.max").read_text()))
    return max(LEAST_CACHE, min(min(found) // 4 // 1024**2, MOST_CACHE))


def _write_settings(folder: Path, port: int, safe: bool) -> None:
    lines = {
        "listen_addresses": "'127.0.0.1'",
        "port": str(port),
        "unix_socket_directories": "''",
        "max_connections": "100",
        "shared_buffers": f"{_cache()}MB",
        "log_min_messages": "warning",
        "timezone": "'UTC'",
    }
    if not safe:
        lines |= {"fsync": "off", "synchronous_commit": "off", "full_page_writes": "off"}
    text = "".join(f"{name} = {value}\n" for name, value in lines.items())
    (folder / "postgresql.auto.conf").write_text(text)


def start(folder: Path, safe: bool = True, port: int | None = None, wait: float = 60) -> Cluster:
    """Start the cluster in `folder`, made where it is not there. Raises SetupError.

    It listens on `port`, or on a free one. `safe=False` gives up durability for speed, for
    tests that make their own data.
    """
    create(folder)
    end_left_over(folder)
    port = port or free_port()
    _write_settings(folder, port, safe)
    log = (folder / "server.log").open("ab")
    process = subprocess.Popen(
        [str(programs() / "postgres"), "-D", str(folder)],
        stdin=subprocess.DEVNULL,
        stdout=log,
        stderr=log,
        cwd="/",
        env=_environment(),
        start_new_session=True,
        **as_user(),  # type: ignore[call-overload]
    )
    cluster = Cluster(folder, port, process, safe)
    until = time.monotonic() + wait
    while not _answers(port):
        if process.poll() is not None or time.monotonic() > until:
            tail = (folder / "server.log").read_text(errors="replace")[-600:]
            raise SetupError(f"PostgreSQL did not start. Its log ends with:\n{tail}")
        time.sleep(0.05)
    return cluster


def _answers(port: int) -> bool:
    import psycopg

    try:
        with psycopg.connect(
            host="127.0.0.1", port=port, user=ROLE, dbname="postgres", connect_timeout=2
        ):
            return True
    except psycopg.OperationalError:
        return False


def end_left_over(folder: Path) -> None:
    """End a server that an earlier, killed run of ours left on this very folder."""
    note = folder / "postmaster.pid"
    if not note.exists():
        return
    pid = int(note.read_text().split()[0])
    if not _serves(pid, folder):
        return
    os.kill(pid, 2)
    for _ in range(200):
        if not _serves(pid, folder):
            return
        time.sleep(0.05)
    raise SetupError(f"Another PostgreSQL (process {pid}) is using {folder}. Stop it first.")


def _serves(pid: int, folder: Path) -> bool:
    """Whether the process `pid` is running, and runs on `folder`."""
    try:
        return str(folder).encode() in Path(f"/proc/{pid}/cmdline").read_bytes()
    except OSError:
        return False


def create_database(cluster: Cluster, name: str, template: str | None = None) -> None:
    """Make the database `name`, a copy of `template` where one is given, and the roles, if they are
    not there."""
    import psycopg
    from psycopg import sql

    with psycopg.connect(
        host="127.0.0.1", port=cluster.port, user=ROLE, dbname="postgres", autocommit=True
    ) as connection:
        for role in (REQUESTS, RESTRICTED):
            found = connection.execute("select 1 from pg_roles where rolname = %s", (role,))
            if not found.fetchone():
                connection.execute(sql.SQL("create role {} login").format(sql.Identifier(role)))
        there = connection.execute(
            "select 1 from pg_database where datname = %s", (name,)
        ).fetchone()
        if there:
            return
        query = sql.SQL("create database {}").format(sql.Identifier(name))
        if template:
            # Copied as files: by the log, a test run would write all of them twice.
            query += sql.SQL(" template {} strategy file_copy").format(sql.Identifier(template))
        connection.execute(query)
