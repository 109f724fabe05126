"""A round of outreach, as coordinators and those who ring people use it."""

import csv
import io
from typing import Any

import pytest
from selenium.webdriver.common.by import By

from jotgate.core.records.accounts import Account
from jotgate.local.installation import Installation
from jotgate.services.context import Context
from jotgate.services.staff.contacts import contacts, fields, lists
from tests.browser.reading import Browser
from tests.browser.wells import Wells, letter_to
from tests.documents import item, page, questionnaire, words

KEEPERS = ("Ada", "Bo", "Cy", "Di")


@pytest.fixture
def keepers(installation: Installation) -> Wells:
    """A short questionnaire, and a list of four in two districts, all with mail and phone."""
    name = item("short_text", "name", text=words("Name"))
    wells = Wells(installation, questionnaire(page("start", name), title=words("Keepers")))

    async def listed(context: Context, owner: Account) -> Any:
        known = {one.key for one in await fields.every(context, owner)}
        assert {"district", "postcode"} <= known
        made = await lists.add(context, owner, f"Keepers {wells.id}")
        for number, name in enumerate(KEEPERS):
            values = {
                "name": f"{name} Keeper",
                "email": f"{name.lower()}.{wells.id}@example.org",
                "phone": f"555 010{number}",
                "district": ("Millbeck", "Saltings")[number % 2],
                "postcode": f"TH{9 - number}",
            }
            await contacts.add(context, owner, values, made)

    wells.do(listed)
    return wells


def step(browser: Browser, name: str, way: str, says: str) -> None:
    """Add a step that goes right after the one before."""
    browser.press("button", "Add a step")
    browser.write("Name", name, over=True)
    browser.choose("Way", way)
    days = browser.soon(lambda: browser.driver.find_element(By.CSS_SELECTOR, "[aria-label=Days]"))
    browser.driver.execute_script("arguments[0].select()", days)
    days.send_keys("0")
    if way in ("Mail", "Paper"):
        browser.write("Subject", f"{name}: your well")
        browser.write("Letter", says, over=True)
    else:
        browser.write("What to say", says)


def apply(browser: Browser) -> None:
    browser.press("button", "Apply the changes")
    browser.soon(lambda: "Apply the changes" not in browser.text())


def chosen(browser: Browser, name: str) -> None:
    """Choose a step on the line."""
    css = "section[aria-label=Steps] button"
    browser.soon(
        lambda: next(
            one
            for one in browser.driver.find_elements(By.CSS_SELECTOR, css)
            if one.text.startswith(name)
        )
    ).click()


def begun(browser: Browser, wells: Wells) -> None:
    """A new round over the list of keepers."""
    browser.sign_in("rowan@example.org")
    browser.open(f"/desk/q/{wells.id}/rounds")
    browser.reads("No round yet")
    browser.accessible()
    browser.press("button", "New round")
    browser.write("Name", "Autumn")
    browser.press("button", "Make it")
    browser.reads("Whom to ask")
    browser.choose("List", f"Keepers {wells.id}")


def written(browser: Browser, wells: Wells) -> None:
    """A round of three steps for two districts, written and drawn."""
    begun(browser, wells)
    browser.choose("Field of the strata", "District")
    step(browser, "First", "Mail", "Dear {contact.name},\n\n{link}")
    step(browser, "Again", "Mail", "Once more, {contact.name}.")
    browser.press("switch", "Hold this step, and those after it")
    step(browser, "Calls", "Call", "Is this {contact.name}?")
    apply(browser)
    browser.press("button", "See how many that is")
    browser.reads("4 people of 4")
    browser.accessible()
    browser.press("button", "Draw them")
    browser.reads("by district", "not released yet")


def test_a_round_from_its_draw_to_the_last_call(
    browser: Browser, keepers: Wells, installation: Installation
) -> None:
    written(browser, keepers)
    browser.press("button", "Release 4")
    browser.reads("4 sent", "4 asked", "held, to 4 as things stand")
    browser.accessible()
    browser.fits()
    room = installation.folder / "mail-room"
    ada, bo = (f"{one}.{keepers.id}@example.org" for one in ("ada", "bo"))
    link = browser.soon(lambda: letter_to(room, ada, "p"))
    browser.open(link)
    browser.write("Name", "Ada")
    browser.press("button", "Send")
    browser.reads("Done")
    browser.open(browser.soon(lambda: letter_to(room, bo, "out")))
    browser.reads("Or only some of them", "No more about “Keepers”")
    browser.accessible()
    browser.press("button", "Send me no more letters")
    browser.open(f"/desk/q/{keepers.id}/rounds")
    browser.reads("1 answered", "held, to 2 as things stand")
    chosen(browser, "Again")
    browser.press("button", "2 people")
    browser.reads("to whom Again will go", "Cy Keeper", "Di Keeper")
    browser.press("switch", "Hold this step, and those after it")
    apply(browser)
    browser.reads("2 sent", "on the worklist")
    browser.press("link", "The worklist of calls and visits")
    rung(browser)


