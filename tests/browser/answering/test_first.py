"""What stands in the HTML before any script runs, and how it comes alive."""

import re
from collections.abc import Iterator
from typing import Any

import httpx
import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.support.ui import Select

from jotgate.local.installation import Installation
from tests.browser.published import EVERY_KIND, LONG, in_layout, public
from tests.browser.reading import Browser
from tests.documents import item, options, page, questionnaire

PLACES = """
return [...document.querySelectorAll("#app *")].map((one) => {
  const {x, y, width, height} = one.getBoundingClientRect();
  return [one.localName, one.className.baseVal ?? one.className, x, y, width, height].join(" ");
});
"""
SCRIPT, LETTERS, PICTURES = "*/assets/answer*", "*.woff2", "*/media/*"
KEPT = "return Object.values(sessionStorage).join() "
TRIES = 10
SHUFFLED = questionnaire(
    page("p", item("pick_one", "bird", options=options(*"abcdefghij"), shuffled=True))
)


@pytest.fixture
def silent(browser: Browser) -> Iterator[Browser]:
    """No script of the answering page arrives, nor its letters, which would move words."""
    browser.driver.execute_cdp_cmd("Network.enable", {})
    block(browser, SCRIPT, LETTERS)
    yield browser
    block(browser)
    browser.driver.get_log("browser")


def drawn(browser: Browser, url: str) -> None:
    """Open a page that came drawn: on a machine with much to do its browser draws it, later."""
    for _ in range(TRIES):
        browser.driver.get(url)
        if browser.driver.find_elements(By.CSS_SELECTOR, "#app *"):
            return
    raise AssertionError("no page came drawn")


def block(browser: Browser, *urls: str) -> None:
    browser.driver.execute_cdp_cmd("Network.setBlockedURLs", {"urls": urls})


def speak(browser: Browser) -> None:
    """Now it arrives, as late as on a slow line."""
    block(browser, LETTERS, PICTURES)
    browser.driver.execute_script("""
        const late = document.createElement("script");
        late.type = "module";
        late.src = document.querySelector("script[src*=answer]").src + "?late";
        document.head.append(late);
    """)
    browser.alive()


def places(browser: Browser) -> list[Any]:
    found: list[Any] = browser.driver.execute_script(PLACES)
    return found


def test_words_stand_in_the_html(installation: Installation, browser: Browser) -> None:
    address, html = public(installation, EVERY_KIND), ""
    for _ in range(TRIES):
        if (html := httpx.get(address).text).count("<label") > 1:
            break
    body = re.sub(r"<script.*?</script>", "", html, flags=re.DOTALL)
    for one in EVERY_KIND.pages[0].items:
        assert one.text["en"] in body
    for label in ("Shared", "Milk", "noisy", "Kitchen", "Five letters."):
        assert label in body


@pytest.mark.parametrize("width", [1280, 390, 320])
def test_fields_come_alive_where_they_stand(
    installation: Installation, silent: Browser, width: int
) -> None:
    silent.resize(width, 844)
    for document in (EVERY_KIND, SHUFFLED, in_layout("all of it")):
        block(silent, SCRIPT, LETTERS, PICTURES)
        drawn(silent, public(installation, document))
        before = places(silent)
        assert len(before) > 20
        speak(silent)
        assert places(silent) == before


def test_a_very_long_page_is_drawn_too(installation: Installation, silent: Browser) -> None:
    drawn(silent, public(installation, LONG))
    before = places(silent)
    speak(silent)
    assert places(silent) == before


def test_what_is_typed_and_picked_before_is_kept(
    installation: Installation, silent: Browser
) -> None:
    drawn(silent, public(installation, EVERY_KIND))
    field = {one: silent.driver.find_element(By.ID, f"item-{one}") for one in ("word", "story")}
    field["word"].send_keys("heron")
    field["story"].send_keys("It stood still." + Keys.ENTER + "Then it went.")
    inputs = silent.driver.find_elements(By.CSS_SELECTOR, "input[type=radio], input[type=checkbox]")
    for one in inputs:
        if one.accessible_name in ("Yes", "Shared", "Milk"):
            silent.driver.execute_script("arguments[0].click()", one)
    Select(silent.driver.find_element(By.ID, "item-menu")).select_by_value("blue")
    speak(silent)
    silent.soon(lambda: "Then it went." in silent.driver.execute_script(KEPT))
    for answer in (
        '"word":"heron"',
        '"sure":true',
        '"one":"shared"',
        '"many":["milk"]',
        '"menu":"blue"',
    ):
        assert answer in silent.driver.execute_script(KEPT)
    assert field["word"].get_attribute("value") == "heron"


def test_going_on_before_is_done_as_soon_as_it_can_be(
    installation: Installation, silent: Browser
) -> None:
    drawn(silent, public(installation, EVERY_KIND))
    silent.driver.find_element(By.ID, "item-word").send_keys("heron" + Keys.ENTER)
    speak(silent)
    silent.reads("answers need another look")
