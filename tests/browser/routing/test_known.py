"""Contacts, letters to them, and visitors who sign in, as people use them."""

import re
from email import message_from_bytes, policy
from pathlib import Path

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from jotgate.local.installation import Installation
from tests.browser.reading import Browser
from tests.browser.routing.test_ways import upload

TABLE = """Number,Name,E-mail,District
H-501,Somebody Known,,Saltings
N-1,Una Weir,una.weir@example.com,Millbeck
N-2,Ove Weir,ove.weir(at)example.com,Millbeck
N-1,Una again,una2@example.com,Saltings
N-3,Ove Weir,ove.weir@example.com,Atlantis
N-4,Ova Weir,ova.weir@example.com,Saltings
"""


def cell(browser: Browser, name: str) -> WebElement:
    """The field of the ledger that is called so."""
    css = f'[aria-label="{name}"]'
    return browser.soon(
        lambda: next(iter(browser.driver.find_elements(By.CSS_SELECTOR, css)), None)
    )


def test_a_table_is_looked_at_then_imported(browser: Browser, tmp_path: Path) -> None:
    table = tmp_path / "neighbours.csv"
    table.write_text(TABLE)
    browser.sign_in("rowan@example.org")
    browser.press("link", "Contacts")
    browser.press("link", "Import a table")
    upload(browser, table)
    browser.reads("6 rows below the names of the columns", "Una Weir")
    browser.accessible()
    browser.press("button", "Look at 6 rows")
    browser.reads("2 rows are new", "1 row is a contact already", "3 rows will be left out")
    browser.reads("Row 4", "Mail address: This is not a mail address.")
    browser.reads("Row 6", "District: Pick one of", "Repeated in the table: 1 row")
    browser.accessible()
    browser.fits()
    browser.write("Name of the new list", "Weirs", over=True)
    browser.press("button", "Import 3 contacts")
    browser.reads("2 new contacts and 1 contact brought up to date")
    browser.press("link", "Show them")
    browser.reads("Weirs", "3 contacts")
    assert cell(browser, "Name of Una Weir").get_attribute("value") == "Una Weir"
    assert cell(browser, "Key of Somebody Known").get_attribute("value") == "H-501"


