"""Drawings that stand alone: of every kind of question, in both directions, in two widths."""

import random
from typing import Any
from xml.etree import ElementTree

import pytest

from jotgate.core.entries.display import Reader
from jotgate.core.figures.arrivals import Arrivals
from jotgate.core.figures.figure import figure_of
from jotgate.core.figures.pictures import Bar, Bars, Bin, Bins, Picture, Plain
from jotgate.core.shared_pages.canvas import NARROW, WIDE, Canvas, width_of, wrapped
from jotgate.core.shared_pages.drawing import drawing, standalone
from jotgate.core.shared_pages.html import shared_page
from jotgate.core.shared_pages.page import (
    DrawnArrivals,
    DrawnFigure,
    DrawnPage,
    DrawnWords,
    NotShown,
)
from jotgate.core.shared_pages.tables import tables
from jotgate.core.shared_pages.words_of_people import without_words
from tests.core.figures.test_figure import BY_KEY, NOW, PLAN, tallied
from tests.services.staff.entries.chance_entries import answers

SVG = "{http://www.w3.org/2000/svg}"


def pictures(language: str) -> dict[str, Picture]:
    """One of each question, of three hundred made-up answers."""
    chance, said = random.Random(8), dict[str, list[Any]]()
    for _ in range(300):
        for key, value in answers(PLAN.questionnaire, NOW, chance).items():
            said.setdefault(key, []).append(value)
    reader = Reader(PLAN, language)
    drawn = {key: figure_of(BY_KEY[key], tallied(given), reader) for key, given in said.items()}
    assert None not in drawn.values()
    return {key: one for key, one in drawn.items() if one is not None}


def read(svg: str) -> ElementTree.Element:
    return ElementTree.fromstring(svg)


@pytest.mark.parametrize("width", [WIDE, NARROW])
@pytest.mark.parametrize("language", ["en", "es", "ar"])
def test_every_kind_of_question_is_drawn_inside_its_frame(language: str, width: float) -> None:
    drawn = set()
    for key, picture in pictures(language).items():
        root = read(drawing(picture, f"<{key}>", language, width))
        assert root.get("aria-label") == f"<{key}>" == root.findtext(f"{SVG}title")
        _, _, wide, high = map(float, str(root.get("viewBox")).split())
        assert wide == width
        for box in root.iter(f"{SVG}rect"):
            x, y, w, h = (float(str(box.get(name))) for name in ("x", "y", "width", "height"))
            assert -0.1 <= x <= x + w <= wide + 2.1, key
            assert -0.1 <= y <= y + h <= high + 0.1, key
        for one in root.iter(f"{SVG}text"):
            assert 0 <= float(str(one.get("x"))) <= wide, key
            assert 0 < float(str(one.get("y"))) <= high, key
        drawn.add(type(picture).__name__)
    assert drawn == {"Bars", "Bins", "Ranks", "Texts", "Files", "Gathered", "Plain"}


def test_what_is_read_from_the_right_is_its_mirror() -> None:
    picture = Bars(bars=(bar("One", 3), bar("Two", 1)))
    there, here = (list(read(drawing(picture, "", of)).iter(f"{SVG}rect")) for of in ("ar", "en"))
    assert len(there) == len(here) == 10
    for one, other in zip(there, here, strict=True):
        x, width = (float(str(other.get(name))) for name in ("x", "width"))
        mirrored = float(str(one.get("x")))
        assert mirrored == pytest.approx(WIDE - x - width, abs=0.11)
        assert one.get("y") == other.get("y")


def bar(label: str, count: int) -> Bar:
    return Bar(label=label, count=count, share=count / 4, low=0.1, high=0.9)


def test_bars_are_as_long_as_their_shares() -> None:
    boxes = read(drawing(Bars(bars=(bar("One", 3), bar("Two", 1))), "", "en"))
    wide: dict[str, list[float]] = {"bar": [], "track": []}
    for box in boxes.iter(f"{SVG}rect"):
        if (kind := str(box.get("class"))) in wide:
            wide[kind].append(float(str(box.get("width"))))
    shares = [one / whole for one, whole in zip(wide["bar"], wide["track"], strict=True)]
    assert shares == pytest.approx([0.75, 0.25], abs=0.001)