def rung(browser: Browser) -> None:
    browser.resize(390, 844)
    browser.reads("2 contacts to try")
    browser.accessible()
    browser.press("button", "Take the next")
    browser.reads("What came of it?", "Is this ", "So far")
    browser.accessible()
    browser.fits()
    browser.write("Note for whoever comes next", "A child answered")
    browser.press("button", "Not reached")
    browser.reads("up again")
    browser.press("button", "Refused")
    browser.reads("Nobody to try now")
    browser.resize(1280, 800)
    browser.press("link", "The round")
    browser.reads("2 refused")
    browser.choose("How they stand", "refused")
    browser.reads("Refusal by the respondent")


@pytest.mark.refused(422)
def test_everything_is_stopped_and_somebody_is_coded(browser: Browser, keepers: Wells) -> None:
    written(browser, keepers)
    browser.press("button", "Stop everything")
    browser.reads("Everything is stopped")
    browser.press("button", "Release 4")
    browser.soon(lambda: "not released yet" not in browser.text())
    browser.reads("open")
    browser.press("button", "Cy Keeper")
    browser.reads("What happened", "Nothing was tried yet")
    browser.choose("Disposition", "2.31 Dead")
    browser.press("button", "Set it")
    browser.reads("Say why")
    browser.write("Why", "The post told us")
    browser.press("button", "Set it")
    browser.reads("set by hand: The post told us")
    browser.accessible()
    browser.press("button", "Close")
    browser.press("button", "Let it go on")
    browser.reads("3 sent")


@pytest.mark.refused(404)
def test_a_letter_on_paper_is_printed_and_its_code_leads_in(
    browser: Browser, keepers: Wells
) -> None:
    begun(browser, keepers)
    step(browser, "By post", "Paper", "Dear {contact.name},\n\n{link}")
    browser.write("Address of a contact", "{contact.name}\n{contact.postcode} Thornmere")
    browser.choose("Field of the postcode", "the field Postcode")
    browser.press("button", "See it as it is printed")
    browser.soon(lambda: browser.driver.find_elements(By.CSS_SELECTOR, "img[alt^='The first']"))
    browser.accessible()
    apply(browser)
    browser.press("button", "Draw them")
    browser.press("button", "Release 4")
    browser.reads("4 to be printed")
    browser.press("button", "Make a PDF of 4 letters")
    browser.reads("4 letters on 4 pages (PDF)", "4 printed")
    browser.accessible()
    link = browser.named("link", "the list of them (CSV)").get_attribute("href")
    table = io.StringIO(browser.fetched(str(link)))
    first, second, *_ = csv.DictReader(table)
    assert first["name"] == "Di Keeper"
    browser.open("/c")
    browser.accessible()
    browser.write("Eight letters", "BCDF GHJ")
    browser.press("button", "Go on")
    browser.reads("There is no such code")
    browser.accessible()
    browser.write("Eight letters", first["code"].lower(), over=True)
    browser.press("button", "Go on")
    browser.write("Name", "Di")
    browser.press("button", "Send")
    browser.reads("Done")
    browser.open("/c")
    browser.write("Eight letters", second["code"])
    browser.press("button", "Send me no more letters")
    browser.reads("You will get no more letters", f"will no longer write to {second['name']}")
    browser.accessible()
    browser.press("button", "Write to me again after all")
    browser.reads("You will get letters again")
    browser.accessible()
    browser.open(f"/desk/q/{keepers.id}/rounds")
    browser.reads("1 answered")


def test_what_comes_back_is_marked(browser: Browser, keepers: Wells) -> None:
    begun(browser, keepers)
    step(browser, "First", "Mail", "Dear {contact.name},\n\n{link}")
    apply(browser)
    browser.press("button", "Draw them")
    browser.reads("not released yet")
    cy = f"cy.{keepers.id}@example.org"
    browser.open("/desk/mail-room")
    browser.reads("What it does with letters")
    browser.driver.find_element(By.TAG_NAME, "summary").click()
    browser.write("Letters to", cy)
    browser.press("button", "Do that")
    browser.reads("What it does with letters: 1 told", f"Letters to {cy}")
    browser.accessible()
    browser.open(f"/desk/q/{keepers.id}/rounds")
    browser.press("button", "Release 4")
    browser.reads("3 sent, 1 failed")
    browser.press("button", "Cy Keeper")
    browser.reads("could not be sent", "5.1.1 550 5.1.1 No such mailbox here")
    browser.press("link", "The contact")
    browser.reads("Letters come back from this address")
    browser.open("/desk/mail-room")
    browser.driver.find_element(By.TAG_NAME, "summary").click()
    browser.press("button", f"Take them again: {cy}")
    browser.reads("it takes them all")