@pytest.mark.refused(422)
def test_the_ledger_is_worked_on_by_keyboard(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.open("/desk/contacts")
    browser.press("button", "Add a contact")
    browser.write("Name", "Zoe Zander")
    browser.press("button", "Add")
    field = cell(browser, "Mail address of Zoe Zander")
    browser.driver.execute_script("arguments[0].focus()", field)
    browser.keys("zoe at example", Keys.ENTER)
    browser.reads("This is not a mail address.")
    browser.keys(Keys.CONTROL, "a")
    browser.keys("Zoe@Example.org", Keys.ENTER)
    browser.soon(
        lambda: (
            cell(browser, "Mail address of Zoe Zander").get_attribute("value") == "zoe@example.org"
        )
    )
    browser.driver.execute_script("arguments[0].focus()", cell(browser, "Key of Zoe Zander"))
    browser.keys("Z-1", Keys.TAB, "0123 456 789", Keys.TAB, "es", Keys.TAB)
    assert browser.focused().get_attribute("aria-label") == "District of Zoe Zander"
    browser.choose("District of Zoe Zander", "Millbeck")
    browser.driver.execute_script("arguments[0].focus()", cell(browser, "Key of Zoe Zander"))
    browser.keys(Keys.ARROW_UP)
    above = browser.focused().get_attribute("aria-label") or ""
    assert above.startswith("Key of ")
    assert "Zoe" not in above
    browser.driver.refresh()
    browser.alive()
    browser.write("Search", "zander ZOE")
    browser.reads("1 contact")
    kept = {"Key": "Z-1", "Phone": "0123 456 789", "Language": "es", "District": "Millbeck"}
    for name, value in kept.items():
        assert cell(browser, f"{name} of Zoe Zander").get_attribute("value") == value
    browser.press("button", "Open Zoe Zander")
    browser.press("button", "They asked for no more letters")
    browser.reads("no letter goes to this address")
    browser.accessible()
    browser.fits()


def test_two_are_made_one_and_taken_out(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.open("/desk/contacts")
    for name, email in (("Yara Quist", "yara@example.org"), ("Y. Quist", "quist@example.org")):
        browser.press("button", "Add a contact")
        browser.write("Name", name)
        browser.write("Mail address", email)
        browser.press("button", "Add")
        browser.named("button", f"Open {name}")
    browser.write("Search", "quist")
    browser.soon(lambda: "2 contacts" in browser.text().splitlines())
    for name in ("Yara Quist", "Y. Quist"):
        choose(browser, f"Choose {name}")
    browser.press("button", "Make them one")
    browser.accessible()
    browser.soon(lambda: browser.driver.find_element(By.CSS_SELECTOR, "[role=dialog]"))
    for value in ("Yara Quist", "quist@example.org"):
        radio = browser.named("radio", value)
        browser.driver.execute_script("arguments[0].click()", radio)
    dialog = browser.driver.find_element(By.CSS_SELECTOR, "[role=dialog]")
    next(
        one for one in dialog.find_elements(By.TAG_NAME, "button") if one.text == "Make them one"
    ).send_keys(Keys.ENTER)
    browser.reads("1 contact")
    assert cell(browser, "Mail address of Yara Quist").get_attribute("value") == "quist@example.org"
    choose(browser, "Choose Yara Quist")
    browser.press("button", "Delete")
    browser.reads("Their passes are revoked")
    dialog = browser.driver.find_element(By.CSS_SELECTOR, "[role=dialog]")
    next(
        one for one in dialog.find_elements(By.TAG_NAME, "button") if one.text == "Delete"
    ).send_keys(Keys.ENTER)
    browser.reads("Nobody is found")


def choose(browser: Browser, name: str) -> None:
    browser.driver.execute_script("arguments[0].click()", cell(browser, name))
    browser.soon(lambda: cell(browser, name).is_selected())


def letters(installation: Installation, words: str) -> dict[str, str]:
    """What lies in the mail room with these words in its subject: the body by address."""
    folder = installation.settings.mail_room
    assert folder is not None
    found = {}
    for path in folder.glob("*.eml"):
        message = message_from_bytes(path.read_bytes(), policy=policy.default)
        if words in str(message["Subject"]):
            assert message["List-Unsubscribe-Post"] == "List-Unsubscribe=One-Click"
            body = message.get_body(preferencelist=("plain",))
            assert body is not None
            found[str(message["To"])] = str(body.get_content())
            assert str(message["List-Unsubscribe"]).strip(" <>") in found[str(message["To"])]
    return found


def write_letter(browser: Browser, subject: str, name: str, to: str) -> None:
    browser.press("link", "Private well check")
    browser.place("Links")
    browser.press("link", "Write a letter")
    browser.reads("A letter with a pass each")
    browser.write("Addresses", to)
    browser.write("Name", name)
    browser.write("Subject", subject)
    browser.press("button", "See it as it arrives")
    browser.reads("as Ines Example reads it", "Dear Ines Example", "Get no more letters like this")


@pytest.mark.refused(422)
def test_one_of_a_list_opts_out_and_gets_no_second_letter(
    browser: Browser, installation: Installation
) -> None:
    to = ("ida@example.net", "jan@example.net")
    browser.sign_in("rowan@example.org")
    write_letter(browser, "First of two", "First", "\n".join((*to, "no address")))
    browser.press("button", "Send it off")
    browser.reads("Line 3: no address is not a mail address.")
    browser.accessible()
    browser.write("Addresses", "\n".join(to), over=True)
    browser.press("button", "Send it off")
    browser.soon(lambda: len(letters(installation, "First of two")) == 2)
    browser.reads("It has gone out", "2 letters sent")
    browser.accessible()
    browser.fits()
    body = letters(installation, "First of two")[to[0]]
    (out,) = re.findall(r"http\S+/out/\S+", body)
    (link,) = re.findall(r"http\S+/p/\S+", body)
    browser.open(out)
    browser.reads("No more letters?", to[0])
    browser.accessible()
    browser.press("button", "Send me no more letters")
    browser.reads("You will get no more letters")
    browser.accessible()
    browser.open("/desk")
    write_letter(browser, "Second of two", "Second", "\n".join(to))
    browser.press("button", "Send it off")
    browser.soon(lambda: to[1] in letters(installation, "Second of two"))
    browser.reads("1 letter sent")
    assert to[0] not in letters(installation, "Second of two")
    browser.open(link)
    browser.reads("Your household")


@pytest.mark.refused(403)
def test_a_volunteer_signs_in_and_their_name_is_locked(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("link", "Sampler sign-up")
    browser.place("Links")
    link = browser.soon(lambda: browser.driver.find_element(By.TAG_NAME, "output").text)
    browser.sign_out()
    browser.open(link)
    browser.reads("Sign in to answer")
    browser.accessible()
    browser.resize(390, 844)
    browser.fits()
    browser.press("link", "Sign in with Thornmere accounts")
    browser.press("button", "Tove Lind")
    browser.reads("Signed in as Tove Lind", "This is known already and cannot be changed here.")
    browser.reads("The Saltings crew meets on the first Monday")
    assert browser.named("textbox", "Your email").get_attribute("value") == "tove.lind@example.net"
    browser.accessible()
    browser.resize(1280, 800)
    browser.driver.refresh()
    browser.alive()
    browser.reads("Signed in as Tove Lind")
    browser.press("button", "Sign out")
    browser.reads("Sign in to answer")


def test_what_a_pass_shows_is_seen_before_it_is_sent(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("link", "Private well check")
    browser.place("Links")
    browser.press("link", "Letters of autumn")
    browser.press("button", "Show the link of row 1")
    browser.press("button", "Look")
    browser.reads("Cannot learn", "District, sealed", "Can read")
    browser.accessible()
    assert " stands in " not in browser.driver.find_element(By.CSS_SELECTOR, "[role=dialog]").text


def test_a_code_is_printed_alone_at_its_true_size(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("link", "Private well check")
    browser.place("Links")
    browser.press("button", "QR code")
    browser.choose("Width on paper", "2 cm")
    browser.reads("20 cm, held in the hand")
    browser.accessible()
    browser.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": "print"})
    shown = browser.driver.execute_script(
        "return [...document.querySelectorAll('img, main, button')]"
        ".filter((one) => one.offsetWidth).map((one) => [one.tagName, one.offsetWidth])"
    )
    browser.driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": ""})
    # 2 cm are 75.6 px of CSS (CSS Values and Units 4, 6.2).
    assert shown == [["IMG", 76]]
