"""What a newcomer is led to: the first line, the likely kind, and the step that comes next."""

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.reading import Browser


def test_a_new_questionnaire_leads_from_its_first_line_to_its_link(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("button", "New questionnaire")
    browser.write("What is it called?", "Herons")
    browser.press("button", "Start writing")
    first = browser.named("textbox", "Title of page 1")
    browser.soon(lambda: browser.focused() == first)
    browser.keys(Keys.ENTER, "How many herons did you see?")
    browser.reads("Likely", "Alt K")
    browser.accessible()
    asked = browser.focused()
    browser.keys(Keys.ALT, "k")
    browser.reads("Whole number")
    assert browser.focused() == asked
    assert "Likely" not in browser.text()
    browser.write("Message of finish 1", Keys.DELETE, over=True)
    browser.reads("It says its heading only. Tell people what happens next.", "Saved")
    browser.publish(1)
    browser.reads("Edition 1 is published, and the gate is shut: nobody can answer yet.")
    browser.accessible()
    browser.place("Dispatch")
    browser.reads("No rule yet: entries are kept, nothing is filed and nobody is told.")
    browser.place("Entries")
    browser.reads("No entries yet")
    browser.accessible()
    browser.press("link", "See who may come in")
    browser.press("button", "Open now")
    browser.press("link", "The link to pass on")
    assert browser.soon(lambda: browser.driver.find_element(By.TAG_NAME, "output").text)
    browser.place("Script")
    browser.reads("How many herons did you see?")
    assert "nobody can answer yet" not in browser.text()


@pytest.mark.refused(404)
def test_places_that_wait_for_an_edition_lead_to_the_script(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("button", "New questionnaire")
    browser.write("What is it called?", "Gulls")
    browser.press("button", "Start writing")
    browser.named("textbox", "Title of page 1")
    for place, link in (
        ("Gate", "Go to the script and publish it"),
        ("Dispatch", "Publish the questionnaire"),
    ):
        browser.place(place)
        browser.press("link", link)
        browser.named("textbox", "Title of page 1")


def test_the_licences_of_what_ships_are_shown(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("link", "Licences")
    browser.reads("Licences", "react-dom", "sqlalchemy")
    browser.accessible()
    browser.resize(320, 640)
    browser.fits()
    browser.resize(1280, 800)
