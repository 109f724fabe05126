"""A coordinator puts figures on a page, by keyboard, and whoever has its address reads it."""

import pytest
from selenium.webdriver.common.by import By

from jotgate.local.installation import Installation
from tests.browser.entries.test_figures import opened, rows, show
from tests.browser.reading import Browser
from tests.browser.wells import Wells
from tests.documents import well_check


@pytest.fixture(scope="module")
def wells(installation: Installation) -> Wells:
    found = Wells(installation, well_check())
    found.set()
    for at, drinkers in enumerate("3345"):
        found.send(f"own {at}", name="Ada Quill", source="own", drinkers=drinkers)
    found.send("Edda", name="Edda", source="mains")
    return found


def address(browser: Browser) -> str:
    box = browser.soon(lambda: browser.driver.find_element(By.CSS_SELECTOR, "output"))
    return box.text.replace("127.0.0.1", "localhost")


def parts(browser: Browser) -> list[str]:
    found = browser.driver.find_elements(By.CSS_SELECTOR, "form ol > li b")
    return [one.text for one in found]


@pytest.mark.refused(404)
def test_a_page_from_the_first_press_to_the_last(browser: Browser, wells: Wells) -> None:
    opened(browser, wells)
    browser.reads("5 of 5 answered")
    browser.press("link", "Put these on a new page")
    browser.reads("A new page", "Nothing yet.")
    browser.press("button", "Make this page")
    browser.reads("Give the page a title.")
    browser.soon(lambda: browser.focused().accessible_name == "Title")
    browser.write("Title", "What wells tell")
    browser.press("button", "Add words")
    browser.press("button", "Make this page")
    browser.reads("Write something here, or remove it.")
    browser.accessible()
    browser.write("Words", "# Water\n\nOf *this* year.")
    for figure in ("Source", "Drinkers"):
        browser.pick("Add a figure", figure)
    browser.press("button", "Add when they arrived")
    browser.press("button", "Move Drinkers, 3 up")
    assert parts(browser) == ["Drinkers", "Source", "When they arrived"]
    browser.accessible()
    browser.press("button", "Make this page")
    browser.reads("Whoever has this address reads it", "follows what arrives")
    browser.accessible()
    at = address(browser)
    browser.driver.get(at)
    browser.reads("What wells tell", "Water", "Answered: 5", "Entries: 5")
    heads = [one.text for one in browser.driver.find_elements(By.CSS_SELECTOR, "h2")]
    assert heads == ["Water", "Drinkers", "Source", "When these entries arrived"]
    browser.accessible()
    told = browser.driver.find_elements(By.CSS_SELECTOR, "summary")
    browser.driver.execute_script("arguments[0].focus()", told[1])
    browser.keys("\ue007")
    browser.reads("Mains", "1", "20 %")
    browser.accessible()
    for width in (390, 320):
        browser.resize(width, 844)
        browser.fits()
        browser.accessible()
    browser.resize(1280, 800)
    browser.driver.back()
    browser.press("button", "Close this page")
    browser.reads("Nobody finds it any more", "Open it at a new address")
    browser.accessible()
    browser.driver.get(at)
    browser.reads("This page is not here")
    browser.accessible()
    browser.driver.back()
    browser.press("button", "Delete")
    browser.press("button", "Delete this page")
    browser.reads("There is none yet.")


def test_of_what_is_filtered_and_as_it_was_then(browser: Browser, wells: Wells) -> None:
    browser.sign_in("rowan@example.org")
    show(browser, wells, filter={"op": "is", "item": "source", "value": "mains"})
    browser.press("link", "Put these on a new page")
    browser.reads("of which Source is Mains")
    browser.write("Title", "Mains")
    browser.pick("What its figures do", "stay as they are when it is saved")
    browser.pick("For how long", "up to and including")
    browser.pick("Add a figure", "All 4")
    browser.accessible()
    browser.press("button", "Make this page")
    browser.reads("Its figures are as of today", "is over")
    at = address(browser)
    wells.send("later", name="Finn", source="mains")
    browser.driver.get(at)
    browser.reads("Entries: 1", "Mains")
    assert "Edda" not in browser.text()
    browser.driver.back()
    browser.press("button", "Save, counted anew")
    browser.soon(lambda: "Entries: 2" in browser.fetched(at))


@pytest.mark.refused(409)
def test_somebody_changed_it_meanwhile(browser: Browser, wells: Wells) -> None:
    opened(browser, wells)
    browser.press("link", "Put these on a new page")
    browser.write("Title", "Twice")
    browser.press("button", "Make this page")
    browser.reads("Whoever has this address reads it")
    here = browser.driver.current_window_handle
    mine = browser.driver.current_url
    browser.write("Title", " by me")
    browser.driver.switch_to.new_window("tab")
    browser.driver.get(mine)
    browser.write("Title", " and again")
    browser.press("button", "Save")
    browser.reads("Twice and again", "Saved.")
    browser.driver.close()
    browser.driver.switch_to.window(here)
    browser.press("button", "Save")
    browser.reads("Somebody changed this page")
    browser.accessible()
    assert browser.named("textbox", "Title").get_attribute("value") == "Twice by me"
    browser.press("button", "Show what they made of it")
    browser.soon(
        lambda: browser.named("textbox", "Title").get_attribute("value") == "Twice and again"
    )
    browser.write("Title", " and mine")
    browser.press("button", "Save")
    browser.reads("Twice and again and mine", "Saved.")


def test_one_figure_as_a_file(browser: Browser, wells: Wells) -> None:
    opened(browser, wells)
    assert rows(browser, "Source")
    browser.press("button", "Export the figure Source")
    links = {
        one.text: str(one.get_attribute("href"))
        for one in browser.driver.find_elements(By.CSS_SELECTOR, "[role=menuitem]")
    }
    assert list(links) == ["Drawing, SVG", "Drawing, PNG", "Numbers, CSV"]
    browser.accessible()
    drawn = browser.fetched(links["Drawing, SVG"])
    assert drawn.startswith("<svg")
    assert "Mains" in drawn
