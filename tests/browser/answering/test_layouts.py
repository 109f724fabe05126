"""Layouts of the answering page: question by question, wide, with a picture beside; each as much
within reach as the plain one."""

from collections.abc import Iterator

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from jotgate.local.installation import Installation
from tests.browser.published import LAYOUTS, in_layout, public
from tests.browser.reading import Browser
from tests.documents import is_, item, options, page, questionnaire, words

VISIT = questionnaire(
    page(
        "birds",
        item("note", "hello", text=words("About the birds.")),
        item("yes_no", "seen", text=words("Did you see any?"), required=True),
        item(
            "short_text",
            "which",
            text=words("Which ones?"),
            shown_when=is_("seen", True),
            longest=5,
        ),
        item("pick_one", "where", text=words("Where?"), options=options("shore", "field")),
    ),
    page("end", item("number", "hours", text=words("How many hours?"), required=True)),
    look={"one_by_one": True, "introduction": words("Two minutes.")},
)


@pytest.fixture
def bare(browser: Browser) -> Iterator[Browser]:
    """No picture arrives: what counts is the place that it is given."""
    browser.driver.execute_cdp_cmd("Network.enable", {})
    browser.driver.execute_cdp_cmd("Network.setBlockedURLs", {"urls": ["*/media/*"]})
    yield browser
    browser.driver.execute_cdp_cmd("Network.setBlockedURLs", {"urls": []})
    browser.driver.get_log("browser")


@pytest.mark.parametrize("name", LAYOUTS)
def test_each_layout_is_within_reach(installation: Installation, bare: Browser, name: str) -> None:
    """At a desk, on a phone, at 400 %, mirrored; of the picture only its place is there."""
    address = public(installation, in_layout(name))
    for width in (1280, 390, 320):
        bare.resize(width, 800)
        bare.open(address)
        bare.fits()
        bare.accessible()
    bare.driver.execute_script("document.documentElement.dir = 'rtl'")
    bare.fits()
    bare.resize(1280, 800)
    bare.fits()


def test_a_picture_stands_beside_the_questions_where_there_is_room(
    installation: Installation, bare: Browser
) -> None:
    bare.open(public(installation, in_layout("beside")))

    def corners() -> list[dict[str, float]]:
        found = bare.driver.find_elements(By.CSS_SELECTOR, "img, main")
        return [dict(one.rect) for one in found]

    bare.resize(1280, 800)
    picture, paper = corners()
    assert picture["x"] + picture["width"] <= paper["x"]
    assert picture["height"] == 800
    bare.resize(900, 800)
    picture, paper = corners()
    assert picture["y"] + picture["height"] <= paper["y"]


def focus_is_at(browser: Browser, name: str) -> None:
    browser.soon(lambda: browser.focused().accessible_name.strip(" *") == name)


def test_a_visit_question_by_question_with_the_keyboard(
    installation: Installation, browser: Browser
) -> None:
    browser.open(public(installation, VISIT))
    browser.reads("Two minutes.", "About the birds.", "Did you see any?")
    assert "Where?" not in browser.text()
    browser.press("button", "Continue")
    browser.reads("Answer this question.")
    assert "needs another look" not in browser.text()
    browser.press("radio", "Yes")
    browser.keys(Keys.ENTER)
    focus_is_at(browser, "Which ones?")
    assert "Two minutes." not in browser.text()
    browser.keys("curlews", Keys.ENTER)
    browser.reads("Write at most 5 characters; it has 7.")
    focus_is_at(browser, "Which ones?")
    browser.keys(Keys.BACKSPACE * 2, Keys.ENTER)
    browser.reads("Where?")
    browser.accessible()
    browser.press("radio", "Shore")
    browser.keys(Keys.ENTER)
    browser.reads("How many hours?")
    assert "Send" in browser.text()
    there_and_back(browser)
    browser.press("button", "Send")
    browser.reads("Answer this question.")
    focus_is_at(browser, "How many hours?")
    browser.keys("3", Keys.ENTER)
    browser.reads("Done")


def there_and_back(browser: Browser) -> None:
    """By the page's button, the browser's, and over a reload."""
    browser.press("button", "Back")
    browser.reads("Where?")
    browser.press("button", "Back")
    browser.reads("Which ones?")
    assert browser.named("textbox", "Which ones?").get_attribute("value") == "curle"
    browser.driver.refresh()
    browser.alive()
    browser.reads("Which ones?")
    browser.driver.back()
    browser.reads("Where?")
    browser.driver.back()
    browser.reads("How many hours?")
    browser.driver.forward()
    browser.reads("Where?")
    browser.press("button", "Continue")
    browser.reads("How many hours?")


def test_what_an_answer_takes_back_is_not_asked(
    installation: Installation, browser: Browser
) -> None:
    browser.open(public(installation, VISIT))
    browser.press("radio", "No")
    browser.keys(Keys.ENTER)
    browser.reads("Where?")
    assert "Which ones?" not in browser.text()
    browser.press("button", "Back")
    browser.reads("Did you see any?")
    browser.press("radio", "Yes")
    browser.press("button", "Continue")
    browser.reads("Which ones?")


def test_the_whole_of_every_kind_is_answered_one_by_one(
    installation: Installation, browser: Browser
) -> None:
    """What is required cannot be gone past; each question stands alone, with what leads to it."""
    browser.open(public(installation, in_layout("one by one")))
    browser.reads("Word")
    browser.press("button", "Continue")
    browser.reads("Answer this question.")
    browser.keys("heron", Keys.ENTER)
    focus_is_at(browser, "Story")
    assert len(browser.driver.find_elements(By.CSS_SELECTOR, "input, textarea")) == 1
    browser.accessible()
