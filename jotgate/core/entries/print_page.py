"""Entries in print: a page of HTML that is made a PDF of."""

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from html import escape

from jotgate.core.common.formatting import moment
from jotgate.core.entries.clearance import needs_clearance, opened
from jotgate.core.entries.display import Reader, Table
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.stored import values_of
from jotgate.core.items import is_valued
from jotgate.core.walking.plan import Plan
from jotgate.core.words import direction

_STYLE = """
@page { size: A4; margin: 18mm 20mm;
  @bottom-center { content: counter(page) " / " counter(pages); font: 9pt sans-serif; } }
body { font: 10.5pt/1.4 sans-serif; }
h1 { font-size: 15pt; margin: 0 0 2mm; }
h2 { font-size: 11.5pt; margin: 5mm 0 1mm; break-after: avoid; }
p { margin: 0 0 4mm; color: #444; }
section + section { break-before: page; }
tr { break-inside: avoid; }
table { border-collapse: collapse; width: 100%; table-layout: fixed; }
th, td { border-top: 0.4pt solid #999; padding: 1.6mm 3mm 1.6mm 0; vertical-align: top;
  text-align: start; overflow-wrap: anywhere; }
.said > tbody > tr > th { width: 34%; font-weight: 600; }
.inner th, .inner td { font-size: 9.5pt; padding: 1mm 2mm 1mm 0; border-color: #ccc; }
"""


@dataclass(frozen=True)
class Printed:
    """What was asked of a thing and answered in a language, under headings; a table stands for an
    answer that is one. `note` stands below the title."""

    language: str
    title: str
    note: str
    parts: Sequence[tuple[str, Sequence[tuple[str, str | Table]]]]


def print_page(title: str, lines: Sequence[tuple[str, str]], language: str) -> str:
    """A whole HTML document with what was asked and answered, one below the other."""
    return print_all(title, [Printed(language, title, "", [("", lines)])], language)


def _in(language: str) -> str:
    tongue = f' lang="{escape(language)}"' if language else ""
    return f'{tongue} dir="{direction(language)}"'


def print_all(title: str, things: Sequence[Printed], language: str) -> str:
    """A whole HTML document with each thing on pages of its own."""
    return (
        f'<!doctype html><html{_in(language)}><head><meta charset="utf-8">'
        f"<title>{escape(title)}</title><style>{_STYLE}</style></head>"
        f"<body>{''.join(_section(one) for one in things)}</body></html>\n"
    )


def _section(one: Printed) -> str:
    note = f'<p dir="auto">{escape(one.note)}</p>' if one.note else ""
    parts = "".join(_part(heading, lines) for heading, lines in one.parts)
    title = f'<h1 dir="auto">{escape(one.title)}</h1>'
    return f"<section{_in(one.language)}>{title}{note}{parts}</section>"


def _part(heading: str, lines: Sequence[tuple[str, str | Table]]) -> str:
    rows = "".join(
        f'<tr><th scope="row" dir="auto">{escape(name)}</th><td dir="auto">{_said(said)}</td></tr>'
        for name, said in lines
    )
    above = f'<h2 dir="auto">{escape(heading)}</h2>' if heading else ""
    return f'{above}<table class="said"><tbody>{rows}</tbody></table>'


def _said(said: str | Table) -> str:
    if isinstance(said, str):
        return _broken(said)
    head = "".join(f'<th scope="col" dir="auto">{escape(one)}</th>' for one in ("", *said.columns))
    rows = "".join(
        f'<tr><th scope="row" dir="auto">{_broken(line.heading)}</th>'
        + "".join(f'<td dir="auto">{_broken(cell)}</td>' for cell in line.cells)
        + "</tr>"
        for line in said.lines
    )
    return f'<table class="inner"><thead><tr>{head}</tr></thead><tbody>{rows}</tbody></table>'


LONGEST_WORD = 40
"""Characters after which a word may go on in the next line: longer ones take long to lay out."""

_LONG = re.compile(rf"\S{{{LONGEST_WORD}}}(?=\S)")


def _broken(said: str) -> str:
    return escape(_LONG.sub("\\g<0>\u200b", said)).replace("\n", "<br>")


EMPTY = "—"


def printed_entry(
    entry: Entry, plan: Plan, newest: Plan | None, reader: Reader, empty: bool
) -> Printed:
    """An entry as it is laid out on paper, page by page as it was asked: its open answers, and what
    was left `empty` if that is wanted. Whether something restricted was answered is not told."""
    shown, _ = opened(entry, plan, newest)
    values = values_of(plan.items, shown.answers)

    def lines(page: int) -> Iterator[tuple[str, str | Table]]:
        for item in plan.questionnaire.pages[page].items:
            if not is_valued(item) or needs_clearance(plan, newest, item.key):
                continue
            name = reader.say(getattr(item, "text", {})) or item.short_name or item.key
            if item.key in values:
                value = values[item.key]
                yield name, reader.table(item, value) or reader.reads(item, value)
            elif empty:
                yield name, EMPTY

    found = [
        (reader.say(page.title), tuple(lines(at)))
        for at, page in enumerate(plan.questionnaire.pages)
    ]
    title = f"{reader.say(plan.questionnaire.title)} {entry.number:04}".strip()
    note = moment(entry.arrived, reader.language, reader.zone)
    some_parts = [(heading, some) for heading, some in found if some]
    return Printed(reader.language, title, note, some_parts)
