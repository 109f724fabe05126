"""A PostgreSQL cluster for the run, a database of its own for each test that asks, a context."""

import shutil
import tempfile
from collections.abc import AsyncIterator, Iterator
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from cryptography.fernet import Fernet
from hypothesis import settings
from pwdlib.hashers.argon2 import Argon2Hasher

from jotgate.adapters.calls import HttpCalls
from jotgate.adapters.data_keys import EnvelopeKeys
from jotgate.adapters.files import FolderFiles, PillowInspector
from jotgate.adapters.isolated import OwnProcesses
from jotgate.adapters.key_database import KeyDatabase, prepare
from jotgate.adapters.openid import OpenIdProviders
from jotgate.adapters.passkeys import WebAuthnPasskeys
from jotgate.adapters.printing import WeasyPrinting
from jotgate.adapters.proofs import OwnProcess
from jotgate.adapters.queue import ProcrastinateQueue
from jotgate.adapters.rendering import NodeRendering
from jotgate.adapters.sealed_links import JoseLinks
from jotgate.adapters.secrets import Argon2Passwords, FernetCipher, TotpCodes
from jotgate.adapters.system import SystemIds
from jotgate.core.records.accounts import Account
from jotgate.local import cluster as clusters
from jotgate.local.cluster import Cluster
from jotgate.ports.mail import Letter, Mail, MailFailed
from jotgate.services.context import Context
from jotgate.settings import ROOT
from jotgate.store.base import Engine, connect
from tests.databases import Databases
from tests.scenes import Scene, set_scene

settings.register_profile("context", deadline=None)
settings.load_profile("context")

KEY = Fernet.generate_key().decode()


def reachable_folder() -> Path:
    """A new folder that the database server's own user can reach."""
    folder = Path(tempfile.mkdtemp(prefix="jotgate-test-", dir="/var/tmp"))
    folder.chmod(0o755)
    return folder


@pytest.fixture
def open_folder() -> Iterator[Path]:
    """A folder for one test, that the database server's user can reach."""
    folder = reachable_folder()
    yield folder
    shutil.rmtree(folder)


@pytest.fixture(scope="session")
def cluster() -> Iterator[Cluster]:
    folder = reachable_folder()
    server = clusters.start(folder / "postgres", safe=False)
    clusters.create_database(server, "keys")
    prepare(server.url("keys"), clusters.REQUESTS)
    yield server
    server.stop(timeout=0.1)
    shutil.rmtree(folder)


def as_role(url: str, role: str) -> str:
    """The same database as another role; tests look at it as the one that its tables belong to."""
    return url.replace(f"//{clusters.ROLE}@", f"//{role}@")


@pytest.fixture
async def owner(database_url: str) -> AsyncIterator[Engine]:
    """The database as the role that its tables belong to, to look at all of it."""
    engine = connect(database_url, 2)
    yield engine
    await engine.dispose()


@pytest.fixture(scope="session")
def databases(cluster: Cluster) -> Databases:
    return Databases(cluster)


@pytest.fixture
def database_url(cluster: Cluster, databases: Databases) -> Iterator[str]:
    name = databases.take()
    yield cluster.url(name)
    databases.give_back(name)


class Clock:
    """Stands still until it is moved."""

    def __init__(self) -> None:
        self.at = datetime(2026, 11, 25, 9, 30, tzinfo=UTC)

    def now(self) -> datetime:
        return self.at

    def move(self, by: timedelta) -> None:
        self.at += by


class Post(Mail):
    """Takes letters, or fails as often as it is told to."""

    def __init__(self) -> None:
        self.letters: list[Letter] = []
        self.failures = 0

    async def send(self, letter: Letter) -> None:
        if self.failures:
            self.failures -= 1
            raise MailFailed("451 try again later")
        self.letters.append(letter)


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture
def post() -> Post:
    return Post()


@pytest.fixture(scope="session")
def passwords() -> Argon2Passwords:
    """They cost next to nothing: nearly every test makes two people."""
    return Argon2Passwords(Argon2Hasher(time_cost=1, memory_cost=8, parallelism=1))


@pytest.fixture(scope="session")
def proofs() -> Iterator[OwnProcess]:
    made = OwnProcess()
    yield made
    made.close()


@pytest.fixture(scope="session")
def printing() -> Iterator[WeasyPrinting]:
    """In a process of its own: WeasyPrint has Pillow take pictures that were cut off."""
    made = WeasyPrinting(OwnProcesses(1, 30, 1_000))
    yield made
    made.close()


@pytest.fixture(scope="session")
def reading() -> Iterator[OwnProcesses]:
    made = OwnProcesses(1, 30, 1_500)
    yield made
    made.close()


@pytest.fixture(scope="session")
def writing() -> Iterator[OwnProcesses]:
    made = OwnProcesses(1, 120, 3_000)
    yield made
    made.close()


@pytest.fixture(scope="session")
def rendering() -> Iterator[NodeRendering]:
    made = NodeRendering(ROOT / "web" / "dist" / "render" / "render.js")
    yield made
    made.close()


@pytest.fixture
async def context(
    database_url: str,
    cluster: Cluster,
    clock: Clock,
    post: Post,
    passwords: Argon2Passwords,
    tmp_path: Path,
    proofs: OwnProcess,
    reading: OwnProcesses,
    writing: OwnProcesses,
    printing: WeasyPrinting,
    rendering: NodeRendering,
) -> AsyncIterator[Context]:
    cipher = FernetCipher([KEY])
    built = Context(
        engine=connect(as_role(database_url, clusters.REQUESTS), 10),
        single=connect(as_role(database_url, clusters.REQUESTS), 10, statementwise=True),
        restricted=connect(as_role(database_url, clusters.RESTRICTED), 10),
        clock=clock,
        ids=SystemIds(),
        cipher=cipher,
        data_keys=EnvelopeKeys(
            KeyDatabase(cluster.url("keys", clusters.REQUESTS)), cipher, ahead=4
        ),
        passwords=passwords,
        codes=TotpCodes(),
        passkeys=WebAuthnPasskeys("https://jotgate.test"),
        sealed_links=JoseLinks(),
        provider=None,
        providers=OpenIdProviders(),
        queue=ProcrastinateQueue(),
        mail=post,
        mail_room=None,
        calls=HttpCalls(private=True),
        files=FolderFiles(tmp_path / "files"),
        inspector=PillowInspector(reading),
        proofs=proofs,
        reading=reading,
        writing=writing,
        printing=printing,
        rendering=rendering,
        public_url="http://jotgate.test",
        session_hours=12,
        replaced_for=timedelta(hours=24),
        bounces="bounces@jotgate.test",
    )
    yield built
    await built.data_keys.close()
    await built.engine.dispose()
    await built.single.dispose()
    await built.restricted.dispose()


@pytest.fixture
async def scene(context: Context) -> Scene:
    """Two accounts, a published and open questionnaire, two registers and rules."""
    return await set_scene(context)


@pytest.fixture
def reader(scene: Scene) -> Account:
    """The coordinator as somebody who may only read."""
    return replace(scene.coordinator, role="reviewer")
