"""The whole job once through the real interface, from signing in to a protected entry."""

import re

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.reading import Browser

SECRET = "blue hands after the ford"


def write_questionnaire(browser: Browser) -> None:
    browser.press("button", "New questionnaire")
    browser.accessible()
    browser.write("What is it called?", "Ford survey" + Keys.ENTER)
    browser.reads("1 page, 1 finish", "There is no question yet")
    browser.write("Title of page 1", "You", over=True)
    browser.keys(Keys.ENTER, "Your name", Keys.ENTER, "How many cross", Keys.ENTER)
    browser.keys("Did you get wet", Keys.ENTER, "How do you cross", Keys.ENTER)
    browser.keys("What happened", Keys.ENTER, "Mind the current", Keys.ENTER, "Village")
    browser.reads("your_name", "how_many_cross", "did_you_get_wet")


def set_kinds(browser: Browser) -> None:
    def at(name: str) -> None:
        browser.driver.execute_script("arguments[0].focus()", browser.named("textbox", name))
        browser.reads("Who may see the answers" if name != "Note" else "Place")

    at("Question 1")
    browser.press("switch", "Required")
    browser.write("Longest", "30")
    at("Question 2")
    browser.pick("Kind", "Number")
    browser.write("At least", "1")
    browser.write("At most", "12")
    at("Question 3")
    browser.pick("Kind", "Yes or no")
    at("Question 4")
    browser.pick("Kind", "Pick one")
    browser.write("New option", "On foot" + Keys.ENTER)
    browser.keys("By cart" + Keys.ENTER, "I do not" + Keys.ENTER)
    at("Question 5")
    browser.pick("Kind", "Long text")
    browser.press("switch", "Only people with clearance")
    browser.press("button", "Add a condition")
    browser.pick("Question", "did_you_get_wet")
    browser.pick("Answer", "Yes")
    at("Question 6")
    browser.pick("Kind", "Note")
    at("Question 6")
    browser.pick("Kind", "Carried value")
    browser.write("Key", "village", over=True)
    browser.write("New option", "Millbeck" + Keys.ENTER)
    browser.keys("Saltings" + Keys.ENTER)
    browser.reads("Never shown. From the link", "Restricted")


def branch(browser: Browser) -> None:
    browser.press("button", "Add a page")
    browser.write("Title of page 2", "The crossing", over=True)
    browser.keys(Keys.ENTER, "How deep was it", Keys.TAB)
    browser.press("button", "Add a finish")
    browser.write("Heading of finish 2", "Stay dry")
    browser.driver.execute_script(
        "arguments[0].focus()", browser.named("textbox", "Title of page 1")
    )
    browser.press("button", "Add a skip rule")
    browser.reads("go to somewhere not chosen yet")
    browser.pick("Question", "how_do_you_cross")
    browser.pick("Answer", "I do not")
    browser.pick("Where it leads", 'finish "Stay dry"')
    browser.reads("If How do you cross is I do not, go to finish", "Nothing is missing", "Saved")
    browser.accessible()
    browser.publish(1)
    browser.reads("Published", "Edition 1")


def open_gate(browser: Browser) -> str:
    browser.place("Gate")
    browser.write("Shut by hand: your own words", "The ford is flooded.")
    browser.press("button", "Save the gate")
    browser.soon(lambda: "not saved yet" not in browser.text())
    browser.place("Links")
    browser.pick("Village", "Saltings")
    browser.accessible()
    link = browser.soon(lambda: browser.driver.find_element(By.TAG_NAME, "output").text)
    assert link.endswith("?village=saltings")
    browser.open(link)
    browser.reads("Closed at the moment", "The ford is flooded.")
    browser.accessible()
    browser.driver.back()
    browser.place("Gate")
    browser.press("button", "Open now")
    browser.reads("Open to everyone with the address")
    browser.accessible()
    return link


def make_rules(browser: Browser) -> None:
    browser.place("Dispatch")
    browser.press("button", "Add a rule")
    browser.reads("When something not chosen yet")
    browser.pick("Question", "Village")
    browser.pick("Answer", "Saltings")
    browser.press("button", "File to a new register")
    browser.write("Name", "Ford book")
    browser.accessible()
    browser.press("button", "Make register")
    browser.reads("File to register")
    browser.press("button", "Send a notice")
    browser.reads("Write the mail address.")
    browser.write("Mail address", "ford@example.org")
    browser.write("Subject", "Entry {entry_number}")
    browser.write("Words", "{your_name} crossed with {how_many_cross}.")
    browser.accessible()
    browser.press("button", "Otherwise")
    browser.pick("File to a register", "Ford book")
    browser.press("button", "Apply the changes")
    browser.reads("Applied")
    browser.accessible()


