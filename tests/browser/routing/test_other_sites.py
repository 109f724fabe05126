"""A questionnaire in the frame of another site, and addresses as browsers read them."""

from collections.abc import Iterator
from functools import partial
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from threading import Thread
from typing import Any
from urllib.parse import parse_qsl, urlencode

import pytest
from hypothesis import HealthCheck, Phase, given, settings
from selenium.webdriver.common.by import By

from jotgate.local.cluster import free_port
from tests.browser.reading import Browser
from tests.browser.routing.conftest import Set
from tests.browser.routing.test_ways import SETS


class Site(BaseHTTPRequestHandler):
    """Another site, whose only page has the questionnaire in a frame."""

    framed = ""

    def do_GET(self) -> None:
        html = (
            "<!doctype html><title>Other</title><p>Another site</p>"
            f'<iframe src="{self.framed}" title="Q" style="width:100%;height:120px"></iframe>'
            f'<script src="{self.framed.split("/q/")[0]}/embed.js"></script>'
        )
        self.send_response(200)
        self.send_header("Content-Type", "text/html")
        self.end_headers()
        self.wfile.write(html.encode())

    def log_message(self, *_: Any) -> None:
        """Nothing is written."""


@pytest.fixture
def other_site(browser: Browser, made: Set) -> Iterator[str]:
    handler = type("Framing", (Site,), {"framed": f"{browser.base}/q/{made.address}"})
    server = ThreadingHTTPServer(("127.0.0.1", free_port()), handler)
    Thread(target=server.serve_forever, daemon=True).start()
    yield f"http://127.0.0.1:{server.server_port}"
    server.shutdown()


def test_a_frame_follows_its_height_on_a_named_site_and_nowhere_else(
    browser: Browser, made: Set, other_site: str
) -> None:
    browser.driver.get(other_site)
    framed = browser.driver.find_element(By.TAG_NAME, "iframe")
    browser.driver.switch_to.frame(framed)
    browser.soon(lambda: "Who are you?" not in browser.driver.page_source)
    browser.driver.switch_to.default_content()
    browser.driver.get_log("browser")
    browser.sign_in("rowan@example.org")
    browser.open(f"/desk/q/{made.id}/links?way=on")
    browser.write("Sites that may show it in a frame", other_site, over=True)
    browser.press("button", "Save")
    browser.reads("Saved")
    browser.accessible()
    browser.fits()
    browser.driver.get(other_site)
    height = partial(
        browser.driver.execute_script, "return document.querySelector('iframe').offsetHeight"
    )
    browser.soon(lambda: height() > 300)
    browser.driver.switch_to.frame(browser.driver.find_element(By.TAG_NAME, "iframe"))
    browser.reads("Who are you?")
    browser.driver.switch_to.default_content()
    browser.driver.get_log("browser")


def test_the_visitors_eye_on_the_demo(browser: Browser) -> None:
    """For every named link of the demo's main questionnaire: nothing sealed is found."""
    browser.sign_in("rowan@example.org")
    browser.press("link", "Private well check")
    browser.place("Links")
    for district in ("Saltings", "Upper Fell", "Millbeck", "Long Moss"):
        browser.press("link", f"Leaflet, {district}")
        browser.reads(f"Leaflet, {district}")
        browser.press("button", "Look")
        browser.reads("Cannot learn", "District, sealed", "no referrer, no cookie")
        assert "stands in" not in browser.driver.find_element(By.TAG_NAME, "aside").text
    browser.accessible()
    browser.fits()


def test_addresses_agree_with_the_standard_library_and_with_the_browser(browser: Browser) -> None:
    """500 sets of values: what `urllib.parse` writes the browser reads, and the other way round."""
    sets: list[list[tuple[str, str]]] = []

    @settings(
        max_examples=500,
        phases=[Phase.generate],
        deadline=None,
        database=None,
        suppress_health_check=list(HealthCheck),
    )
    @given(SETS)
    def gather(values: list[tuple[str, str]]) -> None:
        sets.append(values)

    gather()
    assert len(sets) >= 450
    browser.open("/licences")
    script = """
      return arguments[0].map(([pairs, written]) => [
        new URLSearchParams(pairs).toString(),
        [...new URLSearchParams(written)],
      ]);
    """
    asked = [[values, urlencode(values)] for values in sets]
    for values, (written, read) in zip(
        sets, browser.driver.execute_script(script, asked), strict=True
    ):
        assert parse_qsl(written, keep_blank_values=True) == values
        assert [tuple(pair) for pair in read] == values
