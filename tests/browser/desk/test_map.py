"""The map: branching made on it, broken, told, mended and walked; nothing else is sent out."""

import json
import re
import time
from typing import Any

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from jotgate.demo.load import documents
from tests.browser.reading import Browser
from tests.documents import item, page, questionnaire, words

MAINS = "Mains supply"
CALM = "Every way was looked at: 0 wrong"


def without_branching() -> dict[str, Any]:
    """The main demo questionnaire as it is before anybody thinks of branches."""
    document = documents()["private_well_check"].model_dump(mode="json")
    document["title"] = {"en": "Branches to make"}
    document["saved"] = []
    for one in document["pages"]:
        one["shown_when"], one["skips"] = None, []
        for asked in one["items"]:
            if asked["key"] in ("drinkers", "uses", "several", "illness"):
                asked["shown_when"] = None
    return document


def bring(browser: Browser, document: dict[str, Any]) -> str:
    browser.sign_in("rowan@example.org")
    id: str = browser.driver.execute_async_script(
        "fetch('/api/me').then((r) => r.json()).then(({csrf}) =>"
        " fetch('/api/questionnaires/files', {method: 'POST', body: arguments[0], headers:"
        " {'Content-Type': 'application/octet-stream', 'X-CSRF-Token': csrf}}))"
        ".then((r) => r.json()).then((made) => arguments[1](made.id))",
        json.dumps(document),
    )
    return id


def stop(browser: Browser, at: str) -> WebElement:
    return browser.soon(lambda: browser.driver.find_element(By.ID, f"stop {at}"))


def choose(browser: Browser, at: str) -> None:
    """Choose a page or finish on the map, by keyboard."""
    stop(browser, at).send_keys(Keys.ENTER)
    browser.named("button", "Back to the proof")


def back(browser: Browser) -> None:
    browser.press("button", "Back to the proof")


def rule(browser: Browser, page: str, question: str, answer: str, to: str) -> None:
    """A skip rule behind those that the page has: when the answer is this, go there."""
    choose(browser, f"pages/{page}")
    browser.press("button", "Add a skip rule")
    browser.pick("Question", question, at=-1)
    browser.pick("Answer", answer, at=-1)
    browser.pick("Where it leads", to, at=-1)
    back(browser)


def proved(browser: Browser, *says: str) -> None:
    """What the proof comes to, once it is of what was saved last."""
    browser.reads("Saved", *says)


def repair(browser: Browser, says: str) -> None:
    """Press the button of a repair, once there is one."""

    def button() -> WebElement | None:
        for one in browser.driver.find_elements(By.CSS_SELECTOR, "aside button"):
            if one.text == says and one.is_enabled():
                return one
        return None

    browser.soon(button).send_keys(Keys.ENTER)


def branch(browser: Browser) -> None:
    """The branching of the demo questionnaire, made on the map."""
    rule(browser, "water", "source", MAINS, 'finish "No well, no test needed"')
    rule(browser, "well", "tested", "Yes", 'finish "Your water was tested lately"')
    choose(browser, "pages/health")
    browser.press("button", "Add a condition")
    browser.pick("Question", "uses")
    browser.pick("Answer", "Drinking and cooking")
    back(browser)
    proved(browser, CALM)


def test_branching_is_made_broken_told_mended_and_walked(browser: Browser) -> None:
    id = bring(browser, without_branching())
    browser.open(f"/desk/q/{id}/map")
    proved(browser, "Nobody ends at the finish No well, no test needed: no rule leads to it.")
    branch(browser)
    browser.accessible()

    choose(browser, "pages/health")
    browser.press("button", "Add a comparison")
    browser.pick("Question", "source", at=1)
    browser.pick("Answer", MAINS, at=1)
    back(browser)
    proved(browser, "Nobody is shown page 5, Health", "Because of rule 1 after page 2.")

    rule(browser, "water", "source", MAINS, 'finish "Your test is booked"')
    proved(browser, "Rule 2 after page 2 never applies: the rules before it take every case.")

    rule(browser, "taps", "source", MAINS, 'finish "No well, no test needed"')
    proved(browser, "Rule 1 after page 4 never applies: its condition never holds there.")

    choose(browser, "pages/visit")
    browser.press("button", "Add a condition")
    browser.pick("Question", "source")
    browser.pick("Comparison", "is not")
    browser.pick("Answer", MAINS)
    back(browser)
    proved(browser, "The condition of page 6, The visit always holds")
    browser.accessible()

    for says in (
        "Delete rule 2 after page 2",
        "Delete rule 1 after page 4",
        "Remove the condition",
        "Show the page to all who get there",
    ):
        repair(browser, says)
        browser.soon(lambda says=says: says not in browser.text())  # type: ignore[misc]
    proved(browser, CALM)

    choose(browser, "finishes/no_well")
    browser.press("button", "Delete this finish")
    back(browser)
    proved(browser, "Mend these first", "goes to the finish no_well, which is not there")
    repair(browser, "Delete rule 1 after page 2")
    proved(browser, "Every page, question and finish can be reached")
    walk_through(browser)


