"""The demo data, and the command that serves it, in the troubles that people meet."""

import socket
import subprocess
import sys
from pathlib import Path

import pytest

from jotgate.core.records.accounts import Client
from jotgate.demo.load import ACCOUNTS, ENTRIES, LATELY, load_once
from jotgate.demo.rounds import ANSWERED
from jotgate.demo.sign_ups import PEOPLE
from jotgate.local import cluster as clusters
from jotgate.local.cluster import SetupError, free_port
from jotgate.local.installation import keys
from jotgate.services.context import Context
from jotgate.services.staff import desk
from jotgate.services.staff.accounts import people
from jotgate.services.staff.accounts.sessions import SignedIn
from jotgate.services.staff.accounts.sign_in import sign_in
from jotgate.services.staff.entries import entry_table
from jotgate.settings import ROOT, Settings
from jotgate.wiring import open_context
from tests.conftest import KEY

pytestmark = pytest.mark.long


def settings_for(database_url: str) -> Settings:
    store = database_url.rpartition("/")[0] + "/keys"
    return Settings(database_url=database_url, key_store_url=store, keys=(KEY,))


async def test_the_scenario_is_loaded_once(database_url: str) -> None:
    settings = settings_for(database_url)
    said: list[str] = []
    assert await load_once(settings, said.append)
    assert not await load_once(settings, said.append)
    async with open_context(settings) as context:
        signed = await sign_in(context, ACCOUNTS[0][0], "well-water-2026", Client("here"))
        assert isinstance(signed, SignedIn)
        lines = await desk.desk(context, signed.session.account)
        stands = [line.brief.stands for line in lines]
        assert stands.count("full") == 1
        assert "shut" not in stands
        by_round = sum(one.stop - one.start for one in ANSWERED)
        wanted = sum(ENTRIES.values()) + LATELY + len(PEOPLE) + by_round
        assert sum(line.summary.entries for line in lines) == wanted
        wells = lines[0].summary
        page = await entry_table.page(context, signed.session.account, wells.id)
        assert page.cleared
        assert any(page.withheld[entry.id] for entry in page.entries)


async def test_data_that_came_in_part_are_not_taken_for_whole(context: Context) -> None:
    email, name, role = ACCOUNTS[0]
    await people.add(context, email, name, role, "x")
    url = context.engine.url.render_as_string(hide_password=False)
    with pytest.raises(SetupError, match="--fresh"):
        await load_once(settings_for(url), lambda _: None)


def test_a_busy_port_gets_a_sentence() -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        done = subprocess.run(
            [sys.executable, "-m", "jotgate", "demo", f"--port={port}"],
            cwd=ROOT,
            capture_output=True,
            text=True,
            timeout=60,
        )
    assert done.returncode == 1
    assert f"Port {port} is in use. Choose another: bin/demo --port {port + 1}" in done.stderr


def test_a_half_made_cluster_is_made_anew(open_folder: Path) -> None:
    folder = open_folder / "postgres"
    folder.mkdir()
    (folder / "PG_VERSION").write_text("half")
    server = clusters.start(folder, safe=False)
    clusters.create_database(server, "there")
    server.stop()
    again = clusters.start(folder, safe=False)
    assert again.port != server.port or again.process.pid != server.process.pid
    again.stop()


def test_what_the_server_says_is_passed_on(
    open_folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(clusters, "programs", lambda: open_folder)
    (open_folder / "initdb").write_text("#!/bin/sh\necho no space left on device >&2\nexit 1\n")
    (open_folder / "initdb").chmod(0o755)
    with pytest.raises(SetupError, match="initdb failed: no space left on device"):
        clusters.create(open_folder / "postgres")


def test_keys_are_for_the_owner_alone(tmp_path: Path) -> None:
    made = keys(tmp_path)
    assert keys(tmp_path) == made
    assert (tmp_path / "keys.json").stat().st_mode & 0o777 == 0o600


def test_a_free_port_is_free() -> None:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", free_port()))
