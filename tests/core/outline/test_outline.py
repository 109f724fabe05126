"""Outlines as people write them, with the questions that a person would make of them.

The outlines are made up, in the ways in which lists of questions are commonly written
(common practice): numbered, dashed, set in, from word processors and spreadsheets.
"""

from pathlib import Path
from random import Random
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.document.questionnaire import Page
from jotgate.core.outline import MOST, Jot, jot

LANGUAGE = {"spanish": "es", "arabic": "ar", "german": "de"}
FOLDER = Path(__file__).parent / "outlines"


def _cases() -> list[Any]:
    found = []
    for path in sorted(FOLDER.rglob("*.txt")):
        text = path.read_bytes().decode()
        for part in text.split("%%% ")[1:]:
            name, _, rest = part.partition("\n")
            outline, _, wanted = rest.partition("%%%=\n")
            language = LANGUAGE.get(path.stem, "en")
            found.append(
                pytest.param(
                    outline, wanted, language, id=f"{path.parent.name} {path.stem}: {name}"
                )
            )
    return found


def told(found: Jot, language: str) -> str:
    """`found` in the short form of the expectations."""
    paged = len(found.pages) > 1 or any(page.title for page in found.pages)
    lines = []
    for page in found.pages:
        lines += [f"page {page.title}".rstrip()] if paged else []
        lines += [_item(one.item.model_dump(), language) for one in page.items]
    return "\n".join(lines)


def _item(item: dict[str, Any], language: str) -> str:
    star = "*" if item.get("required") else ""
    words = f"{item['kind']}{star} {item['text'][language]}"
    for option in item.get("options", ()):
        words += f" | {option['label'][language]}{'!' if option['alone'] else ''}"
    if item.get("else_label"):
        words += f" | ~{item['else_label'][language]}"
    if item["kind"] == "scale":
        words += f" <{item['low']}-{item['high']}>"
    for row in item.get("rows", ()):
        words += f" # {row['label'][language]}"
    for column in item.get("columns", ()):
        words += f" [{_cell(column, language)}]"
    if item.get("placeholder"):
        words += f" {{{item['placeholder'][language]}}}"
    if item.get("help"):
        words += f" ({item['help'][language]})"
    return words


def _cell(column: dict[str, Any], language: str) -> str:
    if column["kind"] == "scale":
        return f"scale {column['low']}-{column['high']}"
    labels = (option["label"][language] for option in column.get("options", ()))
    return f"{column['kind']} {' | '.join(labels)}".strip()


@pytest.mark.parametrize(("outline", "wanted", "language"), _cases())
def test_an_outline_becomes_what_a_person_would_make_of_it(
    outline: str, wanted: str, language: str
) -> None:
    assert told(jot(outline, language), language) == wanted.strip()


def test_there_are_sixty_outlines_and_none_is_there_twice() -> None:
    cases = _cases()
    assert len({case.values[0] for case in cases}) == len(cases) >= 60


def test_keys_are_their_own_and_none_that_is_taken() -> None:
    found = jot("Your name\nYour name\nYour name", taken={"your_name"})
    assert [one.item.key for one in found.pages[0].items] == [
        "your_name_2",
        "your_name_3",
        "your_name_4",
    ]


def test_every_guess_says_why() -> None:
    items = jot("How many?\nWhich?\n- a\n- b\nX").pages[0].items
    assert [one.why for one in items] == [
        '"How many" asks for a number',
        "2 options stand below it",
        "nothing says otherwise",
    ]


def test_two_hundred_questions_and_more_than_fit() -> None:
    text = "\n".join(f"{at}. How many in field {at}? *\n- one\n- two" for at in range(1, 201))
    (page,) = jot(text).pages
    assert len(page.items) == 200
    assert len({one.item.key for one in page.items}) == 200
    many = jot("\n".join(f"{at}. Which?" for at in range(MOST + 5)))
    assert sum(len(page.items) for page in many.pages) == MOST
    assert many.remarks[-1] == f"Only the first {MOST} questions are taken."


PIECES = (
    "rate from 1 to 5",
    "(good / bad)",
    "(1 = no, 5 = yes)",
    "\n- a",
    "\n- b",
    "1. ",
    "- ",
    "a) ",
    "* ",
    "# ",
    "[ ] ",
    "\t",
    "Which?",
    "e.g. x",
    "(yes/no)",
    "\n",
    "*",
)


