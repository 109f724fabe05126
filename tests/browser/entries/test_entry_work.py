"""Work on entries in the browser: a reviewer's morning by keyboard alone, statuses with rules, one
corrected, one entered for somebody, and letting go."""

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from jotgate.core.handling import Care, Handling
from jotgate.core.records.accounts import Account
from jotgate.local.installation import Installation
from jotgate.services.context import Context
from jotgate.services.handling import Change
from jotgate.services.public import submitting
from jotgate.services.public.answering import Answers
from jotgate.services.staff.entries import entry_notes, handling
from tests.browser.entries.test_entries import copied, grid, opened, shown
from tests.browser.reading import Browser
from tests.browser.wells import Wells
from tests.documents import item, page, questionnaire

LINE = {
    "first": {"name": "New", "next": ["received"]},
    "statuses": [
        {
            "key": "received",
            "name": "Received",
            "glyph": "half",
            "tone": "going",
            "role": "reviewer",
            "next": ["sampled"],
        },
        {"key": "sampled", "name": "Sampled", "glyph": "tick", "tone": "good", "final": True},
    ],
}


@pytest.fixture(scope="module")
def wells(installation: Installation) -> Wells:
    found = Wells(installation)
    found.set()
    value = Handling.model_validate(LINE)
    found.do(lambda context, owner: handling.save(context, owner, found.id, value, 1))
    for at, name in enumerate(("Ada", "Bram", "Cleo", "Dara")):
        found.send(name, name=name, district=("saltings", "millbeck")[at % 2])
    copied(found)
    return found


def test_a_reviewers_morning_by_keyboard_alone(browser: Browser, wells: Wells) -> None:
    """Found, filtered, read, moved on, a note written, printed, the next one."""
    opened(browser, wells, as_="sam@example.org")
    shown(browser, [4, 3, 2, 1])
    for one in ("New 4", "Received 0", "Sampled 0"):
        browser.named("button", one)
    assert "Archive" not in browser.text()
    browser.write("Find words in answers", "bra" + Keys.ENTER)
    shown(browser, [2])
    grid(browser)
    browser.keys(Keys.ENTER)
    browser.reads("0002 Bram")
    browser.pick("Status", "Received")
    browser.named("button", "New 3")
    browser.accessible()
    browser.write("Write a note", "Rang twice.")
    browser.press("button", "Add the note")
    browser.reads("Rang twice.")
    browser.press("button", "Print")
    browser.reads("As staff read it")
    browser.keys(Keys.ESCAPE)
    browser.write("Find words in answers", Keys.BACKSPACE + Keys.ENTER, over=True)
    shown(browser, [4, 3, 2, 1])
    browser.press("button", "Received 1")
    shown(browser, [2])
    browser.press("button", "Received 1")
    shown(browser, [4, 3, 2, 1])
    grid(browser)
    browser.keys(Keys.ALT, Keys.ARROW_DOWN)
    browser.reads("2 of 4")


def test_one_is_corrected_and_it_is_decided_what_follows(browser: Browser, wells: Wells) -> None:
    opened(browser, wells)
    shown(browser, [4, 3, 2, 1])
    browser.reads("0004 Dara")
    browser.press("button", "Correct…")
    browser.accessible()
    browser.write("Why it is corrected", "It is spelled otherwise.")
    browser.press("button", "Open it")
    browser.reads("You correct entry 0004.")
    browser.alive()
    browser.accessible()
    browser.write("Name", "Daria", over=True)
    browser.press("button", "Continue")
    browser.named("radio", "Millbeck")
    browser.press("button", "Continue")
    browser.named("textbox", "More")
    browser.press("button", "Send")
    browser.reads("Back to the entries")
    browser.accessible()
    browser.press("link", "Back to the entries")
    browser.named("grid", "Entries")
    browser.reads("0004 Daria", "It was corrected. Should dispatch act on that?")
    browser.press("button", "Leave it")
    browser.soon(lambda: "Should dispatch act" not in browser.text())
    browser.reads("It is spelled otherwise.")
    browser.press("button", "Show what it said before")
    browser.reads("Dara → Daria")
    browser.accessible()


