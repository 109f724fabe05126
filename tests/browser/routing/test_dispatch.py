"""Dispatch as its coordinator works with it: rules are written, rehearsed and applied, and what
could not be done is seen to."""

import json
import time
from typing import Any
from urllib.request import Request, urlopen
from uuid import UUID

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.records.accounts import Account
from jotgate.core.registers.columns import Column
from jotgate.local.installation import Installation
from jotgate.services.context import Context
from jotgate.services.staff.dispatch import dispatch_rules, hooks
from jotgate.services.staff.registers import registers
from tests.browser.reading import Browser
from tests.browser.wells import Wells
from tests.register_rows import rows_of


def made_register(wells: Wells) -> tuple[UUID, str]:
    """A register of names and districts, under a name of its own."""
    name = f"Kits out {time.time_ns()}"

    async def make(context: Context, owner: Account) -> UUID:
        columns = [
            Column(key="name", label="Name"),
            Column.model_validate(
                {
                    "key": "district",
                    "label": "District",
                    "type": "pick_one",
                    "options": [{"code": "saltings", "label": "Saltings"}],
                }
            ),
        ]
        return (await registers.add(context, owner, name, columns)).id

    return wells.do(make), name


def apply_rules(wells: Wells, **value: Any) -> None:
    async def save(context: Context, owner: Account) -> None:
        saved = await dispatch_rules.find(context, owner, wells.id)
        rules = Dispatch.model_validate(value)
        await dispatch_rules.save(context, owner, wells.id, rules, saved.revision)

    wells.do(save)


def open_dispatch(browser: Browser, wells: Wells) -> None:
    browser.sign_in("rowan@example.org")
    browser.open(f"{browser.base}/desk/q/{wells.id}/dispatch")
    browser.reads("When an entry arrives")


def rows(wells: Wells, register: UUID) -> list[dict[str, Any]]:
    """The oldest first."""

    async def read(context: Context, owner: Account) -> list[dict[str, Any]]:
        found = await rows_of(context, owner, register)
        return [dict(row.values) for row in reversed(found)]

    return wells.do(read)


@pytest.mark.usefixtures("processes")
def test_rules_are_written_rehearsed_and_applied(browser: Browser, wells: Wells) -> None:
    """What is missing is said as one writes; rows that are there are brought up to date."""
    register, name = made_register(wells)
    wells.send("first", name="Ada")
    open_dispatch(browser, wells)
    browser.press("button", "Add a rule")
    browser.reads("This rule holds when something that is not chosen yet.", "does nothing yet")
    browser.reads("It cannot be rehearsed yet.")
    browser.pick("Question", "District")
    browser.pick("Answer", "Saltings")
    browser.pick("File to a register", name)
    browser.reads("Rule 1 catches it: District is Saltings.", "new row")
    browser.pick("A new row or one that is there", "or bring one up to date")
    browser.reads("It is the row that is alike in")
    browser.pick("Column District takes", "a text put together")
    browser.write("Column District: the text", "{name}{district}")
    browser.reads("is not among the options of District")
    browser.pick("Column District takes", "District")
    browser.press("button", "Send a notice")
    browser.reads("Write the mail address.")
    browser.write("Mail address", "crew@example.org")
    browser.write("Subject", "Kit for {name}")
    browser.write("Words", "**{name}** in{district}")
    browser.reads("In the letter, n{district} stands right beside a word.")
    browser.write("Words", "**{name}** in", over=True)
    browser.pick("An answer to put in", "District")
    browser.press("button", "Put it in")
    browser.soon(
        lambda: (
            browser.named("textbox", "Words").get_attribute("value") == "**{name}** in {district}"
        )
    )
    browser.reads("Kit for Ada")
    browser.soon(lambda: browser.driver.find_elements(By.XPATH, "//strong[text()='Ada']"))
    browser.pick("How the letter is shown", "as plain text")
    browser.reads("**Ada** in Saltings")
    browser.reads("Of the last 1 entry, something else would have been done with 1.")
    browser.driver.execute_script("scrollTo(0, 0)")
    browser.accessible()
    browser.press("button", "Apply the changes")
    browser.reads("Applied")
    wells.send("second", name="Ada")
    browser.soon(lambda: rows(wells, register) == [{"name": "Ada", "district": "saltings"}])
    wells.send("third", name="Ada")
    wells.send("fourth", name="Ben")
    browser.soon(lambda: len(rows(wells, register)) == 2)
    history_is_told(browser, register)
    browser.resize(320, 800)
    browser.fits()
    browser.resize(1280, 800)


def open_last_of_two(browser: Browser, register: UUID) -> None:
    browser.open(f"{browser.base}/desk/registers/{register}")
    browser.reads("2 of 2 rows")
    grid = browser.soon(lambda: browser.driver.find_element(By.CSS_SELECTOR, "[role=grid]"))
    grid.send_keys(Keys.CONTROL, Keys.END)
    grid.send_keys(Keys.ALT, Keys.ENTER)


def history_is_told(browser: Browser, register: UUID) -> None:
    """The row leads back to its entry, and says what became of it, also after a reload."""
    open_last_of_two(browser, register)
    browser.reads("What happened to it", "Filed")
    browser.driver.refresh()
    browser.reads("What happened to it", "entry 0002")
    browser.accessible()
    browser.press("button", "Close")
    browser.soon(lambda: "What happened to it" not in browser.text())


