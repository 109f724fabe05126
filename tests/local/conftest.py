"""An installation whose processes a test starts, kills and starts again."""

import shutil
from collections.abc import Iterator

import pytest

from jotgate.local.cluster import free_port
from jotgate.local.installation import Installation, open_installation
from jotgate.local.processes import Processes
from tests.conftest import reachable_folder


@pytest.fixture
def installation() -> Iterator[Installation]:
    folder = reachable_folder()
    opened = open_installation(folder, free_port())
    yield opened
    opened.stop()
    shutil.rmtree(folder)


@pytest.fixture
def processes(installation: Installation) -> Iterator[Processes]:
    started = Processes(
        {**installation.environment(), "JOTGATE_PUBLIC_PER_MINUTE": "1000000"},
        installation.folder / "jotgate.log",
    )
    yield started
    started.stop()
