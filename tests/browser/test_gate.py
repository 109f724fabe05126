"""The gate as people meet it: at the desk, and at the public page while they answer."""

import asyncio
import re
import time
from collections.abc import Callable, Coroutine
from datetime import UTC, datetime, timedelta
from email import message_from_bytes, policy
from pathlib import Path
from typing import Any, TypeVar

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from sqlalchemy import text

from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.gate.settings import Gate
from jotgate.core.records.accounts import Account
from jotgate.local.installation import Installation
from jotgate.services.context import Context
from jotgate.services.gate import Seen
from jotgate.services.public import submitting
from jotgate.services.public.answering import Answers
from jotgate.services.public.submitting import Submitted
from jotgate.services.staff import desk, gate, removing
from jotgate.store import accounts as account_store
from jotgate.wiring import open_context
from tests.browser.published import public
from tests.browser.reading import Browser
from tests.documents import item, options, page, questionnaire

T = TypeVar("T")

TITLES = iter(range(1000))


def kits() -> Questionnaire:
    """Three pages, in English and Arabic, under a name of its own."""
    found = questionnaire(
        page("start", item("short_text", "name", required=True)),
        page(
            "kit",
            item("pick_one", "district", required=True, options=options("saltings", "millbeck")),
        ),
        page("last", item("short_text", "more")),
        languages=["en", "ar"],
    )
    return found.model_copy(update={"title": {"en": f"Kits {next(TITLES)}"}})


class Wells:
    """A questionnaire, and what others do with it while somebody looks at it in the browser."""

    def __init__(self, installation: Installation) -> None:
        self.installation = installation
        document = kits()
        self.title = document.title["en"]
        self.link = public(installation, document)
        self.address = self.link.rsplit("/", 1)[-1]
        self.id = self.do(self._id)

    def do(self, what: Callable[[Context, Account], Coroutine[Any, Any, T]]) -> T:
        async def done() -> T:
            async with open_context(self.installation.settings) as context:
                async with context.engine.connect() as conn:
                    now = context.clock.now()
                    found = await account_store.by_email(conn, "rowan@example.org", now)
                assert found is not None
                return await what(context, found[0])

        return asyncio.run(done())

    async def _id(self, context: Context, owner: Account) -> Any:
        lines = await desk.desk(context, owner)
        return next(one.summary.id for one in lines if one.summary.address == self.address)

    def set(self, **more: Any) -> None:
        async def save(context: Context, owner: Account) -> None:
            saved = await gate.find(context, owner, self.id)
            value = Gate.model_validate({"state": "open", **more})
            await gate.save(context, owner, self.id, value, saved.revision)

        self.do(save)

    def send(self, key: str, district: str = "saltings") -> Submitted:
        async def sent(context: Context, owner: Account) -> Submitted:
            whole = key.rjust(20, "0")
            answers = Answers("", 1, {"name": "Ines", "district": district}, seen=Seen(whole))
            return await submitting.submit(context, self.address, answers, whole)

        return self.do(sent)

    def delete(self, sent: Submitted) -> None:
        self.do(lambda context, owner: removing.remove(context, owner, self.id, sent.id))

    def run(self, query: str, **given: Any) -> None:
        async def ran(context: Context, owner: Account) -> None:
            async with context.engine.begin() as conn:
                await conn.execute(text(query), given)

        self.do(ran)


@pytest.fixture
def wells(installation: Installation) -> Wells:
    return Wells(installation)


ALL = {"key": "all", "name": "Kits"}
BY = {"key": "district", "name": "By district", "by": ["district"]}


def take(browser: Browser, option: str) -> None:
    """Pick an option of the page, once it is there."""
    path = f"//label[.//text()='{option}']"
    browser.soon(lambda: browser.driver.find_element(By.XPATH, path)).click()


def first_pages(browser: Browser, wells: Wells) -> None:
    """Answer up to the second page, with Saltings picked."""
    browser.open(wells.link)
    browser.write("Name", "Ada")
    browser.press("button", "Continue")
    browser.reads("District")
    take(browser, "Saltings")


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
    wells.delete(sent)
    room = installation.folder / "mail-room"
    link = browser.soon(lambda: letter_to(room, email))
    browser.open(link)
    browser.write("Name", "Ada")
    browser.press("button", "Continue")
    take(browser, "Millbeck")
    browser.press("button", "Continue")
    browser.press("button", "Send")
    browser.reads("Done")


def letter_to(room: Path, email: str) -> str | None:
    """The link of a pass in the letter to an address."""
    for path in room.glob("*.eml"):
        letter = message_from_bytes(path.read_bytes(), policy=policy.default)
        if email in str(letter["To"]):
            body = letter.get_content()
            found = re.search(r"https?://\S+/p/\S+", body)
            return found[0] if found else None
    return None


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
