"""Two people on one draft, a server that is away, a session that ends: nothing is lost silently."""

import random
import time
from collections.abc import Iterator
from pathlib import Path

import pytest
from selenium.webdriver.common.keys import Keys

from jotgate.local.installation import Installation
from jotgate.local.processes import Processes, web_arguments
from tests.browser.conftest import AXE, chromium_in
from tests.browser.reading import Browser

EDITS = 200


@pytest.fixture
def other(browser: Browser, tmp_path: Path) -> Iterator[Browser]:
    """Somebody else, in a browser of their own."""
    driver = chromium_in(tmp_path)
    found = Browser(driver, browser.base, AXE.read_text())
    found.resize(1280, 800)
    found.sign_in("rowan@example.org")
    yield found
    driver.quit()


def start(browser: Browser, title: str) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("button", "New questionnaire")
    browser.write("What is it called?", title + Keys.ENTER)
    browser.write("Title of page 1", "Birds", over=True)
    browser.keys(Keys.ENTER, "Which bird")
    browser.reads("Saved")


def words(browser: Browser, name: str = "Question 1") -> str:
    return browser.named("textbox", name).get_attribute("value") or ""


def both_at(browser: Browser, other: Browser, title: str) -> None:
    start(browser, title)
    browser.keys(Keys.TAB)
    browser.reads("which_bird", "Saved")
    other.open(browser.driver.current_url)
    other.soon(lambda: words(other) == "Which bird")


def offline(browser: Browser, off: bool) -> None:
    browser.driver.execute_cdp_cmd("Network.enable", {})
    conditions = {"offline": off, "latency": 0, "downloadThroughput": -1, "uploadThroughput": -1}
    browser.driver.execute_cdp_cmd("Network.emulateNetworkConditions", conditions)


def test_two_people_see_each_other_and_what_the_other_writes(
    browser: Browser, other: Browser
) -> None:
    both_at(browser, other, "Together")
    browser.reads("Rowan Oake also here")
    other.write("Question 1", "Which bird sings", over=True)
    browser.soon(lambda: words(browser) == "Which bird sings")
    browser.accessible()
    browser.write("Title of page 1", "Song birds", over=True)
    other.soon(lambda: words(other, "Title of page 1") == "Song birds")
    assert words(other) == "Which bird sings"


def test_typing_stays_in_its_field_when_somebody_adds_a_question_above(
    browser: Browser, other: Browser
) -> None:
    """Also where options are listed, and in what is typed there and not added yet."""
    both_at(browser, other, "Above")
    browser.driver.execute_script("arguments[0].focus()", browser.named("textbox", "Question 1"))
    browser.keys(Keys.END, Keys.ENTER, "Which owl")
    browser.pick("Kind", "Pick one")
    browser.write("New option", "Barn" + Keys.ENTER)
    fields = [("Question {}", "ABWhich owl"), ("Option 1", "ABBarn"), ("New option", "AB")]
    for questions, (name, expected) in enumerate(fields, 2):
        browser.reads("Saved")
        other.soon(lambda there=questions: len(every_question(other)) == there)  # type: ignore[misc]
        field = browser.named("textbox", name.format(questions))
        browser.driver.execute_script("arguments[0].focus()", field)
        browser.keys(Keys.HOME, "A")
        other.write("Title of page 1", Keys.ENTER)
        other.keys(f"Above {questions}")
        browser.soon(lambda there=questions: len(every_question(browser)) == there + 1)  # type: ignore[misc]
        browser.keys("B")
        typed = browser.named("textbox", name.format(questions + 1))
        assert browser.focused() == typed
        assert typed.get_attribute("value") == expected


def clash(browser: Browser, other: Browser) -> None:
    """Both reword the same question: one while away, so that the other one's is saved first."""
    offline(browser, True)
    browser.write("Question 1", "Which bird now", over=True)
    other.write("Question 1", "Which gull", over=True)
    other.reads("Saved")
    offline(browser, False)
    browser.reads("Somebody changed the same thing", "Which bird now", "Which gull")
    browser.driver.get_log("browser")


def test_both_versions_are_shown_and_one_is_chosen(browser: Browser, other: Browser) -> None:
    both_at(browser, other, "Clash")
    for choice, expected in (("Take theirs", "Which gull"), ("Keep mine", "Which bird now")):
        clash(browser, other)
        browser.accessible()
        browser.press("button", choice)
        browser.reads("Saved")
        assert words(browser) == expected
        other.soon(lambda expected=expected: words(other) == expected)  # type: ignore[misc]
        other.write("Question 1", "Which bird", over=True)
        browser.soon(lambda: words(browser) == "Which bird")
    browser.driver.get_log("browser")


