"""Ways in and on in the browser: three clients, passes of a table, a chain, a frame, a canary."""

import json
from pathlib import Path

import pytest
from hypothesis import strategies as st
from selenium.webdriver.common.by import By

from tests.browser.reading import Browser
from tests.browser.routing.conftest import CANARY, Set


def link_of(browser: Browser) -> str:
    return browser.soon(lambda: browser.driver.find_element(By.TAG_NAME, "output").text)


def name_link(browser: Browser, made: Set, name: str, client: str) -> str:
    browser.open(f"/desk/q/{made.id}/links?way=new-link")
    browser.write("Name", name)
    browser.pick("Client", client)
    browser.press("button", "Make the link")
    browser.reads(name, "Sealed: the visitor can neither read nor change it.")
    return link_of(browser)


def answer(browser: Browser, given: str, family: str) -> None:
    browser.write("Given name", given)
    browser.write("Family name", family)
    browser.press("button", "Send")


def test_three_clients_links_and_three_registers(browser: Browser, made: Set) -> None:
    browser.sign_in("rowan@example.org")
    labels = {"brook": "Brook", "fell": "Fell"}
    links = {code: name_link(browser, made, f"For {code}", labels[code]) for code in labels}
    links[CANARY] = name_link(browser, made, "For the first", "Quetzalcoatl")
    browser.accessible()
    for code, link in links.items():
        browser.open(link)
        answer(browser, code.capitalize(), "Client")
        browser.reads(f"Thank you, {code.capitalize()}")
    for code in links:
        browser.open(f"/desk/registers/{made.registers[code]}")
        browser.reads(f"{code.capitalize()} Client")
        assert browser.text().count("Client\n") or "1" in browser.text()
        others = [one.capitalize() for one in links if one != code]
        assert not any(f"{one} Client" in browser.text() for one in others)
        assert "Quetzalcoatl" not in browser.text()
    browser.open(f"/desk/q/{made.id}/links")
    browser.reads("For brook", "For the first", "the gate, open")


@pytest.mark.refused(404)
def test_a_link_edited_by_hand_gets_nowhere(browser: Browser, made: Set) -> None:
    browser.sign_in("rowan@example.org")
    link = name_link(browser, made, "By hand", "Brook")
    browser.open(f"{link}?client=fell&well=TW-9")
    answer(browser, "Edited", "Hand")
    browser.reads("Thank you, Edited")
    browser.open(f"/desk/registers/{made.registers['brook']}")
    browser.reads("Edited Hand")
    browser.open(f"{link[:-1]}{'A' if link[-1] != 'A' else 'B'}")
    browser.reads("This link is not valid", "office@example.org")
    browser.accessible()


def test_passes_of_a_table_come_back_with_their_links(
    browser: Browser, made: Set, tmp_path: Path
) -> None:
    table = tmp_path / "households.csv"
    table.write_text("Household,Client,Well\nH-1,Brook,TW-2101\nH-2,Atlantis,TW-2102\n")
    browser.sign_in("rowan@example.org")
    browser.open(f"/desk/q/{made.id}/links?way=new-passes")
    upload(browser, table)
    browser.reads("2 rows below the names of the columns", "H-1")
    browser.accessible()
    browser.press("button", "Make 2 passes")
    browser.reads("Nothing was made", "Row 3", "client:")
    browser.press("button", "Begin again")
    table.write_text(table.read_text().replace("Atlantis", "Fell"))
    upload(browser, table)
    browser.reads("2 rows below")
    browser.press("button", "Make 2 passes")
    browser.reads("2 passes can be used still", "Not used yet")
    browser.accessible()
    browser.fits()
    rows = links_in(browser, made)
    assert [row[:3] for row in rows] == [["H-1", "Brook", "TW-2101"], ["H-2", "Fell", "TW-2102"]]
    browser.open(rows[0][3])
    browser.reads("Well", "TW-2101", "This is known already")
    browser.accessible()
    answer(browser, "Passed", "Through")
    browser.reads("Thank you, Passed")
    browser.driver.get(rows[0][3])
    browser.reads("This link was used already")
    browser.driver.get_log("browser")
    browser.open(f"/desk/q/{made.id}/links")
    browser.press("link", "households")
    browser.reads("Used up")
    browser.press("button", "Revoke the pass of row 2")
    browser.reads("Revoked")
    browser.driver.get(rows[1][3])
    browser.reads("This link is not valid")
    browser.driver.get_log("browser")