def test_one_is_entered_for_somebody(browser: Browser, wells: Wells) -> None:
    opened(browser, wells)
    browser.press("button", "Enter one…")
    browser.accessible()
    browser.press("button", "On the phone")
    browser.reads("You enter what somebody said on the phone.")
    browser.alive()
    browser.write("Name", "Edda")
    browser.press("button", "Continue")
    browser.press("radio", "Millbeck")
    browser.press("button", "Continue")
    browser.named("textbox", "More")
    browser.press("button", "Send")
    browser.press("link", "Enter another one")
    browser.reads("You enter what somebody said on the phone.")
    browser.alive()
    fields = browser.driver.find_elements(By.CSS_SELECTOR, "input[type=text]")
    assert [one.get_attribute("value") for one in fields][:1] == [""]
    browser.open(f"/desk/q/{wells.id}/entries")
    browser.reads("0005 Edda", "Entered by Rowan")


def test_statuses_get_rules_and_entries_an_end(browser: Browser, wells: Wells) -> None:
    opened(browser, wells)
    browser.press("button", "Statuses")
    browser.write("Another status", "Lost")
    browser.press("button", "Add")
    browser.accessible()
    browser.pick("Shape", "cross")
    browser.pick("It means that an entry", "went wrong")
    browser.press("switch", "Entries go by themselves once the work on them has ended")
    browser.reads("None at once, 0 within a week.")
    browser.resize(320, 700)
    browser.fits()
    browser.accessible()
    browser.resize(1280, 800)
    browser.press("button", "Save the statuses")
    browser.named("button", "Lost 0")
    browser.open(f"/desk/q/{wells.id}/dispatch")
    browser.press("button", "Add a rule for a status")
    browser.pick("The status that is reached", "Lost")
    browser.reads("At Lost", "Does nothing")
    browser.accessible()


def test_one_persons_data_is_found_and_erased(browser: Browser, installation: Installation) -> None:
    mail = "edda.moss@example.org"
    document = questionnaire(page("p", item("email", "mail")))
    titled = document.model_copy(update={"title": {"en": "Who are you"}})
    wells = Wells(installation, titled)
    wells.set()
    answers = Answers("", 1, {"mail": mail})
    wells.do(lambda context, _: submitting.submit(context, wells.address, answers, "a" * 20))
    copied(wells)
    browser.sign_in("rowan@example.org")
    browser.open("/desk/contacts/person")
    browser.write("Mail address", mail + Keys.ENTER)
    browser.reads("there is 1 entry", "Who are you 0001")
    browser.accessible()
    browser.resize(320, 700)
    browser.fits()
    browser.resize(1280, 800)
    browser.press("button", "Erase all of it…")
    browser.accessible()
    browser.write(f"Type {mail} to delete it", mail + Keys.ENTER)
    browser.reads("Erased: 1 entry.")

    browser.open(f"/desk/contacts/person?email={mail}")
    browser.reads(f"Nothing is kept of {mail}.")


def test_what_others_do_with_an_entry_shows_while_it_is_read(
    browser: Browser, installation: Installation
) -> None:
    own = Wells(installation)
    own.set()
    sent = own.send("own", name="Ada")
    opened(browser, own)
    browser.reads("0001 Ada", "Taken care of by\nNobody yet")

    async def others(context: Context, owner: Account) -> None:
        await entry_notes.add(context, owner, own.id, sent.id, "Rang her twice.")
        change = Change(care=Care(person=owner.id))
        await handling.handle(context, owner, own.id, [sent.id], change)

    own.do(others)
    browser.reads("Rang her twice.")
    browser.soon(lambda: "Taken care of by\nRowan Oake" in browser.text())
