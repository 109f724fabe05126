"""Every kind written in the script, published, answered by keyboard, and read in the entry."""

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.reading import Browser

KINDS = {
    "Email": "Your email",
    "Phone": "Your phone",
    "Web address": "Your page",
    "Date": "When was it",
    "Time": "At what time",
    "Pick many": "Which birds",
    "Scale": "How loud",
    "Short text": "Ring number",
}


def choose(browser: Browser, question: int) -> None:
    field = browser.named("textbox", f"Question {question}")
    browser.driver.execute_script("arguments[0].focus()", field)


def write(browser: Browser) -> None:
    browser.press("button", "New questionnaire")
    browser.write("What is it called?", "Dawn count" + Keys.ENTER)
    browser.write("Title of page 1", "The count", over=True)
    browser.keys(Keys.ENTER)
    browser.keys(Keys.ENTER.join(KINDS.values()), Keys.TAB)
    for number, kind in enumerate(KINDS, start=1):
        choose(browser, number)
        if kind != "Short text":
            browser.pick("Kind", kind)
        browser.accessible()
    limits(browser)
    browser.reads("Nothing is missing", "Saved")
    browser.publish(1)
    browser.reads("Published")
    browser.place("Gate")
    browser.press("button", "Open now")
    browser.reads("Open to everyone")


def limits(browser: Browser) -> None:
    choose(browser, 2)
    browser.write("Countries", "GB")
    choose(browser, 4)
    browser.write("Not after", "yesterday")
    browser.reads("Write 2026-12-31, today, today-7 or today+30.")
    browser.write("Not after", "today", over=True)
    choose(browser, 6)
    browser.write("New option", "Curlew" + Keys.ENTER)
    browser.keys("Lapwing" + Keys.ENTER, "None of them" + Keys.ENTER)
    browser.press("button", "Option 3 excludes the others")
    browser.write("Most picks", "2")
    choose(browser, 7)
    browser.write("The low end in words", "hardly heard")
    browser.write("The high end in words", "deafening")
    choose(browser, 8)
    browser.write("Pattern", "R[0-9]{3}")
    browser.write("Its name: Write it …", "like R123")
    browser.write("Should fit, one a line", "R12")
    browser.reads("The example R12 does not fit the pattern, and should.")
    browser.write("Should fit, one a line", "3")


def wrong_answers(browser: Browser) -> None:
    browser.write("Your email", "ines")
    browser.write("Your phone", "12")
    browser.write("Your page", "wells")
    browser.write("When was it", "01012999")
    browser.write("Ring number", "R1")
    browser.press("button", "Send")
    browser.reads(
        "5 answers need another look",
        "Write a mail address, such as name@example.org.",
        "Write a phone number with its country",
        "Write a web address, such as https://example.org.",
        "or earlier.",
        "Write it like R123.",
    )
    browser.accessible()
    browser.fits()


def right_answers(browser: Browser) -> None:
    browser.write("Your email", "ines@example.org", over=True)
    browser.write("Your phone", "020 7946 0000", over=True)
    browser.write("Your page", "example.org/birds", over=True)
    browser.write("When was it", "05112025")
    browser.write("At what time", "0545AM")
    for bird in ("None of them", "Curlew", "Lapwing"):
        browser.named("checkbox", bird).send_keys(Keys.SPACE)
    picked = browser.driver.find_elements(By.CSS_SELECTOR, "input[type=checkbox]:checked")
    assert [one.accessible_name for one in picked] == ["Curlew", "Lapwing"]
    browser.press("radio", "5, deafening")
    browser.write("Ring number", "R123", over=True)
    browser.press("button", "Send")
    browser.reads("Thank you")


def test_every_kind(browser: Browser) -> None:
    browser.sign_in("rowan@example.org")
    write(browser)
    browser.place("Links")
    address = browser.soon(lambda: browser.driver.find_element(By.TAG_NAME, "output").text)
    place = browser.driver.current_url
    browser.resize(320, 800)
    browser.open(address)
    browser.reads("How loud", "Pick up to 2.", "Write it like R123.")
    browser.accessible()
    browser.fits()
    wrong_answers(browser)
    right_answers(browser)
    browser.resize(1280, 800)
    browser.open(place)
    browser.place("Entries")
    browser.reads(
        "ines@example.org",
        "+442079460000",
        "https://example.org/birds",
        "11 May 2025",
        "05:45",
        "Curlew, Lapwing",
        "R123",
    )