def upload(browser: Browser, table: Path) -> None:
    field = browser.soon(
        lambda: next(iter(browser.driver.find_elements(By.CSS_SELECTOR, "input[type=file]")), None)
    )
    field.send_keys(str(table))


def links_in(browser: Browser, made: Set) -> list[list[str]]:
    """The table as it comes back, asked for as the page's own link does."""
    href = browser.named("link", "The table with links, CSV").get_attribute("href")
    text = browser.fetched(str(href))
    return [line.split(",") for line in text.strip().splitlines()[1:]]


def test_a_check_goes_on_in_a_visit_and_back_again(browser: Browser, made: Set) -> None:
    browser.open(f"/q/{made.address}")
    answer(browser, "Noor", "Haddad")
    browser.press("button", "To the visit")
    browser.reads("Who is visited?", "Noor Haddad", "This is known already")
    assert "token" not in browser.driver.current_url
    browser.accessible()
    there = browser.driver.current_url
    browser.driver.refresh()
    browser.alive()
    browser.reads("Noor Haddad")
    browser.driver.back()
    browser.alive()
    browser.open(there)
    browser.reads("Noor Haddad")
    browser.write("Remark", "Dog at the gate")
    browser.press("button", "Send")
    browser.reads("Done")
    browser.open(there)
    browser.reads("Who is visited?")
    assert "Noor" not in browser.text()


def test_a_canary_is_in_no_byte_that_the_browser_gets_keeps_or_sends(
    browser: Browser, made: Set
) -> None:
    browser.sign_in("rowan@example.org")
    link = name_link(browser, made, "Canary", "Quetzalcoatl")
    browser.sign_out()
    browser.driver.get("about:blank")
    browser.driver.get_log("performance")
    browser.driver.execute_cdp_cmd("Network.enable", {})
    browser.open(f"{link}/en")
    seen = [everything(browser)]
    browser.press("button", "Send")
    seen.append(everything(browser))
    browser.write("Given name", "Ada")
    browser.write("Family name", "Lovell")
    browser.soon(lambda: "Saved" in browser.text() or None)
    seen.append(everything(browser))
    browser.press("button", "Send")
    browser.reads("Thank you, Ada")
    seen.append(everything(browser))
    browser.press("button", "To the visit")
    browser.reads("Ada Lovell")
    seen.append(everything(browser))
    whole = "\n".join(seen).lower()
    assert "lovell" in whole
    assert "arrival" in whole
    assert CANARY not in whole
    assert "quetzalcoatl" not in whole


def everything(browser: Browser) -> str:
    """All that came, was kept and was sent since it was asked last: requests and responses with
    their bodies, storage, cookies, the page and its address."""
    found: list[str] = []
    driver = browser.driver
    for entry in driver.get_log("performance"):
        message = json.loads(entry["message"])["message"]
        if not message["method"].startswith("Network."):
            continue
        found.append(json.dumps(message))
        if message["method"] == "Network.loadingFinished":
            asked = {"requestId": message["params"]["requestId"]}
            try:
                found.append(driver.execute_cdp_cmd("Network.getResponseBody", asked)["body"])
            except Exception:
                continue
    kept = "return JSON.stringify([sessionStorage, localStorage, history.state, document.cookie])"
    cookies = driver.execute_cdp_cmd("Network.getAllCookies", {})
    found += [driver.execute_script(kept), driver.page_source, json.dumps(cookies)]
    return "\n".join(found)


TEXT = st.text(st.characters(exclude_categories=["Cs"]), max_size=12)
SETS = st.lists(st.tuples(st.sampled_from(["who.given", "district", "a_b", "n"]), TEXT), max_size=6)
