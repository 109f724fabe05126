"""A coordinator looks at what people answered: pictures, who was asked, filters, a table behind."""

import base64
import io
import json
import zipfile
from pathlib import Path
from urllib.parse import quote

import pyreadstat
import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from jotgate.local.installation import Installation
from tests.browser.entries.test_entries import copied
from tests.browser.reading import Browser
from tests.browser.wells import Wells
from tests.documents import well_check
from tests.scenes import SECRET


@pytest.fixture(scope="module")
def wells(installation: Installation) -> Wells:
    found = Wells(installation, well_check())
    found.set()
    for name, drinkers in (("Ada", {}), ("Bram", {"drinkers": "3"}), ("Cleo", {"drinkers": "4"})):
        found.send(name, name=name, source="own", **drinkers)
    found.send("Dara", name="Dara", source="own", drinkers="5")
    found.send("Edda", name="Edda", source="mains")
    found.send("Finn", name="Finn", source="own", ill=True, illness=SECRET)
    copied(found)
    return found


def opened(browser: Browser, wells: Wells) -> None:
    browser.sign_in("rowan@example.org")
    show(browser, wells)


def show(browser: Browser, wells: Wells, **view: object) -> None:
    asked = f"?view={quote(json.dumps(view))}" if view else ""
    browser.open(f"/desk/q/{wells.id}/figures{asked}")
    browser.reads("What is counted")


def rows(browser: Browser, name: str) -> list[str]:
    """The lines of a table as a screen reader comes by them."""
    table = browser.named("table", name)
    found = table.find_elements(By.CSS_SELECTOR, "tbody tr")
    return [" ".join(one.text.split()) for one in found]


def test_what_was_answered_and_by_whom(browser: Browser, wells: Wells) -> None:
    opened(browser, wells)
    browser.reads("6 of 6 answered", "Restricted answers are not counted here.")
    browser.reads("When they arrived", "Days and hours are those in")
    browser.press("button", "As a table: Arrivals over time")
    table = browser.named("region", "Arrivals over time as a table")
    lines = table.find_elements(By.CSS_SELECTOR, "tbody tr")
    assert sum(int(one.text.split()[-1]) for one in lines) == 6
    browser.press("button", "Without the table: Arrivals over time")
    assert rows(browser, "Source") == ["Own 5 83 %", "Mains 1 17 %"]
    browser.reads("3 of 5 answered; 2 left it empty, 1 were not asked")
    browser.reads("Median 4, middle half 3.5 to 4.5, all 3 to 5; mean 4 ± 2.48")
    assert SECRET not in browser.bodies()
    browser.accessible()
    browser.pick("Shares of", "all who were asked")
    browser.soon(lambda: "of=asked" in browser.driver.current_url)
    browser.accessible()
    browser.press("button", "As a table: Drinkers")
    browser.named("region", "Drinkers as a table")
    browser.reads("Without the table")
    browser.accessible()


def test_filtered_by_keyboard_and_kept_in_the_address(browser: Browser, wells: Wells) -> None:
    opened(browser, wells)
    browser.reads("6 of 6 answered")
    browser.press("button", "of every kind")
    browser.press("button", "Add a condition")
    browser.press("button", "Cancel")
    show(browser, wells, filter={"op": "is", "item": "source", "value": "mains"})
    browser.reads("1 of 1 answered", "Nobody has answered this yet.")
    assert rows(browser, "Source") == ["Own 0 0 %", "Mains 1 100 %"]
    browser.driver.refresh()
    browser.alive()
    assert rows(browser, "Source") == ["Own 0 0 %", "Mains 1 100 %"]
    show(browser, wells, filter={"op": "is", "item": "name", "value": "Nobody"})
    browser.reads("No entry is like that")
    browser.accessible()
    browser.press("button", "Count all entries")
    browser.reads("6 of 6 answered")


def test_others_stand_beside_on_the_same_scales(browser: Browser, wells: Wells) -> None:
    show_own = {"filter": {"op": "is", "item": "source", "value": "own"}}
    browser.sign_in("rowan@example.org")
    show(browser, wells, **show_own)
    browser.press("button", "no others")
    browser.press("button", "Put all entries beside")
    browser.reads("Beside them", "Put nothing beside")
    browser.soon(lambda: "beside=" in browser.driver.current_url)
    browser.accessible()

    def mains(name: str) -> str:
        return next(one for one in rows(browser, name) if one.startswith("Mains"))

    assert mains("Source") == "Mains 0 0 %"
    assert mains("Source, beside them").startswith("Mains 1 ")
    browser.driver.refresh()
    browser.reads("Beside them")
    assert len(rows(browser, "Source")) == len(rows(browser, "Source, beside them"))
    browser.named("link", "Export those beside as CSV")
    browser.press("button", "Put nothing beside")
    browser.soon(lambda: "beside=" not in browser.driver.current_url)
    browser.reads("no others")


