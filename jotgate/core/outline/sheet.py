"""Questions from the rows of a spreadsheet: one a row, its options beside it."""

import csv
import re
from collections.abc import Sequence
from dataclasses import replace
from io import StringIO

from jotgate.core.outline.asked import OutlineQuestion, read
from jotgate.core.outline.blocks import Block
from jotgate.core.outline.words import NAMED, REQUIRED, YES

_HEADS: tuple[tuple[str, re.Pattern[str]], ...] = (
    (
        "words",
        re.compile(
            r"^(?:questions?|text|wording|item|preguntas?|texto|fragen?|wortlaut|السؤال|الأسئلة)$",
            re.I,
        ),
    ),
    ("kind", re.compile(r"^(?:types?|kind|answer type|tipo|clase|art|typ|النوع|نوع)$", re.I)),
    (
        "options",
        re.compile(
            r"^(?:options?|choices|answers?|opciones|respuestas|auswahl|optionen|antworten|الخيارات)$",
            re.I,
        ),
    ),
    (
        "required",
        re.compile(
            r"^(?:required|mandatory|must|obligatori[ao]|pflicht(?:feld)?|مطلوب|إلزامي)\??$", re.I
        ),
    ),
    ("help", re.compile(r"^(?:help|hint|notes?|ayuda|nota|hilfe|hinweis|ملاحظة|مساعدة)$", re.I)),
    (
        "page",
        re.compile(r"^(?:page|section|part|página|sección|seite|abschnitt|الصفحة|القسم)$", re.I),
    ),
)
_NUMBER = re.compile(r"^[Qq]?[\d٠-٩]{1,3}[.)]?$")


_RULE = re.compile(r"[|\s:+=-]+")


def untabled(text: str) -> str:
    """`text` with tabs for the bars between cells, where it is a table drawn with bars."""
    said = [line.strip() for line in text.split("\n") if line.strip()]
    barred = sum(line.startswith("|") and line.count("|") > 2 for line in said)
    if barred < 2 or barred * 2 <= len(said):
        return text
    return "\n".join(_cells(line.strip()) for line in text.split("\n"))


def _cells(line: str) -> str:
    if not line.startswith("|"):
        return line
    if _RULE.fullmatch(line):
        return ""
    return "\t".join(cell.strip() for cell in line.strip("|").split("|"))


def is_sheet(text: str) -> bool:
    """Whether most lines have cells, that is tabs behind their first word."""
    said = [line for line in text.split("\n") if line.strip()]
    celled = sum("\t" in line.lstrip() and not line.startswith("o\t") for line in said)
    return celled >= 1 and celled * 2 > len(said) and not _bulleted(said)


def _bulleted(said: Sequence[str]) -> bool:
    """Lists that a word processor copied: a bullet or a number, a tab, the words."""
    return all(re.match(r"^\s*(?:(?:[^\w\s]|o|\w{1,3}[.)])\t)?[^\t]*$", line) for line in said)


def sheet(text: str) -> list[Block]:
    """The pages of a sheet, one unless it has a column that names them."""
    rows = [[cell.strip() for cell in row] for row in csv.reader(StringIO(text), "excel-tab")]
    numbered = [(at, row) for at, row in enumerate(rows, start=1) if any(row)]
    heads = _heads(numbered[0][1]) if numbered else {}
    found: list[Block] = []
    for at, row in numbered[1:] if heads else numbered:
        asked, page = _named(at, row, heads) if heads else (_plain(at, row), "")
        if not asked.words:
            continue
        if not found or (page and page != found[-1].title):
            found.append(Block(page, bool(page)))
        found[-1].asked.append(asked)
    return found


def _heads(row: Sequence[str]) -> dict[str, int]:
    found = {name: at for at, cell in enumerate(row) for name, head in _HEADS if head.match(cell)}
    return found if "words" in found else {}


def _named(at: int, row: Sequence[str], heads: dict[str, int]) -> tuple[OutlineQuestion, str]:
    def cell(name: str) -> str:
        column = heads.get(name)
        return row[column] if column is not None and column < len(row) else ""

    asked = read(at, cell("words"))
    kind = NAMED.get(cell("kind").lower(), asked.kind)
    must = cell("required")
    return replace(
        asked,
        kind=kind,
        options=_options(cell("options")) or asked.options,
        required=asked.required or bool(YES.match(must) or REQUIRED.match(must) or must in "x×✓*1")
        if must
        else asked.required,
        help=cell("help") or asked.help,
    ), cell("page")


def _options(cell: str) -> tuple[str, ...]:
    for divider in ("\n", ";", "|", ","):
        if divider in cell:
            parts = [part.strip(" -•") for part in cell.split(divider)]
            return tuple(dict.fromkeys(part for part in parts if part))
    return (cell,) if cell else ()


def _plain(at: int, row: list[str]) -> OutlineQuestion:
    """A row without headings: the question, then its kind, a star, or what is picked."""
    cells = row[1:] if len(row) > 1 and _NUMBER.match(row[0]) else row
    asked = read(at, cells[0])
    options: list[str] = []
    for cell in (one for one in cells[1:] if one):
        if cell.lower() in NAMED:
            asked = replace(asked, kind=NAMED[cell.lower()])
        elif cell in "*×x✓" or REQUIRED.fullmatch(cell):
            asked = replace(asked, required=True)
        else:
            options.extend(_options(cell))
    return replace(asked, options=tuple(dict.fromkeys(options)) or asked.options)