@pytest.mark.usefixtures("processes")
def test_what_could_not_be_done_is_seen_to(browser: Browser, wells: Wells) -> None:
    """It waits with what to do: done once that was done, or skipped with a reason."""
    register, name = made_register(wells)
    sources = {key: {"kind": "entry", "name": key} for key in ("name", "district")}
    file = {"kind": "file", "register_id": str(register), "columns": sources}
    only = {**file, "matching": {"columns": ["name"], "none": "ask", "several": "ask"}}
    apply_rules(wells, otherwise=[only])
    for who in ("Ada", "Ben"):
        wells.send(who, name=who)
    open_dispatch(browser, wells)
    browser.press("button", browser.soon(lambda: named(browser, "Not done yet: 2")))
    browser.reads(f"Row in {name}", "No row is alike in Name.", "Somebody has to see to it")
    browser.accessible()
    apply_rules(wells, otherwise=[file])
    browser.press("button", "Do it again")
    browser.soon(lambda: len(rows(wells, register)) == 1)
    browser.soon(lambda: browser.text().count("Somebody has to see to it") == 1)
    browser.press("button", "Skip")
    browser.write("Reason", "sent by hand" + Keys.ENTER)
    browser.press("button", "Skip")
    browser.reads("Everything is done")
    assert len(rows(wells, register)) == 1
    browser.press("button", "Pause all sending")
    browser.reads("Nothing is sent since")
    browser.accessible()
    browser.press("button", "Go on sending")
    browser.reads("Pause all sending")


def named(browser: Browser, name: str) -> str | None:
    return name if name in browser.text() else None


@pytest.mark.usefixtures("processes")
@pytest.mark.refused(422)
def test_another_system_is_told_of_an_entry(
    browser: Browser, wells: Wells, installation: Installation
) -> None:
    bench = f"http://127.0.0.1:{installation.settings.webhook_bench_port}"
    open_dispatch(browser, wells)
    browser.press("button", "Other systems that are called")
    browser.write("Name of the system", "Lab")
    browser.write("Address that is called", "ftp://lab.example.org" + Keys.ENTER)
    browser.reads("Write a web address that begins with https://.")
    browser.write("Address that is called", f"{bench}/calls" + Keys.ENTER, over=True)
    secret = browser.soon(
        lambda: browser.driver.find_element(By.CSS_SELECTOR, "[role=dialog] code").text
    )
    assert secret.startswith("whsec_")
    browser.accessible()
    browser.keys(Keys.ESCAPE)
    verify_with(bench, secret)
    browser.press("button", "Otherwise")
    browser.pick("Call another system", "Lab")
    browser.press("button", "Apply the changes")
    browser.reads("Applied")
    wells.send("one", name="Ada")
    browser.soon(lambda: [one["data"]["answers"]["name"] for one in received(bench, wells)])
    assert [one["data"]["answers"]["name"] for one in received(bench, wells)] == ["Ada"]
    assert len(wells.do(lambda c, a: hooks.every(c, a, wells.id))) == 1
    verify_with(bench)


def verify_with(bench: str, *secrets: str) -> None:
    """Have the bench take what is signed with one of these, or everything where there are none."""
    body = json.dumps({"mode": "take", "secrets": secrets}).encode()
    head = {"Content-Type": "application/json"}
    with urlopen(Request(f"{bench}/told", body, head, method="PUT")) as answered:
        assert answered.status == 200


def received(bench: str, wells: Wells) -> list[dict[str, Any]]:
    """What the webhook bench has taken of this questionnaire, each verified."""
    with urlopen(f"{bench}/received") as answered:
        found = json.load(answered)
    bodies = [json.loads(one["body"]) for one in found if one["verified"]]
    return [one for one in bodies if one["data"]["questionnaire"] == str(wells.id)]


@pytest.mark.usefixtures("processes")
def test_a_mended_rule_is_replayed_on_the_entries_of_before(browser: Browser, wells: Wells) -> None:
    """The district was forgotten: seen in the replay, done once, and no row stands twice."""
    register, name = made_register(wells)
    sources = {"name": {"kind": "entry", "name": "name"}}
    file = {"kind": "file", "register_id": str(register), "columns": sources}
    apply_rules(wells, otherwise=[file])
    for who in ("Ada", "Ben"):
        wells.send(f"replayed {who}", name=who)
    browser.soon(lambda: len(rows(wells, register)) == 2)
    open_dispatch(browser, wells)
    browser.press("button", "Replay")
    browser.reads("nothing is left to do")
    sources["district"] = {"kind": "entry", "name": "district"}
    apply_rules(wells, otherwise=[file])
    browser.driver.refresh()
    browser.reads("something is left to do with 2", f"in {name}", "District empty to Saltings")
    browser.accessible()
    browser.press("button", "Replay 2 entries")
    browser.reads("Replayed on 2 entries: 2 rows")
    found = [{"name": who, "district": "saltings"} for who in ("Ada", "Ben")]
    assert rows(wells, register) == found
    browser.press("button", "Look again")
    browser.reads("nothing is left to do")


@pytest.mark.usefixtures("processes")
def test_rules_can_be_applied_at_any_moment(browser: Browser, wells: Wells) -> None:
    """Also before what is wrong with them is known: what cannot be used is refused with why."""
    register, _ = made_register(wells)
    file = {"kind": "file", "register_id": str(register), "columns": {}}
    file["columns"] = {"name": {"kind": "fixed", "text": "somebody"}}
    apply_rules(wells, otherwise=[file])
    open_dispatch(browser, wells)
    browser.driver.execute_cdp_cmd("Network.enable", {})
    browser.driver.execute_cdp_cmd("Network.setBlockedURLs", {"urls": ["*/dispatch/faults"]})
    browser.press("button", "Otherwise")
    browser.press("button", "Do not file")
    browser.press("button", "Apply the changes")
    browser.reads("Applied")
    browser.driver.execute_cdp_cmd("Network.setBlockedURLs", {"urls": []})
    browser.driver.get_log("browser")
