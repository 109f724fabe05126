"""Writing in a script of 500 questions on 20 pages: opening it, a key, moving a page."""

import statistics
import time
from collections.abc import Iterator
from typing import Any
from uuid import UUID

from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from bench.chromium import WATCH, busy, chromium, served
from bench.figure import Figure
from bench.machine import timed
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.local.installation import Installation
from jotgate.services import accounts, questionnaires
from jotgate.wiring import open_house

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
    async with open_house(installation.settings) as house:
        person = await accounts.add_account(house, EMAIL, "A", "coordinator", PASSWORD)
        return await questionnaires.add(house, person, "", long())


def _sign_in(driver: webdriver.Chrome, base: str) -> None:
    driver.get(f"{base}/desk")
    time.sleep(1)
    driver.find_element(By.CSS_SELECTOR, "input[type=email]").send_keys(EMAIL)
    driver.find_element(By.CSS_SELECTOR, "input[type=password]").send_keys(PASSWORD + Keys.ENTER)
    time.sleep(1)


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


def _keys(driver: webdriver.Chrome, key: str) -> list[float]:
    field = driver.find_element(By.ID, f"item-{key}")
    driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", field)
    driver.execute_script("arguments[0].focus()", field)
    time.sleep(0.5)
    return [busy(driver, lambda one=one: field.send_keys(one)) for one in " and when"]  # type: ignore[misc]


def _moves(driver: webdriver.Chrome) -> list[float]:
    field = driver.find_element(By.ID, "page-p3")
    driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", field)
    driver.execute_script("arguments[0].focus()", field)
    time.sleep(0.3)
    found = []
    for _ in range(5):
        buttons = driver.find_elements(By.CSS_SELECTOR, "aside button")
        button = next(one for one in buttons if one.text == "Move down")
        found.append(busy(driver, button.click))
    return found


def figures() -> Iterator[Figure]:
    with served(_staged) as (base, id), chromium() as driver:
        driver.set_window_size(1280, 800)
        _sign_in(driver, base)
        driver.execute_cdp_cmd(
            "Page.addScriptToEvaluateOnNewDocument", {"source": OPENED % QUESTIONS + WATCH}
        )
        times = [_opened(driver, f"{base}/desk/q/{id}/script") for _ in range(5)]
        yield from timed("script", "opening 500 questions", statistics.median(times), 1000)
        time.sleep(1)
        keys = _keys(driver, "q10_7")
        yield Figure("script", "a key, median", statistics.median(keys), "ms")
        yield from timed("script", "a key, longest", max(keys), 50)
        yield from timed("script", "moving a page, longest", max(_moves(driver)), 200)
