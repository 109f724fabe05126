"""Chromium for the benches: how long a page is busy, in the browser's own trace."""

import asyncio
import shutil
import tempfile
import time
from collections.abc import Callable, Coroutine, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any, TypeVar

from selenium import webdriver
from selenium.webdriver.chrome.service import Service

from jotgate.local.cluster import free_port
from jotgate.local.installation import Installation, open_installation
from jotgate.local.processes import web_arguments

T = TypeVar("T")

FLAGS = (
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-dev-shm-usage",
)


@contextmanager
def chromium() -> Iterator[webdriver.Chrome]:
    options = webdriver.ChromeOptions()
    folder = tempfile.mkdtemp(prefix="jotgate-bench-")
    for flag in (*FLAGS, f"--user-data-dir={folder}"):
        options.add_argument(flag)
    options.binary_location = "/usr/bin/chromium"
    driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
    try:
        yield driver
    finally:
        driver.quit()
        shutil.rmtree(folder, ignore_errors=True)


WATCH = """
window.busy = [];
new PerformanceObserver((list) => {
  for (const one of list.getEntries())
    if (one.interactionId || /^(key|input|click|change)/.test(one.name))
      window.busy.push(one.processingEnd - one.processingStart);
}).observe({type: "event", durationThreshold: 16});
new PerformanceObserver((list) => {
  for (const one of list.getEntries()) window.busy.push(one.duration);
}).observe({type: "longtask"});
"""


def busy(driver: webdriver.Chrome, act: Callable[[], None]) -> float:
    """Milliseconds of the longest task or event handler of the page while `act` runs."""
    driver.execute_script("window.busy = []")
    act()
    time.sleep(0.15)
    found: list[float] = driver.execute_script("return window.busy")
    return max(found, default=0.0)


@contextmanager
def served(stage: Callable[[Installation], Coroutine[Any, Any, T]]) -> Iterator[tuple[str, T]]:
    """An installation of its own, set up by `stage`: its address, and what that gave."""
    folder = Path(tempfile.mkdtemp(prefix="jotgate-bench-", dir="/var/tmp"))
    folder.chmod(0o755)
    installation = open_installation(folder, free_port(), safe=False)
    processes = installation.processes()
    try:
        staged = asyncio.run(stage(installation))
        processes.start("application", web_arguments(installation.settings.port))
        processes.wait_for_web(installation.settings.public_url)
        yield installation.settings.public_url, staged
    finally:
        processes.stop()
        installation.cluster.stop()
        shutil.rmtree(folder)
