"""Every kind by keyboard alone, and as Chromium reads it out; files; coming back later."""

import asyncio
import email
import io
import time
from email import policy
from pathlib import Path
from typing import Any

import pytest
from PIL import Image
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from jotgate.core.document.questionnaire import Questionnaire
from jotgate.local.installation import Installation
from jotgate.services.staff import questionnaires
from jotgate.store import questionnaires as store
from jotgate.store.accounts import accounts as account_store
from jotgate.wiring import open_context
from tests.browser.published import EVERY_KIND, LONG, public
from tests.browser.reading import Browser
from tests.documents import item, page, questionnaire
from tests.scenes import save


def publish_again(installation: Installation, address: str, document: Questionnaire) -> None:
    async def publish() -> None:
        async with open_context(installation.settings) as context:
            async with context.engine.connect() as conn:
                found = await account_store.by_email(conn, "rowan@example.org", context.clock.now())
                standing = await store.public_state(conn, address.rpartition("/")[2])
            assert found is not None
            assert standing is not None
            await save(context, found[0], standing.id, document, 1)
            await questionnaires.publish(context, found[0], standing.id, 2)

    asyncio.run(publish())


@pytest.fixture(scope="module")
def every_kind(installation: Installation) -> str:
    return public(installation, EVERY_KIND)


def tab_to(browser: Browser, name: str) -> None:
    for _ in range(90):
        browser.keys(Keys.TAB)
        if browser.focused().accessible_name.startswith(name):
            return
    raise AssertionError(f"Tab does not come to {name}")


def tree(browser: Browser) -> list[dict[str, Any]]:
    """The nodes of Chromium's accessibility tree: role, name, description, and what is marked."""
    found = browser.driver.execute_cdp_cmd("Accessibility.getFullAXTree", {})["nodes"]
    return [
        {
            "role": node.get("role", {}).get("value"),
            "name": node.get("name", {}).get("value", ""),
            "description": node.get("description", {}).get("value", ""),
            **{one["name"]: one["value"].get("value") for one in node.get("properties", [])},
        }
        for node in found
        if not node.get("ignored")
    ]


def node(nodes: list[dict[str, Any]], role: str, name: str) -> dict[str, Any]:
    found = [one for one in nodes if one["role"] == role and one["name"].startswith(name)]
    assert found, f"no {role} {name} among {sorted({(n['role'], n['name']) for n in nodes})}"
    return found[0]


LEAVE = Keys.TAB + Keys.TAB
"""Out of a date field, past the button of its calendar."""

ROLES = {
    "Word": "textbox",
    "Story": "textbox",
    "Mail": "textbox",
    "Ring": "textbox",
    "Site": "textbox",
    "Amount": "textbox",
    "From": "Date",
    "Clock": "InputTime",
    "Moment": "DateTime",
    "Sure": "radiogroup",
    "One": "radiogroup",
    "Menu": "combobox",
    "Row": "radiogroup",
    "Many": "group",
    "Order": "group",
    "Loud": "radiogroup",
    "Who": "group",
    "Where": "group",
    "Photo": "group",
    "Signed": "group",
    "Taps": "group",
    "Wells": "group",
}
"""Each required question with the role under which Chromium gives it to screen readers."""


def test_every_kind_is_read_out_with_its_name_help_and_error(
    browser: Browser, every_kind: str
) -> None:
    browser.open(every_kind)
    browser.reads("Word")
    before = tree(browser)
    for name, role in ROLES.items():
        node(before, role, name)
    assert "Five letters." in node(before, "textbox", "Word")["description"]
    assert node(before, "radio", "5, noisy")
    assert node(before, "group", "Kitchen")
    browser.press("button", "Send")
    browser.reads(f"{len(ROLES)} answers need another look")
    after = tree(browser)
    for name, role in ROLES.items():
        if name != "Wells":
            assert "Answer this question." in node(after, role, name)["description"], name
    assert "Add at least 1." in node(after, "group", "Wells")["description"]
    assert node(after, "textbox", "Word")["invalid"] == "true"
    assert node(after, "alert", "") is not None
    browser.accessible()


