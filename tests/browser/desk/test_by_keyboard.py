"""A whole questionnaire by keyboard alone: nothing is clicked, no focus is set from outside."""

from collections.abc import Callable

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.reading import Browser
from tests.browser.writing import questions

MOST = 160
"""How many times Tab is pressed before something counts as out of reach."""


def reach(browser: Browser, wanted: Callable[[str, str], bool], back: bool = False) -> None:
    """Press Tab, or Shift Tab, until what has the focus is wanted by its role and name."""
    for _ in range(MOST):
        if wanted(*_focus(browser)):
            return
        tab = ActionChains(browser.driver)
        if back:
            tab.key_down(Keys.SHIFT).send_keys(Keys.TAB).key_up(Keys.SHIFT).perform()
        else:
            tab.send_keys(Keys.TAB).perform()
    raise AssertionError(f"out of reach; last was {_focus(browser)}")


def _focus(browser: Browser) -> tuple[str, str]:
    focused = browser.focused()
    return focused.aria_role, focused.accessible_name.strip()


def to(browser: Browser, name: str, back: bool = False) -> None:
    """Go to what is called `name`, or begins with it."""
    reach(browser, lambda _, found: found == name or found.startswith(f"{name} "), back)


def holding(browser: Browser, words: str, back: bool = False) -> None:
    """Go to what has `words` in its name, which tells its present choice as well."""
    reach(browser, lambda _, found: words in found, back)


def choose_here(browser: Browser, letters: str) -> None:
    """Open the list that has the focus, and take what begins with `letters`."""
    browser.keys(Keys.ENTER)
    browser.soon(lambda: browser.driver.find_elements(By.CSS_SELECTOR, "[role=option]"))
    browser.keys(letters)
    browser.keys(Keys.ENTER)
    browser.soon(lambda: not browser.driver.find_elements(By.CSS_SELECTOR, "[role=option]"))


def jump(browser: Browser, letters: str) -> None:
    """Ctrl K, some letters, Enter."""
    browser.keys(Keys.CONTROL, "k")
    browser.soon(lambda: browser.focused().get_attribute("type") == "search")
    browser.keys(letters)
    found = "[role=menuitem][data-focused]"
    browser.soon(lambda: browser.driver.find_elements(By.CSS_SELECTOR, found))
    browser.keys(Keys.ENTER)
    browser.soon(lambda: letters in (browser.focused().get_attribute("value") or ""))


def kind(browser: Browser, letters: str) -> None:
    """Ctrl / on a question, then its kind; the cursor is back in the question."""
    asked = browser.focused()
    browser.keys(Keys.CONTROL, "/")
    browser.soon(lambda: browser.driver.find_elements(By.CSS_SELECTOR, "[role=option]"))
    browser.keys(letters)
    browser.keys(Keys.ENTER)
    browser.soon(lambda: browser.focused() == asked)


ASKED = (
    "What is your name?",
    "Which bird did you see?",
    "How many?",
    "On which day?",
    "Was it singing?",
    "Which other birds were there?",
    "When did you come?",
    "When did you go?",
    "What was the weather like?",
    "Anything else?",
)


def test_ten_questions_written_tried_and_published(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    to(browser, "New questionnaire")
    browser.keys(Keys.ENTER)
    browser.soon(lambda: _focus(browser)[0] == "textbox")
    browser.keys("Bird walk", Keys.ENTER)
    browser.reads("Page 1")
    to(browser, "Title of page 1")
    for asked in ASKED:
        browser.keys(Keys.ENTER, asked)
    browser.keys(Keys.TAB)
    browser.soon(lambda: questions(browser) == list(ASKED))
    options(browser)
    check(browser)
    condition(browser)
    roster(browser)
    browser.reads("Nothing is missing", "Saved")
    tried(browser)
    to(browser, "Publish edition 1", back=True)
    browser.keys(Keys.ENTER)
    browser.reads("The first edition: all of it is new.")
    to(browser, "Publish it")
    browser.keys(Keys.ENTER)
    browser.reads("Published", "Edition 1")


def options(browser: Browser) -> None:
    jump(browser, "Which bird")
    kind(browser, "Pick one")
    to(browser, "New option")
    for bird in ("Heron", "Gull", "Wren"):
        browser.keys(bird, Keys.ENTER)
    browser.reads("Pick one, 3 options")


def check(browser: Browser) -> None:
    """The day is not after today; the time of going is not before that of coming."""
    jump(browser, "On which day")
    kind(browser, "Date")
    browser.keys(Keys.F6)
    to(browser, "Not after")
    browser.keys("today", Keys.TAB)
    for asked in ("When did you come", "When did you go"):
        jump(browser, asked)
        kind(browser, "Time")
    jump(browser, "Page 1")
    browser.keys(Keys.F6)
    to(browser, "Add a check")
    browser.keys(Keys.ENTER)
    holding(browser, "What is checked", back=True)
    choose_here(browser, "When did you go")
    holding(browser, "What it is held against")
    choose_here(browser, "When did you come")
    to(browser, "When that is not so, it says")
    browser.keys("You went before you came.")
    browser.reads("Checked: When did you go is at least When did you come")


def condition(browser: Browser) -> None:
    jump(browser, "Was it singing")
    kind(browser, "Yes")
    browser.keys(Keys.F6)
    to(browser, "Add a condition")
    browser.keys(Keys.ENTER)
    browser.reads("Shown when something not chosen yet", "Before you publish: 1")
    holding(browser, "choose a question", back=True)
    choose_here(browser, "Which bird")
    holding(browser, "Answer")
    choose_here(browser, "Heron")
    browser.reads("Shown when Which bird did you see is Heron")


def roster(browser: Browser) -> None:
    jump(browser, "Which other birds")
    kind(browser, "Roster")
    to(browser, "Add a question")
    browser.keys(Keys.ENTER)
    browser.soon(lambda: browser.focused().tag_name == "textarea")
    browser.keys("Name of the bird", Keys.TAB)
    browser.reads("name_of_the_bird")


def tried(browser: Browser) -> None:
    to(browser, "Try it", back=True)
    browser.keys(Keys.ENTER)
    browser.reads("Made-up answers")
    to(browser, "Made-up answers")
    browser.keys(Keys.ENTER)

    def inside() -> bool:
        browser.driver.switch_to.default_content()
        browser.driver.switch_to.frame(browser.driver.find_element(By.TAG_NAME, "iframe"))
        return ASKED[0] in browser.text() and "Heron" in browser.text()

    browser.soon(inside)
    browser.driver.switch_to.default_content()
    browser.soon(lambda: _focus(browser)[1] == "Made-up answers")
    to(browser, "Close", back=True)
    browser.keys(Keys.ENTER)
    browser.reads("Before you publish")