def test_what_was_not_chosen_is_within_reach_of_undo(browser: Browser, other: Browser) -> None:
    both_at(browser, other, "Clash and undo")
    clash(browser, other)
    browser.press("radio", "Theirs: which_bird, words")
    browser.press("radio", "Yours: which_bird, words")
    browser.press("button", "Go on with these")
    browser.reads("Saved")
    browser.driver.get_log("browser")
    browser.driver.execute_script("arguments[0].focus()", browser.named("textbox", "Question 1"))
    browser.keys(Keys.CONTROL, "z")
    browser.soon(lambda: words(browser) == "Which gull")
    browser.keys(Keys.CONTROL, Keys.SHIFT, "z")
    browser.soon(lambda: words(browser) == "Which bird now")


def every_question(browser: Browser) -> list[str]:
    fields: list[str] = browser.driver.execute_script(
        "return [...document.querySelectorAll('textarea[id^=item-]')].map((one) => one.value)"
    )
    return fields


FOCUS = "document.querySelectorAll('textarea[id^=item-]')[arguments[0]].focus()"


@pytest.mark.refused(409)
def test_two_hundred_edits_by_two_people_are_all_there(browser: Browser, other: Browser) -> None:
    """Each writes questions of their own and adds to what the other wrote, all mixed up."""
    both_at(browser, other, "Two hundred")
    dice = random.Random(4)
    written: list[str] = []
    for number in range(EDITS):
        writer = browser if dice.random() < 0.5 else other
        last = len(every_question(writer))
        writer.driver.execute_script(FOCUS, dice.randint(1, last) - 1)
        writer.keys(Keys.END, Keys.ENTER)
        writer.driver.execute_cdp_cmd("Input.insertText", {"text": f"Bird {number}"})
        written.append(f"Bird {number}")
    everything = {"Which bird", *written}
    for writer in (browser, other):
        writer.soon(lambda writer=writer: set(every_question(writer)) == everything)  # type: ignore[misc]
        assert len(every_question(writer)) == EDITS + 1
        writer.reads("Saved")
        assert "Somebody changed" not in writer.text()
    assert every_question(browser) == every_question(other)


def test_a_server_that_is_away_for_a_minute_costs_nothing(
    browser: Browser, installation: Installation, processes: Processes
) -> None:
    start(browser, "Unavailable")
    application = processes.running["application"]
    application.terminate()
    application.wait(15)
    end = time.monotonic() + 60
    count = 0
    while time.monotonic() < end:
        count += 1
        browser.keys(Keys.ENTER, f"Bird {count}")
        time.sleep(2)
    browser.reads("Not saved. Trying again.")
    processes.start("application", web_arguments(installation.settings.port))
    processes.wait_for_web(browser.base)
    browser.reads("Saved")
    expected = ["Which bird", *(f"Bird {number + 1}" for number in range(count))]
    assert every_question(browser) == expected
    browser.driver.get_log("browser")
    browser.open(browser.driver.current_url)
    browser.soon(lambda: every_question(browser) == expected)


def test_a_tab_that_is_closed_while_away_goes_on_where_it_was(browser: Browser) -> None:
    start(browser, "Closed")
    offline(browser, True)
    browser.keys(Keys.ENTER, "Which owl")
    browser.reads("Not saved. Trying again.")
    address = browser.driver.current_url
    browser.driver.get("about:blank")
    offline(browser, False)
    browser.open(address)
    browser.soon(lambda: every_question(browser) == ["Which bird", "Which owl"])
    browser.reads("Saved")
    browser.driver.get_log("browser")


@pytest.mark.refused(401)
def test_a_session_that_ends_keeps_what_was_written(browser: Browser) -> None:
    start(browser, "Session")
    cookies = browser.driver.get_cookies()
    browser.driver.delete_all_cookies()
    browser.write("Question 1", "Which owl", over=True)
    browser.reads("Sign in to go on. Until then your changes stay here, in this browser.")
    assert words(browser) == "Which owl"
    for cookie in cookies:
        browser.driver.add_cookie(cookie)
    browser.reads("Saved")
    browser.open(browser.driver.current_url)
    browser.soon(lambda: words(browser) == "Which owl")
