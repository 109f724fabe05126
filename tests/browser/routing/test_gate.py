"""The gate as people meet it: at the desk, and at the public page while they answer."""

import time
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from jotgate.local.installation import Installation
from tests.browser.reading import Browser
from tests.browser.wells import ALL, BY, Wells, first_pages, letter_to, take


@pytest.mark.refused(403)
def test_it_shuts_while_somebody_is_on_the_third_page(browser: Browser, wells: Wells) -> None:
    first_pages(browser, wells)
    browser.press("button", "Continue")
    browser.write("More", "Soon")
    wells.set(state="shut", words={"shut": {"en": "We are at the wells."}})
    browser.press("button", "Send")
    browser.reads("Closed at the moment", "We are at the wells.", "kept on this device")
    browser.accessible()
    wells.set()
    browser.press("button", "Try again")
    browser.reads("Done")


def test_the_last_place_of_an_option_goes_meanwhile(browser: Browser, wells: Wells) -> None:
    wells.set(places=[{**BY, "most": 1}])
    first_pages(browser, wells)
    wells.send("other")
    browser.press("button", "Continue")
    browser.reads("There is no place left for this. Pick another one.", "Saltings – full")
    browser.accessible()
    browser.fits()
    take(browser, "Millbeck")
    browser.press("button", "Continue")
    browser.reads("More")


def test_a_place_that_is_held_runs_out_in_view(browser: Browser, wells: Wells) -> None:
    wells.set(places=[{**ALL, "most": 1}], hold=10)
    first_pages(browser, wells)
    browser.reads("A place is kept for you until")
    soon = datetime.now(UTC) + timedelta(seconds=14)
    wells.run("update held_places set until = :soon", soon=soon)
    browser.press("button", "Continue")
    browser.reads("More", "A place is kept for you until")
    browser.accessible()
    browser.reads("Your place is no longer kept. It may still be free when you send.")
    browser.press("button", "Send")
    browser.reads("Done")


@pytest.mark.refused(403)
def test_from_the_waiting_list_to_an_entry(
    browser: Browser, wells: Wells, installation: Installation
) -> None:
    wells.set(places=[{**ALL, "most": 1}], waiting={"on": True, "hours": 5})
    sent = wells.send("first")
    browser.open(wells.link)
    browser.reads("All places are taken")
    browser.accessible()
    email = f"wait{time.time_ns()}@example.org"
    browser.write("Your mail address", email)
    browser.press("button", "Put me on the waiting list")
    browser.reads("You are on the waiting list at place 1.")
    browser.driver.refresh()
    browser.reads("You are on the waiting list", "You are the first.")
    browser.accessible()
    wells.delete(sent)
    room = installation.folder / "mail-room"
    link = browser.soon(lambda: letter_to(room, email, "p"))
    browser.open(link)
    browser.write("Name", "Ada")
    browser.press("button", "Continue")
    take(browser, "Millbeck")
    browser.press("button", "Continue")
    browser.press("button", "Send")
    browser.reads("Done")


@pytest.mark.refused(403)
def test_a_device_that_has_answered(browser: Browser, wells: Wells) -> None:
    wells.set(per_person={"most": 1, "known_by": ["device"]}, robots={"proof": 10, "trap": True})
    first_pages(browser, wells)
    browser.press("button", "Continue")
    browser.press("button", "Send")
    browser.reads("Done")
    browser.open(wells.link)
    browser.reads("You have answered already")
    browser.accessible()


NOW = datetime.now(UTC)


def local(hours: float) -> str:
    return (NOW + timedelta(hours=hours)).strftime("%Y-%m-%dT%H:%M")