def test_columns_are_as_high_as_their_counts() -> None:
    counts = (4, 0, 2)
    picture = Bins(
        bins=tuple(Bin(label=str(n), low=n, high=n, count=one) for n, one in enumerate(counts)),
    )
    boxes = read(drawing(picture, "", "en")).iter(f"{SVG}rect")
    high = [float(str(one.get("height"))) for one in boxes if one.get("class") == "bar"]
    assert high == [120, 0, 60]


def test_lines_are_as_long_as_they_may_be_and_nothing_is_lost_in_silence() -> None:
    said = "We carry it home from the well by the chapel, twice a day, in three cans " * 3
    for width in (60.0, 184.0, 640.0):
        lines = wrapped(said, width, 100)
        assert " ".join(lines).split() == said.split()
        assert all(width_of(line) <= width for line in lines)
        short = wrapped(said, width, 2)
        assert len(short) == 2
        assert short[-1].endswith("…") == (len(lines) > 2)
    broken = wrapped("w" * 300, 100, 100)
    assert "".join(broken) == "w" * 300
    assert all(width_of(line) <= 100 for line in broken)
    assert wrapped("", 100) == [""]
    assert wrapped("水" * 30, 130, 100) == ["水" * 10] * 3
    assert width_of("e\u0301") == width_of("e")


def test_what_people_wrote_is_text_and_nothing_else() -> None:
    canvas = Canvas(WIDE, False)
    canvas.words('<script>alert(1)</script> & "more"')
    root = read(canvas.svg('"><script>'))
    assert [one.tag for one in root] == [f"{SVG}title", f"{SVG}text"]
    assert root[1].text == '<script>alert(1)</script> & "more"'


def test_a_drawing_by_itself_says_what_it_is_of() -> None:
    one = DrawnFigure(key="k", title="Where from?", asked=5, answered=0, picture=None)
    said = [text.text for text in read(standalone(one, "en")).iter(f"{SVG}text")]
    assert said == ["Where from?", "Answered: 0 of 5 who were asked"]
    unknown = one.model_copy(update={"asked": None, "answered": 1_234})
    said = [text.text for text in read(standalone(unknown, "es")).iter(f"{SVG}text")]
    assert said == ["Where from?", "Respuestas: 1234"]


@pytest.mark.parametrize("language", ["en", "es", "ar", "fr"])
def test_a_page_has_all_its_parts_and_the_numbers_behind_them(language: str) -> None:
    drawn = pictures(language)
    figures = tuple(
        DrawnFigure(key=key, title=f"<{key}>", asked=None, answered=300, picture=picture)
        for key, picture in drawn.items()
    )
    parts = (DrawnWords(words="# A\n\n*b* <i>c</i>"), *figures, NotShown(key="gone"))
    page = DrawnPage(
        title="<T>",
        language=language,
        of="answered",
        entries=300,
        counted=NOW.now,
        parts=parts,
    )
    html = shared_page(page, "<O>", "UTC", "n", "/pdf")
    assert "<i>" not in html
    assert "<h2>A</h2>" in html
    assert all(f"&lt;{key}&gt;" in html for key in drawn)
    many = sum(len(list(tables(one, language))) for one in drawn.values())
    assert html.count("<table>") == many > len(drawn) / 2
    assert html.count('class="narrow"') == sum(not isinstance(one, Plain) for one in drawn.values())
    on_paper = shared_page(page, "<O>", "UTC")
    assert on_paper.count("<table>") == many
    assert "narrow" not in on_paper.partition("</style>")[2]
    assert "<details" not in on_paper


def test_arrivals_have_their_two_pictures() -> None:
    bins = Bins(bins=(Bin(label="Mon", low=0, high=1, count=2),))
    came = Arrivals(over_time=bins, by_hour=bins, zone="UTC")
    part = DrawnArrivals(arrivals=came)
    page = DrawnPage(
        title="T", language="en", of="asked", entries=2, counted=NOW.now, parts=(part,)
    )
    html = shared_page(page, "O", "UTC", "n", "/pdf")
    assert html.count('class="wide"') == 2
    assert "Shares are" not in html, "nothing here has any"


def test_what_people_wrote_is_counted_and_not_shown_to_others() -> None:
    texts = 0
    for picture in pictures("en").values():
        shown = without_words(picture)
        assert shown is not None
        texts += shown != picture
        assert '"often":[{' not in shown.model_dump_json()
        assert type(shown).model_validate_json(shown.model_dump_json()) == shown
    assert texts > 2, "there were some, also inside of others"
    assert without_words(None) is None
