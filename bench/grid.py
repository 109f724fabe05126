"""A register of 100,000 rows in Chromium: how long it takes to open, to be sorted and filtered, and
how long the page is busy after a key, a pasted block and a scroll, in Chromium's own trace."""

import statistics
import time
from collections.abc import Callable, Iterator
from typing import Any

from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from sqlalchemy import text

from bench.support.chromium import WATCH, at_pace, busy, chromium, served, waited
from bench.support.figure import Figure
from bench.support.machine import both
from jotgate.core.registers.columns import Column
from jotgate.local.installation import Installation
from jotgate.services.staff.accounts import people
from jotgate.services.staff.registers import registers
from jotgate.wiring import open_context

ROWS = 100_000
MOST_MS = 50
OPENING_MS = 1_000
PASSWORD = "well-water-2026"

USES = [{"code": code, "label": code.capitalize()} for code in ("drinking", "washing", "garden")]
COLUMNS: list[dict[str, Any]] = [
    {"key": "name", "label": "Household"},
    {"key": "drinkers", "label": "Drinkers", "type": "number"},
    {"key": "visit", "label": "Visit", "type": "date"},
    {"key": "use", "label": "Use", "type": "pick_one", "options": USES},
    *({"key": f"t{n}", "label": f"Text {n}"} for n in range(8)),
]
FILL = """
insert into register_rows (register_id, values, filed)
select id, jsonb_strip_nulls(jsonb_build_object(
  'name', 'Household ' || n,
  'drinkers', (n % 9)::text,
  'visit', case when n % 3 = 0 then to_char(date '2026-11-27' + n % 90, 'YYYY-MM-DD') end,
  'use', (array['drinking', 'washing', 'garden'])[1 + n % 3],
  't0', 'some words ' || n % 100, 't1', 'more ' || n, 't2', 'x', 't3', 'y', 't4', n::text
)), now()
from registers, generate_series(1, :rows) as n
"""

PASTE = """
const data = new DataTransfer();
data.setData('text/plain', arguments[0]);
const told = {clipboardData: data, bubbles: true, cancelable: true};
document.activeElement.dispatchEvent(new ClipboardEvent('paste', told));
"""
BLOCK = "\r\n".join("\t".join(f"cell {row} {column}" for column in range(10)) for row in range(50))


async def _staged(installation: Installation) -> str:
    async with open_context(installation.settings) as context:
        person = await people.add(context, "a@example.org", "A", "owner", PASSWORD)
        columns = [Column.model_validate(one) for one in COLUMNS]
        made = await registers.add(context, person, "Large", columns)
        async with context.engine.begin() as conn:
            await conn.execute(text(FILL), {"rows": ROWS})
        return str(made.id)


def _sign_in(driver: webdriver.Chrome, base: str) -> None:
    driver.get(f"{base}/desk")
    waited(driver, "input[type=password]")
    email, password = driver.find_elements(By.CSS_SELECTOR, "input")[:2]
    email.send_keys("a@example.org")
    password.send_keys(PASSWORD + Keys.ENTER)
    waited(driver, "a[href='/desk/registers']")


def _opened(driver: webdriver.Chrome, address: str) -> float:
    """Milliseconds until cells of the first rows are drawn, from the moment it is asked for."""
    driver.get("about:blank")
    driver.get(address)
    cell = "document.querySelector('[data-row] [data-column=name]')?.textContent ?? ''"
    while not str(driver.execute_script(f"return {cell}")).startswith("Household"):
        time.sleep(0.005)
    return float(driver.execute_script("return performance.now()"))


def _grid(driver: webdriver.Chrome) -> None:
    driver.execute_script("document.querySelector('[role=grid]').focus()")


def _keys(driver: webdriver.Chrome, keys: list[str]) -> list[float]:
    grid = driver.find_element(By.CSS_SELECTOR, "[role=grid]")
    _grid(driver)
    return [busy(driver, lambda key=key: grid.send_keys(key)) for key in keys]  # type: ignore[misc]


def _typed(driver: webdriver.Chrome) -> list[float]:
    """Keys that begin to write, go on, and leave the cell written."""
    _grid(driver)

    def press(key: str) -> Callable[[], None]:
        return lambda: driver.switch_to.active_element.send_keys(key)

    return [busy(driver, press(key)) for key in (*"new words", Keys.ENTER)]


def _pasted(driver: webdriver.Chrome) -> list[float]:
    _grid(driver)
    driver.find_element(By.CSS_SELECTOR, "[role=grid]").send_keys(Keys.CONTROL, Keys.HOME)
    driver.find_element(By.CSS_SELECTOR, "[role=grid]").send_keys(Keys.ARROW_RIGHT * 4)

    def paste() -> None:
        driver.execute_script(PASTE, BLOCK)
        time.sleep(1.5)

    return [busy(driver, paste)]


def _scrolled(driver: webdriver.Chrome) -> list[float]:
    def to(top: int) -> Callable[[], None]:
        script = f"document.querySelector('[role=grid]').scrollTop = {top}"
        return lambda: driver.execute_script(script)

    near = [busy(driver, to(top)) for top in range(0, 3_000, 300)]
    far = [busy(driver, to(top * 36)) for top in (50_000, 99_000, 20_000, 0)]
    return near + far


def figures() -> Iterator[Figure]:
    with served(_staged) as (base, id), chromium() as driver:
        _sign_in(driver, base)
        address = f"{base}/desk/registers/{id}"
        _opened(driver, address)
        found = at_pace(driver, lambda: [_opened(driver, address) for _ in range(5)])
        raw, scaled = (statistics.median(each) for each in zip(*found, strict=True))
        yield from both("grid", "opening 100,000 rows", raw, scaled, OPENING_MS)
        driver.execute_script(WATCH)
        moves = [Keys.ARROW_DOWN, Keys.ARROW_RIGHT, Keys.PAGE_DOWN, Keys.END, Keys.HOME] * 3
        for name, measure in (
            ("a key that moves", lambda: _keys(driver, moves)),
            ("a key that writes", lambda: _typed(driver)),
            ("a block of 50 by 10 pasted", lambda: _pasted(driver)),
            ("a scroll", lambda: _scrolled(driver)),
        ):
            pairs = at_pace(driver, measure)
            each, paced = zip(*pairs, strict=True)
            yield from both("grid", f"{name}, longest task", max(each), max(paced), MOST_MS)
        pasted = driver.execute_script("return document.body.textContent.includes('cell 0 0')")
        yield Figure("grid", "the block stands there", float(bool(pasted)), "yes", 1)
