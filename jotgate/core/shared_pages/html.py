"""A page to share as HTML, to be read in a browser or made a PDF of."""

from collections.abc import Iterator
from html import escape
from zoneinfo import ZoneInfo

from jotgate.core.common.formatting import moment
from jotgate.core.common.wording import fill
from jotgate.core.figures.pictures import Bars, Gathered, Picture, Plain, Ranks
from jotgate.core.formats.common_mark import formatted
from jotgate.core.shared_pages.canvas import NARROW
from jotgate.core.shared_pages.drawing import drawing, how_many
from jotgate.core.shared_pages.numbers import whole
from jotgate.core.shared_pages.page import DrawnArrivals, DrawnFigure, DrawnPage, DrawnPart
from jotgate.core.shared_pages.tables import NumberTable, tables
from jotgate.core.words import direction, figures

STYLE = """
:root { --ink: #1d231a; --quiet: #4c5546; --bar: #6d8350; --track: #eceee5; --line: #b9bfab;
  --paper: #fff; --link: #3f5128; color-scheme: light dark; }
@media screen and (prefers-color-scheme: dark) { :root { --ink: #eef0e6; --quiet: #c3cab6;
  --bar: #8aa365; --track: #11140c; --line: #566049; --paper: #1f2419; --link: #b7cf92; } }
@page { size: A4; margin: 18mm 20mm;
  @bottom-center { content: counter(page) " / " counter(pages); font: 9pt sans-serif; } }
* { box-sizing: border-box; }
body { margin: 0; background: var(--paper); color: var(--ink);
  font: 16px/1.5 "Noto Sans", sans-serif; overflow-wrap: anywhere; }
main { max-width: 720px; margin: 0 auto; padding: 28px 20px 60px; }
header { border-bottom: 3px solid var(--bar); padding-bottom: 14px; margin-bottom: 8px; }
h1 { font-size: 27px; line-height: 1.2; margin: 0 0 6px; }
.words h2 { font-size: 21px; padding-top: 10px; }
h2 { font-size: 18px; line-height: 1.3; margin: 0 0 2px; }
h3, h4, caption { font-size: 15px; font-weight: 600; margin: 12px 0 4px; text-align: start; }
p { margin: 0 0 8px; }
header p, .of, footer { color: var(--quiet); font-size: 14px; }
a { color: var(--link); }
article { padding: 18px 0 14px; border-bottom: 1px solid var(--line); }
.words { padding: 16px 0 6px; }
svg { display: block; width: 100%; height: auto; margin: 8px 0 4px; }
@media (max-width: 520px) { svg.wide { display: none; } svg.narrow { max-width: 420px; } }
@media (min-width: 520.02px) { svg.narrow { display: none; } }
svg .ink { fill: var(--ink); } svg .quiet { fill: var(--quiet); } svg .bar { fill: var(--bar); }
svg .track { fill: var(--track); } svg .line { fill: var(--line); }
summary { cursor: pointer; color: var(--link); font-size: 14px; padding: 4px 0; width: max-content;
  max-width: 100%; }
:focus-visible { outline: 2.5px solid var(--link); outline-offset: 2px; }
table { border-collapse: collapse; width: 100%; font-size: 14px; margin: 6px 0 10px; }
th, td { border-top: 1px solid var(--line); padding-block: 4px;
  padding-inline: 0 10px; text-align: start;
  vertical-align: top; }
th { font-weight: 400; } thead th { color: var(--quiet); }
footer { padding-top: 14px; }
@media (forced-colors: active) { svg .bar, svg .track { forced-color-adjust: none; } }
@media print { body { font-size: 10.5pt; } main { max-width: none; padding: 0; }
  h2, h3, .of, .words, caption { break-after: avoid; } svg, table { break-inside: avoid; }
  .away { display: none; } }
"""


def shared_page(shown: DrawnPage, office: str, zone: str, nonce: str = "", pdf: str = "") -> str:
    """A whole HTML document. For a browser `nonce` lets its styles in (Content Security Policy) and
    `pdf` is the address of the same on paper; without it the tables stand open."""
    words, language = figures(shown.language), shown.language
    parts = "".join(_part(one, language, is_open=not pdf) for one in shown.parts)
    told = [
        escape(office),
        escape(fill(words["entries"], {"count": whole(shown.entries, language)})),
        escape(fill(words["counted"], {"moment": _moment(shown, zone)})),
    ]
    link = f' · <a class="away" href="{escape(pdf)}">{escape(words["as_pdf"])}</a>' if pdf else ""
    head = f'<h1 dir="auto">{escape(shown.title)}</h1><p>{" · ".join(filter(None, told))}{link}</p>'
    foot = f"<footer>{' '.join(map(escape, _foot(shown)))}</footer>"
    return document(shown.title, language, f"<header>{head}</header>{parts}{foot}", nonce)