CASES: list[tuple[dict[str, Any], str]] = [
    ({}, ""),
    ({"state": "shut"}, "Closed at the moment"),
    ({"state": "held"}, "On hold for a while"),
    ({"times": {"windows": [{"opens": local(20)}]}}, "Not open now"),
    ({"times": {"windows": [{"shuts": local(-20)}]}}, "Closed"),
    ({"times": {"windows": [{"opens": local(-20), "shuts": local(20)}]}}, ""),
    ({"times": {"days_off": [{"on": local(n)[:10]} for n in (0, 24)]}}, "Not open now"),
    ({"places": [{**ALL, "most": 0}]}, "All places are taken"),
    ({"places": [{**ALL, "most": 5}]}, ""),
    ({"audience": [{"kind": "passes"}]}, "By invitation"),
    ({"audience": [{"kind": "signed_in"}]}, "By invitation"),
    ({"audience": [{"kind": "mail"}]}, "Confirm your mail address"),
    ({"state": "shut", "places": [{**ALL, "most": 0}]}, "Closed at the moment"),
]


@pytest.mark.refused(403)
def test_at_the_gate_agrees_with_what_the_visitor_sees(browser: Browser, wells: Wells) -> None:
    browser.sign_in("rowan@example.org")
    for more, heading in CASES:
        wells.set(**more)
        browser.open(f"/desk/q/{wells.id}/gate")
        told = browser.soon(
            lambda: next(
                iter(browser.driver.find_elements(By.CSS_SELECTOR, "aside [role=status] b")), None
            )
        ).text
        browser.open(wells.link)
        seen = browser.driver.find_element(By.TAG_NAME, "h1").text
        assert (told if heading else "", seen if heading else "") == (heading, heading), more
        if not heading:
            assert seen == "Start"


@pytest.mark.refused(422)
def test_the_gate_is_set_by_keyboard(browser: Browser, wells: Wells) -> None:
    browser.sign_in("rowan@example.org")
    browser.open(f"/desk/q/{wells.id}/gate")
    browser.reads("Open to everyone with the address")

    def press(name: str) -> None:
        button = browser.named("button", name)
        browser.driver.execute_script("arguments[0].focus()", button)
        browser.keys(Keys.ENTER)

    press("Add places")
    field = browser.named("textbox", "Places, Places, All")
    browser.driver.execute_script("arguments[0].focus()", field)
    browser.keys(Keys.CONTROL, "a")
    browser.keys("25")
    press("Add weekly hours")
    press("Add a day off")
    words = browser.named("textbox", "Shut by hand: your own words")
    browser.driver.execute_script("arguments[0].focus()", words)
    browser.keys("Come back, {name}.")
    browser.reads("Changed, and not saved yet.")
    press("Save the gate")
    browser.reads("There is no {name} here")
    browser.accessible()
    browser.driver.execute_script("arguments[0].focus()", words)
    browser.keys(*[Keys.BACKSPACE] * 8, ".")
    press("Save the gate")
    browser.reads("0 of 25 places")
    browser.accessible()
    browser.fits()
    browser.resize(320, 640)
    browser.fits()
    browser.accessible()
    browser.resize(1280, 800)
    press("Hold")
    browser.reads("Nobody can begin or send until you open it again.")
    browser.keys("Rain", Keys.ENTER)
    browser.reads("On hold", "Rain")
    browser.driver.refresh()
    browser.reads("On hold", "“Rain”, Rowan Oake")


@pytest.mark.refused(403)
def test_a_gate_that_is_shut_in_arabic_on_a_narrow_screen(browser: Browser, wells: Wells) -> None:
    wells.set(state="held", places=[{**ALL, "most": 0}])
    for width in (390, 320):
        browser.resize(width, 640)
        browser.open(f"{wells.link}/ar")
        browser.reads("متوقف لبعض الوقت")
        html = browser.driver.find_element(By.TAG_NAME, "html")
        assert html.get_attribute("dir") == "rtl"
        browser.fits()
        browser.accessible()


def test_many_gates_are_turned_at_the_desk(browser: Browser, wells: Wells) -> None:
    browser.sign_in("rowan@example.org")
    box = browser.named("checkbox", f"Choose {wells.title}")
    browser.driver.execute_script("arguments[0].click()", box)
    browser.reads("1 questionnaire chosen")
    browser.accessible()
    browser.write("Why, for your colleagues", "Rain")
    browser.press("button", "Hold")
    browser.reads("On hold")
    wells.set()
