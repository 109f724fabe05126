"""Every view on the demo data: accessible, and whole at 320 px, which is 400 % zoom of 1280.

With JOTGATE_PICTURES=1 in the environment the pictures in docs/screenshots are made anew.
"""

import os
import re
import time
from collections.abc import Callable
from pathlib import Path

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from jotgate.settings import ROOT
from tests.browser.reading import Browser

OUTLINE = """# Your animals
1. Which animals drink the water? (tick all that apply)
- Cattle
- Sheep
- Poultry
- None of these
2. How many of them? *
3. Since when? (date)
# The trough
Material / make, e.g. zinc tub
Is it cleaned? (yes/no)
Rate its state on a scale of 1 to 5
# Reaching you
Name ______
Mobile ______
Anything else?"""

PICTURES = ROOT / "docs" / "screenshots" if os.environ.get("JOTGATE_PICTURES") else None

ROOMS = {
    "desk": ("/desk", "Private well check"),
    "registers": ("/desk/registers", "To sort by hand"),
    "mail-room": ("/desk/mail-room", "Mail room"),
    "trail": ("/desk/trail", "signed in"),
    "people": ("/desk/people", "Saltings crew"),
    "contacts": ("/desk/contacts", "Households of the valley"),
    "no-letters": ("/desk/contacts/no-letters", "Many from a table"),
    "contacts-import": ("/desk/contacts/import", "200,000 rows"),
    "visitor-sign-in": ("/desk/visitor-sign-in", "Thornmere accounts"),
    "office": ("/desk/office", "Who has to have a second factor"),
    "account": ("/desk/account", "Tokens for scripts"),
}
PLACES = {
    "script": "tests private wells free of charge",
    "map": "walks that together take every branch",
    "links": "What is chosen here stands in the address",
    "gate": "Open to everyone with the address",
    "rounds": "By the end, likely",
    "dispatch": "Every way through the questionnaire",
    "entries": "What happened",
    "figures": "What is counted",
    "parts": "Give clearance",
}

KEPT = {
    "contacts",
    "desk",
    "mail-room",
    "trail",
    "people",
    "office",
    *("script", "map", "links", "gate", "rounds", "dispatch", "entries", "figures"),
    *("register", "script-try"),
}
"""Views of the desk whose pictures are kept."""


def look(browser: Browser, name: str) -> None:
    """Check a view at desk width, take its picture, and check it at 320 px."""
    browser.accessible()
    if PICTURES and name in KEPT:
        time.sleep(0.4)
        browser.picture(PICTURES / f"{name}.png")
    browser.resize(320, 640)
    time.sleep(0.3)
    browser.fits()
    browser.accessible()
    browser.resize(1280, 800)


@pytest.mark.parametrize("name", ROOMS)
def test_rooms(browser: Browser, name: str) -> None:
    path, words = ROOMS[name]
    browser.sign_in("rowan@example.org")
    browser.open(path)
    browser.reads(words)
    look(browser, name)


@pytest.mark.parametrize("name", PLACES)
def test_places(browser: Browser, name: str) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("link", "Private well check")
    browser.place("People" if name == "parts" else name.capitalize())
    if name == "script":
        field = browser.named("textbox", "Question 7")
        browser.driver.execute_script("arguments[0].focus()", field)
        browser.reads("Shown when", "drinking")
    browser.reads(PLACES[name])
    if name == "map":
        walks = browser.driver.find_elements(By.CSS_SELECTOR, "button[aria-pressed]")
        walks[-1].send_keys(Keys.ENTER)
        browser.named("button", "Play it")
    look(browser, name)
    if name == "script":
        script(browser)


def script(browser: Browser) -> None:
    """What opens over the script and beside it."""
    browser.press("button", "Languages")
    browser.reads("texts are translated")
    look(browser, "script-languages")
    browser.press("button", "Close")
    browser.press("button", "Try it")
    browser.choose("Page", "3 The well")
    browser.press("button", "Made-up answers")
    time.sleep(1.5)
    look(browser, "script-try")
    browser.press("button", "Close")
    browser.press("button", "Alt J Jot several at once")
    browser.named("textbox", "Outline").send_keys(OUTLINE)
    browser.reads("9 items on 3 pages")
    browser.accessible()
    browser.resize(320, 640)
    browser.fits()
    browser.accessible()
    browser.resize(1280, 800)


