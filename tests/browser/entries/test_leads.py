"""What goes wrong in practice once answers have been given: each mistake is seen while the rules
are written, mended, rehearsed, and made good for the entries of before."""

from pathlib import Path
from typing import Any
from uuid import UUID

import pytest
from PIL import Image
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.records.accounts import Account
from jotgate.core.registers.columns import Column
from jotgate.local.installation import Installation
from jotgate.services.context import Context
from jotgate.services.staff.registers import registers
from tests.browser.reading import Browser
from tests.browser.routing.test_dispatch import apply_rules, open_dispatch, open_last_of_two, rows
from tests.browser.wells import Wells, take
from tests.documents import item, options, page, questionnaire

COLUMNS = [
    Column(key="name", label="Name"),
    Column(key="phone", label="Phone", type="phone"),
    Column(key="want", label="Want"),
    Column(key="photo", label="Photo", type="files"),
]


def leads() -> Questionnaire:
    found = questionnaire(
        page(
            "lead",
            item("short_text", "name", required=True),
            item("email", "mail", required=True),
            item("phone", "phone", required=True),
            item("pick_one", "want", required=True, options=options("visit", "quote", "leaflet")),
            item("file", "photo", required=True),
        )
    )
    return found.model_copy(update={"title": {"en": "Leads"}})


@pytest.fixture
def desk(installation: Installation) -> Wells:
    return Wells(installation, leads())


def register_of(desk: Wells) -> UUID:
    async def make(context: Context, owner: Account) -> UUID:
        return (await registers.add(context, owner, "Leads", COLUMNS)).id

    return desk.do(make)


def asked(browser: Browser, desk: Wells, folder: Path, name: str, want: str) -> None:
    """A visitor sends a lead with a photo."""
    photo = folder / f"{name}.png"
    Image.new("RGB", (80, 60), "teal").save(photo)
    browser.open(desk.link)
    browser.write("Name", name)
    browser.write("Mail", f"{name.lower()}@example.org")
    browser.write("Phone", "+442079460000")
    take(browser, want)
    browser.driver.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(str(photo))
    browser.reads(f"{name}.png", "Remove")
    browser.soon(lambda: not browser.driver.find_elements(By.TAG_NAME, "progress"))
    browser.press("button", "Send")
    browser.reads("Done")


def from_entry(*keys: str) -> dict[str, Any]:
    return {key: {"kind": "entry", "name": key} for key in keys}


def mistaken(register: UUID) -> list[dict[str, Any]]:
    """Rules that lack the phone number, write to the address of an account, and forget an
    option."""
    file = {
        "kind": "file",
        "register_id": str(register),
        "columns": from_entry("name", "want", "photo"),
    }
    receipt = {
        "kind": "notice",
        "to": {"kind": "answer", "name": "claim.email"},
        "subject": {"en": "We got your message"},
        "body": {"en": "Dear {name}, we call you."},
    }
    return [
        {
            "key": code,
            "when": {"op": "is", "item": "want", "value": code},
            "acts": [file, receipt],
        }
        for code in ("visit", "quote")
    ]


@pytest.mark.usefixtures("processes")
def test_mistakes_are_seen_mended_rehearsed_and_replayed(
    browser: Browser, desk: Wells, tmp_path: Path
) -> None:
    register = register_of(desk)
    apply_rules(desk, rules=mistaken(register))
    asked(browser, desk, tmp_path, "Ada", "Visit")
    asked(browser, desk, tmp_path, "Ben", "Leaflet")
    browser.soon(lambda: len(rows(desk, register)) == 1)
    open_dispatch(browser, desk)
    browser.reads(
        "Want: Leaflet leads to no rule of its own.",
        "The letter goes to the address of a sign-in, and visitors do not sign in here.",
        "No rule files or sends: Mail, Phone. They stand in the entry alone.",
    )
    browser.accessible()
    the_forgotten_option_is_shown(browser)
    the_word_is_glued_and_parted(browser)
    all_is_mended(browser)
    browser.press("button", "Apply the changes")
    browser.reads("Applied", "Nothing wrong")
    the_entries_of_before_are_replayed(browser, desk, register)
    the_photo_opens_from_its_row(browser, register)


def the_forgotten_option_is_shown(browser: Browser) -> None:
    """An example of an entry that no rule catches, rehearsed."""
    browser.press("button", "Show an example")
    browser.reads("How such an entry comes about", "Leaflet", "No rule catches it.")


def the_word_is_glued_and_parted(browser: Browser) -> None:
    rule = browser.driver.find_element(By.XPATH, "//button[contains(., 'Want is Visit')]")
    rule.send_keys(Keys.ENTER)
    browser.write("Words", "Dear{name}, we call you.", over=True)
    browser.reads("In the letter, r{name}, stands right beside a word.")
    repair(browser, "Put a space there")
    browser.soon(
        lambda: (
            browser.named("textbox", "Words").get_attribute("value") == "Dear {name}, we call you."
        )
    )
    browser.driver.find_element(By.XPATH, "//button[contains(., 'Want is Visit')]").send_keys(
        Keys.ENTER
    )


def all_is_mended(browser: Browser) -> None:
    repair(browser, "Send it to Mail")
    browser.soon(lambda: browser.text().count("Send it to Mail") == 1)
    repair(browser, "Send it to Mail")
    repair(browser, "Rule 1: put Phone into Phone")
    repair(browser, "Add a rule for Leaflet")
    browser.reads("This rule does nothing yet.")
    browser.press("button", "When Want is Leaflet")
    browser.pick("File to a register", "Leads")
    browser.reads("Rule 3 catches it")
    browser.reads("letter to ada@example.org")


def repair(browser: Browser, says: str) -> None:
    """Press the first repair of these words, once it can be."""
    path = f"//button[starts-with(@aria-label, '{says}')][not(@disabled)]"
    browser.soon(lambda: browser.driver.find_elements(By.XPATH, path))[0].send_keys(Keys.ENTER)


def the_entries_of_before_are_replayed(browser: Browser, desk: Wells, register: UUID) -> None:
    browser.press("button", "Replay")
    browser.reads("something is left to do with 2")
    browser.press("button", "Replay 2 entries")
    browser.reads("Replayed on 2 entries")
    found = rows(desk, register)
    assert [(one["name"], one.get("phone")) for one in found] == [
        ("Ada", "+442079460000"),
        ("Ben", "+442079460000"),
    ]
    browser.press("button", "Look again")
    browser.reads("something is left to do with 1", "letter to ada@example.org")


def the_photo_opens_from_its_row(browser: Browser, register: UUID) -> None:
    open_last_of_two(browser, register)
    browser.reads("What happened to it", "Ada.png")
    shown = browser.soon(
        lambda: browser.driver.find_element(By.CSS_SELECTOR, "img[src*='/files/']")
    )
    browser.soon(
        lambda: browser.driver.execute_script(
            "return arguments[0].complete && arguments[0].naturalWidth", shown
        )
    )
