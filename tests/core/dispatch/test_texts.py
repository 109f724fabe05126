"""Texts with slots: their forms, and whatever somebody may have answered."""

import email
from datetime import UTC, date, datetime
from decimal import Decimal
from email import policy
from email.message import EmailMessage
from html.parser import HTMLParser
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.adapters.smtp import Server, SmtpMail
from jotgate.core.dispatch.effects import NoticePlanned
from jotgate.core.dispatch.gathered import gathered_letter
from jotgate.core.dispatch.texts import FORMS, slots_in
from jotgate.core.formats.letter_page import letter_page
from jotgate.ports.mail import Letter
from tests.core.dispatch.rules import notice, rules, run
from tests.documents import item, options, page, plan

MANY = plan(
    page(
        "p",
        item("short_text", "name"),
        item("long_text", "story"),
        item("date", "day"),
        item("date_time", "at"),
        item("number", "n", decimals=2),
        item("pick_many", "uses", options=options("drink", "wash")),
        item("pick_one", "source", options=options("own", "mains")),
        item("name", "who", parts=["given", "family"]),
        item("file", "photo"),
    ),
    languages=["en", "es"],
    time_zone="Asia/Kolkata",
)
ANSWERS: dict[str, Any] = {
    "name": "Ines",
    "story": "one\ntwo",
    "day": date(2026, 11, 25),
    "at": datetime(2026, 11, 25, 20, tzinfo=UTC),
    "n": Decimal("12345.50"),
    "uses": ("drink", "wash"),
    "source": "own",
    "who": {"given": "Ines", "family": "Carvalho"},
}


def letter(body: str, answers: dict[str, Any] | None = None, **more: Any) -> NoticePlanned:
    (found,) = run(rules(otherwise=(notice(body, **more),)), answers or ANSWERS, plan=MANY).effects
    assert isinstance(found, NoticePlanned)
    return found


@pytest.mark.parametrize(
    ("slot", "wanted"),
    [
        ("{day}", "25 November 2026"),
        ("{day:weekday}", "Wednesday, 25 November 2026"),
        ("{day:short}", "25/11/2026"),
        ("{day:iso}", "2026-11-25"),
        ("{at}", "26 November 2026, 01:30"),
        ("{at:weekday}", "Thursday, 26 November 2026"),
        ("{n}", "12345.5"),
        ("{n:whole}", "12346"),
        ("{n:grouped}", "12,345.5"),
        ("{uses}", "Drink, Wash"),
        ("{uses:list}", "- Drink\n- Wash"),
        ("{uses:code}", "drink, wash"),
        ("{source}", "Own"),
        ("{source:code}", "own"),
        ("{who.given}", "Ines"),
        ("{story:line}", "one two"),
        ("{photo|no photo}", "no photo"),
        ("{entry.weekday}", "Wednesday"),
        ("{entry.finish}", "booked"),
        ("{contact.name|stranger}", "stranger"),
    ],
)
def test_a_slot_reads_in_its_form(slot: str, wanted: str) -> None:
    """The words for days and numbers are those of Unicode's CLDR, by way of Babel."""
    assert letter(slot).plain == wanted


def test_every_form_does_something_and_none_fails() -> None:
    for name in ANSWERS:
        for form in FORMS:
            assert letter(f"{{{name}:{form}}}").plain


def test_slots_tell_what_they_stand_beside() -> None:
    one, two, three = slots_in("Dear{name}, on {day:weekday|soon} {n}litres")
    assert (one.is_glued, two.is_glued, three.is_glued) == (True, False, True)
    assert (two.name, two.form, two.otherwise) == ("day", "weekday", "soon")


class Seen(HTMLParser):
    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.tags: list[tuple[str, dict[str, str | None]]] = []
        self.text = ""

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.tags.append((tag, dict(attrs)))

    def handle_data(self, data: str) -> None:
        self.text += data


HOSTILE = [
    "<script>alert(1)</script>",
    "<img src=x onerror=alert(1)>",
    "[click](https://evil.example)",
    "![x](https://evil.example/p.png)",
    "**bold** _it_ `code`",
    "a\r\nBcc: everyone@example.com\r\n\r\nBody",
    "=?utf-8?q?Hello?=",
    "\ue0000\ue001 and \ue0009\ue001",
    "{name} {story} {{n}}",
    "# Heading\n- list\n1. two\n> quote",
    "</body></html>",
    "\u202eevil",
    "&lt;b&gt;",
    "x" * 10_000,
]


@pytest.mark.parametrize("said", HOSTILE)
def test_an_answer_is_words_and_never_markup(said: str) -> None:
    found = letter("Said: {story}, {name}", {"story": said, "name": said}, subject="About {name}")
    seen = Seen()
    seen.feed(found.html)
    assert {tag for tag, _ in seen.tags} <= {"p", "br"}
    assert (
        said.replace("\r", "").replace("\n", " ").split() <= seen.text.split()
        or said.split()[0] in seen.text
    )
    assert "\n" not in found.subject
    assert found.plain.startswith("Said: ")


@given(st.text(max_size=300), st.text(max_size=300))
def test_no_answer_makes_markup_whatever_it_is(one: str, two: str) -> None:
    found = letter("**{story}** and [a]({x}) {name}", {"story": one, "name": two})
    seen = Seen()
    seen.feed(found.html)
    assert {tag for tag, _ in seen.tags} <= {"p", "br", "strong", "em", "a"}
    assert all("evil" not in str(attributes) for _, attributes in seen.tags)


@pytest.mark.parametrize("said", HOSTILE)
def test_a_letter_is_one_letter_with_two_parts(said: str) -> None:
    """Parsed by Python's own `email`, as the receiving side would (RFC 5322, RFC 2046)."""
    found = letter("Said: {story}", {"story": said, "name": said}, subject="About {name}")
    sent = Letter("id", found.to, found.subject, found.plain, html=letter_page(found.html, "en"))
    raw = SmtpMail(Server("127.0.0.1", 1), "Us <us@example.org>").written(sent).as_bytes()
    message = email.message_from_bytes(raw, policy=policy.default)
    assert isinstance(message, EmailMessage)
    assert message.get_all("To") == ["a@example.org"]
    assert message["Bcc"] is None
    assert [part.get_content_type() for part in message.iter_parts()] == [
        "text/plain",
        "text/html",
    ]
    assert max(map(len, raw.splitlines())) <= 998
    plain = message.get_body(("plain",))
    assert plain is not None
    assert plain.get_content().split() == found.plain.split()


def test_letters_that_are_gathered_are_all_there() -> None:
    parts = [(f"S{n} & more", f"plain {n}", f"<p>html {n}</p>") for n in range(3)]
    subject, plain, html = gathered_letter(parts, "en")
    assert subject == "3 letters: S0 & more, and more"
    assert all(f"plain {n}" in plain and f"html {n}" in html for n in range(3))
    assert "S1 &amp; more" in html
    assert 'dir="rtl"' in gathered_letter(parts, "ar")[2]
