"""Moving several questions, jumping, the question bank, folders and templates."""

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.reading import Browser
from tests.browser.writing import jotted, questions

OUTLINE = """Which bird?
How many?
Where?

# Weather
Rain?"""

WITH = "document.querySelector(arguments[0]).focus()"


def dialog(browser: Browser) -> str:
    return browser.driver.find_element(By.CSS_SELECTOR, "[role=dialog]").text


def focus(browser: Browser, css: str) -> None:
    browser.soon(lambda: browser.driver.find_elements(By.CSS_SELECTOR, css))
    browser.driver.execute_script(WITH, css)


def test_several_are_selected_and_moved_and_one_is_dragged_by_keyboard(browser: Browser) -> None:
    jotted(browser, "Arranged", OUTLINE, 4)
    browser.keys(Keys.ALT, "a")
    browser.reads("Nothing selected")
    browser.accessible()
    for key in ("which_bird", "where"):
        focus(browser, f"[data-key='item {key}']")
        browser.keys(Keys.SPACE)
    browser.reads("2 items selected")
    browser.choose("To which page", "2 Weather")
    browser.press("button", "Move to the end of it")
    browser.reads("Nothing selected")
    focus(browser, "[data-key='item where'] button[slot=drag]")
    browser.keys(Keys.ENTER)
    for _ in range(2):
        browser.keys(Keys.ARROW_UP)
    browser.keys(Keys.ENTER)
    browser.press("button", "Close")
    browser.soon(lambda: questions(browser) == ["How many?", "Rain?", "Where?", "Which bird?"])
    browser.reads("Saved")
    focus(browser, "textarea[id^=page-]")
    browser.keys(Keys.CONTROL, "z")
    browser.keys(Keys.CONTROL, "z")
    browser.soon(lambda: questions(browser) == ["Which bird?", "How many?", "Where?", "Rain?"])


def test_jumping_to_a_question_and_to_a_deed(browser: Browser) -> None:
    jotted(browser, "Jumped", OUTLINE, 4)
    browser.keys(Keys.CONTROL, "k")
    browser.soon(lambda: browser.focused().get_attribute("type") == "search")
    browser.keys("rai")
    browser.soon(lambda: len(browser.driver.find_elements(By.CSS_SELECTOR, "[role=menuitem]")) == 1)
    browser.accessible()
    browser.keys(Keys.ENTER)
    browser.soon(lambda: browser.focused().get_attribute("value") == "Rain?")
    browser.keys(Keys.CONTROL, "k")
    browser.soon(lambda: browser.focused().get_attribute("type") == "search")
    browser.keys("arrange")
    browser.soon(lambda: len(browser.driver.find_elements(By.CSS_SELECTOR, "[role=menuitem]")) == 1)
    browser.keys(Keys.ENTER)
    browser.reads("Nothing selected")


def test_a_question_of_the_bank_is_taken_linked_and_renewed(browser: Browser) -> None:
    jotted(browser, "Banker", "Which heron?", 1)
    focus(browser, "textarea[id^=item-]")
    browser.press("button", "Put into the bank")
    browser.reads("Linked: other questionnaires can take what you keep here.", "Saved")
    browser.open("/desk")
    browser.press("button", "New questionnaire")
    browser.write("What is it called?", "Borrower" + Keys.ENTER)
    browser.reads("Page 1")
    browser.keys(Keys.ALT, "b")
    browser.write("Find", "heron")
    browser.accessible()
    browser.press("button", "Add linked: Which heron?")
    browser.soon(lambda: questions(browser) == ["Which heron?"])
    browser.reads("Saved")
    borrower = browser.driver.current_url
    browser.open("/desk")
    browser.press("link", "Banker")
    browser.write("Question 1", "Which heron did you see?", over=True)
    browser.press("button", "Keep this wording in the bank")
    browser.reads("Saved")
    browser.open(borrower)
    focus(browser, "textarea[id^=item-]")
    browser.reads("Newer wording available: Which heron did you see?")
    browser.accessible()
    browser.press("button", "Take the newer wording")
    browser.soon(lambda: questions(browser) == ["Which heron did you see?"])
    browser.press("button", "Unlink it")
    browser.reads("Put into the bank", "Saved")
    browser.keys(Keys.ALT, "b")
    browser.press("button", "Remove from the bank: Which heron did you see?")
    browser.soon(lambda: "Which heron did you see?" not in dialog(browser))
    assert "Where is the well?" in dialog(browser)


def test_folders_and_templates(browser: Browser) -> None:
    jotted(browser, "Yearly count", OUTLINE, 4)
    browser.press("button", "More")
    browser.accessible()
    browser.write("Folder", "Counts")
    browser.press("button", "Put there")
    browser.press("switch", "Offered as a template for new ones")
    browser.soon(
        lambda: browser.named("switch", "Offered as a template for new ones").is_selected()
    )
    browser.open("/desk")
    browser.reads("Counts", "Draft, not published, template")
    browser.accessible()
    browser.press("button", "New questionnaire")
    browser.write("What is it called?", "Count of this year")
    browser.pick("What does it start from?", "Yearly count")
    browser.press("button", "Start writing")
    browser.soon(lambda: questions(browser) == ["Which bird?", "How many?", "Where?", "Rain?"])
    browser.reads("Count of this year")


def test_a_start_that_ships(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("button", "New questionnaire")
    browser.write("What is it called?", "Broken things")
    browser.pick("What does it start from?", "Report a fault")
    browser.press("button", "Start writing")
    browser.reads("What is wrong", "Where it is", "Nothing is missing")
