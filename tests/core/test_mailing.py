"""A letter as one contact reads it, in plain text and formatted."""

from datetime import timedelta
from html.parser import HTMLParser
from uuid import UUID

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.contacts.contact import Contact
from jotgate.core.mailing import FASTEST, Composed, MailingText, composed, pace

LINK, OUT = "https://jot.example.org/p/abc/secret", "https://jot.example.org/out/token"


def letter(body: str, language: str = "en", name: str = "") -> Composed:
    text = MailingText(subject={"en": "Well of {contact.name|you}"}, body={language: body})
    contact = Contact(UUID(int=1), language=language, name=name)
    return composed(text, contact, language, LINK, OUT)


class Read(HTMLParser):
    """Tags with their attributes, and the words between them."""

    def __init__(self, html: str) -> None:
        super().__init__()
        self.tags: list[tuple[str, dict[str, str | None]]] = []
        self.words = ""
        self.feed(html)

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self.tags.append((tag, dict(attrs)))

    def handle_data(self, data: str) -> None:
        self.words += data

    @property
    def links(self) -> list[str | None]:
        return [found["href"] for tag, found in self.tags if tag == "a"]


@given(st.integers(1, FASTEST), st.integers(1, 200), st.integers(0, 10**8))
def test_no_minute_has_more_than_the_pace(per_minute: int, most: int, began: int) -> None:
    """Of goes as near to each other as they may be, those that begin within 60 seconds."""
    count, apart = pace(per_minute, most)
    each = apart // timedelta(microseconds=1)
    first = -(-began // each)
    within = -(-(began + 60_000_000) // each) - first
    assert 1 <= count <= max(1, most)
    assert within * count <= per_minute
    assert (each - 1) * (per_minute // count) < 60_000_000


def test_a_link_by_itself_is_a_button_and_one_in_a_sentence_is_not() -> None:
    alone = letter("Dear neighbour,\n\n{link}\n\nThank you")
    assert alone.html.count('class="button"') == 1
    assert "Answer the questions" in alone.html
    within = letter("Answer at {link} today.")
    assert 'class="button"' not in within.html
    assert Read(within.html).links == [LINK, OUT]
    assert LINK in within.body


def test_without_one_the_link_stands_at_the_end() -> None:
    found = letter("Dear neighbour")
    assert Read(found.html).links == [LINK, OUT]
    assert found.body.index("Your own link") < found.body.index(OUT)


def test_words_are_formatted_and_what_is_known_is_not() -> None:
    found = letter("**Dear** {contact.name}: {contact.phone|no number}", name="**Ada** <b>[x](y)")
    assert "<strong>Dear</strong>" in found.html
    assert "**Ada** &lt;b&gt;[x](y)" in found.html
    assert "no number" in found.html
    assert found.subject == "Well of **Ada** <b>[x](y)"


@pytest.mark.parametrize(("language", "way"), [("en", "ltr"), ("es", "ltr"), ("ar", "rtl")])
def test_the_page_reads_in_its_language(language: str, way: str) -> None:
    page = letter("x", language).page
    tag, found = next(one for one in Read(page).tags if one[0] == "html")
    assert (tag, found["lang"], found["dir"]) == ("html", language, way)
    assert "class=" not in page
    assert 'style="display:inline-block' in page


@given(st.text(max_size=200), st.text(max_size=60))
def test_nothing_that_is_written_or_known_becomes_other_markup(body: str, name: str) -> None:
    found = Read(letter(f"{body}\n\n{{contact.name}}", name=name).html)
    allowed = set("p br em strong code pre blockquote ul ol li a hr h3 h4".split())
    assert {tag for tag, _ in found.tags} <= allowed
    known = {"href", "class", "rel", "title"}
    assert {name for _, attributes in found.tags for name in attributes} <= known
    classes = [one["class"] for _, one in found.tags if "class" in one]
    assert classes == ["button", "small"]
    for href in found.links:
        assert href is not None
        assert href.split(":")[0] in ("http", "https", "mailto", "tel")