@given(st.text(max_size=200) | st.lists(st.sampled_from(PIECES), max_size=40).map("".join))
def test_nothing_is_refused_and_all_of_it_can_stand_in_a_draft(text: str) -> None:
    found = jot(text, taken={"question"})
    items = [one.item.model_dump() for page in found.pages for one in page.items]
    Page.model_validate({"key": "p", "title": {"en": ""}, "items": items})
    keys = [item["key"] for item in items]
    assert len(set(keys)) == len(keys)
    assert "question" not in keys


LINES = (
    *("How many people drink it?", "- kitchen tap", "Something was brown", "Which of these? *"),
    *(
        "1. Your name",
        "a) the garden",
        "# Water",
        "Ours is old",
        "Your email (optional)",
        "[ ] boil",
    ),
    *("Date of birth (DD/MM/YYYY)", "Status (single, married)", "Notes:", "Rate it 1 to 5", "- x"),
    *("Page 2: Health", "yes/no", "Is it clear? (yes/no)", "\tset in", "* starred", "Ende?", ""),
    *("¿Cuántos pozos tiene?", "كم بئرًا لديك؟", "Wie tief ist er?", "e.g. twelve", "---"),
    *(
        "Which colour: red / green / blue",
        "a very long line that goes on and on (with more in it)",
    ),
)


def words_of(found: Jot) -> str:
    items = [str(one.item.model_dump()) for page in found.pages for one in page.items]
    return " ".join([*(page.title for page in found.pages), *items]).casefold()


@pytest.mark.parametrize("turn", range(5))
def test_every_line_is_proposed_or_told(turn: int) -> None:
    """A thousand outlines each: every distinctive word is somewhere, or its line is told."""
    dice = Random(turn)
    for _ in range(1000):
        made = []
        for number in range(dice.randint(1, 9)):
            line = dice.choice(LINES)
            made.append(line and f"{line} zq{'vwxyz'[turn]}{'jklmprstu'[number]}")
        found = jot("\n".join(made))
        told = {one.line for one in found.left}
        there = words_of(found)
        for number, line in enumerate(made, start=1):
            marker = line.rpartition(" ")[2]
            assert not line or marker in there or number in told, made


@pytest.mark.parametrize(
    "outline", ["Which of them?\n- only one", "Which of them?\nA plain line below it"]
)
def test_a_single_option_or_line_below_a_question_is_kept(outline: str) -> None:
    found = jot(outline)
    assert outline.split("\n")[1].strip("- ").casefold() in words_of(found)
    assert found.left == ()


def test_what_is_left_out_is_told_with_its_line() -> None:
    found = jot("Depth (number)\n- shallow\n- deep\nYour name")
    assert [(one.line, one.words) for one in found.left] == [(2, "- shallow"), (3, "- deep")]


@pytest.mark.parametrize(
    ("outline", "wanted"),
    [
        ("Date of birth (DD/MM/YYYY)", "date Date of birth"),
        ("Geburtsdatum (TT.MM.JJJJ) *", "date* Geburtsdatum"),
        ("Status (single, married, widowed)", "pick_one Status | single | married | widowed"),
        (
            "Wie viele Personen trinken davon? (Pflichtfeld)",
            "number* Wie viele Personen trinken davon?",
        ),
        ("Wofür? (Mehrfachauswahl)\n- Trinken\n- Garten", "pick_many Wofür? | Trinken | Garten"),
        ("Haben Sie einen Brunnen?", "yes_no Haben Sie einen Brunnen?"),
        ("Trinken Sie Wasser?\n- Ja\n- Nein", "yes_no Trinken Sie Wasser?"),
        (
            "How was it, from 1 (bad) to 5 (good)?",
            "scale How was it, from 1 (bad) to 5 (good)? <1-5>",
        ),
        ("Vor- und Nachname", "name Vor- und Nachname"),
        ("Was it 0 to 5? (yes/no)", "yes_no Was it 0 to 5?"),
        (
            "Please rate from 1 to 5 (good / bad)\n- hall\n- chairs",
            "grid Please rate from 1 to 5 # hall # chairs [pick_one good | bad]",
        ),
    ],
)
def test_more_that_people_write(outline: str, wanted: str) -> None:
    assert told(jot(outline), "en") == wanted
