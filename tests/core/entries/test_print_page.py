"""An entry in print: everything stands in it, whatever was answered, and nothing is fetched."""

import io

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pypdf import PdfReader

from jotgate.adapters.printing import WeasyPrinting
from jotgate.core.dispatch.effects import NoticePlanned
from jotgate.core.entries.print_page import LONGEST_WORD, print_page
from tests.core.dispatch.rules import notice, rules, run

HOSTILE = (
    "<script>alert(1)</script>",
    '"><img src="file:///etc/passwd">',
    '<link rel=attachment href="file:///etc/passwd">',
    "</td></tr></table><h1>Other</h1>",
    "&lt;b&gt; &amp; <!-- -->",
    "@page { size: 1mm }",
    "line one\nline two",
    "a" * 400,
)


def words_of(data: bytes) -> str:
    """The text of a PDF, as pypdf reads it, without the ends of its lines."""
    pages = PdfReader(io.BytesIO(data)).pages
    return "".join("".join(page.extract_text() for page in pages).split())


def bare(text: str) -> str:
    return "".join(text.split())


async def test_everything_is_in_print(printing: WeasyPrinting) -> None:
    lines = [(f"Question {n}?", said) for n, said in enumerate(HOSTILE)]
    read = words_of(await printing.pdf(print_page("Well check 0007", lines, "en")))
    assert bare("Well check 0007") in read
    for name, said in lines:
        assert bare(name) in read
        assert bare(said) in read.replace("\u200b", "")


async def test_a_long_entry_has_several_pages_with_their_numbers(
    printing: WeasyPrinting,
) -> None:
    made = await printing.pdf(
        print_page("Long", [(f"Question {n}", "word " * 60) for n in range(60)], "en")
    )
    pages = PdfReader(io.BytesIO(made)).pages
    assert len(pages) > 2
    assert f"2 / {len(pages)}" in pages[1].extract_text()


async def test_a_page_is_in_the_direction_of_its_language(printing: WeasyPrinting) -> None:
    assert 'lang="ar" dir="rtl"' in print_page("فحص", [("الاسم", "نور")], "ar")
    read = words_of(await printing.pdf(print_page("فحص", [("الاسم", "نور")], "ar")))
    assert read


@settings(max_examples=300, deadline=None)
@given(st.text(max_size=300))
def test_words_are_words_and_never_markup(said: str) -> None:
    """Long ones can be broken, and are the same without what breaks them."""
    page = print_page("T", [("Q", said)], "en")
    assert page.count("<td") == page.count("<tr") == 1
    assert "<script" not in page
    cell = page.partition('<td dir="auto">')[2].partition("</td>")[0]
    assert all(len(word) <= 6 * LONGEST_WORD for word in cell.replace("\u200b", " ").split())


@pytest.mark.parametrize("said", ["a" * 10_000, "ab cd " * 1_600])
async def test_a_very_long_answer_is_laid_out(printing: WeasyPrinting, said: str) -> None:
    assert (await printing.pdf(print_page("T", [("Q", said)], "en"))).startswith(b"%PDF-")


def test_a_letter_has_it_where_that_is_wanted() -> None:
    plain, printed = notice(), notice(printed=True)
    first, second = run(rules(otherwise=(plain, printed)), {"name": "<Ada>"}).effects
    assert isinstance(first, NoticePlanned)
    assert isinstance(second, NoticePlanned)
    assert first.printed == ""
    assert "&lt;Ada&gt;" in second.printed
    assert "&lt;Ada&gt;" not in second.html
