"""Every view on the demo data: accessible, and whole at 320 px, which is 400 % zoom of 1280.

With JOTGATE_PICTURES=1 in the environment the pictures in docs/screenshots are made anew.
"""

import os
import time
from pathlib import Path

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from jotgate.settings import ROOT
from tests.browser.reading import Browser

PICTURES = ROOT / "docs" / "screenshots" if os.environ.get("JOTGATE_PICTURES") else None

ROOMS = {
    "desk": ("/desk", "Private well check"),
    "registers": ("/desk/registers", "To sort by hand"),
    "mail-room": ("/desk/mail-room", "Mail room"),
    "trail": ("/desk/trail", "published edition 1"),
}
PLACES = {
    "script": "Thornmere Well Watch tests private wells",
    "links": "What the link brings",
    "gate": "Open to everyone with the address",
    "dispatch": "No rule catches it",
    "entries": "What happened",
}


def look(browser: Browser, name: str) -> None:
    """Check a view at desk width, take its picture, and check it at 320 px."""
    browser.accessible()
    if PICTURES:
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
    browser.place(name.capitalize())
    if name == "script":
        field = browser.named("textbox", "Question 4")
        browser.driver.execute_script("arguments[0].focus()", field)
        browser.reads("Shown when", "drinking")
    browser.reads(PLACES[name] if name != "dispatch" else "Rehearsal")
    look(browser, name)


def test_signing_in(browser: Browser) -> None:
    browser.open("/desk")
    browser.named("textbox", "Email")
    look(browser, "sign-in")


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
        for _ in range(12):
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
    if PICTURES:
        browser.picture(PICTURES / "answer-error.png")
    browser.keys(Keys.TAB, Keys.ENTER)
    assert browser.focused().get_attribute("id") == "item-drinkers"
    browser.keys(Keys.CONTROL, "a")
    browser.keys("4", Keys.ENTER)
    browser.reads("The well")
    tab_to("Yes")
    browser.keys(Keys.SPACE)
    browser.reads("When was the last test?")
    tab_to("When was the last test?")
    tab_to("1, bad")
    browser.keys(Keys.ARROW_RIGHT)
    browser.accessible()
    if PICTURES:
        browser.picture(PICTURES / "answer-kinds.png")
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


def test_the_server_away_loses_nothing(browser: Browser, tmp_path: Path) -> None:
    browser.open(public_address(browser, "Bottle return receipt"))
    browser.write("Kit code on the label", "TW-1111-A")
    browser.driver.execute_cdp_cmd("Network.enable", {})
    lost = {"latency": 0, "downloadThroughput": -1, "uploadThroughput": -1}
    browser.driver.execute_cdp_cmd("Network.emulateNetworkConditions", {"offline": True, **lost})
    try:
        browser.press("button", "Continue" if "Continue" in browser.text() else "Send")
        browser.reads("Your answers are kept here.")
        browser.accessible()
    finally:
        browser.driver.execute_cdp_cmd(
            "Network.emulateNetworkConditions", {"offline": False, **lost}
        )
    field = browser.named("textbox", "Kit code on the label")
    assert field.get_attribute("value") == "TW-1111-A"
    browser.press("button", "Try again")
    browser.reads("2 answers need another look")
    browser.driver.get_log("browser")


def test_a_shut_gate(browser: Browser) -> None:
    browser.open(public_address(browser, "Taste panel, spring"))
    browser.reads("Closed at the moment", "All bottles of this round are given out.")
    browser.resize(390, 844)
    look(browser, "shut")


def test_right_to_left(browser: Browser) -> None:
    """The same pages mirrored: nothing runs out of the window or over anything else."""
    address = public_address(browser, "Private well check")
    browser.place("Entries")
    for path, width in ((browser.driver.current_url, 1280), (address, 320)):
        browser.open(path)
        browser.resize(width, 800)
        browser.reads("Your name")
        browser.driver.execute_script("document.documentElement.dir = 'rtl'")
        time.sleep(0.2)
        browser.fits()
        browser.accessible()
