"""The longest that Chromium is busy after one key or pick, in its own trace, on large pages.

A page with two questions of 2,000 options, and one with a roster of 50 entries of 10 questions.
"""

import statistics
import time
from collections.abc import Callable, Iterator
from typing import Any

from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from bench.support.chromium import WATCH, at_pace, busy, chromium, served, waited
from bench.support.figure import Figure
from bench.support.machine import both
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.gate.settings import Gate
from jotgate.local.installation import Installation
from jotgate.services.staff import questionnaires
from jotgate.services.staff.accounts import people
from jotgate.services.staff.gate import gate
from jotgate.wiring import open_context

MOST_MS = 50
OPTIONS = 2000
ENTRIES = 50
QUESTIONS = 10


Measure = Callable[[], list[float]]


def _item(kind: str, key: str, **more: Any) -> dict[str, Any]:
    return {"kind": kind, "key": key, "text": {"en": key}, **more}


def large() -> Questionnaire:
    options = [{"code": f"c{n}", "label": {"en": f"Option {n}"}} for n in range(OPTIONS)]
    asked = [_item("short_text", f"t{n}") for n in range(QUESTIONS - 2)]
    asked += [_item("yes_no", "sure"), _item("scale", "much")]
    roster = _item("roster", "people", most=ENTRIES, items=asked, title={"en": "{t0}"})
    picks = [_item("pick_one", "one", options=options), _item("pick_many", "many", options=options)]
    return Questionnaire.model_validate(
        {
            "title": {"en": "Large"},
            "pages": [{"key": "p", "title": {"en": "P"}, "items": [*picks, roster]}],
            "finishes": [{"key": "end", "title": {"en": "End"}}],
        }
    )


async def _staged(installation: Installation) -> str:
    async with open_context(installation.settings) as context:
        person = await people.add(context, "a@example.org", "A", "coordinator", "x")
        id = await questionnaires.add(context, person, "", large())
        await questionnaires.publish(context, person, id, 1)
        await gate.save(context, person, id, Gate(state="open"), 1)
        return (await questionnaires.summary(context, person, id)).address


def _fill(driver: webdriver.Chrome) -> None:
    """50 entries as somebody left them, taken up from the tab's own storage."""
    driver.execute_script(
        "const name = `jotgate ${location.pathname}`; const entry = n => Object.fromEntries("
        "[...Array(arguments[1])].map((_, q) => [`t${q}`, `word ${n} ${q}`]));"
        "sessionStorage.setItem(name, JSON.stringify({answers: {people: "
        "[...Array(arguments[0])].map((_, n) => entry(n))}, page: 'p', edition: 1, "
        "submission: 'f'.repeat(32)}))",
        ENTRIES,
        QUESTIONS - 2,
    )
    driver.refresh()
    time.sleep(1)
    driver.execute_script(WATCH)


def _typed(driver: webdriver.Chrome, selector: str, text: str) -> list[float]:
    field = driver.find_element(By.CSS_SELECTOR, selector)
    driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", field)
    return [busy(driver, lambda key=key: field.send_keys(key)) for key in text]  # type: ignore[misc]


def _picked(driver: webdriver.Chrome, selector: str, times: int) -> list[float]:
    found = []
    for at in range(times):
        box = driver.find_elements(By.CSS_SELECTOR, selector)[at]
        driver.execute_script("arguments[0].focus()", box)
        found.append(busy(driver, lambda box=box: box.send_keys(Keys.SPACE)))  # type: ignore[misc]
    return found


def _measures(driver: webdriver.Chrome, url: str) -> Iterator[tuple[str, Measure]]:
    driver.get(url)
    waited(driver, "input[type=search]")
    _fill(driver)
    yield (
        "a key in the search of 2,000 options",
        lambda: _typed(driver, "input[type=search]", "option 19"),
    )
    yield "a pick of 2,000 options", lambda: _picked(driver, "input[type=checkbox]", 5)
    driver.execute_script(
        "[...document.querySelectorAll('#item-people li')].at(-1).querySelector('button').click()"
    )
    time.sleep(0.5)
    yield (
        "a key in a roster of 50 entries with 10 questions",
        lambda: _typed(driver, "#item-people li[data-open] input", "twelve words"),
    )
    yield (
        "a pick in that roster",
        lambda: _picked(driver, "#item-people li[data-open] input[type=radio]", 5),
    )


def figures() -> Iterator[Figure]:
    with served(_staged) as (base, address), chromium() as driver:
        for name, measure in _measures(driver, f"{base}/q/{address}"):
            found = at_pace(driver, measure)
            raw, scaled = zip(*found, strict=True)
            yield Figure("keys", f"{name}, median", statistics.median(raw), "ms")
            yield from both("keys", f"{name}, longest", max(raw), max(scaled), MOST_MS)
