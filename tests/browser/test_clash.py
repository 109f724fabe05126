"""Two people on one draft, and a session that ends in the middle: nothing is lost silently."""

from typing import Any

from selenium.webdriver.common.keys import Keys

from tests.browser.reading import Browser

SAVE = """
const done = arguments[arguments.length - 1];
const id = location.pathname.split("/")[3];
const path = `/api/questionnaires/${id}/draft`;
(async () => {
  const {csrf} = await (await fetch("/api/me")).json();
  const draft = await (await fetch(path)).json();
  delete draft.faults;
  draft.document.pages[0].items[0].text.en = arguments[0];
  const headers = {"Content-Type": "application/json", "X-CSRF-Token": csrf};
  const reply = await fetch(path, {method: "PUT", headers, body: JSON.stringify(draft)});
  return reply.status;
})().then(done, error => done(String(error)));
"""


def somebody_else_saves(browser: Browser, words: str) -> None:
    status: Any = browser.driver.execute_async_script(SAVE, words)
    assert status == 200


def start(browser: Browser, title: str) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("button", "New questionnaire")
    browser.write("What is it called?", title + Keys.ENTER)
    browser.write("Title of page 1", "Birds", over=True)
    browser.keys(Keys.ENTER, "Which bird")
    browser.reads("Saved")


def words(browser: Browser) -> str:
    return browser.named("textbox", "Question 1").get_attribute("value") or ""


def test_both_versions_are_shown_and_one_is_chosen(browser: Browser) -> None:
    start(browser, "Clash")
    for choice, expected in (("Take theirs", "Which gull"), ("Keep mine", "Which bird now")):
        somebody_else_saves(browser, "Which gull")
        browser.write("Question 1", "Which bird now", over=True)
        browser.reads("Somebody saved a newer version", "Which bird now", "Which gull")
        browser.accessible()
        browser.press("button", choice)
        browser.reads("Saved")
        assert words(browser) == expected
        browser.open(browser.driver.current_url)
        browser.soon(lambda expected=expected: words(browser) == expected)  # type: ignore[misc]


def test_what_was_not_chosen_is_within_reach_of_undo(browser: Browser) -> None:
    start(browser, "Clash and undo")
    somebody_else_saves(browser, "Which gull")
    browser.write("Question 1", "Which bird now", over=True)
    browser.press("button", "Keep mine")
    browser.reads("Saved")
    browser.driver.execute_script("arguments[0].focus()", browser.named("textbox", "Question 1"))
    browser.keys(Keys.CONTROL, "z")
    browser.soon(lambda: words(browser) == "Which gull")
    browser.keys(Keys.CONTROL, Keys.SHIFT, "z")
    browser.soon(lambda: words(browser) == "Which bird now")


def test_a_session_that_ends_keeps_what_was_written(browser: Browser) -> None:
    start(browser, "Session")
    cookies = browser.driver.get_cookies()
    browser.driver.delete_all_cookies()
    browser.write("Question 1", "Which owl", over=True)
    browser.reads("Sign in to go on. Until then your changes stay here, in this tab.")
    assert words(browser) == "Which owl"
    for cookie in cookies:
        browser.driver.add_cookie(cookie)
    browser.reads("Saved")
    browser.open(browser.driver.current_url)
    browser.soon(lambda: words(browser) == "Which owl")