def document(title: str, language: str, body: str, nonce: str = "") -> str:
    """A whole HTML document around the HTML of a body."""
    allowed = f' nonce="{escape(nonce)}"' if nonce else ""
    return (
        f'<!doctype html><html lang="{escape(language)}" dir="{direction(language)}"><head>'
        '<meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">'
        '<meta name="robots" content="noindex"><meta name="referrer" content="no-referrer">'
        f"<title>{escape(title)}</title><style{allowed}>{STYLE}</style></head>"
        f"<body><main>{body}</main></body></html>\n"
    )


def told_page(language: str, word: str, nonce: str) -> str:
    """That the page is not to be had: `gone`, or `busy` for the moment."""
    words = figures(language)
    detail = words.get(f"{word}_detail", "")
    return document(
        words[word], language, f"<h1>{escape(words[word])}</h1><p>{escape(detail)}</p>", nonce
    )


def _moment(shown: DrawnPage, zone: str) -> str:
    return moment(shown.counted, shown.language, ZoneInfo(zone))


def _foot(shown: DrawnPage) -> Iterator[str]:
    """What shares are of, where there are any."""
    words = figures(shown.language)
    drawn = [one.picture for one in shown.parts if isinstance(one, DrawnFigure) and one.picture]
    if any(map(_has_shares, drawn)):
        yield words["of_answered" if shown.of == "answered" else "of_those_asked"]
        yield words["likely"]


def _has_shares(picture: Picture) -> bool:
    if isinstance(picture, Gathered):
        return any(_has_shares(one.picture) for one in picture.inner)
    return isinstance(picture, Bars | Ranks)


def _part(one: DrawnPart, language: str, is_open: bool) -> str:
    if isinstance(one, DrawnFigure):
        return _figure(one, language, is_open)
    if isinstance(one, DrawnArrivals):
        return _arrivals(one, language, is_open)
    if one.kind == "words":
        return f'<div class="words" dir="auto">{formatted(one.words, 2)}</div>'
    return f"<article><p>{escape(figures(language)['not_shown'])}</p></article>"


def _figure(one: DrawnFigure, language: str, is_open: bool) -> str:
    words = figures(language)
    if not one.answered:
        inside = f"<p>{escape(words['nobody'])}</p>"
    elif one.picture is None:
        inside = f"<p>{escape(words['too_many'])}</p>"
    else:
        inside = _picture(one.picture, one.title, language, is_open)
    told = escape(how_many(one, language))
    head = f'<h2 dir="auto">{escape(one.title)}</h2><p class="of">{told}</p>'
    return f"<article>{head}{inside}</article>"


def _arrivals(one: DrawnArrivals, language: str, is_open: bool) -> str:
    words = figures(language)
    pictures = (("over_time", one.arrivals.over_time), ("by_hour", one.arrivals.by_hour))
    parts = (
        f"<h3>{escape(words[name])}</h3>{_picture(drawn, words[name], language, is_open)}"
        for name, drawn in pictures
    )
    return f"<article><h2>{escape(words['arrivals'])}</h2>{''.join(parts)}</article>"


def _picture(picture: Picture, name: str, language: str, is_open: bool) -> str:
    """With its numbers in tables, which a browser opens where they are asked for."""
    if isinstance(picture, Plain):
        return ""
    behind = "".join(_table(one) for one in tables(picture, language))
    drawn = drawing(picture, name, language)
    if is_open:
        return f'{drawn}<div class="tables">{behind}</div>'
    drawn += drawing(picture, name, language, NARROW)
    if not behind:
        return drawn
    told = escape(figures(language)["as_table"])
    return f"{drawn}<details><summary>{told}</summary>{behind}</details>"


def _table(one: NumberTable) -> str:
    caption = f'<caption dir="auto">{escape(one.name)}</caption>' if one.name else ""
    head = "".join(f'<th scope="col">{escape(name)}</th>' for name in one.head)
    lines = "".join(
        f'<tr><th scope="row" dir="auto">{escape(label)}</th>'
        + "".join(f"<td>{escape(cell)}</td>" for cell in cells)
        + "</tr>"
        for label, *cells in one.lines
    )
    return f"<table>{caption}<thead><tr>{head}</tr></thead><tbody>{lines}</tbody></table>"
