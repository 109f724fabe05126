"""Letters on paper: addresses measured in the PDF lie in the window, codes are read from the page
(zxing-cpp), both sides of sheets are told apart. Windows: DIN 5008:2020 and a No. 10 envelope, both
from memory; the second is common practice."""

from uuid import UUID

import pypdfium2
import pytest
import zxingcpp
from hypothesis import given
from hypothesis import strategies as st

from jotgate.adapters.printing import joined, pdf
from jotgate.core.common.typed_code import LETTERS, code_of, read, shown
from jotgate.core.contacts.contact import Contact
from jotgate.core.mailing import MailingText
from jotgate.core.rounds.paper import POINT, SHEETS, PaperWindow, Post, fitted, width_of
from jotgate.core.rounds.paper_letter import (
    Addressed,
    PaperLetter,
    address_of,
    on_paper,
    paper_page,
)

POST = Post(
    lines="{contact.name}\n{contact.street}\n{contact.postcode} {contact.town}",
    postcode="postcode",
    sender="Well Watch, 5 Mill Lane, 12345 Thornmere",
)
TEXT = MailingText(
    subject={"en": "Is your well all right?", "ar": "هل بئركم بخير؟"},
    body={"en": "Dear {contact.name},\n\ncome to {link} **soon**.\n", "ar": "عزيزنا\n\n{link}\n"},
)
LINK = "https://wells.example.org/p/vj96pq/5shB2V8uoo0Qqhf7XcpI"
TOWNS = [
    ("Ada Moor", "Mill Lane 5", "10115", "Thornmere"),
    ("WWWWWWWWWW MMMMMMMMMM WWWWWWWWWW", "W" * 120, "99999", "MWMWMWMWMW " * 3),
    ("Ingeborg-Annemarie Freifrau von Hohenthornmere und zu Saltings", "Æ" * 50, "1", "Ł" * 30),
    ("أنيسة بنت الوادي", "شارع الطاحونة ٥", "11511", "ثورنمير"),
    ("<b>Ada</b> & Bo", "\u202eMill Lane", "2", "x\ty"),
]


def contact(name: str, street: str, postcode: str, town: str, language: str = "en") -> Contact:
    own = {"street": street, "postcode": postcode, "town": town}
    return Contact(UUID(int=1), name=name, language=language, fields=own)


def letter(one: Contact, window: PaperWindow, text: MailingText = TEXT) -> PaperLetter | None:
    to = address_of(POST, one, window)
    there = Addressed(LINK, "wells.example.org/c", "BCDFGHJK")
    return None if to is None else on_paper(text, POST, one, "en", there, to)


def printed(letters: list[PaperLetter], window: PaperWindow, duplex: bool = False) -> bytes:
    return pdf(paper_page(letters, window, duplex))


@pytest.mark.parametrize("window", SHEETS)
def test_addresses_lie_in_the_window(window: PaperWindow) -> None:
    made = [letter(contact(*town), window) for town in TOWNS]
    fit = [one for one in made if one is not None]
    assert len(fit) >= (4 if window == "no_10" else 5)
    found, sheet = pypdfium2.PdfDocument(printed(fit, window)), SHEETS[window]
    assert len(found) == len(fit)
    for page in found:
        assert page.get_size() == pytest.approx((sheet.width / POINT, sheet.height / POINT), abs=1)
        box, lines = sheet.address, _boxes(page, sheet.address.top, sheet.text)
        assert lines
        for left, top, right, bottom in lines:
            assert box.left - 0.3 <= left
            assert right <= box.left + box.width
            assert box.top <= top
            assert bottom <= box.top + box.height
        assert min(left for left, *_ in lines) < box.left + 1.5


