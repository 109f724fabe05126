"""A register as somebody works in it all day: by keyboard, with blocks, while others do."""

import time
from typing import Any
from uuid import UUID

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from jotgate.core.records.accounts import Account
from jotgate.core.registers.cells import Cell
from jotgate.core.registers.columns import Column
from jotgate.core.registers.edits import Edit
from jotgate.services.context import Context
from jotgate.services.staff.registers import registers, writing
from jotgate.services.staff.registers.writing import Writing
from tests.browser.reading import Browser
from tests.browser.wells import Wells
from tests.register_rows import rows_of

COLUMNS: list[dict[str, Any]] = [
    {"key": "name", "label": "Household"},
    {"key": "drinkers", "label": "Drinkers", "type": "number"},
    {"key": "visit", "label": "Visit", "type": "date"},
    {
        "key": "use",
        "label": "Use",
        "type": "pick_one",
        "options": [{"code": "drink", "label": "Drinking"}, {"code": "wash", "label": "Washing"}],
    },
]
ROWS: list[dict[str, Cell | None]] = [
    {"name": "Ines", "drinkers": "4", "use": "drink"},
    {"name": "Noor", "drinkers": "3", "use": "wash"},
    {"name": "Bram", "use": "drink"},
]

PASTE = """
const data = new DataTransfer();
data.setData('text/plain', arguments[0]);
const told = {clipboardData: data, bubbles: true, cancelable: true};
document.activeElement.dispatchEvent(new ClipboardEvent('paste', told));
"""


def made(wells: Wells) -> UUID:
    """A register with three rows; Bram was added last and stands first."""

    async def make(context: Context, owner: Account) -> UUID:
        columns = [Column.model_validate(one) for one in COLUMNS]
        id = (await registers.add(context, owner, f"Visits {time.time_ns()}", columns)).id
        await writing.write(context, owner, id, Writing([], ROWS, False))
        return id

    return wells.do(make)


def rows(wells: Wells, id: UUID) -> list[dict[str, Any]]:
    """The newest first."""

    async def read(context: Context, owner: Account) -> list[dict[str, Any]]:
        return [dict(row.values) for row in await rows_of(context, owner, id)]

    return wells.do(read)


def grid(browser: Browser) -> WebElement:
    """The grid, with the focus in it."""
    found = browser.soon(lambda: browser.driver.find_element(By.CSS_SELECTOR, "[role=grid]"))
    browser.driver.execute_script("arguments[0].focus()", found)
    return found


def opened(browser: Browser, wells: Wells) -> UUID:
    id = made(wells)
    browser.sign_in("rowan@example.org")
    browser.open(f"/desk/registers/{id}")
    browser.reads("3 rows", "Bram")
    grid(browser)
    return id


def chord(browser: Browser, *keys: str) -> None:
    """Keys that are held one after the other, the last one pressed."""
    chain = ActionChains(browser.driver)
    for key in keys[:-1]:
        chain.key_down(key)
    chain.send_keys(keys[-1])
    for key in reversed(keys[:-1]):
        chain.key_up(key)
    chain.perform()


def cell(browser: Browser) -> str:
    """What the cell reads that one is in, as it is told to whoever cannot see it."""

    def active() -> WebElement:
        name = browser.focused().get_attribute("aria-activedescendant")
        return browser.driver.find_element(By.ID, str(name))

    return browser.soon(active).text


def test_a_register_by_keyboard(browser: Browser, wells: Wells) -> None:
    id = opened(browser, wells)
    assert cell(browser) == "Bram"
    browser.keys(Keys.TAB)
    browser.keys("2", Keys.ENTER)
    browser.soon(lambda: rows(wells, id)[0].get("drinkers") == "2")
    assert cell(browser) == "3"
    # A day that there is not is told in its cell, and nothing is changed.
    browser.keys(Keys.TAB)
    browser.keys("31 Nov 2026", Keys.ENTER)
    browser.keys(Keys.ARROW_UP)
    browser.reads("November has 30 days.", "1 cell not saved")
    browser.accessible()
    assert "visit" not in rows(wells, id)[1]
    browser.keys(Keys.ENTER)
    browser.keys(Keys.BACKSPACE * 11, "30 Nov 2026", Keys.TAB)
    browser.soon(lambda: rows(wells, id)[1].get("visit") == "2026-11-30")
    browser.reads("30 Nov 2026")
    # Options are written as they read, and what is none is told.
    assert cell(browser) == "Washing"
    browser.keys("garden", Keys.ENTER)
    browser.keys(Keys.ARROW_UP)
    browser.reads("garden is not among the options of Use.")
    browser.keys(Keys.ESCAPE)
    browser.soon(lambda: cell(browser) == "Washing")
    filled_down(browser, wells, id)


