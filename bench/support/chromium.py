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
from selenium.webdriver.common.by import By
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import WebDriverWait

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


PLAIN = """
const once = () => {
  const started = performance.now();
  const kept = new Map();
  for (let n = 0; n < 20000; n++) {
    const key = `k${n % 977}`;
    kept.set(key, {...(kept.get(key) ?? {}), [`m${n % 7}`]: n});
  }
  const box = document.createElement("div");
  for (let n = 0; n < 1000; n++) {
    const row = document.createElement("p");
    row.textContent = `Row ${n} of the page, with some words in it`;
    box.append(row);
  }
  document.body.append(box);
  box.getBoundingClientRect();
  box.remove();
  return performance.now() - started;
};
return Math.min(...Array.from({length: 9}, once));
"""
"""What every page does, without any library: objects copied into a map, rows made and laid out."""

KNOWN = 42.0
"""Milliseconds of `PLAIN` on the machine that the bars of pages are meant for. Measured where a
million additions in Python took 49; where they took 105 it was 57."""


def page_pace(driver: webdriver.Chrome) -> float:
    """How many times longer than on the known machine a page takes now, in an empty tab."""
    before = driver.current_window_handle
    driver.switch_to.new_window("tab")
    try:
        found: float = driver.execute_script(PLAIN)
    finally:
        driver.close()
        driver.switch_to.window(before)
    return found / KNOWN


def at_pace(
    driver: webdriver.Chrome, measure: Callable[[], list[float]]
) -> list[tuple[float, float]]:
    """Milliseconds that `measure` gives, each also as it would be on the known machine: by the
    mean of the pace before and after, since the machine's own may change within a minute."""
    before = page_pace(driver)
    measured = measure()
    pace = (before + page_pace(driver)) / 2
    return [(one, one / pace) for one in measured]


def waited(driver: webdriver.Chrome, selector: str) -> WebElement:
    """What `selector` finds, as soon as it is there; 20 seconds at most."""
    found: WebElement = WebDriverWait(driver, 20, poll_frequency=0.05).until(
        lambda driver: driver.find_element(By.CSS_SELECTOR, selector)
    )
    return found


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
        installation.stop()
        shutil.rmtree(folder)