def test_a_register(browser: Browser) -> None:
    """Grouped, with a row and its photo open beside the grid."""
    browser.sign_in("rowan@example.org")
    browser.open("/desk/registers")
    browser.press("link", "Saltings")
    browser.pick("View", "By sampler")
    browser.soon(lambda: re.search(r"Edda Brook\s+\d+ rows", browser.text()))
    grid = browser.driver.find_element(By.CSS_SELECTOR, "[role=grid]")
    browser.driver.execute_script("arguments[0].focus()", grid)
    grid.send_keys(Keys.ARROW_DOWN * 2)
    grid.send_keys(Keys.ALT, Keys.ENTER)
    browser.reads("What happened to it", "Sampler empty to")
    look(browser, "register")


def test_a_replay(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("link", "Private well check")
    browser.place("Dispatch")
    browser.press("button", "Replay")
    browser.reads("something is left to do with", "Carry out")
    look(browser, "dispatch-replay")


def test_signing_in(browser: Browser) -> None:
    browser.open("/desk")
    browser.named("textbox", "Email")
    look(browser, "sign-in")


@pytest.mark.refused(403, 404)
def test_nothing_there(browser: Browser) -> None:
    browser.sign_in("sam@example.org")
    for path in ("/desk/nowhere", "/desk/q/00000000-0000-0000-0000-000000000000/gate"):
        browser.open(path)
        browser.reads("There is nothing at this address")
        browser.accessible()
    browser.open("/desk/trail")
    browser.reads("Not open to you")
    browser.accessible()


def public_address(browser: Browser, title: str) -> str:
    browser.sign_in("rowan@example.org")
    browser.press("link", title)
    browser.place("Links")
    address: str = browser.soon(lambda: browser.driver.find_element(By.TAG_NAME, "output").text)
    return address


def test_answering_by_keyboard_alone(browser: Browser) -> None:
    """From the first field to the finish with Tab, arrows, Space and Enter."""
    browser.open(public_address(browser, "Private well check") + "?district=Saltings")
    browser.resize(390, 844)
    browser.reads("Your household")

    def tab_to(part: str) -> None:
        for _ in range(40):
            browser.keys(Keys.TAB)
            if part in browser.focused().accessible_name:
                return
        raise AssertionError(f"Tab does not come to {part}")

    tab_to("Your name")
    browser.keys("Ines Carvalho", Keys.ENTER)
    browser.reads("Your water")
    assert browser.soon(lambda: browser.focused().text == "Your water")
    tab_to("Own well")
    browser.keys(Keys.SPACE)
    browser.reads("What do you use the well water for?")
    tab_to("Drinking")
    browser.keys(Keys.SPACE)
    browser.reads("How many people drink it each day?")
    if PICTURES:
        browser.picture(PICTURES / "answer-phone.png")
    tab_to("How many people")
    browser.keys("0", Keys.ENTER)
    browser.reads("One answer needs another look", "Give a number of at least 1.")
    browser.accessible()
    browser.keys(Keys.TAB, Keys.ENTER)
    assert browser.soon(lambda: browser.focused().get_attribute("id") == "item-drinkers")
    browser.keys(Keys.CONTROL, "a")
    browser.keys("4", Keys.ENTER)
    browser.reads("The well")
    a_well(browser, tab_to)
    tab_to("Yes")
    browser.keys(Keys.SPACE)
    browser.reads("When was the last test?")
    tab_to("When was the last test?")
    browser.keys("05112024")
    browser.reads("Months since that test")
    browser.soon(lambda: browser.driver.find_element(By.TAG_NAME, "output").text == "30")
    tab_to("1, bad")
    browser.keys(Keys.ARROW_RIGHT)
    tab_to("Continue")
    browser.keys(Keys.ENTER)
    browser.reads("One answer needs another look", "well 1: How far down does the water stand?")
    browser.accessible()
    if PICTURES:
        browser.picture(PICTURES / "answer-roster.png")
    browser.soon(lambda: "needs another look" in browser.focused().text)
    browser.keys(Keys.TAB, Keys.ENTER)
    field = "item-wells/0/water_at"
    assert browser.soon(lambda: browser.focused().get_attribute("id") == field)
    browser.keys(Keys.CONTROL, "a")
    browser.keys("3", Keys.ENTER)
    browser.reads("Your taps")
    the_taps(browser, tab_to)
    tab_to("Continue")
    browser.keys(Keys.ENTER)
    browser.reads("Health")
    tab_to("Yes")
    browser.keys(Keys.ARROW_DOWN)
    tab_to("Continue")
    browser.keys(Keys.ENTER)
    browser.reads("The visit")
    tab_to("In the morning")
    browser.keys(Keys.SPACE)
    tab_to("Send")
    browser.keys(Keys.ENTER)
    browser.reads("Your test is booked")


TabTo = Callable[[str], None]


def a_well(browser: Browser, tab_to: TabTo) -> None:
    """Add an entry to the roster, with an answer that does not go with another."""
    tab_to("Add: well")
    browser.keys(Keys.ENTER)
    assert browser.soon(lambda: "What do you call it?" in browser.focused().accessible_name)
    browser.keys("Yard well")
    tab_to("How deep is it?")
    browser.keys("12")
    browser.reads("How far down does the water stand?")
    tab_to("How far down")
    browser.keys("14")
    tab_to("Stone")
    browser.reads("The water cannot stand deeper than the well.")
    browser.keys(Keys.SPACE)
    browser.reads("Yard well")


def the_taps(browser: Browser, tab_to: TabTo) -> None:
    """Fill in a row of the grid, and put options in order."""
    tab_to("Litres a day")
    browser.keys("120")
    tab_to("Filter")
    browser.keys("Carb")
    browser.reads("Taps that draw from the well")
    tab_to("Put That it is safe to drink at place 1")
    browser.keys(Keys.ENTER)
    browser.soon(lambda: "at place 2" in browser.focused().accessible_name)
    browser.keys(Keys.ENTER)
    browser.accessible()
    browser.fits()


def test_the_server_away_loses_nothing(browser: Browser, tmp_path: Path) -> None:
    browser.open(public_address(browser, "Bottle return receipt"))
    browser.write("Kit code on the label", "TW-1111-A")
    browser.driver.execute_cdp_cmd("Network.enable", {})
    lost = {"latency": 0, "downloadThroughput": -1, "uploadThroughput": -1}
    browser.driver.execute_cdp_cmd("Network.emulateNetworkConditions", {"offline": True, **lost})
    try:
        browser.press("button", "Continue")
        browser.reads("Your answers are kept here.")
        browser.accessible()
    finally:
        browser.driver.execute_cdp_cmd(
            "Network.emulateNetworkConditions", {"offline": False, **lost}
        )
    field = browser.named("textbox", "Kit code on the label")
    assert field.get_attribute("value") == "TW-1111-A"
    browser.press("button", "Try again")
    browser.reads("Where did you hand it in?")
    browser.driver.get_log("browser")


@pytest.mark.refused(403)
def test_a_shut_gate(browser: Browser) -> None:
    browser.open(public_address(browser, "Taste panel, spring"))
    browser.reads("All places are taken", "All seats at the table are taken.")
    browser.resize(390, 844)
    look(browser, "shut")


def test_right_to_left(browser: Browser) -> None:
    """In Arabic, and the desk mirrored: nothing runs out of the window or over anything else."""
    address = public_address(browser, "Private well check")
    browser.place("Entries")
    browser.reads("Your name")
    browser.driver.execute_script("document.documentElement.dir = 'rtl'")
    time.sleep(0.2)
    browser.fits()
    browser.accessible()
    browser.open(address)
    browser.press("link", "العربية")
    browser.reads("منزلك", "اسمك")
    page = browser.driver.find_element(By.TAG_NAME, "html")
    assert (page.get_attribute("dir"), page.get_attribute("lang")) == ("rtl", "ar")
    browser.resize(390, 844)
    if PICTURES:
        browser.picture(PICTURES / "answer-arabic.png")
    for width in (390, 320):
        browser.resize(width, 800)
        browser.fits()
        browser.accessible()
    browser.press("button", "متابعة")
    browser.reads("جواب واحد يحتاج إلى مراجعة", "أجب عن هذا السؤال.")
    browser.accessible()
