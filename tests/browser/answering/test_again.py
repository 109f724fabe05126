"""People who are known by a letter: let in by it, and changing by it what they sent before."""

import time

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from jotgate.local.installation import Installation
from tests.browser.reading import Browser
from tests.browser.wells import Wells, letter_to, take


def send(browser: Browser, name: str, district: str) -> None:
    browser.write("Name", name, over=True)
    browser.press("button", "Continue")
    take(browser, district)
    browser.press("button", "Continue")
    browser.press("button", "Send")
    browser.reads("Done")


@pytest.mark.refused(403, 422)
def test_a_mail_address_is_confirmed_and_what_was_sent_is_changed(
    browser: Browser, wells: Wells, installation: Installation
) -> None:
    wells.set(
        audience=[{"kind": "mail", "domains": ["example.org"]}],
        per_person={"most": 1, "known_by": ["mail"]},
        changing={},
    )
    email, room = f"m{time.time_ns()}@example.org", installation.folder / "mail-room"
    browser.open(f"{wells.link}?more=Early")
    browser.reads("Confirm your mail address")
    browser.accessible()
    browser.write("Your mail address", "ines@example.com")
    browser.press("button", "Send me the link")
    browser.reads("With this address nobody is let in here.")
    browser.write("Your mail address", email, over=True)
    browser.press("button", "Send me the link")
    browser.reads(f"A letter is on its way to {email}.")
    browser.open(browser.soon(lambda: letter_to(room, email, "c")))
    browser.reads(f"Signed in as {email}")
    send(browser, "Ada", "Saltings")
    browser.accessible()
    browser.open(wells.link)
    browser.reads("Confirm your mail address")
    browser.open(browser.soon(lambda: letter_to(room, email, "c")))
    browser.reads("You have answered already")
    browser.accessible()
    browser.press("button", "Change those answers")
    browser.reads("These are the answers that you sent on")
    browser.accessible()
    assert browser.named("textbox", "Name").get_attribute("value") == "Ada"
    browser.driver.refresh()
    browser.alive()
    send(browser, "Tove", "Millbeck")
    earlier_is_kept(browser, wells)


def earlier_is_kept(browser: Browser, wells: Wells) -> None:
    browser.sign_in("rowan@example.org")
    browser.open(f"/desk/q/{wells.id}/entries")
    browser.reads("Tove", "by whoever sent it")
    browser.press("button", "Show what it said before")
    browser.reads("Ada")
    browser.accessible()
    browser.fits()


def test_a_letter_is_asked_for_at_the_end_and_works_in_arabic_on_a_narrow_screen(
    browser: Browser, wells: Wells, installation: Installation
) -> None:
    wells.set(changing={})
    browser.open(wells.link)
    send(browser, "Ada", "Saltings")
    email, room = f"m{time.time_ns()}@example.org", installation.folder / "mail-room"
    browser.write("Your mail address", email)
    browser.press("button", "Send me the link")
    browser.reads(f"A letter is on its way to {email}.")
    browser.resize(320, 700)
    browser.open(browser.soon(lambda: letter_to(room, email, "c")))
    browser.reads("These are the answers that you sent on")
    browser.fits()
    browser.open(f"{wells.link}/ar")
    browser.reads("هذه هي الإجابات التي أرسلتها")
    browser.accessible()
    browser.fits()
    browser.resize(1280, 800)


def test_entries_are_worked_through_by_keyboard(browser: Browser, wells: Wells) -> None:
    wells.set()
    wells.send("first")
    browser.sign_in("rowan@example.org")
    browser.open(f"/desk/q/{wells.id}/entries")
    browser.named("button", "Statuses").send_keys(Keys.ENTER)
    for name in ("Sampled", "Cancelled"):
        browser.write("Another status", name)
        browser.keys(Keys.ENTER) if name == "Cancelled" else browser.press("button", "Add")
    browser.pick("Status", "Cancelled")
    browser.soon(
        lambda: "Cancelled" in browser.driver.find_element(By.CSS_SELECTOR, "[role=grid]").text
    )
    browser.accessible()
    browser.named("button", "Archive").send_keys(Keys.ENTER)
    browser.reads("Every entry is in the archive")
    browser.press("button", "Show the archive too")
    browser.reads("In the archive since")
    browser.accessible()
    browser.resize(320, 700)
    browser.fits()
    browser.resize(1280, 800)
