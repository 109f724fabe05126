"""Passkeys in Chromium with its virtual authenticator, the identity provider, and what each of the
demo's people sees."""

import time
from collections.abc import Iterator

import httpx
import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.common.virtual_authenticator import VirtualAuthenticatorOptions

from tests.browser.reading import Browser


@pytest.fixture
def authenticator(browser: Browser) -> Iterator[Browser]:
    """A device that keeps passkeys and knows its person."""
    options = VirtualAuthenticatorOptions()
    options.has_resident_key = True
    options.has_user_verification = True
    options.is_user_verified = True
    browser.driver.add_virtual_authenticator(options)
    yield browser
    browser.driver.remove_virtual_authenticator()


@pytest.mark.refused(401)
def test_a_passkey_is_made_used_and_removed(authenticator: Browser) -> None:
    browser = authenticator
    browser.sign_in("edda@example.org")
    browser.open("/desk/account")
    browser.write("Name of the device", "Laptop")
    browser.press("button", "Make a passkey")
    browser.reads("Laptop", "not used yet")
    browser.accessible()
    browser.press("button", "Make a passkey")
    browser.reads("This device has a passkey for your account already.")
    browser.sign_out()
    browser.press("button", "Sign in with a passkey")
    browser.reads("Sign out", "Edda Brook")
    browser.open("/desk/account")
    browser.reads("Laptop", "used")
    browser.sign_out()
    browser.write("Email", "edda@example.org")
    browser.write("Password", "well-water-2026" + Keys.ENTER)
    browser.reads("One more step")
    browser.press("button", "Use a passkey")
    browser.reads("Sign out", "Edda Brook")
    browser.open("/desk/account")
    browser.press("button", "Remove Laptop")
    browser.soon(lambda: "Laptop" not in browser.text())
    browser.sign_out()
    browser.press("button", "Sign in with a passkey")
    browser.reads("This passkey does not belong to an account here.")
    browser.accessible()


def test_through_the_identity_provider(browser: Browser) -> None:
    browser.open("/desk")
    browser.press("button", "Sign in with Thornmere sign-in")
    browser.reads("Who are you?")
    browser.press("button", "Sam Tarn")
    browser.reads("Sign out", "Sam Tarn", "Private well check")


def test_coming_back_from_another_sign_in_is_told(browser: Browser) -> None:
    browser.open("/api/sign-in/provider/back?code=x&state=y")
    browser.reads("was begun in another window", "Sign in")
    browser.accessible()


def test_a_reader_sees_what_they_were_given(browser: Browser) -> None:
    browser.sign_in("juno@example.org")
    browser.reads("1 questionnaire,")
    assert "Sampling visit" not in browser.text()
    for words in ("Trail", "People", "Mail room", "New questionnaire"):
        assert words not in browser.text().split("\n")
    browser.press("link", "Private well check")
    browser.reads("You need clearance for the restricted answers")
    assert browser.driver.current_url.endswith("/entries")
    browser.open("/desk/registers")
    browser.reads("Saltings")
    assert "Millbeck" not in browser.text()


def test_clearance_ends_on_an_open_page(browser: Browser) -> None:
    """In two windows: one reads restricted answers, the other ends that person's clearance."""
    browser.sign_in("rowan@example.org")
    browser.press("link", "Private well check")
    browser.place("People")
    browser.pick("Whom to clear", "Sam Tarn")
    browser.choose("With a reason", "saying why each time")
    browser.press("button", "Give clearance")
    browser.named("button", "End the clearance of Sam Tarn")
    browser.sign_out()
    browser.sign_in("sam@example.org")
    browser.press("link", "Private well check")
    browser.place("Entries")
    with_some = "//*[@role='row'][.//span[text()='Restricted']]/*[@role='rowheader']"
    browser.soon(lambda: browser.driver.find_element(By.XPATH, with_some)).click()
    browser.press("button", "Read the restricted answers")
    browser.reads("Say why you have to see this.")
    browser.accessible()
    browser.write("Why do you have to see them?", "A doctor asks" + Keys.ENTER)
    browser.soon(lambda: "Read the restricted answers" not in browser.text())
    shown = browser.text()
    browser.driver.get_log("browser")
    _end_sam_s_clearance(browser)
    browser.soon(lambda: browser.text() != shown)
    browser.reads("You need clearance for the restricted answers.")
    assert "Read the restricted answers" not in browser.text()


def _end_sam_s_clearance(browser: Browser) -> None:
    """As somebody else does meanwhile, with a session of their own."""
    with httpx.Client(base_url=browser.base) as other:
        signed = other.post(
            "/api/sign-in",
            json={"email": "rowan@example.org", "password": "well-water-2026"},
        )
        other.headers["X-CSRF-Token"] = signed.json()["csrf"]
        lines = other.get("/api/questionnaires").json()
        wells = next(one["id"] for one in lines if one["title"] == "Private well check")
        people = other.get("/api/people").json()["people"]
        sam = next(one["id"] for one in people if one["name"] == "Sam Tarn")
        ended = other.delete(f"/api/questionnaires/{wells}/clearances/{sam}")
        assert ended.status_code == 204
    time.sleep(0.1)


def shown(browser: Browser) -> str:
    """What the room shows; asked for again where it is drawn anew meanwhile."""
    return browser.driver.find_element("id", "main").text


def test_the_trail_is_filtered_in_the_address(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.open("/desk/trail")
    browser.choose("Kind", "Register made")
    browser.reads("made the register Saltings")
    browser.soon(lambda: "published edition" not in shown(browser))
    assert "action=register_created" in browser.driver.current_url
    browser.driver.refresh()
    browser.reads("made the register Millbeck")
    browser.soon(lambda: "signed in" not in shown(browser).replace("Signed in", ""))
    browser.press("button", "Show everything")
    browser.soon(lambda: "signed in" in shown(browser).replace("Signed in", ""))


@pytest.mark.refused(422)
def test_the_office_is_on_public_pages(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.open("/desk/office")
    browser.write("Imprint", "nowhere", over=True)
    browser.press("button", "Save")
    browser.reads("This is not a web address")
    browser.accessible()
    browser.write("Imprint", "https://example.org/imprint", over=True)
    browser.write("Words at the foot, en", "Thornmere Well Watch, *new house*", over=True)
    browser.press("button", "Save")
    browser.named("button", "Saved")
    browser.press("link", "Desk")
    browser.press("link", "Bottle return receipt")
    browser.place("Links")
    address = browser.soon(lambda: browser.driver.find_element("tag name", "output").text)
    time.sleep(2.1)
    browser.open(address)
    browser.reads("Thornmere Well Watch, new house", "Imprint", "Privacy")
    browser.accessible()
    browser.resize(320, 640)
    browser.fits()
