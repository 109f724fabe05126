"""From an empty database to a colleague who reads entries, and what happens when a phone is lost:
by keyboard, on what `bin/serve` starts."""

import base64
import email
import os
import re
import signal
import subprocess
import sys
import time
from collections.abc import Iterator
from dataclasses import dataclass
from email import policy
from pathlib import Path

import pytest
from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from jotgate.adapters.secrets import STEP, TotpCodes
from jotgate.local.cluster import free_port
from jotgate.settings import ROOT
from tests.browser.conftest import AXE
from tests.browser.reading import Browser

NEW = "copper kettle under seven bridges"
OTHER = "quiet lantern beside nine rivers"


DRAWN = "return arguments[0].complete && arguments[0].naturalWidth > 50"
"""Whether a picture is one that the browser can draw."""


@dataclass
class Office:
    """A running `bin/serve` with nothing in it."""

    browser: Browser
    folder: Path
    first: str

    def letter(self, subject: str, count: int = 1) -> str:
        """The newest letter of this subject, once there are `count` of them."""

        def find() -> str | None:
            found = []
            for path in sorted(self.folder.glob("mail-room/*.eml"), key=os.path.getmtime):
                message = email.message_from_bytes(path.read_bytes(), policy=policy.default)
                if subject in str(message["Subject"]):
                    found.append(message.get_content())
            return found[-1] if len(found) >= count else None

        return self.browser.soon(find)

    def link(self, subject: str, count: int = 1) -> str:
        found = re.search(r"http://\S+/desk/link#\S+", self.letter(subject, count))
        assert found
        return found[0]


@pytest.fixture
def office(chromium: webdriver.Chrome, open_folder: Path) -> Iterator[Office]:
    port = free_port()
    log = open_folder / "serve.log"
    with log.open("wb") as out:
        process = subprocess.Popen(
            [sys.executable, "-m", "jotgate", "serve", f"--port={port}", "--mail-room"],
            cwd=ROOT,
            env={**os.environ, "JOTGATE_DATA": str(open_folder / "data")},
            stdout=out,
            stderr=subprocess.STDOUT,
        )
    try:
        browser = Browser(chromium, f"http://localhost:{port}", AXE.read_text())
        browser.resize(1280, 800)
        chromium.get("about:blank")
        chromium.execute_cdp_cmd("Network.clearBrowserCookies", {})

        def told() -> str | None:
            assert process.poll() is None, log.read_text()
            found = re.search(r"http://\S+/desk/link#\S+", log.read_text())
            return found[0] if found and "Ctrl C" in log.read_text() else None

        end = time.monotonic() + 120
        while not (first := told()):
            assert time.monotonic() < end, log.read_text()
            time.sleep(0.2)
        yield Office(browser, open_folder / "data", first)
        chromium.get("about:blank")
        chromium.get_log("browser")
    finally:
        process.send_signal(signal.SIGINT)
        process.wait(60)


def come_in(browser: Browser, password: str, name: str = "") -> None:
    if name:
        browser.write("Your name", name, over=True)
    browser.write("Password", password + Keys.ENTER)
    browser.reads("Sign out", "Desk")


def sign_in(browser: Browser, address: str, password: str) -> None:
    browser.open("/desk")
    browser.write("Email", address)
    browser.write("Password", password + Keys.ENTER)


def whole(browser: Browser) -> None:
    """Accessible, at 320 px too."""
    browser.accessible()
    browser.resize(320, 640)
    time.sleep(0.2)
    browser.fits()
    browser.accessible()
    browser.resize(1280, 800)


def first_account(office: Office) -> None:
    browser = office.browser
    browser.open(office.first)
    browser.reads("The first account")
    whole(browser)
    browser.write("Your name", "Ada Weir")
    browser.write("Email", "ada@example.org")
    browser.write("Password", "ada@example.org" + Keys.ENTER)
    browser.reads("guessed too easily")
    whole(browser)
    browser.write("Password", NEW, over=True)
    browser.keys(Keys.ENTER)
    browser.reads("Sign out", "Nothing here yet")


def a_questionnaire(browser: Browser) -> None:
    """One with a restricted question, open, with an entry."""
    browser.press("button", "New questionnaire")
    browser.write("What is it called?", "Garden wells")
    browser.press("button", "Start writing")
    browser.press("button", "Alt J Jot several at once")
    browser.named("textbox", "Outline").send_keys("Nickname ______\nAny illness lately?")
    browser.reads("2 items")
    browser.press("button", "Add 2 items")
    browser.soon(lambda: browser.named("textbox", "Question 2"))
    field = browser.named("textbox", "Question 2")
    browser.driver.execute_script("arguments[0].focus()", field)
    browser.press("switch", "Only people with clearance")
    browser.reads("Saved")
    browser.publish(1)
    browser.place("Gate")
    browser.press("button", "Open now")
    browser.reads("Open to everyone")
    browser.place("Links")
    address = browser.soon(lambda: browser.driver.find_element(By.TAG_NAME, "output").text)
    browser.open(address)
    browser.write("Nickname", "Ines")
    browser.write("Any illness lately?", "cramps after every glass")
    browser.press("button", "Send")
    browser.reads("Thank you")
    browser.open("/desk")