def filled_down(browser: Browser, wells: Wells, id: UUID) -> None:
    browser.keys(Keys.ARROW_LEFT)
    chord(browser, Keys.SHIFT, Keys.ARROW_DOWN)
    chord(browser, Keys.CONTROL, "d")
    browser.soon(lambda: [row.get("visit") for row in rows(wells, id)][1:] == ["2026-11-30"] * 2)
    chord(browser, Keys.CONTROL, "z")
    browser.soon(lambda: "visit" not in rows(wells, id)[2])
    chord(browser, Keys.CONTROL, Keys.SHIFT, "z")
    browser.soon(lambda: rows(wells, id)[2].get("visit") == "2026-11-30")
    browser.keys(Keys.DELETE)
    browser.soon(lambda: "visit" not in rows(wells, id)[1])
    chord(browser, Keys.ALT, Keys.ENTER)
    browser.reads("What happened to it", "30 Nov 2026 to empty")
    browser.accessible()
    browser.press("button", "Close")


def test_a_block_with_a_cell_that_does_not_fit(browser: Browser, wells: Wells) -> None:
    id = opened(browser, wells)
    before = rows(wells, id)
    browser.keys(Keys.TAB)
    block = [
        ["1", "1 Dec 2026", "Washing"],
        ["many", "2 Dec 2026", "Drinking"],
        ["3", "3 Dec 2026", ""],
        ["4", "", "Washing"],
    ]
    text = "".join("\t".join(line) + "\r\n" for line in block)
    browser.driver.execute_script(PASTE, text)
    browser.reads("1 cell of 12 cannot be written", "Row", "Drinkers: Write a number")
    browser.accessible()
    assert rows(wells, id) == before
    browser.press("button", "Write the other 11")
    browser.soon(lambda: len(rows(wells, id)) == 4)
    new, bram, noor, ines = rows(wells, id)
    assert new == {"drinkers": "4", "use": "wash"}
    assert bram == {"name": "Bram", "drinkers": "1", "visit": "2026-12-01", "use": "wash"}
    assert noor == {"name": "Noor", "drinkers": "3", "visit": "2026-12-02", "use": "drink"}
    assert ines == {"name": "Ines", "drinkers": "3", "visit": "2026-12-03"}
    browser.press("button", "Undo")
    browser.soon(lambda: rows(wells, id) == before)
    browser.press("button", "Let go")
    browser.soon(lambda: "not saved" not in browser.text())


def test_a_view_is_filtered_grouped_saved_and_found_again(browser: Browser, wells: Wells) -> None:
    opened(browser, wells)
    browser.press("button", "Add a filter")
    browser.press("button", "Add a condition")
    browser.pick("Question", "Drinkers")
    browser.pick("Comparison", "has an answer")
    browser.press("button", "Show these rows")
    browser.reads("Drinkers has an answer", "2 of 3 rows")
    grid(browser)
    chord(browser, Keys.CONTROL, Keys.HOME)
    browser.keys(Keys.ARROW_RIGHT * 3, Keys.ARROW_UP, Keys.ENTER)
    menu = browser.soon(lambda: browser.driver.find_element(By.CSS_SELECTOR, "[role=menu]"))
    assert "Group by this" in menu.text
    browser.accessible()
    browser.keys("Gr")
    browser.keys(Keys.ENTER)
    browser.reads("Drinking", "1 row", "Washing")
    browser.press("button", "Save this view")
    browser.write("Name", "With drinkers" + Keys.ENTER)
    browser.reads("With drinkers (for me)")
    address = browser.driver.current_url
    browser.accessible()
    browser.resize(320, 640)
    browser.fits()
    browser.accessible()
    browser.resize(1280, 800)
    browser.pick("View", "all rows")
    browser.reads("3 of 3 rows")
    browser.open(address)
    browser.reads("Drinkers has an answer", "2 of 3 rows", "With drinkers (for me)")


