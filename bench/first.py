"""The first page on a slow phone: when its words can be read, and its first field be used.

Processor four times slower, 400 kbit/s, 400 ms to the first byte of each answer, nothing kept.
"""

import statistics
import time
from collections.abc import Iterator
from typing import Any

from selenium import webdriver

from bench.submit import opened
from bench.support.chromium import chromium, served
from bench.support.figure import Figure
from jotgate.core.document.look import Look
from jotgate.demo.load import documents
from jotgate.demo.photos import bottles
from jotgate.local.installation import Installation
from jotgate.services.staff import media, questionnaires
from jotgate.services.staff.accounts import people
from jotgate.wiring import open_context

BYTES_A_SECOND = 400_000 / 8
SLOW = {
    "offline": False,
    "latency": 400,
    "downloadThroughput": BYTES_A_SECOND,
    "uploadThroughput": BYTES_A_SECOND,
}
TIMES_SLOWER = 4
ROUNDS = 5

WATCHED = """
window.shifts = [];
new PerformanceObserver((list) => {
  for (const one of list.getEntries()) window.shifts.push([one.startTime, one.value]);
}).observe({type: "layout-shift", buffered: true});
const look = () => {
  const field = document.querySelector("#app input");
  const ours = field && Object.keys(field).some((key) => key.startsWith("__reactProps"));
  if (ours) window.alive = performance.now();
  else requestAnimationFrame(look);
};
requestAnimationFrame(look);
"""
"""`alive` is when the page's script has taken the first field for its own."""

READ = """
const [paint] = performance.getEntriesByName("first-contentful-paint");
if (!paint || window.alive === undefined) return null;
const moved = window.shifts.filter(([at]) => at <= window.alive + 100);
return [paint.startTime, window.alive, moved.reduce((sum, [, value]) => sum + value, 0)];
"""


async def _staged(installation: Installation) -> dict[str, str]:
    """Addresses of the demo's well check by layout."""
    document = documents()["private_well_check"]
    async with open_context(installation.settings) as context:
        person = await people.add(context, "a@example.org", "A", "coordinator", "x")
        own = await questionnaires.add(context, person, "Pictures", None)
        medium, seen = await media.add(context, person, own, "bottles.jpg", bottles())
        look = {
            "one_by_one": True,
            "width": "wide",
            "picture": {
                "media": medium.id,
                "width": seen.width,
                "height": seen.height,
                "place": "beside",
            },
        }
        other = document.model_copy(update={"look": Look.model_validate(look)})
        return {
            "page by page": await opened(context, person, document),
            "question by question beside a picture": await opened(context, person, other),
        }


def _opened(driver: webdriver.Chrome, url: str) -> list[float]:
    """Milliseconds to the first words and to the first field, and how far things jumped (the
    share of the window that moved, by how far: Layout Instability, W3C)."""
    driver.get("about:blank")
    driver.execute_cdp_cmd("Network.clearBrowserCache", {})
    driver.get(url)
    end = time.monotonic() + 30
    while time.monotonic() < end:
        found: Any = driver.execute_script(READ)
        if found is not None:
            return list(found)
        time.sleep(0.2)
    raise TimeoutError("the page did not come alive")


def figures() -> Iterator[Figure]:
    with served(_staged) as (base, addresses), chromium() as driver:
        driver.set_window_size(390, 844)
        driver.execute_cdp_cmd("Page.addScriptToEvaluateOnNewDocument", {"source": WATCHED})
        driver.execute_cdp_cmd("Network.enable", {})
        driver.execute_cdp_cmd("Network.emulateNetworkConditions", SLOW)
        driver.execute_cdp_cmd("Emulation.setCPUThrottlingRate", {"rate": TIMES_SLOWER})
        for layout, address in addresses.items():
            rounds = [_opened(driver, f"{base}/q/{address}") for _ in range(ROUNDS + 1)][1:]
            yield from _told(layout, rounds)


def _told(layout: str, rounds: list[list[float]]) -> Iterator[Figure]:
    words, field, jumped = (statistics.median(values) for values in zip(*rounds, strict=True))
    yield Figure(
        "first", f"words of the first page, slow phone, {layout}", words, "ms", 1600, False
    )
    yield Figure("first", f"first field, slow phone, {layout}", field, "ms", 4500, False)
    yield Figure("first", f"jump while coming alive, {layout}", jumped, "share", 0.01, False)
