"""What tests of the script begin with."""

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.reading import Browser


def start(browser: Browser, title: str) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("button", "New questionnaire")
    browser.write("What is it called?", title + Keys.ENTER)
    browser.reads("Page 1")


def questions(browser: Browser) -> list[str]:
    fields = browser.driver.find_elements(By.CSS_SELECTOR, "textarea[id^=item-]")
    return [field.get_attribute("value") or "" for field in fields]


def jotted(browser: Browser, title: str, outline: str, items: int) -> None:
    """A new questionnaire with the questions of an outline, saved."""
    start(browser, title)
    browser.press("button", "Alt J Jot several at once")
    browser.named("textbox", "Outline").send_keys(outline)
    browser.press("button", f"Add {items} item{'s' if items > 1 else ''}")
    browser.soon(lambda: len(questions(browser)) == items)
    browser.reads("Saved")
