"""The lines of an outline: what they say, how deep they stand, and what marks them."""

import re
import unicodedata
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

Mark = Literal["", "dash", "box", "ring", "number", "letter", "heading", "rule", "blank"]

_UNSEEN = dict.fromkeys(
    [0xFEFF, 0x00AD, 0x200B, 0x200C, 0x200E, 0x200F, *range(0x202A, 0x202F), *range(0x2066, 0x206A)]
)
_SPACES = {0x00A0: " ", 0x202F: " ", 0x2007: " ", 0x2009: " ", 0x3000: " "}
_BREAKS = {0x0B: "\n", 0x0C: "\n\n", 0x2028: "\n", 0x2029: "\n\n", 0x85: "\n"}
_CHARACTERS = {**_UNSEEN, **_SPACES, **_BREAKS}

_BULLET = r"[-\u2010-\u2015\u2212•·▪◦‣⁃●■▸►➢➤✓✔\uf0b7\uf0a7\uf0d8\uf0fc]"
_MARKS: tuple[tuple[Mark, re.Pattern[str]], ...] = (
    ("rule", re.compile(r"^(?:[-–—=_*]\s?){3,}$")),
    ("heading", re.compile(r"^#{1,6}\s+")),
    ("box", re.compile(rf"^(?:{_BULLET}\s+)?(?:\[[ xX]?\]|[☐□❑❏▢☑✅\uf06f\uf0a8])\s*")),
    ("ring", re.compile(rf"^(?:{_BULLET}\s+)?(?:\( ?\)|[○◯⚪❍])\s*")),
    ("dash", re.compile(rf"^(?:{_BULLET}\s*(?=[^\s\d])|{_BULLET}\s+|\*\s+|o\t)")),
    (
        "number",
        re.compile(
            r"^(?:(?:Q|P|F|Question|Pregunta|Frage|سؤال|السؤال)\.?\s?[\d٠-٩]{1,3}\s*[.):\-–]?\s*"
            r"|[A-Z]\d{1,2}[.):]\s+"
            r"|[(\[]?[\d٠-٩]{1,3}(?:\.\d{1,2})*[.)\]:]\)?\s+"
            r"|[\d٠-٩]{1,3}\.(?=[^\d\s])"
            r"|[\d٠-٩]{1,3}(?:\.\d{1,2})+\s+"
            r"|[\d٠-٩]{1,3}\s*[-–]\s+(?=[^\d\s]))",
            re.IGNORECASE,
        ),
    ),
    ("letter", re.compile(r"^[(\[]?(?:[A-Za-z]|[ivx]{2,4}|[أبجدهوزحطي])[.)\]]\s+")),
)

_EMPTY = re.compile(rf"{_BULLET}|\*|\[ ?\]|☐|□")

_PART = re.compile(
    r"^(?:page|section|part|chapter|página|sección|parte|apartado|bloque|seite|abschnitt|teil|kapitel"
    r"|صفحة|الصفحة|قسم|القسم|جزء|الجزء)"
    r"(?:\s+[\dA-Z٠-٩]{1,3}|\s+(?:one|two|three|four|five|uno|dos|tres|الأول|الثاني|الثالث))?"
    r"\s*(?:[:.\-–—]\s*|$)",
    re.IGNORECASE,
)
_ASKS = re.compile(r"[?؟]")


@dataclass(frozen=True)
class Line:
    """`number` counts from 1; `indent` is in columns, a tab standing for four."""

    number: int
    indent: int
    mark: Mark
    words: str

    @property
    def asks(self) -> bool:
        return bool(_ASKS.search(self.words))


def clean(text: str) -> str:
    """`text` without what word processors and copying leave in it."""
    text = text.replace("\r\n", "\n").replace("\r", "\n").translate(_CHARACTERS)
    return unicodedata.normalize("NFC", text)


def lines(text: str) -> list[Line]:
    """The lines of a clean `text`, underlined ones as headings, blank ones included."""
    found = [_line(number, raw) for number, raw in enumerate(text.split("\n"), start=1)]
    return list(_joined(_underlined(found)))


def _line(number: int, raw: str) -> Line:
    bare = raw.strip()
    wide = raw.expandtabs(4)
    indent = len(wide) - len(wide.lstrip())
    if not bare:
        return Line(number, indent, "blank", "")
    if _EMPTY.fullmatch(bare):
        return Line(number, indent, "dash", "")
    whole = re.fullmatch(r"(\*\*|__)(.+?)(?:\1)([:*]?)", bare)
    if whole:
        bare = whole[2] + whole[3]
    for mark, pattern in _MARKS:
        found = pattern.match(bare)
        if found and (mark == "rule" or found.end() < len(bare)):
            return Line(number, indent, mark, _bare(bare[found.end() :]))
    if _is_heading(bare) or (whole and not whole[3] and not _ASKS.search(bare)):
        return Line(number, indent, "heading", _PART.sub("", bare) or bare)
    return Line(number, indent, "", _bare(bare))


def _bare(words: str) -> str:
    """`words` without the stars of bold print."""
    return re.sub(r"\*\*(.+?)\*\*", r"\1", words).strip()


def _is_heading(bare: str) -> bool:
    if _ASKS.search(bare) or bare.endswith("*"):
        return False
    if _PART.match(bare) and len(bare.split()) <= 10:
        return True
    letters = [one for one in bare if one.isalpha()]
    shout = len(letters) >= 4 and all(one.isupper() for one in letters)
    return shout and not bare.endswith(":")


def _underlined(found: list[Line]) -> Iterator[Line]:
    for at, line in enumerate(found):
        below = found[at + 1] if at + 1 < len(found) else None
        if below and below.mark == "rule" and _can_head(found, at):
            yield Line(line.number, line.indent, "heading", line.words)
        elif line.mark != "rule" or not _can_head(found, at - 1):
            yield line


def _can_head(found: list[Line], at: int) -> bool:
    """Whether a line alone after a gap is a heading where it is underlined."""
    alone = at == 0 or (at > 0 and found[at - 1].mark == "blank")
    return alone and found[at].mark == "" and not found[at].asks


def _joined(found: Iterator[Line]) -> Iterator[Line]:
    """A sentence that was broken to fit a width is one line again."""
    held: Line | None = None
    for line in found:
        if held and _goes_on(held, line):
            held = Line(held.number, held.indent, held.mark, f"{held.words} {line.words}")
            continue
        if held:
            yield held
        held = line
    if held:
        yield held


def _goes_on(before: Line, line: Line) -> bool:
    if before.mark in ("blank", "rule", "heading") or line.mark != "":
        return False
    broken = len(before.words) >= 50 and before.words[-1:] not in ".?!:؟*)"
    return broken and line.words[:1].islower()