@pytest.mark.refused(401, 404, 422)
def test_from_an_empty_database_to_a_colleague_who_reads(office: Office) -> None:
    browser = office.browser
    first_account(office)
    a_questionnaire(browser)
    browser.press("link", "People")
    browser.press("button", "Invite somebody")
    browser.write("Name", "Bo Fell")
    browser.write("Email", "bo@example.org")
    whole(browser)
    browser.press("button", "Send the invitation")
    browser.reads("Invited")
    browser.press("link", "Desk")
    browser.press("link", "Garden wells")
    browser.place("People")
    browser.pick("Who", "Bo Fell")
    browser.press("button", "Add")
    browser.reads("Reads its entries, without what is restricted")
    address = office.link("Invitation")
    browser.open("/desk")
    browser.sign_out()
    browser.open(address)
    browser.reads("Choose a password for bo@example.org")
    whole(browser)
    come_in(browser, OTHER)
    browser.press("link", "Garden wells")
    browser.reads("Ines", "You need clearance for the restricted answers")
    assert "Script" not in browser.text()
    assert "cramps" not in browser.text() + browser.bodies()
    whole(browser)
    browser.open(address)
    browser.reads("This link does not work")
    browser.accessible()


@pytest.mark.refused(401)
def test_a_lost_phone(office: Office) -> None:
    """One-time codes are set up; the phone is lost: a code for recovery; then those are lost too:
    an owner helps."""
    browser = office.browser
    first_account(office)
    browser.open("/desk/account")
    browser.press("button", "Set up one-time codes")
    secret = browser.soon(
        lambda: browser.driver.find_element(By.XPATH, "//p[contains(., 'Or type it in')]/span").text
    )
    picture = browser.driver.find_element(By.CSS_SELECTOR, "img[alt^='QR code']")
    browser.soon(lambda: browser.driver.execute_script(DRAWN, picture))
    browser.accessible()
    browser.write("The code that the app shows now", code_of(secret) + Keys.ENTER)
    codes = browser.soon(
        lambda: [
            one.text for one in browser.driver.find_elements(By.CSS_SELECTOR, "[role=dialog] ul li")
        ]
    )
    assert len(codes) == 10
    browser.accessible()
    browser.press("button", "I have kept them")
    browser.reads("10 codes for recovery are left")
    browser.sign_out()
    sign_in(browser, "ada@example.org", NEW)
    browser.reads("One more step")
    whole(browser)
    browser.write("Code", "000000" + Keys.ENTER)
    browser.reads("This code is wrong")
    browser.write("Code", codes[0], over=True)
    browser.keys(Keys.ENTER)
    browser.reads("Sign out", "Desk")
    browser.open("/desk/account")
    browser.reads("9 codes for recovery are left")
    command = [sys.executable, "-m", "jotgate", "--help"]
    assert "owner-link" in subprocess.run(command, capture_output=True, text=True).stdout


def code_of(secret: str) -> str:
    raw = base64.b32decode(secret.replace(" ", "") + "=" * (-len(secret.replace(" ", "")) % 8))
    return TotpCodes().code(raw, int(time.time()) // STEP)


@pytest.mark.refused(401, 403)
def test_a_second_factor_that_everybody_has_to_have(office: Office) -> None:
    """Nothing else can be done until it is set up, by any address."""
    browser = office.browser
    first_account(office)
    browser.press("link", "Settings")
    browser.press("radio", "Everybody")
    browser.press("button", "Save")
    browser.named("button", "Saved")
    browser.sign_out()
    sign_in(browser, "ada@example.org", NEW)
    browser.reads("A second factor", "asks for one")
    whole(browser)
    browser.open("/desk/people")
    browser.reads("A second factor")
    browser.press("button", "Use one-time codes of an app")
    secret = browser.soon(
        lambda: browser.driver.find_element(By.XPATH, "//p[contains(., 'Or type it in')]/span").text
    )
    whole(browser)
    browser.write("The code that the app shows now", "000000" + Keys.ENTER)
    browser.reads("This is not the code that the app should show.")
    browser.write("The code that the app shows now", code_of(secret), over=True)
    browser.keys(Keys.ENTER)
    browser.press("button", "I have kept them")
    browser.reads("Ada Weir", "Invite somebody")
