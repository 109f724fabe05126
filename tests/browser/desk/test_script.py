"""Writing fast: outlines jotted, options pasted, editions told apart and brought back."""

from pathlib import Path

import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from tests.browser.reading import Browser
from tests.browser.writing import questions, start

OUTLINE = """1. What is your name? *
2. Where does the water come from?
- Own well
- Mains supply

# The visit
What time suits you?
Anything else? e.g. the gate is locked"""

PASTE = """
const data = new DataTransfer();
data.setData('text', arguments[1]);
const event = new ClipboardEvent('paste', {clipboardData: data, bubbles: true, cancelable: true});
arguments[0].dispatchEvent(event);
"""


def test_an_outline_is_seen_as_questions_changed_and_added(browser: Browser) -> None:
    start(browser, "Jotted")
    browser.press("button", "Alt J Jot several at once")
    browser.named("textbox", "Outline").send_keys(OUTLINE)
    browser.reads("Since it asks for a person's name.", "Own well · Mains supply", "The visit")
    browser.reads('Since "What time" asks for a time.', "4 items on 2 pages")
    browser.accessible()
    kind = browser.driver.find_element(
        By.CSS_SELECTOR, "select[aria-label='Kind of Anything else?']"
    )
    kind.send_keys("Short")
    browser.reads("Your choice.", "Example: the gate is locked")
    browser.press("button", "Cancel")
    browser.press("button", "Alt J Jot several at once")
    assert browser.named("textbox", "Outline").get_attribute("value") == OUTLINE
    browser.press("button", "Add 4 items")
    browser.reads("where_does_the_water", "Pick one, 2 options", "The visit", "Saved")
    assert questions(browser) == [
        "What is your name?",
        "Where does the water come from?",
        "What time suits you?",
        "Anything else?",
    ]
    browser.driver.execute_script(
        "arguments[0].focus()", browser.named("textbox", "Title of page 1")
    )
    browser.keys(Keys.CONTROL, "z")
    browser.soon(lambda: questions(browser) == [])


def test_options_pasted_with_their_codes(browser: Browser) -> None:
    start(browser, "Pasted")
    browser.write("Title of page 1", "Where", over=True)
    browser.keys(Keys.ENTER, "Which district?", Keys.TAB)
    field = browser.named("textbox", "Question 1")
    browser.driver.execute_script("arguments[0].focus()", field)
    browser.pick("Kind", "Pick one")
    new = browser.named("textbox", "New option")
    text = "Label\tCode\nUpper Fell\tUF\nSaltings\tSA\n\nSaltings\tSA\nMillbeck\tUF"
    browser.driver.execute_script(PASTE, new, text)
    browser.reads(
        "3 options added. 1 double and 1 empty line left out. 1 code changed to be unique"
    )
    codes = [
        browser.named("textbox", f"Code of option {number}").get_attribute("value")
        for number in (1, 2, 3)
    ]
    assert codes == ["UF", "SA", "uf"]
    browser.accessible()
    browser.reads("Saved")


def test_the_bench_stays_while_an_item_gets_its_key_and_follows_what_is_undone(
    browser: Browser,
) -> None:
    start(browser, "Bench")
    browser.write("Title of page 1", "Where", over=True)
    browser.keys(Keys.ENTER, "Which district?")

    def first(css: str, name: str) -> WebElement | None:
        found = browser.driver.find_elements(By.CSS_SELECTOR, css)
        return next((one for one in found if name in one.accessible_name), None)

    browser.soon(lambda: first("button[aria-haspopup=listbox]", "Kind")).click()
    browser.soon(lambda: first("[role=option]", "Long text")).click()
    browser.reads("which_district", "Long text", "Longest")
    for typed in ("40", "400"):
        browser.write("Longest", typed, over=True)
    browser.reads("at most 400 characters")
    browser.keys(Keys.CONTROL, "z")
    browser.soon(lambda: browser.named("textbox", "Longest").get_attribute("value") == "")
    browser.keys("forty")
    browser.reads("Write a whole number.")
    browser.write("Key", "district", over=True)
    browser.keys(Keys.TAB)
    browser.reads("district", "Saved")
    assert browser.named("textbox", "Longest").get_attribute("value") == "forty"