def test_two_in_one_cell(browser: Browser, wells: Wells) -> None:
    """Rows that arrive leave what one writes where it is; what somebody else wrote is told, and
    what one types oneself stays."""
    id = opened(browser, wells)
    browser.keys(Keys.TAB)
    browser.keys("7")

    async def other(context: Context, owner: Account) -> None:
        row = (await rows_of(context, owner, id))[0]
        edits = [Edit(row.id, "drinkers", "5", None)]
        await writing.write(context, owner, id, Writing(edits, [{"name": "Jun"}], False))

    wells.do(other)
    began = time.monotonic()
    browser.reads("4 rows, 1 just arrived", "Somebody else wrote “5” here meanwhile.")
    print(f"told after {time.monotonic() - began:.1f} s")
    assert browser.focused().get_attribute("value") == "7"
    browser.keys(Keys.ENTER)
    browser.keys(Keys.ARROW_UP)
    browser.reads("Somebody else changed this cell meanwhile.")
    assert rows(wells, id)[1]["drinkers"] == "5"
    assert cell(browser).startswith("7")
    browser.keys(Keys.ENTER)
    browser.keys(Keys.ENTER)
    browser.soon(lambda: rows(wells, id)[1]["drinkers"] == "7")


def test_columns_become_others(browser: Browser, wells: Wells) -> None:
    id = opened(browser, wells)
    browser.press("button", "Columns")
    browser.reads("Column 1")
    browser.accessible()
    browser.press("button", "Remove column 4")
    browser.pick("Takes", "number")
    browser.press("button", "Change columns")
    browser.reads("3 cells cannot be kept like this", "“Bram”: Write a number", "Use goes")
    assert rows(wells, id)[0]["name"] == "Bram"
    browser.pick("Takes", "long text")
    browser.press("button", "Change columns")
    browser.soon(lambda: "use" not in rows(wells, id)[0])
    browser.reads("long text")
    assert rows(wells, id)[0] == {"name": "Bram"}


def test_whoever_may_only_read_is_told_so(browser: Browser, wells: Wells) -> None:
    id = made(wells)
    browser.sign_in("sam@example.org")
    browser.open(f"/desk/registers/{id}")
    browser.reads("Bram", "You may read this register, but not change it.")
    grid(browser)
    browser.keys("x")
    browser.keys(Keys.DELETE)
    assert browser.focused().get_attribute("aria-readonly") == "true"
    assert rows(wells, id)[0]["name"] == "Bram"
    assert "Add a row" not in browser.text()


def test_a_questionnaire_is_made_of_it_and_it_is_deleted(browser: Browser, wells: Wells) -> None:
    id = opened(browser, wells)
    name = browser.driver.find_element(By.CSS_SELECTOR, "h1").text
    browser.press("button", "More")
    browser.soon(lambda: browser.driver.find_element(By.CSS_SELECTOR, "[role=menu]"))
    browser.accessible()
    browser.keys("Ma")
    browser.keys(Keys.ENTER)
    browser.soon(lambda: browser.driver.current_url.endswith("/script"))
    asked = [browser.named("textbox", f"Question {number}") for number in (1, 4)]
    assert [one.get_attribute("value") for one in asked] == ["Household", "Use"]
    browser.open(f"/desk/registers/{id}")
    browser.reads("Bram")
    browser.press("button", "More")
    browser.soon(lambda: browser.driver.find_element(By.CSS_SELECTOR, "[role=menu]"))
    browser.keys("De")
    browser.keys(Keys.ENTER)
    browser.reads("3 rows are gone for good")
    browser.accessible()
    browser.write(f"Type {name} to delete it", name + Keys.ENTER)
    browser.soon(lambda: browser.driver.current_url.endswith("/desk/registers"))
    browser.soon(lambda: name not in browser.text())
