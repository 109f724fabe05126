"""Translating side by side, translations that are older, files for translators; the look."""

from pathlib import Path

import pytest
from PIL import Image
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.reading import Browser
from tests.browser.writing import jotted


def tried(browser: Browser, *words: str) -> None:
    """Go into the page beside the script once it reads `words`: writing loads it anew."""

    def inside() -> bool:
        browser.driver.switch_to.default_content()
        browser.driver.switch_to.frame(browser.driver.find_element(By.TAG_NAME, "iframe"))
        return all(word in browser.text() for word in words)

    browser.soon(inside)


@pytest.mark.refused(422)
def test_side_by_side_and_by_file(browser: Browser, tmp_path: Path) -> None:
    jotted(browser, "Translated", "# Birds\nWhich bird?", 1)
    browser.press("button", "Languages")
    browser.press("button", "Add a language")
    browser.accessible()
    browser.press("button", "\u0627\u0644\u0639\u0631\u0628\u064a\u0629 (ar)")
    browser.reads("6 missing, 0 older than the original, of 6 texts")
    field = browser.named("textbox", "which_bird, words (ar)")
    assert field.get_attribute("dir") == "rtl"
    browser.write("which_bird, words (ar)", "\u0623\u064a \u0637\u0627\u0626\u0631\u061f")
    browser.reads("5 missing")
    browser.choose("Which texts", "What is left to do")
    browser.accessible()
    link = browser.named("link", "Export for translators (XLIFF 1.2)").get_attribute("href")
    browser.press("button", "Close")
    browser.reads("Languages (5)", "Saved")
    text: str = browser.driver.execute_async_script(
        "fetch(arguments[0]).then((r) => r.text()).then(arguments[1])", link
    )
    browser.write("Question 1", "Which gull?", over=True)
    browser.reads("Languages (6)", "Saved")
    browser.press("button", "Languages (6)")
    browser.reads("Older than its original")
    browser.press("button", "It still holds")
    browser.reads("5 missing, 0 older")
    file = tmp_path / "back.xlf"
    file.write_text("<xliff/>")
    bring = browser.driver.find_element(By.CSS_SELECTOR, "input[accept*=xlf]")
    browser.reads("Saved")
    bring.send_keys(str(file))
    browser.reads("Nothing has changed.", "This is not XLIFF 1.2.")
    done = text.replace("needs-translation", "translated").replace(
        "<target />", "<target>x</target>"
    )
    file.write_text(done.replace('state="translated" />', 'state="translated">x</target>'))
    bring.send_keys(str(file))
    browser.reads("6 texts changed (ar). 1 older than the original here.")
    browser.accessible()
    browser.driver.execute_script("document.querySelectorAll('textarea[lang=ar]')[0].focus()")
    browser.press("button", "Close")
    browser.reads("Languages (1)")


def test_the_look_beside_the_script(browser: Browser, tmp_path: Path) -> None:
    """Accent, header picture, words of the buttons, introduction, widths: as they are changed."""
    jotted(browser, "Looked", "Which bird?\nWhere?\n\n# More\nWhen?", 3)
    browser.driver.find_element(By.CSS_SELECTOR, "nav li button").click()
    browser.write("Introduction", "**Thank you** for counting.")
    browser.write("Or write it", "#ffee", over=True)
    browser.reads("Six digits of 0 to 9 and a to f.")
    browser.write("Or write it", "#ffee00", over=True)
    browser.write("To the next page", "Go on")
    Image.new("RGB", (600, 120), (90, 120, 60)).save(tmp_path / "head.png")
    browser.driver.find_element(By.CSS_SELECTOR, "aside input[type=file]").send_keys(
        str(tmp_path / "head.png")
    )
    browser.write("What it shows", "A bird")
    browser.accessible()
    for number in (1, 2):
        browser.driver.execute_script(
            "arguments[0].focus()", browser.named("textbox", f"Question {number}")
        )
        browser.pick("Width", "Half")
    browser.reads("Saved", "Nothing is missing")
    browser.press("button", "Try it")
    browser.choose("Width", "Desk")
    tried(browser, "Thank you for counting.", "Go on", "Which bird?")
    head = browser.soon(lambda: browser.driver.find_element(By.CSS_SELECTOR, "header img"))
    assert head.get_attribute("alt") == "A bird"
    first, second = browser.driver.find_elements(By.CSS_SELECTOR, "form input")
    assert first.rect["y"] == second.rect["y"]
    accent = browser.driver.execute_script(
        "return getComputedStyle(document.documentElement).getPropertyValue('--accent')"
    )
    assert accent.strip() not in ("#ffee00", "#3f5128")
    browser.driver.switch_to.default_content()


def test_trying_from_any_page_with_made_up_answers(browser: Browser) -> None:
    jotted(browser, "Tried", "Which bird? *\n- Heron\n- Gull\n\n# More\nHow many? *", 2)
    browser.press("button", "Try it")
    browser.accessible()
    browser.choose("Page", "2 More")
    browser.press("button", "Made-up answers")
    tried(browser, "How many?", "Trial of the draft. Nothing is stored.")
    number = browser.soon(lambda: browser.driver.find_element(By.CSS_SELECTOR, "form input"))
    browser.soon(lambda: number.get_attribute("value") != "")
    browser.press("button", "Send")
    browser.reads("Thank you")
    browser.driver.switch_to.default_content()
    browser.press("button", "Start again")
    tried(browser, "Which bird?")
    browser.driver.switch_to.default_content()
    browser.driver.execute_script("arguments[0].focus()", browser.named("textbox", "Question 1"))
    browser.keys(Keys.END, " today")
    tried(browser, "Which bird? today")
    browser.driver.switch_to.default_content()
    browser.press("button", "Close")
    browser.reads("Before you publish")
    entries = browser.driver.execute_async_script(
        "const done = arguments[0]; const id = location.pathname.split('/')[3];"
        "fetch(`/api/questionnaires/${id}`).then((r) => r.json()).then((q) => done(q.entries))"
    )
    assert entries == 0
