"""Rosters, grids, checks across answers and computed values written in the script, and tried."""

from pathlib import Path

import pytest
from PIL import Image
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.reading import Browser


def at(browser: Browser, name: str) -> None:
    field = browser.named("textbox", name)
    browser.driver.execute_script("arguments[0].focus()", field)
    browser.reads("Place")


def begin(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("button", "New questionnaire")
    browser.write("What is it called?", "Boat log" + Keys.ENTER)
    browser.write("Title of page 1", "The trip", over=True)
    browser.keys(Keys.ENTER)
    words = ("Boats", "Catch by species", "From", "To", "Total", "Best moments", "Photos")
    browser.keys(Keys.ENTER.join(words), Keys.TAB)


def roster(browser: Browser) -> None:
    at(browser, "Question 1")
    browser.pick("Kind", "Roster")
    browser.reads("Nothing is asked here yet.")
    browser.press("button", "Add a question")
    browser.keys("Boat name", Keys.ENTER, "Crew", Keys.ENTER, "Children aboard", Keys.TAB)
    for number in (2, 3):
        at(browser, f"question {number}")
        browser.pick("Kind", "Number")
    browser.reads("crew", "children_aboard", "Whole number")
    at(browser, "Question 1")
    browser.write("What one of them is called", "boat")
    browser.write("Title of an entry", "{boat_name}")
    browser.press("button", "Add a check")
    browser.reads("This check has no message yet.")
    browser.pick("How they compare", "is at most")
    browser.write("When that is not so, it says", "More children than people.")
    browser.reads("Checked: Children aboard is at most Crew")
    browser.accessible()


def grid(browser: Browser) -> None:
    at(browser, "Question 2")
    browser.pick("Kind", "Grid")
    browser.write("New row", "Cod" + Keys.ENTER)
    browser.keys("Pollack" + Keys.ENTER)
    browser.press("button", "Add a column")
    browser.keys("Weight in kg", Keys.TAB)
    at(browser, "column 1")
    browser.pick("Digits after the point", "1")
    at(browser, "Question 2")
    browser.press("switch", "Weight in kg")
    browser.accessible()


def others(browser: Browser) -> None:
    for number, kind in ((3, "Date"), (4, "Date"), (5, "Computed value"), (5, "Rank"), (6, "File")):
        at(browser, f"Question {number}")
        browser.pick("Kind", kind)
        browser.accessible()
    browser.press("switch", "PDF")
    at(browser, "Question 5")
    browser.write("New option", "Dawn" + Keys.ENTER)
    browser.keys("Dusk" + Keys.ENTER)
    at(browser, "Computed value")
    browser.pick("It is", "the sum of numbers")
    browser.press("switch", "The respondent sees it")
    browser.press("switch", "Weight in kg")
    browser.press("switch", "Crew")
    browser.reads("Computed: the sum of Weight in kg")
    title = browser.named("textbox", "Title of page 1")
    browser.driver.execute_script("arguments[0].focus()", title)
    browser.press("button", "Add a check")


def test_written_tried_and_published(browser: Browser) -> None:
    begin(browser)
    roster(browser)
    grid(browser)
    others(browser)
    browser.pick("What is checked", "to")
    browser.pick("What it is held against", "from")
    browser.write("When that is not so, it says", "It ends before it begins.")
    browser.reads("Nothing is missing", "Saved")
    tried(browser)
    browser.publish(1)
    browser.reads("Published")


def tried(browser: Browser) -> None:
    """The draft in a tab of its own: the same page, the same checks, nothing stored."""
    before = browser.driver.current_window_handle
    browser.press("button", "Try it")
    browser.press("button", "Own window")
    browser.soon(lambda: len(browser.driver.window_handles) == 2)
    browser.driver.switch_to.window(browser.driver.window_handles[-1])
    browser.reads("Trial of the draft. Nothing is stored.")
    browser.press("button", "Add: boat")
    browser.write("Boat name", "Heron")
    browser.write("Crew", "2")
    browser.write("Children aboard", "3" + Keys.TAB)
    browser.reads("More children than people.")
    browser.write("Children aboard", "1", over=True)
    browser.write("Weight in kg", "2.5" + Keys.TAB)
    browser.soon(lambda: browser.driver.find_element(By.TAG_NAME, "output").text == "2.5")
    browser.accessible()
    browser.press("button", "Send")
    browser.reads("Thank you")
    browser.driver.close()
    browser.driver.switch_to.window(before)


@pytest.mark.refused(422)
def test_a_picture_of_ones_own(browser: Browser, tmp_path: Path) -> None:
    """Uploaded in the script, shown in its place with its words for those who cannot see it."""
    picture = tmp_path / "map.png"
    Image.new("RGB", (900, 300), (90, 120, 60)).save(picture)
    (tmp_path / "wrong.png").write_bytes(b"not a picture")
    begin(browser)
    at(browser, "Question 1")
    browser.pick("Kind", "Picture")
    browser.reads("Choose the picture to show.")
    bring = browser.driver.find_element(By.CSS_SELECTOR, "aside input[type=file]")
    bring.send_keys(str(tmp_path / "wrong.png"))
    browser.reads("Choose a picture (JPEG, PNG, GIF, WebP), a video (MP4, WebM) or WebVTT.")
    bring.send_keys(str(picture))
    browser.soon(lambda: browser.driver.find_element(By.CSS_SELECTOR, "aside img"))
    browser.write("Words below it", "Drawn in spring.")
    browser.reads("Nothing is missing", "Saved")
    browser.accessible()
    browser.press("button", "Try it")
    browser.press("button", "Own window")
    browser.soon(lambda: len(browser.driver.window_handles) == 2)
    before = browser.driver.current_window_handle
    browser.driver.switch_to.window(browser.driver.window_handles[-1])
    browser.reads("Drawn in spring.")
    shown = browser.driver.find_element(By.CSS_SELECTOR, "main img")
    assert shown.get_attribute("alt") == "Boats"
    assert shown.get_dom_attribute("width") == "900"
    assert browser.soon(lambda: shown.get_property("naturalWidth") == 900)
    browser.accessible()
    browser.driver.close()
    browser.driver.switch_to.window(before)