def answer(browser: Browser) -> None:
    for name, text in (
        ("Word", "river"),
        ("Story", "Once"),
        ("Mail", "ines@example.org"),
        ("Ring", "+44 20 7946 0000"),
        ("Site", "example.org"),
        ("Amount", "4"),
        ("From", "05052026"),
        ("Clock", "0930AM"),
        ("Moment", "05052026" + Keys.TAB + "0930AM"),
    ):
        tab_to(browser, name)
        browser.keys(text)
    for name in ("Yes", "Own"):
        tab_to(browser, name)
        browser.keys(Keys.SPACE)
    tab_to(browser, "Menu")
    browser.keys("Blue")
    for name in ("Up", "Tea"):
        tab_to(browser, name)
        browser.keys(Keys.SPACE)
    tab_to(browser, "Put Second at place 1")
    browser.keys(Keys.ENTER)
    browser.soon(lambda: browser.focused().accessible_name == "Put First at place 2")
    browser.keys(Keys.ENTER)
    tab_to(browser, "1, soft")
    browser.keys(Keys.ARROW_RIGHT)
    for name, text in (
        ("Given name", "Ines"),
        ("Family name", "Carvalho"),
        ("Street", "1 Fell Road"),
        ("Town", "Thornmere"),
        ("Postcode", "TH1 1AA"),
        ("Country", "Portugal"),
    ):
        tab_to(browser, name)
        browser.keys(text)


def rest(browser: Browser, photo: Path) -> None:
    browser.driver.find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(str(photo))
    browser.reads("photo.png")
    browser.soon(lambda: not browser.driver.find_elements(By.TAG_NAME, "progress"))
    tab_to(browser, "Or type your name")
    browser.keys("Ines Carvalho")
    tab_to(browser, "Drawn")
    browser.keys("40")
    tab_to(browser, "Well")
    browser.keys("Yard well")
    browser.reads("Yard well")


@pytest.fixture
def photo(tmp_path: Path) -> Path:
    path = tmp_path / "photo.png"
    Image.new("RGB", (640, 480), (90, 120, 60)).save(path)
    return path


def test_every_kind_by_keyboard_alone_at_320_px(
    browser: Browser, every_kind: str, photo: Path
) -> None:
    """320 px are what 400 % zoom leaves of 1280 (WCAG 2.2, 1.4.10)."""
    browser.resize(320, 640)
    browser.open(every_kind)
    browser.reads("Word")
    browser.fits()
    answer(browser)
    rest(browser, photo)
    browser.fits()
    browser.accessible()
    tab_to(browser, "Send")
    browser.keys(Keys.ENTER)
    browser.reads("Done")


def test_right_to_left_with_every_kind(browser: Browser, every_kind: str) -> None:
    browser.open(every_kind)
    browser.reads("Word")
    browser.driver.execute_script("document.documentElement.dir = 'rtl'")
    for width in (1280, 320):
        browser.resize(width, 800)
        time.sleep(0.2)
        browser.fits()
        browser.accessible()


def test_what_is_wrong_is_said_on_leaving_the_field(browser: Browser, every_kind: str) -> None:
    browser.open(every_kind)
    for name, text, message in (
        ("Word", "too long", "Write at most 5 characters; it has 8."),
        ("Mail", "ines@", "Write a mail address, such as name@example.org."),
        ("Site", "nowhere", "Write a web address, such as https://example.org."),
        ("Amount", "9.5", "Write a whole number, without a decimal part."),
        ("Amount", "10", "Give a number of at most 9."),
    ):
        browser.write(name, text + Keys.TAB, over=True)
        browser.reads(message)
    browser.write("From", "05052026" + LEAVE)
    browser.write("To", "05042026" + LEAVE)
    browser.reads("Too early.")
    browser.write("From", "05012026" + LEAVE)
    browser.soon(lambda: "Too early." not in browser.text())


def files(tmp_path: Path) -> list[Path]:
    """A right one, one of another kind, an empty one, one too large."""
    out = io.BytesIO()
    Image.new("RGB", (40, 40)).save(out, "PNG")
    made = {
        "right.png": out.getvalue(),
        "wrong.png": b"not a picture",
        "empty.png": b"",
        "large.png": out.getvalue() + bytes(1_000_001),
    }
    for name, data in made.items():
        (tmp_path / name).write_bytes(data)
    return [tmp_path / name for name in made]


def test_files_that_will_not_do(browser: Browser, every_kind: str, tmp_path: Path) -> None:
    browser.open(every_kind)
    field = browser.soon(lambda: browser.driver.find_element(By.CSS_SELECTOR, "input[type=file]"))
    field.send_keys("\n".join(map(str, files(tmp_path))))
    browser.reads(
        "right.png",
        "wrong.png is not one of the kinds of files asked for.",
        "empty.png is empty. Choose another file.",
        "large.png is larger than 1 MB.",
    )
    browser.accessible()
    browser.press("button", "Remove: wrong.png")
    browser.soon(lambda: "wrong.png" not in browser.text())
    browser.driver.get_log("browser")


@pytest.mark.refused(422)
def test_a_refused_file_is_told_in_the_reader_s_language(
    browser: Browser, installation: Installation, tmp_path: Path
) -> None:
    asked = questionnaire(page("p", item("file", "photo", kinds=["picture"])))
    browser.open(public(installation, asked.model_copy(update={"languages": ("en", "es")})) + "/es")
    field = browser.soon(lambda: browser.driver.find_element(By.CSS_SELECTOR, "input[type=file]"))
    field.send_keys(str(files(tmp_path)[1]))
    browser.reads("wrong.png no es")


