"""A running installation with demo data, and Debian's Chromium."""

import asyncio
import json
import re
import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from selenium import webdriver
from selenium.webdriver.chrome.service import Service

from jotgate.demo.load import PEOPLE, load_once
from jotgate.local.cluster import free_port
from jotgate.local.installation import Installation, open_installation, start_processes
from jotgate.local.processes import Processes
from jotgate.settings import ROOT
from tests.browser.reading import Browser
from tests.browser.wells import Wells
from tests.conftest import reachable_folder

FLAGS = (
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-dev-shm-usage",
)
AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"


@pytest.fixture(scope="session")
def installation() -> Iterator[Installation]:
    folder = reachable_folder()
    opened = open_installation(folder, free_port(), safe=False, people=PEOPLE)
    asyncio.run(load_once(opened.settings, lambda _: None))
    yield opened
    opened.stop()
    shutil.rmtree(folder)


@pytest.fixture(scope="session")
def processes(installation: Installation) -> Iterator[Processes]:
    started = start_processes(installation)
    yield started
    started.stop()


def chromium_in(folder: Path) -> webdriver.Chrome:
    """A new Chromium that keeps its profile in `folder`."""
    options = webdriver.ChromeOptions()
    for flag in (*FLAGS, f"--user-data-dir={folder}"):
        options.add_argument(flag)
    options.binary_location = "/usr/bin/chromium"
    options.set_capability("goog:loggingPrefs", {"browser": "ALL", "performance": "ALL"})
    return webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))


@pytest.fixture(scope="session")
def chromium(tmp_path_factory: pytest.TempPathFactory) -> Iterator[webdriver.Chrome]:
    driver = chromium_in(tmp_path_factory.mktemp("chromium"))
    yield driver
    driver.quit()


SIGNED_OUT = re.compile(r"/api/me - .* status of 401 ")
"""How the desk finds out that nobody is signed in."""

STATUS = re.compile(r"the server responded with a status of (\d{3})")


@pytest.fixture
def browser(
    chromium: webdriver.Chrome,
    installation: Installation,
    processes: Processes,
    request: pytest.FixtureRequest,
) -> Iterator[Browser]:
    """Signed out, at desk width; after the test, no error may stand in the console but the
    refusals that its mark `refused` names, each of which has to be there."""
    found = Browser(chromium, installation.settings.public_url, AXE.read_text())
    found.resize(1280, 800)
    chromium.get("about:blank")
    chromium.execute_cdp_cmd("Network.clearBrowserCookies", {})
    chromium.get(f"{found.base}/desk")
    chromium.execute_script("sessionStorage.clear(); localStorage.clear()")
    chromium.get_log("browser")
    yield found
    severe = [one["message"] for one in chromium.get_log("browser") if one["level"] == "SEVERE"]
    errors = [message for message in severe if not SIGNED_OUT.search(message)]
    wanted = {status for mark in request.node.iter_markers("refused") for status in mark.args}
    refused = {int(status[1]) for one in errors if (status := STATUS.search(one))}
    assert refused == wanted, json.dumps(errors, indent=1)
    left = [message for message in errors if not STATUS.search(message)]
    assert not left, json.dumps(left, indent=1)


@pytest.fixture
def wells(installation: Installation) -> Wells:
    return Wells(installation)
