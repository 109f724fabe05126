"""Restricted answers beside the rows of the demo's register for cleared eyes."""

import asyncio
from uuid import UUID

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from jotgate.local.installation import Installation
from jotgate.services.staff.registers import registers
from jotgate.store.accounts import accounts
from jotgate.wiring import open_context
from tests.browser.reading import Browser


def saltings(installation: Installation) -> UUID:
    async def find() -> UUID:
        async with open_context(installation.settings) as context:
            async with context.engine.connect() as conn:
                found = await accounts.by_email(conn, "rowan@example.org", context.clock.now())
            assert found is not None
            lines = await registers.every(context, found[0])
        return next(one.register.id for one in lines if one.register.name == "Saltings")

    return asyncio.run(find())


def open_first_row(browser: Browser) -> None:
    browser.soon(lambda: browser.driver.find_elements(By.CSS_SELECTOR, "[role=gridcell]"))
    grid = browser.driver.find_element(By.CSS_SELECTOR, "[role=grid]")
    grid.send_keys(Keys.ARROW_DOWN)
    grid.send_keys(Keys.ALT, Keys.ENTER)
    browser.reads("What happened to it")


@pytest.mark.usefixtures("processes")
def test_cleared_eyes_uncover_what_stands_beside_a_row(
    browser: Browser, installation: Installation
) -> None:
    """It is covered again beside the next row. Somebody without clearance finds nothing there."""
    path = f"/desk/registers/{saltings(installation)}"
    browser.sign_in("rowan@example.org")
    browser.open(path)
    open_first_row(browser)
    browser.reads("Restricted", "Illness")
    browser.accessible()
    browser.press("button", "Show restricted answers")
    browser.reads("Cover them again")
    browser.accessible()
    before = browser.driver.find_element(By.CSS_SELECTOR, "aside h2").text
    browser.driver.find_element(By.CSS_SELECTOR, "[role=grid]").send_keys(Keys.ARROW_DOWN)
    browser.driver.find_element(By.CSS_SELECTOR, "[role=grid]").send_keys(Keys.ALT, Keys.ENTER)
    browser.soon(
        lambda: browser.driver.find_element(By.CSS_SELECTOR, "aside h2").text not in ("", before)
    )
    browser.reads("Show restricted answers")
    browser.press("button", "Sign out")
    browser.sign_in("edda@example.org")
    browser.open(path)
    open_first_row(browser)
    assert "Illness" not in browser.text()
    assert "Restricted" not in browser.text()