def _boxes(
    page: pypdfium2.PdfPage, top: float, bottom: float
) -> list[tuple[float, float, float, float]]:
    """The glyphs whose middle is between two heights: their edges in millimetres from the upper
    left corner of the sheet."""
    words, height = page.get_textpage(), page.get_height()
    found = []
    for at in range(words.count_chars()):
        left, low, right, high = words.get_charbox(at)
        middle = (height - (low + high) / 2) * POINT
        if right > left and top - 3 < middle < bottom - 2:
            edges = (left, height - high, right, height - low)
            a, b, c, d = (each * POINT for each in edges)
            found.append((a, b, c, d))
    return found


def test_codes_are_read_from_the_page() -> None:
    one = letter(contact(*TOWNS[0]), "din_b")
    assert one is not None
    page = pypdfium2.PdfDocument(printed([one], "din_b"))[0]
    (code,) = zxingcpp.read_barcodes(page.render(scale=300 / 72).to_pil())
    assert code.text == LINK
    words = page.get_textpage().get_text_range()
    assert words.count("BCDF GHJK") == 2
    assert "wells.example.org/c" in words
    assert "soon" in words


def test_a_letter_from_right_to_left_has_its_address_in_the_same_place() -> None:
    one = letter(contact(*TOWNS[3], language="ar"), "din_a")
    assert one is not None
    assert 'dir="rtl"' in paper_page([one], "din_a", False)
    page = pypdfium2.PdfDocument(printed([one], "din_a"))[0]
    box = SHEETS["din_a"].address
    edges = [left for left, *_ in _boxes(page, box.top, SHEETS["din_a"].text)]
    assert min(edges) == pytest.approx(box.left, abs=1)
    assert len(zxingcpp.read_barcodes(page.render(scale=200 / 72).to_pil())) == 1


def test_on_both_sides_every_letter_begins_on_a_front() -> None:
    long = MailingText(subject={"en": "Long"}, body={"en": "A paragraph.\n\n" * 40})
    texts = [TEXT, long, TEXT, TEXT, long]
    made = [letter(contact(*TOWNS[0]), "din_b", text) for text in texts]
    letters = [one for one in made if one is not None]
    part, last = printed(letters, "din_b", duplex=True), printed(letters[:1], "din_b", duplex=True)
    whole = joined([part, last, last], fronts=True)
    assert whole.first == (1, 3, 5, 7, 9, 11, 13)
    assert whole.pages == 13
    single = joined([printed(letters, "din_b"), printed(letters[:1], "din_b")], fronts=False)
    assert single.first == (1, 2, 4, 5, 6, 8)


def test_an_address_without_room_is_no_address() -> None:
    assert letter(contact("A", "s" * 500, "1", "T"), "no_10") is None
    assert address_of(Post(lines=" \n"), contact(*TOWNS[0]), "din_b") is None


@given(st.lists(st.text(max_size=90), max_size=9), st.sampled_from(list(SHEETS)))
def test_nothing_of_an_address_is_lost_or_too_wide(lines: list[str], window: PaperWindow) -> None:
    box = SHEETS[window].address
    found = fitted(lines, box)
    if found is None:
        return
    assert "".join("".join(found.lines).split()) == "".join("".join(lines).split())
    for line in found.lines:
        assert width_of(line) * found.size * POINT <= box.width + 1e-6
    assert len(found.lines) * found.size * POINT * 1.2 <= box.height + 1e-6


@given(st.binary(min_size=16, max_size=32))
def test_a_typed_code_is_read_as_it_was_printed(mark: bytes) -> None:
    code = code_of(mark)
    assert len(code) == 8
    assert set(code) <= set(LETTERS)
    for typed in (code, shown(code), shown(code).lower(), f" {code[:2]}-{code[2:]}. "):
        assert read(typed) == code


@pytest.mark.parametrize("typed", ["", "BCDFGHJ", "BCDFGHJKL", "ABCDFGHJ", "BCDF1HJK", "é" * 8])
def test_what_cannot_be_a_code_is_none(typed: str) -> None:
    assert read(typed) == ""
