"""Those who may not write get pages made for reading: all of it is there, nothing can be pressed
that would fail."""

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.reading import Browser

PLACES = {
    "script": (
        "1 Your household",
        "Where does the water in your kitchen come from?",
        "Own well",
        "Shown when Tested before is Yes",
        "If Water source is",
        "Only people with clearance see the answers",
        "Your test is booked",
    ),
    "map": ("The proof", "Walk-throughs", "Every way was looked at"),
    "gate": ("Open to everyone with the address", "What people read"),
    "dispatch": ("When District is Saltings", "to register Saltings", "Rehearsal"),
}
CHANGES = ("Publish", "Open now", "Shut now", "Add ", "Apply", "Delete", "Save", "Remove")


def opened(browser: Browser, place: str) -> None:
    browser.sign_in("sam@example.org")
    browser.press("link", "Private well check")
    address = browser.driver.current_url.rsplit("/", 1)[0]
    browser.open(f"{address}/{place}")
    browser.reads(*PLACES[place])


@pytest.mark.parametrize("place", PLACES)
def test_a_reviewer_reads_it(browser: Browser, place: str) -> None:
    opened(browser, place)
    browser.accessible()
    fields = browser.driver.find_elements(By.CSS_SELECTOR, "main textarea")
    buttons = browser.driver.find_elements(By.CSS_SELECTOR, "button")
    assert [one for one in fields if one.is_displayed()] == []
    assert [one.text for one in buttons if one.text.startswith(CHANGES)] == []
    assert browser.driver.find_elements(By.CSS_SELECTOR, "[inert]") == []
    browser.resize(320, 640)
    browser.fits()
    browser.accessible()
    browser.resize(1280, 800)


def test_a_reviewer_follows_the_track_and_tries_it(browser: Browser) -> None:
    opened(browser, "script")
    track = browser.driver.find_elements(By.CSS_SELECTOR, "nav[data-region=track] button")
    next(one for one in track if one.text.startswith("5 Health")).send_keys(Keys.ENTER)
    heading = browser.driver.find_element(By.ID, "page-health")
    assert browser.focused() == heading
    browser.press("button", "Try it")
    browser.reads("Made-up answers")
    browser.accessible()
    browser.press("button", "Made-up answers")

    def tried() -> bool:
        browser.driver.switch_to.default_content()
        browser.driver.switch_to.frame(browser.driver.find_element(By.TAG_NAME, "iframe"))
        return "Has anyone been ill after drinking it?" in browser.text()

    browser.soon(tried)
    browser.driver.switch_to.default_content()
    browser.press("button", "Close")
    browser.press("button", "More")
    browser.press("button", "Earlier editions")
    browser.reads("What it asks", "Where does the water in your kitchen come from?")
    browser.accessible()


def test_a_reviewer_reads_a_page_on_the_map(browser: Browser) -> None:
    opened(browser, "map")
    stop = browser.soon(lambda: browser.driver.find_element(By.ID, "stop pages/well"))
    stop.send_keys(Keys.ENTER)
    browser.reads("The page", "Has the water been tested before?", "Back to the proof")
    browser.accessible()
    browser.press("button", "Back to the proof")
    browser.reads("Walk-throughs")
