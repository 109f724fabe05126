"""Writing in a script of 500 questions on 20 pages: opening it, a key, moving a page."""

import statistics
import time
from collections.abc import Callable, Iterable, Iterator
from typing import Any
from uuid import UUID

from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from bench.support.chromium import WATCH, at_pace, busy, chromium, served, waited
from bench.support.figure import Figure
from bench.support.machine import both
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.local.installation import Installation
from jotgate.services.staff import questionnaires
from jotgate.services.staff.accounts import people
from jotgate.wiring import open_context

PAGES = 20
QUESTIONS = 500
EMAIL, PASSWORD = "a@example.org", "bench-of-the-script"

OPENED = """
new MutationObserver((_, observer) => {
  if (document.querySelectorAll("[id^=item-]").length < %d) return;
  observer.disconnect();
  requestAnimationFrame(() => setTimeout(() => (window.opened = performance.now())));
}).observe(document, {childList: true, subtree: true});
"""


def _item(page: int, at: int) -> dict[str, Any]:
    key = f"q{page}_{at}"
    item: dict[str, Any] = {"kind": "short_text", "key": key, "text": {"en": f"What of {key}?"}}
    if at % 5 == 1:
        options = [{"code": f"c{n}", "label": {"en": f"Option {n}"}} for n in range(6)]
        item |= {"kind": "pick_one", "options": options}
    if at % 5 == 3:
        item |= {"shown_when": {"op": "is", "item": f"q{page}_1", "value": "c1"}}
    return item


def long() -> Questionnaire:
    each = QUESTIONS // PAGES
    pages = [
        {
            "key": f"p{page}",
            "title": {"en": f"Page {page}"},
            "items": [_item(page, at) for at in range(each)],
        }
        for page in range(PAGES)
    ]
    finishes = [{"key": "end", "title": {"en": "End"}}]
    return Questionnaire.model_validate(
        {"title": {"en": "Long"}, "pages": pages, "finishes": finishes}
    )


async def _staged(installation: Installation) -> UUID:
    async with open_context(installation.settings) as context:
        person = await people.add(context, EMAIL, "A", "coordinator", PASSWORD)
        return await questionnaires.add(context, person, "", long())


def _sign_in(driver: webdriver.Chrome, base: str) -> None:
    driver.get(f"{base}/desk")
    waited(driver, "input[type=email]").send_keys(EMAIL)
    waited(driver, "input[type=password]").send_keys(PASSWORD + Keys.ENTER)
    waited(driver, "main a")


def _opened(driver: webdriver.Chrome, url: str) -> float:
    driver.get("about:blank")
    driver.get(url)
    end = time.monotonic() + 20
    while time.monotonic() < end:
        found: float | None = driver.execute_script("return window.opened ?? null")
        if found is not None:
            return found
        time.sleep(0.05)
    raise TimeoutError("the script did not open")


def _field(driver: webdriver.Chrome, id: str) -> WebElement:
    field = driver.find_element(By.ID, id)
    driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", field)
    driver.execute_script("arguments[0].focus()", field)
    time.sleep(0.5)
    return field


def _keys(driver: webdriver.Chrome, key: str) -> list[float]:
    field = _field(driver, f"item-{key}")
    return [busy(driver, lambda one=one: field.send_keys(one)) for one in " and when"]  # type: ignore[misc]


def _moves(driver: webdriver.Chrome) -> list[float]:
    _field(driver, "page-p3")
    found = []
    for _ in range(5):
        buttons = driver.find_elements(By.CSS_SELECTOR, "aside button")
        button = next(one for one in buttons if one.text == "Move down")
        found.append(busy(driver, button.click))
    return found


def _told(
    figure: str, of: Callable[[Iterable[float]], float], found: list[tuple[float, float]], bar: int
) -> Iterator[Figure]:
    raw, scaled = (of(values) for values in zip(*found, strict=True))
    yield from both("script", figure, raw, scaled, bar)


def figures() -> Iterator[Figure]:
    with served(_staged) as (base, id), chromium() as driver:
        driver.set_window_size(1280, 800)
        _sign_in(driver, base)
        driver.execute_cdp_cmd(
            "Page.addScriptToEvaluateOnNewDocument", {"source": OPENED % QUESTIONS + WATCH}
        )
        url = f"{base}/desk/q/{id}/script"
        opened = [one for _ in range(5) for one in at_pace(driver, lambda: [_opened(driver, url)])]
        yield from _told("opening 500 questions", statistics.median, opened, 1000)
        time.sleep(1)
        keys = [one for _ in range(3) for one in at_pace(driver, lambda: _keys(driver, "q10_7"))]
        yield Figure("script", "a key, median", statistics.median(one for one, _ in keys), "ms")
        yield from _told("a key, longest", max, keys, 50)
        yield from _told(
            "moving a page, longest", max, at_pace(driver, lambda: _moves(driver)), 200
        )