def walk_through(browser: Browser) -> None:
    """Play every walk-through step by step; the last one is sent as well."""
    text = browser.soon(lambda: re.search(r"(\d+) walks? that together", browser.text()))
    for number in range(1, int(text[1]) + 1):
        css = f"//button[starts-with(., 'Walk-through {number}:')]"
        pressed = browser.soon(lambda css=css: browser.driver.find_element(By.XPATH, css))  # type: ignore[misc]
        pressed.send_keys(Keys.ENTER)
        browser.press("button", "Play it")
        play(browser)
        browser.press("button", "Close")
        browser.named("button", "Play it")


def play(browser: Browser) -> None:
    while True:
        found = browser.soon(lambda: re.search(r"Step (\d+) of (\d+): \d+ (.*)", browser.text()))
        heading(browser, found[3])
        if found[1] == found[2]:
            held = browser.focused()
            assert (held.tag_name, held.text) == ("button", "Next step"), "it keeps the focus"
            return
        browser.press("button", "Next step")
        browser.soon(lambda found=found: found[0] not in browser.text())  # type: ignore[misc]


def heading(browser: Browser, words: str) -> None:
    """The page in the frame has this heading."""

    def read() -> bool:
        browser.driver.switch_to.frame(browser.driver.find_element(By.TAG_NAME, "iframe"))
        try:
            return browser.driver.find_element(By.TAG_NAME, "h1").text == words
        finally:
            browser.driver.switch_to.default_content()

    browser.soon(read)


