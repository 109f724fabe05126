"""An outline, pasted or typed, as pages of typed questions.

A line is a question, lines with dashes or set in are its options, `*` makes it required, a
heading or blank lines begin pages, "e.g." gives an example. Rows of a spreadsheet work too.
Every guess says why. Nothing is refused: what is not understood is a short text to be changed.
"""

from collections.abc import Collection
from dataclasses import dataclass
from typing import Any

from pydantic import TypeAdapter

from jotgate.core.common.proposed_keys import key_from
from jotgate.core.items import Item
from jotgate.core.items.kinds import PICKED
from jotgate.core.outline.asked import OutlineQuestion
from jotgate.core.outline.blocks import blocks, paged
from jotgate.core.outline.guess import Guess, guess, is_else, is_none
from jotgate.core.outline.left import Left, left_out
from jotgate.core.outline.lines import clean, lines
from jotgate.core.outline.sheet import is_sheet, sheet, untabled

LONGEST = 200_000
"""Characters of an outline."""

MOST_LEFT = 200
"""Lines that are told as left out."""

MOST = 2000
"""Questions of an outline, as on one page."""

_ITEM: TypeAdapter[Item] = TypeAdapter(Item)
_TYPED = frozenset({"short_text", "long_text", "email", "phone", "web_address", "number"})


@dataclass(frozen=True)
class Jotted:
    """An item with the line that it came from, and why it is of this kind ("since …")."""

    line: int
    why: str
    item: Item


@dataclass(frozen=True)
class JottedPage:
    """`title` is empty where no heading named the page."""

    title: str
    items: tuple[Jotted, ...]


@dataclass(frozen=True)
class Jot:
    """What an outline came to. `remarks` are sentences on what was taken for what, `left` the
    lines of which something is in none of the pages."""

    pages: tuple[JottedPage, ...]
    remarks: tuple[str, ...]
    left: tuple[Left, ...]


def jot(text: str, language: str = "en", taken: Collection[str] = ()) -> Jot:
    """The questions of the outline `text`, with keys that are not `taken`."""
    whole = clean(text)
    bare = whole[:LONGEST]
    table = untabled(bare)
    if is_sheet(table):
        found, remark = sheet(table), "Read as rows of a spreadsheet."
    else:
        found, remark = paged(blocks(lines(bare)))
    keys = set(taken)
    pages, left = [], MOST
    for block in found:
        items = tuple(_jotted(asked, language, keys) for asked in block.asked[:left])
        left -= len(items)
        pages.append(JottedPage(block.title, items))
    remarks = [remark] if remark and any(page.items for page in pages) else []
    if len(whole) > LONGEST or left == 0:
        remarks.append(f"Only the first {MOST} questions are taken.")
    kept = tuple(page for page in pages if page.items or page.title)
    titles = [page.title for page in kept]
    proposed = [one.item for page in kept for one in page.items]
    left_lines = tuple(left_out(whole, titles, proposed))[:MOST_LEFT]
    return Jot(kept, tuple(remarks), left_lines)


_JOT: TypeAdapter[Jot] = TypeAdapter(Jot)


def jotted_json(text: str, language: str, taken: Collection[str]) -> bytes:
    """What `jot` makes of it, as JSON."""
    return _JOT.dump_json(jot(text, language, taken))


def _jotted(asked: OutlineQuestion, language: str, keys: set[str]) -> Jotted:
    found = (
        Guess("note", "it says something and asks nothing")
        if asked.kind == "note"
        else guess(asked)
    )
    spare = "note" if found.kind == "note" else "question"
    key = key_from(asked.words, keys, spare)
    keys.add(key)
    item = _ITEM.validate_python(
        {
            "kind": found.kind,
            "key": key,
            "text": {language: asked.words[:10_000]},
            **_members(asked, found, language),
        }
    )
    return Jotted(asked.line, found.why, item)


def _members(asked: OutlineQuestion, found: Guess, language: str) -> dict[str, Any]:
    if found.kind == "note":
        return {}
    if found.kind == "grid":
        return _grid(asked, found, language)
    members: dict[str, Any] = {"required": asked.required, **_labelled(found.more, language)}
    typed = found.kind in _TYPED
    if asked.example and typed:
        members["placeholder"] = {language: asked.example}
    picked = found.kind in PICKED
    single = asked.options[0] if len(asked.options) == 1 and not picked else ""
    helped = [asked.help, single, "" if typed or not asked.example else f"e.g. {asked.example}"]
    if any(helped):
        members["help"] = {language: " ".join(part for part in helped if part)}
    if picked:
        members.update(_options(asked.options, found.kind, language))
    return members


def _labelled(more: dict[str, Any], language: str) -> dict[str, Any]:
    """Words of `more` in their language."""
    labels = {
        name: {language: words} for name, words in more.items() if name.endswith("_label") and words
    }
    return {**{name: one for name, one in more.items() if not name.endswith("_label")}, **labels}


def _grid(asked: OutlineQuestion, found: Guess, language: str) -> dict[str, Any]:
    """Statements that are answered alike: each a row, with one column for its answer."""
    cell: Guess = found.more["cell"]
    codes: set[str] = set()
    rows = []
    for label in asked.rows or asked.options:
        codes.add(code := key_from(label, codes, "row"))
        rows.append({"code": code, "label": {language: label}})
    column = {
        "kind": cell.kind,
        "key": "answer",
        "text": {language: ANSWER.get(language, "Answer")},
    }
    offered = _options(asked.options, cell.kind, language) if cell.kind in PICKED else {}
    return {
        "required": asked.required,
        "rows": rows,
        "columns": [{**column, **_labelled(cell.more, language), **offered}],
        **({"help": {language: asked.help}} if asked.help else {}),
    }


ANSWER = {"es": "Respuesta", "de": "Antwort", "ar": "الإجابة"}
"""What the column of such a grid is called; in English elsewhere."""


def _options(labels: tuple[str, ...], kind: str, language: str) -> dict[str, Any]:
    codes: set[str] = {"else"}
    options, other = [], ""
    for label in labels:
        if is_else(label) and kind != "rank" and not other:
            other = label.rstrip(" :.…_")
            continue
        code = key_from(label, codes, "option")
        codes.add(code)
        alone = kind == "pick_many" and is_none(label)
        options.append({"code": code, "label": {language: label}, "alone": alone})
    return {"options": options, **({"else_label": {language: other}} if other else {})}
