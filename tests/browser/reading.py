"""Reading and using pages as a person does: by what is written on them."""

import json
import time
from collections.abc import Callable
from functools import partial
from itertools import count
from pathlib import Path
from typing import Any, TypeVar

from selenium import webdriver
from selenium.common.exceptions import WebDriverException
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement
from selenium.webdriver.support.ui import Select

from jotgate.demo.load import PASSWORD

T = TypeVar("T")

PATIENCE = 15.0

ALIVE = """
const root = document.getElementById("app");
const taken = (one) => Object.keys(one).some((key) => key.startsWith("__react"));
return !root || [...root.children].some(taken);
"""
"""Whether the page's script has taken over what came inside the HTML."""

LIKELY = """
const bare = (words) => (words ?? '').replace(/\\s+/g, '');
const all = [...document.querySelectorAll(arguments[0])];
const likely = all.filter((one) => {
  const ids = (one.getAttribute('aria-labelledby') ?? '').split(' ');
  const named = ids.map((id) => document.getElementById(id)?.textContent);
  const labels = [...(one.labels ?? [])].map((label) => label.textContent);
  const words = [one.getAttribute('aria-label'), one.textContent, one.value, ...labels, ...named];
  return bare(words.join('')).includes(bare(arguments[1]));
});
return likely.length ? likely : all;
"""
"""Those of the elements whose own words hold a name: asking Chromium for each name is slow."""


SHOWN = """
const lines = document.body.innerText.split('\\n');
return lines.map((one) => one.replace(/[ \\t\u00a0]+/g, ' ').trim()).filter(Boolean).join('\\n');
"""
"""What is drawn of a page, a line for each block: asking ChromeDriver takes ten times as long."""