def test_the_map_is_walked_found_and_zoomed_by_keyboard(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("link", "Private well check")
    browser.place("Map")
    stop(browser, "pages/household").send_keys(Keys.ARROW_DOWN)
    assert browser.focused().get_attribute("id") == "stop pages/water"
    browser.keys(Keys.ARROW_RIGHT)
    assert browser.focused().get_attribute("id") == "stop pages/water 1"
    browser.keys(Keys.ARROW_RIGHT)
    assert browser.focused().get_attribute("id") == "stop finishes/no_well"
    browser.keys(Keys.HOME, Keys.ENTER)
    browser.reads("Page 1")
    browser.press("button", "Back to the proof")
    browser.press("button", "Larger")
    browser.reads("125 %")
    field = browser.soon(
        lambda: browser.driver.find_element(By.CSS_SELECTOR, "[aria-label='Find on the map']")
    )
    field.send_keys("mains")
    browser.reads("1 found")
    field.send_keys(Keys.ENTER)
    browser.reads("Page 2")


def large() -> dict[str, Any]:
    """Forty pages, every third of them shown under a condition."""
    first = item("yes_no", "own")
    pages = [page(f"page_{at}", *([] if at else [first])) for at in range(40)]
    when = {"op": "is", "item": "own", "value": True}
    for at in range(1, 40, 3):
        pages[at]["shown_when"] = when
    pages[4]["skips"] = [{"when": when, "to": {"kind": "page", "page": "page_31"}}]
    return questionnaire(*pages, title=words("Forty pages")).model_dump(mode="json")


def test_a_large_map_is_seen_at_once_and_gone_into(browser: Browser) -> None:
    browser.open(f"/desk/q/{bring(browser, large())}/map")
    view = browser.soon(
        lambda: browser.driver.find_element(By.CSS_SELECTOR, "[data-region=script]")
    )
    whole = "return arguments[0].scrollHeight <= arguments[0].clientHeight + 1"
    browser.soon(lambda: stop(browser, "pages/page_39"))
    browser.soon(lambda: browser.driver.execute_script(whole, view))
    assert "100 %" not in browser.text()
    browser.accessible()
    browser.write("Find on the map", "page_31" + Keys.ENTER)
    browser.reads("1 found", "100 %", "Page 32")
    box = stop(browser, "pages/page_31").rect
    seen = view.rect
    assert seen["y"] <= box["y"] <= seen["y"] + seen["height"] - box["height"]
    assert seen["x"] <= box["x"] <= seen["x"] + seen["width"] - box["width"]


def test_answers_in_the_page_beside_light_their_way(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("link", "Private well check")
    browser.place("Map")
    stop(browser, "pages/household")
    browser.press("button", "Try it")

    def lit() -> list[str]:
        cards = browser.driver.find_elements(By.CSS_SELECTOR, "[data-lit=true][id]")
        return [card.get_attribute("id") or "" for card in cards]

    browser.soon(lambda: lit() == ["stop pages/household"])
    browser.driver.switch_to.frame(browser.driver.find_element(By.TAG_NAME, "iframe"))
    browser.write("Your name", "Ada Birch")
    browser.press("button", "Continue")
    browser.press("radio", MAINS)
    browser.driver.switch_to.default_content()
    browser.soon(
        lambda: lit() == ["stop pages/household", "stop pages/water", "stop finishes/no_well"]
    )


def test_nothing_of_a_branch_not_taken_reaches_the_browser(browser: Browser) -> None:
    """And the page asks the server again for an answer that changes it, for no other."""
    browser.sign_in("rowan@example.org")
    link: str = browser.driver.execute_async_script(
        "fetch('/api/questionnaires').then((r) => r.json()).then((all) => "
        "arguments[0](all.find((one) => one.title === 'Private well check').link))"
    )
    browser.bodies()
    browser.open(link)
    browser.write("Your name", "Ada Birch")
    browser.press("button", "Continue")
    browser.reads("Where does the water in your kitchen come from?")
    sent = browser.bodies()
    assert "Where does the water in your kitchen come from?" in sent
    for hidden in ("Which wells do you have?", "When was the last test?", "illness", "tested"):
        assert hidden not in sent
    browser.press("radio", "Own well")
    browser.reads("What do you use the well water for?")
    asked = browser.bodies()
    assert "What do you use the well water for?" in asked
    assert "How many people drink it each day?" not in asked
    browser.press("radio", MAINS)
    browser.soon(lambda: "What do you use the well water for?" not in browser.text())
    assert "What do you use the well water for?" not in browser.bodies()
    browser.press("radio", "Own well")
    browser.reads("What do you use the well water for?")
    browser.bodies()
    browser.press("switch", "Garden only")
    browser.press("radio", MAINS)
    browser.press("button", "Send")
    browser.reads("No well, no test needed")
    end = browser.bodies()
    assert "Mains water is tested every week" in end
    for hidden in ("Which wells", "A sampler will ring you", "less than a month ago"):
        assert hidden not in end


def asked(browser: Browser) -> int:
    """How often a page was asked for since the last look."""
    messages = [
        json.loads(entry["message"])["message"] for entry in browser.driver.get_log("performance")
    ]
    return sum(
        message["method"] == "Network.requestWillBeSent"
        and message["params"]["request"]["url"].endswith("/page")
        for message in messages
    )


def test_only_answers_that_change_the_page_ask_for_it_again(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("link", "Private well check")
    browser.place("Links")
    link = browser.soon(lambda: browser.driver.find_element(By.TAG_NAME, "output").text)
    browser.open(link)
    browser.write("Your name", "Ada Birch")
    browser.press("button", "Continue")
    browser.press("radio", "Own well")
    browser.press("switch", "Drinking and cooking")
    browser.named("textbox", "How many people drink it each day?")
    assert asked(browser) >= 2
    browser.write("How many people drink it each day?", "4" + Keys.TAB)
    time.sleep(1)
    assert asked(browser) == 0
    browser.press("switch", "Drinking and cooking")
    browser.soon(lambda: "How many people drink it each day?" not in browser.text())
    assert asked(browser) == 1
