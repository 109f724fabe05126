"""A place: pasted in degrees and read back, held against its area, taken from the device, set."""

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from jotgate.local.installation import Installation
from tests.browser.published import public
from tests.browser.reading import Browser
from tests.documents import item, page, questionnaire

NEAR = {"latitude": "52.4", "longitude": "-20.6", "kilometres": "40"}


@pytest.fixture(scope="module")
def well(installation: Installation) -> str:
    return public(installation, questionnaire(page("p", item("location", "well", near=NEAR))))


def test_a_place_is_pasted_read_back_and_held_against_its_area(browser: Browser, well: str) -> None:
    browser.open(well)
    browser.write("Well", "54N, 2W")
    browser.keys(Keys.TAB)
    browser.reads("This place is more than 40 km from where it should be.")
    browser.accessible()
    browser.fits()
    browser.write("Well", "the old well", over=True)
    browser.keys(Keys.TAB)
    browser.reads("Write a place in degrees")
    browser.write("Well", "52°24'36\" N 20°36'36\" W", over=True)
    browser.keys(Keys.TAB)
    browser.reads("Read as 52.41° N, 20.61° W")
    browser.press("button", "Send")
    browser.reads("Done")


def test_a_place_is_taken_from_the_device_where_the_visitor_agrees(
    browser: Browser, well: str
) -> None:
    base = browser.base
    act = browser.driver.execute_cdp_cmd
    act(
        "Browser.setPermission",
        {"permission": {"name": "geolocation"}, "setting": "denied", "origin": base},
    )
    browser.open(well)
    browser.press("button", "Use my location")
    browser.reads("Your device did not give its location. Write the place instead.")
    act(
        "Browser.setPermission",
        {"permission": {"name": "geolocation"}, "setting": "granted", "origin": base},
    )
    here = {"latitude": 52.41, "longitude": -20.61, "accuracy": 8}
    act("Emulation.setGeolocationOverride", here)
    try:
        browser.press("button", "Use my location")
        browser.reads("Read as 52.41° N, 20.61° W")
        field = browser.driver.find_element(By.CSS_SELECTOR, "input[type=text]")
        assert field.get_attribute("value") == "52.41000, -20.61000"
        browser.accessible()
    finally:
        act("Emulation.clearGeolocationOverride", {})
        act("Browser.resetPermissions", {})