class Browser:
    def __init__(self, driver: webdriver.Chrome, base: str, axe: str) -> None:
        self.driver = driver
        self.base = base
        self._axe = axe

    def resize(self, width: int, height: int) -> None:
        metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
        self.driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)

    def open(self, path: str) -> None:
        self.driver.get(path if path.startswith("http") else f"{self.base}{path}")
        self.alive()

    def alive(self) -> None:
        self.soon(lambda: self.driver.execute_script(ALIVE))

    def soon(self, find: Callable[[], T | None]) -> T:
        """What `find` gives once it gives something; the last error where it never does."""
        end = time.monotonic() + PATIENCE
        while True:
            try:
                found = find()
                if found:
                    return found
                problem: Exception = AssertionError(f"not found on {self.driver.current_url}")
            except (WebDriverException, AssertionError) as error:
                problem = error
            if time.monotonic() > end:
                raise AssertionError(f"{problem}\n{self._shown()}") from problem
            time.sleep(0.03)

    def _shown(self) -> str:
        text = self.text()
        return text if len(text) < 3000 else f"{text[:1000]}\n[…]\n{text[-2000:]}"

    def text(self) -> str:
        return self.driver.find_element(By.TAG_NAME, "body").text

    def reads(self, *words: str) -> None:
        for word in words:
            self.soon(partial(self._reads, word, count(1)))

    def _reads(self, word: str, looks: "count[int]") -> bool:
        """Whether a word is to be read: asked of the page itself most times, which is quick and
        leaves out what it does not draw as long as it is not scrolled to."""
        if word in self.driver.execute_script(SHOWN):
            return True
        return next(looks) % 4 == 0 and word in self.text()

    def named(self, role: str, name: str) -> WebElement:
        """The visible element with this ARIA role and name, as Chromium computes them."""
        tags = {
            "button": "button,[role=button]",
            "link": "a[href]",
            "textbox": "input,textarea",
            "radio": "input[type=radio]",
            "switch": "input[type=checkbox]",
            "checkbox": "input[type=checkbox]",
            "option": "[role=option]",
            "menuitem": "[role=menuitem]",
            "grid": "[role=grid]",
            "table": "table",
            "region": "[role=region]",
        }

        def find() -> WebElement | None:
            if not self.driver.execute_script(ALIVE):
                return None
            candidates = self.driver.execute_script(LIKELY, tags[role], name)
            return next((one for one in candidates if one.accessible_name.strip() == name), None)

        return self.soon(find)

    def press(self, role: str, name: str) -> None:
        """Press what has this role and name, with the keyboard."""

        def free() -> WebElement | None:
            """Found anew each time: a page that has just changed may draw it again."""
            found = self.named(role, name)
            busy = not found.is_enabled() or found.get_attribute("aria-disabled") == "true"
            return None if busy else found

        self._press(free, Keys.SPACE if role in ("radio", "switch") else Keys.ENTER)

    def _press(self, find: Callable[[], WebElement | None], key: str) -> None:
        """Send a key to what is found; where it was drawn anew meanwhile, to what stands there."""

        def sent() -> bool:
            element = find()
            if not element:
                return False
            self.driver.execute_script(
                "arguments[0].scrollIntoView({block:'center'}); arguments[0].focus()", element
            )
            element.send_keys(key)
            return True

        self.soon(sent)

    def write(self, name: str, text: str, *, over: bool = False) -> None:
        field = self.named("textbox", name)
        self.driver.execute_script("arguments[0].focus()", field)
        if over:
            field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text)

    def pick(self, name: str, option: str, *, at: int = 0) -> None:
        """Open the list whose button's name holds `name`, and take the option, by its words or key.

        Of several such lists the first, or the one counted by `at`.
        """

        def button() -> WebElement | None:
            lists = self.driver.find_elements(By.CSS_SELECTOR, "button[aria-haspopup=listbox]")
            named = [one for one in lists if one.is_displayed() and name in one.accessible_name]
            return named[at] if named else None

        opener = self.soon(button)
        self.driver.execute_script(
            "arguments[0].scrollIntoView({block:'center'}); arguments[0].focus()", opener
        )
        opener.send_keys(Keys.ENTER)

        def row() -> WebElement | None:
            rows = self.driver.find_elements(By.CSS_SELECTOR, "[role=option]")
            return next((one for one in rows if option in one.text.split("\n")[:2]), None)

        self.soon(row).click()
        self.soon(lambda: not self.driver.find_elements(By.CSS_SELECTOR, "[role=listbox]"))

    def choose(self, name: str, option: str) -> None:
        """Take an option of a list of the browser's own, once it is there."""
        css = f"select[aria-label={json.dumps(name)}]"

        def chosen() -> bool:
            field = self.driver.find_element(By.CSS_SELECTOR, css)
            Select(field).select_by_visible_text(option)
            return True

        self.soon(chosen)

    def focused(self) -> WebElement:
        return self.driver.switch_to.active_element

    def keys(self, *keys: str) -> None:
        """Type into what has the focus, which may go away under the last key."""
        if Keys.CONTROL in keys or Keys.ALT in keys:
            self.focused().send_keys(*keys)
        else:
            ActionChains(self.driver).send_keys(*keys).perform()

    def sign_in(self, email: str) -> None:
        self.open("/desk")
        self.write("Email", email)
        self.write("Password", PASSWORD + Keys.ENTER)
        self.reads("Sign out", "Desk")

    def publish(self, edition: int) -> None:
        self.press("button", f"Publish edition {edition}")
        self.press("button", "Publish it")
        self.soon(lambda: "Publish it" not in self.text())

    def sign_out(self) -> None:
        self.press("button", "Sign out")
        self.named("textbox", "Password")

    def place(self, name: str) -> None:
        """Go to a place of the questionnaire that is open, or is about to open.

        By its address: the desk that is being left has a room with the name of a place.
        """
        end = f"/{name.lower()}"
        css = f'a[href^="/desk/q/"][href$="{end}"]'
        self._press(lambda: self.driver.find_element(By.CSS_SELECTOR, css), Keys.ENTER)
        self.soon(lambda: self.driver.current_url.partition("?")[0].endswith(end))

    def accessible(self) -> None:
        """No violation of WCAG 2.2 A and AA that axe-core finds, and no sideways scrolling."""
        if not self.driver.execute_script("return !!window.axe"):
            self.driver.execute_cdp_cmd("Runtime.evaluate", {"expression": self._axe})
        tags = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]
        found: dict[str, Any] = self.driver.execute_async_script(
            # What stays at the foot of a script covers what is behind it: look at the end. What
            # stays at the head scrolls with the rest meanwhile.
            "const done = arguments[arguments.length - 1]; const before = scrollY;"
            "const script = document.querySelector('[data-region=script]');"
            "const head = script && document.querySelector('nav:has(#place-actions)');"
            "if (head) head.style.position = 'static';"
            "if (script) scrollTo(0, document.body.scrollHeight);"
            "axe.run(document, {runOnly: arguments[0]}).then((found) => {"
            "if (head) head.style.position = ''; scrollTo(0, before); done(found); })",
            tags,
        )
        problems = [
            {"id": one["id"], "help": one["help"], "nodes": [n["html"] for n in one["nodes"][:3]]}
            for one in found["violations"]
        ]
        assert not problems, f"{self.driver.current_url}\n{json.dumps(problems, indent=1)}"

    def fits(self) -> None:
        """Nothing makes the page wider than the window."""
        wide, window = self.driver.execute_script(
            "return [document.documentElement.scrollWidth, innerWidth]"
        )
        assert wide <= window, f"{self.driver.current_url}: {wide} px on {window} px"

    def fetched(self, address: str) -> str:
        """What is at an address, as the page itself gets it."""
        found: str = self.driver.execute_async_script(
            "fetch(arguments[0]).then((r) => r.text()).then(arguments[1])", address
        )
        return found

    def bodies(self) -> str:
        """Every response body since the last call, as Chromium's network log has them."""
        texts = []
        for entry in self.driver.get_log("performance"):
            message = json.loads(entry["message"])["message"]
            if message["method"] != "Network.responseReceived":
                continue
            if "/api/" not in message["params"]["response"]["url"]:
                continue
            request = {"requestId": message["params"]["requestId"]}
            try:
                got = self.driver.execute_cdp_cmd("Network.getResponseBody", request)
            except WebDriverException:
                continue
            texts.append(got["body"])
        return "\n".join(texts)

    def picture(self, target: Path) -> None:
        target.parent.mkdir(parents=True, exist_ok=True)
        self.driver.save_screenshot(str(target))
