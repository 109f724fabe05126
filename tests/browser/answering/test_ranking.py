"""Options that are dragged into an order, with a mouse and with a finger."""

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.remote.webelement import WebElement

from jotgate.local.installation import Installation
from tests.browser.published import public
from tests.browser.reading import Browser
from tests.documents import item, options, page, questionnaire

RANKED = questionnaire(page("p", item("rank", "order", options=options("a", "b", "c", "d"))))


def rows(browser: Browser) -> list[WebElement]:
    return browser.driver.find_elements(By.CSS_SELECTOR, "ol li")


def order(browser: Browser) -> list[str]:
    found = browser.driver.find_elements(By.CSS_SELECTOR, "ol [data-words]")
    return [one.text for one in found]


def grip(row: WebElement) -> WebElement:
    return row.find_element(By.CSS_SELECTOR, "[aria-hidden]")


def touched(browser: Browser, row: WebElement, by: int) -> None:
    """A finger that takes the row by its grip, and moves it down by so many pixels."""
    box = grip(row).rect
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2

    def say(type: str, *places: float) -> None:
        points = [{"x": x, "y": place} for place in places]
        browser.driver.execute_cdp_cmd(
            "Input.dispatchTouchEvent", {"type": type, "touchPoints": points}
        )

    say("touchStart", y)
    for part in range(1, 9):
        say("touchMove", y + by * part / 8)
    say("touchEnd")


def test_dragging_puts_options_in_order(installation: Installation, browser: Browser) -> None:
    browser.open(public(installation, RANKED))
    for place, label in enumerate("ABCD", start=1):
        browser.press("button", f"Put {label} at place {place}")
    browser.soon(lambda: order(browser) == ["A", "B", "C", "D"])
    step = rows(browser)[1].rect["y"] - rows(browser)[0].rect["y"]
    held = ActionChains(browser.driver, duration=50).click_and_hold(grip(rows(browser)[0]))
    held.move_by_offset(0, 5).move_by_offset(0, int(step * 2)).perform()
    assert order(browser) == ["A", "B", "C", "D"]
    browser.soon(lambda: rows(browser)[0].rect["y"] > rows(browser)[2].rect["y"])
    ActionChains(browser.driver).release().perform()
    browser.soon(lambda: order(browser) == ["B", "C", "A", "D"])
    browser.driver.execute_cdp_cmd("Emulation.setTouchEmulationEnabled", {"enabled": True})
    touched(browser, rows(browser)[3], int(-step * 3))
    browser.soon(lambda: order(browser) == ["D", "B", "C", "A"])
    browser.driver.execute_cdp_cmd("Emulation.setTouchEmulationEnabled", {"enabled": False})
    ActionChains(browser.driver).click(grip(rows(browser)[0])).perform()
    assert order(browser) == ["D", "B", "C", "A"]
    browser.press("button", "Move down: D")
    browser.soon(lambda: order(browser) == ["B", "D", "C", "A"])
    browser.accessible()
    browser.press("button", "Send")
    browser.reads("Done")
