"""A reviewer's morning among the entries: found, filtered, read, worked through, by keyboard."""

import json
from urllib.parse import quote

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from jotgate.core.handling import Handling, Status
from jotgate.local.installation import Installation
from jotgate.services import entry_rows
from jotgate.services.staff.entries import handling
from tests.browser.reading import Browser
from tests.browser.wells import Wells

NAMES = ("Ada", "Bram", "Cleo", "Dara", "Edda", "Finn")
DISTRICTS = ("saltings", "millbeck")


@pytest.fixture(scope="module")
def wells(installation: Installation) -> Wells:
    found = Wells(installation)
    found.set()
    stands = Handling(
        statuses=(Status(key="seen", name="Looked at"), Status(key="done", name="Done"))
    )
    found.do(lambda context, owner: handling.save(context, owner, found.id, stands, 1))
    for at, name in enumerate(NAMES):
        found.send(name, name=name, district=DISTRICTS[at % 2])
    copied(found)
    return found


def copied(wells: Wells) -> None:
    wells.do(lambda context, _: entry_rows.catch_up_with(context, wells.id))


def numbers(browser: Browser) -> list[int]:
    """The entries that are drawn, from the top."""
    found = browser.driver.find_elements(By.CSS_SELECTOR, "[data-entry]")
    drawn = [(one.rect["y"], int(one.get_attribute("data-entry") or 0)) for one in found]
    return [number for _, number in sorted(drawn)]


def shown(browser: Browser, wanted: list[int]) -> None:
    browser.soon(lambda: numbers(browser) == wanted)


def grid(browser: Browser) -> None:
    browser.driver.execute_script("document.querySelector('[role=grid]').focus()")


def opened(browser: Browser, wells: Wells, as_: str = "rowan@example.org", **view: object) -> None:
    browser.sign_in(as_)
    asked = f"?view={quote(json.dumps(view))}" if view else ""
    browser.open(f"/desk/q/{wells.id}/entries{asked}")
    browser.named("grid", "Entries")


def test_found_filtered_and_read_by_keyboard(browser: Browser, wells: Wells) -> None:
    opened(browser, wells)
    shown(browser, [6, 5, 4, 3, 2, 1])
    browser.accessible()
    grid(browser)
    browser.keys(Keys.ARROW_DOWN, Keys.ARROW_DOWN)
    browser.reads("0004 Dara", "3 of 6")
    browser.keys(Keys.ENTER)
    browser.soon(lambda: browser.focused().tag_name == "aside")
    browser.keys(Keys.ALT, Keys.ARROW_DOWN)
    browser.reads("0003 Cleo", "4 of 6")
    browser.write("Find words in answers", "dar" + Keys.ENTER)
    shown(browser, [4])
    browser.driver.refresh()
    browser.alive()
    shown(browser, [4])
    browser.accessible()
    browser.press("button", "Add a filter")
    browser.press("button", "Add a condition")
    browser.accessible()


def test_sorted_from_the_head_of_a_column_and_grouped(browser: Browser, wells: Wells) -> None:
    opened(browser, wells)
    shown(browser, [6, 5, 4, 3, 2, 1])
    grid(browser)
    browser.keys(Keys.ARROW_RIGHT, Keys.ARROW_RIGHT, Keys.ARROW_UP, Keys.ENTER)
    browser.press("menuitem", "Sort A to Z")
    shown(browser, [1, 2, 3, 4, 5, 6])
    browser.pick("Grouped by", "grouped by District")
    shown(browser, [1, 3, 5, 2, 4, 6])
    browser.reads("Saltings 3 entries", "Millbeck 3 entries")
    browser.accessible()
    browser.press("button", "Save this view")
    browser.write("Name", "By district" + Keys.ENTER)
    browser.soon(lambda: "By district (for me)" in browser.text())
    browser.open(f"/desk/q/{wells.id}/entries")
    shown(browser, [6, 5, 4, 3, 2, 1])
    browser.pick("View", "By district (for me)")
    shown(browser, [1, 3, 5, 2, 4, 6])
    browser.resize(320, 700)
    browser.fits()
    browser.accessible()
    browser.resize(1280, 800)


def test_many_are_chosen_changed_and_put_back(browser: Browser, wells: Wells) -> None:
    opened(browser, wells)
    shown(browser, [6, 5, 4, 3, 2, 1])
    grid(browser)
    browser.keys(Keys.CONTROL, "a")
    browser.reads("6 entries chosen")
    browser.keys(Keys.ARROW_DOWN, " ")
    browser.reads("5 entries chosen")
    browser.accessible()
    browser.pick("Status of the chosen entries", "Done")
    browser.reads("5 entries given their status.")
    cells = "[data-entry] [data-column='entry.status']"

    def statuses() -> list[str]:
        return [one.text for one in browser.driver.find_elements(By.CSS_SELECTOR, cells)]

    browser.soon(lambda: statuses().count("Done") == 5)
    browser.press("button", "Undo")
    browser.reads("5 entries put back as before.")
    browser.soon(lambda: "Done" not in statuses())
    browser.press("button", "Delete…")
    browser.reads("Type 5 to delete them")
    browser.accessible()
    browser.press("button", "Cancel")


def test_chosen_ones_are_taken_on_to_a_replay(browser: Browser, wells: Wells) -> None:
    opened(browser, wells)
    shown(browser, [6, 5, 4, 3, 2, 1])
    grid(browser)
    browser.keys(Keys.CONTROL, "a")
    browser.keys(Keys.ARROW_DOWN, " ")
    browser.reads("5 entries chosen")
    browser.press("button", "Replay…")
    browser.reads(
        "For the 5 entries that you chose in the table.", "With 5 entries nothing is left"
    )
    browser.accessible()
    browser.driver.refresh()
    browser.reads(
        "For the 5 entries that you chose in the table.", "With 5 entries nothing is left"
    )
    browser.press("button", "Look at all entries")
    browser.reads("With the last 6 entries nothing is left")
    browser.driver.back()
    shown(browser, [6, 5, 4, 3, 2, 1])


def test_what_arrives_stands_above_and_moves_nothing(browser: Browser, wells: Wells) -> None:
    opened(browser, wells)
    shown(browser, [6, 5, 4, 3, 2, 1])
    grid(browser)
    browser.keys(Keys.ARROW_DOWN, Keys.ARROW_DOWN)
    browser.reads("0004 Dara")
    row = "[data-entry='4']"
    before = browser.driver.find_element(By.CSS_SELECTOR, row).rect["y"]
    wells.send("later", name="Gwen", district="saltings")
    browser.soon(lambda: 7 in numbers(browser))
    assert browser.driver.find_element(By.CSS_SELECTOR, row).rect["y"] == before
    browser.reads("0004 Dara", "7 entries")
    copied(wells)
    view = {"sort": [{"column": "name", "descending": True}]}
    browser.open(f"/desk/q/{wells.id}/entries?view={quote(json.dumps(view))}")
    shown(browser, [7, 6, 5, 4, 3, 2, 1])
    wells.send("latest", name="Abel", district="saltings")
    copied(wells)
    browser.reads("An entry has arrived.")
    browser.press("button", "Show it")
    shown(browser, [7, 6, 5, 4, 3, 2, 1, 8])