def test_what_arrives_is_counted(browser: Browser, wells: Wells) -> None:
    opened(browser, wells)
    browser.reads("6 of 6 answered")
    wells.send("Gwen", name="Gwen", source="own")
    browser.reads("7 of 7 answered")


def test_one_question_by_another(browser: Browser, wells: Wells) -> None:
    opened(browser, wells)
    browser.reads("Side by side")
    browser.pick("In the rows", "Source")
    browser.pick("In the columns", "District")
    browser.reads("Nobody has answered both.")
    browser.accessible()
    for at, source in enumerate(("own", "own", "mains")):
        wells.send(f"saltings {at}", name="Hal", source=source, link="district=saltings")
    browser.reads("Source by District", "100 %", "There is no test")
    both = ["Own 100 % 0 2", "Mains 100 % 0 1"]
    browser.soon(lambda: rows(browser, "Source by District")[:2] == both)
    browser.pick("Shares side by side of", "each column")
    browser.soon(lambda: rows(browser, "Source by District")[0] == "Own 67 % 0 2")
    browser.driver.refresh()
    browser.alive()
    browser.reads("Source by District")
    browser.accessible()
    browser.press("button", "Put it away")
    browser.soon(lambda: "pair" not in browser.driver.current_url)


@pytest.mark.parametrize("width", [320, 390])
def test_at_the_width_of_a_phone(browser: Browser, wells: Wells, width: int) -> None:
    browser.resize(width, 844)
    opened(browser, wells)
    browser.reads("What is counted", "answered")
    browser.fits()
    browser.accessible()
    browser.keys(Keys.TAB)


FETCHED = """
const done = arguments[1];
fetch(arguments[0]).then((reply) => reply.arrayBuffer()).then((found) => {
  const all = new Uint8Array(found);
  done(btoa(Array.from(all, (one) => String.fromCharCode(one)).join('')));
});
"""


def fetched(browser: Browser, link: str) -> bytes:
    """What a link gives to the browser that is signed in."""
    address = browser.named("link", link).get_attribute("href")
    return base64.b64decode(browser.driver.execute_async_script(FETCHED, address))


def test_data_with_its_codebook(browser: Browser, wells: Wells, tmp_path: Path) -> None:
    """By what is counted: only those of the first six with a well of their own."""
    browser.sign_in("rowan@example.org")
    own = {"op": "is", "item": "source", "value": "own"}
    first = {"op": "at_most", "item": "entry.number", "value": "6"}
    show(browser, wells, filter={"op": "all", "parts": [own, first]})
    browser.reads("Data for statistics", "Entries counted")
    browser.pick("The form of the data", ".sav")
    with zipfile.ZipFile(io.BytesIO(fetched(browser, "Download data with its codebook"))) as found:
        assert set(found.namelist()) == {"entries.sav", "codebook.html", "codebook.xml"}
        assert all(SECRET.encode() not in found.read(one) for one in found.namelist())
        found.extractall(tmp_path)
    frame, meta = pyreadstat.read_sav(tmp_path / "entries.sav", output_format="dict")
    assert sorted(frame["name"]) == ["Ada", "Bram", "Cleo", "Dara", "Finn"]
    assert meta.variable_value_labels["source"][frame["source"][0]] == "Own"
    page = fetched(browser, "as a page").decode()
    assert "5 rows" in page
    assert "3 of 5 say something; left empty: 2; not asked: 0" in page
    browser.accessible()


@pytest.mark.parametrize("width", [1280, 320])
def test_a_codebook_is_within_reach(
    browser: Browser, wells: Wells, tmp_path: Path, width: int
) -> None:
    """The page that is kept, opened from where it was put."""
    browser.sign_in("rowan@example.org")
    show(browser, wells)
    (tmp_path / "codebook.html").write_bytes(fetched(browser, "as a page"))
    browser.resize(width, 800)
    browser.driver.get((tmp_path / "codebook.html").as_uri())
    browser.reads("Codebook:", "left empty")
    browser.fits()
    browser.accessible()