def test_what_changed_is_listed_and_an_edition_brought_back(browser: Browser) -> None:
    start(browser, "Editions")
    browser.write("Title of page 1", "Birds", over=True)
    browser.keys(Keys.ENTER, "Which bird?", Keys.TAB)
    browser.reads("Saved", "Nothing is missing")
    browser.press("button", "Publish edition 1")
    browser.reads("The first edition: all of it is new.")
    browser.press("button", "Publish it")
    browser.reads("Published")
    browser.write("Question 1", "Which gull?", over=True)
    browser.keys(Keys.ENTER, "How many?", Keys.TAB)
    browser.reads("Saved")
    browser.press("button", "Publish edition 2")
    browser.reads(
        'which_bird: "Which bird?" became "Which gull?".', 'how_many is new: "How many?".'
    )
    browser.accessible()
    browser.press("button", "Publish it")
    browser.reads("Published", "Edition 2")
    browser.press("button", "More")
    browser.press("button", "Earlier editions")
    browser.reads('how_many is new: "How many?".', "What it asks")
    browser.pick("Edition", browser.driver.find_elements(By.CSS_SELECTOR, "option")[-1].text)
    browser.reads("The first edition: all of it is new.")
    browser.accessible()
    browser.press("button", "Restore edition 1 as the draft")
    browser.soon(lambda: questions(browser) == ["Which bird?"])
    browser.reads("Saved", "Publish edition 3")


@pytest.mark.refused(422)
def test_taken_out_copied_and_brought_in(browser: Browser, tmp_path: Path) -> None:
    start(browser, "Exchange")
    browser.write("Title of page 1", "Birds", over=True)
    browser.keys(Keys.ENTER, "Which bird?", Keys.TAB)
    browser.reads("Saved", "Nothing is missing")
    browser.press("button", "More")
    browser.reads("Without 1 thing that FHIR cannot say")
    browser.accessible()
    link = browser.named("link", "Export as a file (JSON)").get_attribute("href")
    text = browser.fetched(str(link))
    browser.press("button", "Make a copy")
    browser.reads("Exchange (copy)")
    browser.soon(lambda: questions(browser) == ["Which bird?"])
    browser.open("/desk")
    browser.press("button", "Import")
    broken = tmp_path / "broken.json"
    broken.write_text(text.replace('"short_text"', '"song"'))
    browser.driver.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(str(broken))
    browser.reads("The file was not imported. Nothing has changed.", "pages/0/items/0")
    browser.accessible()
    whole = tmp_path / "whole.json"
    whole.write_text(text)
    browser.driver.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(str(whole))
    browser.soon(lambda: questions(browser) == ["Which bird?"])


def condition_on_the_first(browser: Browser) -> None:
    browser.write("Title of page 1", "Birds", over=True)
    browser.keys(Keys.ENTER, "Any birds?", Keys.ENTER, "How many?", Keys.TAB)
    browser.driver.execute_script("arguments[0].focus()", browser.named("textbox", "Question 1"))
    browser.keys(Keys.CONTROL, "/")
    browser.soon(lambda: browser.driver.find_elements(By.CSS_SELECTOR, "[role=option]"))
    ActionChains(browser.driver).send_keys("yes", Keys.ENTER).perform()
    browser.reads("Yes or no")
    browser.driver.execute_script("arguments[0].focus()", browser.named("textbox", "Question 2"))
    browser.press("button", "Add a condition")
    browser.reads("This is shown when something that is not chosen yet.")
    browser.pick("Question", "any_birds")
    browser.reads("This is shown when Any birds is what? Say what it is compared with.")
    browser.pick("Answer", "Yes")
    browser.reads("Shown when Any birds is Yes")


def test_what_is_referred_to_is_told_before_it_goes(browser: Browser) -> None:
    start(browser, "Uses")
    condition_on_the_first(browser)
    browser.driver.execute_script("arguments[0].focus()", browser.named("textbox", "Question 1"))
    browser.reads("Used by")
    browser.named("button", "how_many: How many?")
    browser.keys(Keys.CONTROL, "d")
    browser.reads("any_birds_2", "Nothing here refers to it.")
    assert questions(browser) == ["Any birds?", "Any birds?", "How many?"]
    browser.driver.execute_script("arguments[0].focus()", browser.named("textbox", "Question 1"))
    browser.press("button", "Delete")
    browser.reads("Delete any_birds?", "1 thing refers to it:")
    browser.accessible()
    browser.press("button", "Cancel")
    assert len(questions(browser)) == 3
    browser.press("button", "Delete")
    browser.press("button", "Delete it and what refers to it")
    browser.soon(lambda: questions(browser) == ["Any birds?", "How many?"])
    assert "Shown when Any birds" not in browser.text()
    browser.reads("Saved", "Nothing is missing")
