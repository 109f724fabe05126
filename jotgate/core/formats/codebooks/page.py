"""A codebook as a page that people read, in a browser and in print."""

from collections.abc import Iterator, Mapping
from html import escape

from jotgate.core.statistics.codebook import Codebook, Counted, Described, DescribedTable
from jotgate.core.statistics.variables import MISSING, Form
from jotgate.core.words import direction

FORMS: Mapping[Form, str] = {
    "text": "Text",
    "whole": "Whole number",
    "number": "Number",
    "day": "Day",
    "time": "Time of day",
    "moment": "Moment",
    "truth": "Yes or no",
    "code": "One of these",
}

_STYLE = """
@page { size: A4; margin: 18mm 20mm;
  @bottom-center { content: counter(page) " / " counter(pages); font: 9pt sans-serif; } }
:root { color-scheme: light; }
body { font: 1rem/1.45 sans-serif; color: #1c1c1c; background: #fff; max-width: 60rem;
  margin: 0 auto; padding: 1rem; }
h1 { font-size: 1.5rem; margin: 0 0 .25rem; }
h2 { font-size: 1.2rem; margin: 2rem 0 .5rem; }
h3 { font-size: 1rem; margin: 0 0 .25rem; overflow-wrap: anywhere; }
h3 code { font-weight: 700; }
p { margin: 0 0 .25rem; overflow-wrap: anywhere; }
section.variable { border-top: 1px solid #999; padding: .75rem 0; }
.note { color: #444; }
table { border-collapse: collapse; width: 100%; margin-top: .4rem; break-inside: auto; }
tr { break-inside: avoid; }
th, td { text-align: start; vertical-align: top; padding: .15rem .75rem .15rem 0;
  border-top: 1px solid #ddd; overflow-wrap: anywhere; }
td.many, th.many { text-align: end; padding: .15rem 0; width: 6rem; }
td.code, th.code { width: 11rem; } td.number, th.number { width: 5rem; }
nav ul { columns: 16rem; padding-inline-start: 1.2rem; }
nav a { display: inline-block; padding: .2rem 0; min-height: 1.5rem; }
@media print { body { font-size: 10pt; padding: 0; max-width: none; } nav { display: none; }
  h3, section.variable > p { break-after: avoid; } }
"""


def codebook_page(book: Codebook) -> str:
    """A whole HTML document; what it says around the questionnaire's words is English."""
    tables = "".join(_table(one, book) for one in book.tables)
    editions = ", ".join(map(str, book.editions))
    made = book.made.strftime("%Y-%m-%d %H:%M %Z")
    words = f"Editions {editions}" if len(book.editions) > 1 else f"Edition {editions}"
    title = escape(book.title)
    return (
        '<!doctype html><html lang="en"><head><meta charset="utf-8">'
        '<meta name="viewport" content="width=device-width">'
        f"<title>Codebook: {title}</title><style>{_STYLE}</style></head><body><main>"
        f"<h1>Codebook: <bdi{_tongue(book)}>{title}</bdi></h1>"
        f'<p class="note">{words}. Made {made}.</p>{_MISSING_NOTE}{tables}</main></body></html>\n'
    )


_MISSING_NOTE = (
    '<p class="note">Where a question has no answer, data tell left empty from not asked, unless '
    "the entry came before that was noted. Numbers stand for codes in .sav and .dta.</p>"
)


def _tongue(book: Codebook) -> str:
    return f' lang="{escape(book.language)}" dir="{direction(book.language)}"'


def _table(table: DescribedTable, book: Codebook) -> str:
    places = "".join(
        f'<li><a href="#{_id(table, one)}">{one.variable.name}</a></li>' for one in table.variables
    )
    name = escape(table.name)
    return (
        f"<h2><code>{name}</code>: <bdi{_tongue(book)}>{escape(table.title)}</bdi></h2>"
        f"<p>{table.rows:,} {'row' if table.rows == 1 else 'rows'}, "
        f"{len(table.variables)} variables</p>"
        f'<nav aria-label="Variables of {name}"><ul>{places}</ul></nav>'
        + "".join(_variable(table, one, book) for one in table.variables)
    )


def _id(table: DescribedTable, one: Described) -> str:
    return escape(f"{table.name}.{one.variable.name}")


def _variable(table: DescribedTable, one: Described, book: Codebook) -> str:
    variable = one.variable
    form = FORMS[variable.form]
    kind = f"{form}, from a question of the form {one.kind}" if one.kind else form
    when = f"<p>Asked when <bdi>{escape(one.when)}</bdi></p>" if one.when else ""
    return (
        f'<section class="variable" id="{_id(table, one)}"><h3><code>{variable.name}</code></h3>'
        f"<p{_tongue(book)}>{escape(variable.label)}</p>"
        f'<p class="note">{escape(kind)}</p>{when}'
        f'<p class="note">{_counts(variable.told_apart, one.counted, table.rows)}</p>'
        f"{_values(one, book)}</section>"
    )


def _counts(told_apart: bool, counted: Counted, rows: int) -> str:
    def said() -> Iterator[str]:
        yield f"{counted.answered:,} of {rows:,} say something"
        if told_apart:
            reasons = (counted.left_empty, counted.not_asked)
            for (_, words), many in zip(MISSING.items(), reasons, strict=True):
                yield f"{words.lower()}: {many:,}"
        if counted.low is not None and counted.high is not None:
            yield f"from {escape(counted.low)} to {escape(counted.high)}"

    return "; ".join(said())


def _values(one: Described, book: Codebook) -> str:
    if not one.variable.categories:
        return ""
    rows = "".join(
        f'<tr><td class="code"><code>{escape(each.code)}</code></td>'
        f'<td class="number">{each.number}</td><td{_tongue(book)}>{escape(each.label)}</td>'
        f'<td class="many">{one.counted.by_code.get(each.code, 0):,}</td></tr>'
        for each in one.variable.categories
    )
    head = (
        '<th scope="col" class="code">Code</th><th scope="col" class="number">Number</th>'
        '<th scope="col">Label</th><th scope="col" class="many">How many</th>'
    )
    return f"<table><thead><tr>{head}</tr></thead><tbody>{rows}</tbody></table>"