def offline(browser: Browser, on: bool) -> None:
    lost = {"latency": 0, "downloadThroughput": -1, "uploadThroughput": -1}
    browser.driver.execute_cdp_cmd("Network.enable", {})
    browser.driver.execute_cdp_cmd("Network.emulateNetworkConditions", {"offline": on, **lost})


def test_a_file_goes_on_after_the_connection_was_cut(
    browser: Browser, every_kind: str, photo: Path
) -> None:
    browser.open(every_kind)
    field = browser.soon(lambda: browser.driver.find_element(By.CSS_SELECTOR, "input[type=file]"))
    offline(browser, True)
    try:
        field.send_keys(str(photo))
        browser.reads("photo.png: the connection was cut, it goes on by itself")
        browser.press("button", "Send")
        browser.reads("Wait until the files are sent.")
    finally:
        offline(browser, False)
    browser.soon(lambda: not browser.driver.find_elements(By.TAG_NAME, "progress"))
    browser.named("button", "Remove: photo.png")
    browser.driver.get_log("browser")


def test_coming_back_by_the_same_link_and_by_letter(
    browser: Browser, every_kind: str, installation: Installation
) -> None:
    browser.open(every_kind)
    browser.write("Word", "river")
    browser.reads("Saved as you go.")
    browser.driver.execute_script("sessionStorage.clear()")
    browser.open(every_kind)
    browser.soon(lambda: browser.named("textbox", "Word").get_attribute("value") == "river")
    browser.press("button", "Continue later on another device")
    browser.write("Your mail address", "ines@example")
    browser.press("button", "Send me the link")
    browser.reads("Write a mail address")
    browser.write("Your mail address", "ines.letter@example.org", over=True)
    browser.accessible()
    browser.press("button", "Send me the link")
    browser.reads("The link is on its way to ines.letter@example.org.")
    link = browser.soon(lambda: letter_to(installation, "ines.letter@example.org"))
    browser.driver.execute_script("sessionStorage.clear(); localStorage.clear()")
    browser.open(every_kind)
    assert browser.named("textbox", "Word").get_attribute("value") == ""
    browser.driver.get("about:blank")
    browser.open(link)
    browser.soon(lambda: browser.named("textbox", "Word").get_attribute("value") == "river")
    assert "#on=" not in browser.driver.current_url
    browser.press("button", "Start over")
    browser.press("button", "Delete my answers")
    browser.soon(lambda: browser.named("textbox", "Word").get_attribute("value") == "")
    browser.reads("What you answer is saved as you go.")
    browser.driver.get_log("browser")


def letter_to(installation: Installation, address: str) -> str | None:
    """The link in the letter to `address`, once the simulated mail room has it."""
    for path in (installation.folder / "mail-room").glob("*.eml"):
        message = email.message_from_bytes(path.read_bytes(), policy=policy.default)
        if address in str(message["To"]):
            body = message.get_body()
            assert body is not None
            lines = str(body.get_content()).splitlines()
            return next((line for line in lines if "#on=" in line), None)
    return None


def test_long_lists_and_big_rosters_work(browser: Browser, installation: Installation) -> None:
    """They are used here; how fast they are is measured by the bench, not by a test."""
    browser.open(public(installation, LONG))
    browser.write("Search 2000 options", "place1999")
    browser.press("radio", "Place1999")
    browser.named("button", "Remove: Place1999")
    browser.reads("40 of 2000. Type more to find the others.")
    for number in range(3):
        browser.press("button", "Add: person")
        browser.keys(f"Person {number}")
    browser.accessible()
    browser.press("button", "Remove: Person 1")
    browser.reads("Person 1 was removed.")
    browser.press("button", "Undo")
    browser.reads("Person 0", "Person 1", "Person 2")
    browser.fits()


def test_a_reload_stays_in_the_edition_that_was_begun(
    browser: Browser, installation: Installation
) -> None:
    """A newer edition is for those who begin anew."""
    old = questionnaire(page("a", item("short_text", "word")), page("b", item("yes_no", "old")))
    address = public(installation, old)
    browser.open(address)
    browser.write("Word", "river" + Keys.ENTER)
    browser.reads("Old")
    publish_again(installation, address, questionnaire(page("a", item("yes_no", "new"))))
    browser.driver.refresh()
    browser.reads("Old")
    browser.press("button", "Back")
    browser.soon(lambda: browser.named("textbox", "Word").get_attribute("value") == "river")
    browser.press("button", "Start over")
    browser.press("button", "Delete my answers")
    browser.reads("New")
    assert "Old" not in browser.text()