def answer(browser: Browser, link: str) -> None:
    browser.resize(390, 844)
    browser.open(link)
    browser.reads("Your name", "How do you cross")
    assert "What happened" not in browser.text()
    browser.accessible()
    browser.write("How many cross", "40")
    browser.press("button", "Continue")
    browser.reads("2 answers need another look", "Give a number of at most 12.")
    browser.soon(lambda: "need another look" in browser.focused().text)
    browser.accessible()
    browser.fits()
    browser.press("link", "Your name")
    browser.soon(lambda: browser.focused().get_attribute("id") == "item-your_name")
    browser.keys("Una Ferryman")
    browser.write("How many cross", "4", over=True)
    browser.driver.find_element(By.XPATH, "//label[contains(., 'On foot')]").click()
    browser.driver.find_element(
        By.XPATH, "//*[@role='radiogroup'][contains(., 'wet')]//label[contains(., 'Yes')]"
    ).click()
    browser.write("What happened", SECRET)
    browser.driver.refresh()
    assert browser.named("textbox", "Your name").get_attribute("value") == "Una Ferryman"
    assert browser.named("textbox", "What happened").get_attribute("value") == SECRET
    browser.press("button", "Continue")
    browser.write("How deep was it", "Knee")
    browser.press("button", "Back")
    assert browser.named("textbox", "Your name").get_attribute("value") == "Una Ferryman"
    browser.press("button", "Continue")
    assert browser.named("textbox", "How deep was it").get_attribute("value") == "Knee"
    browser.accessible()
    browser.press("button", "Send")
    browser.reads("Thank you", "We have your answers.")
    browser.accessible()
    browser.resize(1280, 800)


def read_as_coordinator(browser: Browser) -> None:
    browser.open("/desk/mail-room")
    browser.reads("Una Ferryman crossed with 4.", "ford@example.org")
    browser.accessible()
    browser.press("link", "Registers")
    browser.press("link", "Ford book")
    browser.reads("Una Ferryman", "On foot")
    browser.accessible()
    browser.press("link", "Registers")
    browser.press("link", "Desk")
    browser.press("link", "Ford survey")
    browser.place("Entries")
    browser.reads("0001", "Una Ferryman", "filed to register Ford book", "sent to ford@example.org")
    assert SECRET not in browser.text()
    browser.accessible()


@pytest.mark.refused(403)
def test_from_a_question_to_a_routed_protected_entry(browser: Browser) -> None:
    browser.accessible()
    browser.sign_in("rowan@example.org")
    browser.accessible()
    write_questionnaire(browser)
    set_kinds(browser)
    branch(browser)
    link = open_gate(browser)
    make_rules(browser)
    answer(browser, link)
    read_as_coordinator(browser)
    place = browser.driver.current_url
    assert "You need clearance" in browser.text()
    assert SECRET not in browser.bodies()
    browser.sign_out()
    browser.sign_in("sam@example.org")
    browser.open(place)
    browser.reads("Una Ferryman", "You need clearance")
    assert SECRET not in browser.text()
    assert SECRET not in browser.bodies()
    browser.accessible()


def test_the_coordinator_reveals_and_the_trail_knows(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    browser.press("link", "Private well check")
    browser.place("Entries")
    drinking = "//*[@data-entry][contains(., 'Drinking and cooking')]/*[@role='rowheader']"
    browser.soon(lambda: browser.driver.find_element(By.XPATH, drinking)).click()
    browser.press("button", "Read the restricted answers")
    pane = browser.soon(
        lambda: browser.driver.find_element(
            By.XPATH, "//dt[starts-with(., 'Illness')]/following-sibling::dd[text()]"
        )
    )
    assert pane.text in ("Yes", "No")
    heading = browser.driver.find_element(By.CSS_SELECTOR, "aside h2").text
    number = int(re.findall(r"\d+", heading)[0])
    browser.accessible()
    browser.open("/desk/trail")
    browser.reads(f"saw restricted answers of entry {number}")
    browser.accessible()
