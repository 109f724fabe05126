"""The way people went, on the map."""

import json

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.desk.test_map import stop
from tests.browser.reading import Browser


def test_how_many_went_where_stands_on_the_map(browser: Browser) -> None:
    """By keyboard; the drawing and the table beside it say what the server counts."""
    browser.sign_in("rowan@example.org")
    browser.press("link", "Private well check")
    browser.place("Map")
    browser.reads("The proof", "How many went where")
    id = browser.driver.current_url.split("/q/")[1].split("/")[0]
    switch = browser.driver.find_element(By.CSS_SELECTOR, "input[role=switch]")
    switch.send_keys(Keys.SPACE)
    browser.reads("The way people went", "straight on", "led past it")
    browser.accessible()
    address = f"/api/questionnaires/{id}/traffic?view=%7B%7D&archived=true"

    def agrees() -> bool:
        found = json.loads(browser.fetched(address))
        told = {one["key"]: one for one in found["pages"]}
        ends = sum(one["came"] for one in found["finishes"])
        card, water = (stop(browser, f"pages/{key}").text for key in ("household", "water"))
        leaving = stop(browser, "pages/water 1").text
        panel = browser.driver.find_element(By.CSS_SELECTOR, "aside[aria-label^='The way']").text
        return (
            found["entries"] == ends > 150
            and f"{told['household']['came']} came" in card
            and f"{told['water']['came']} came" in water
            and str(told["water"]["rules"][0]) in leaving
            and f"The well {told['well']['came']} {told['well']['stopped']}" in panel
            and told["well"]["stopped"] >= 9
        )

    browser.soon(agrees)
    stop(browser, "pages/well").send_keys(Keys.ENTER)
    browser.press("button", "Back to the way people went")
    browser.reads("The way people went")
    switch = browser.driver.find_element(By.CSS_SELECTOR, "input[role=switch]")
    switch.send_keys(Keys.SPACE)
    browser.reads("Every way was looked at")
    assert "came" not in stop(browser, "pages/well").text
