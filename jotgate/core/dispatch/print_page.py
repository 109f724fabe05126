"""An entry in print: a page of HTML that is made a PDF of."""

import re
from collections.abc import Sequence
from html import escape

from jotgate.core.words import direction

_STYLE = """
@page { size: A4; margin: 18mm 20mm;
  @bottom-center { content: counter(page) " / " counter(pages); font: 9pt sans-serif; } }
body { font: 10.5pt/1.4 sans-serif; }
h1 { font-size: 15pt; margin: 0 0 5mm; }
tr { break-inside: avoid; }
table { border-collapse: collapse; width: 100%; table-layout: fixed; }
th, td { border-top: 0.4pt solid #999; padding: 1.6mm 3mm 1.6mm 0; vertical-align: top;
  text-align: start; overflow-wrap: anywhere; }
th { width: 34%; font-weight: 600; }
"""


def print_page(title: str, lines: Sequence[tuple[str, str]], language: str) -> str:
    """A whole HTML document with what was asked and answered, one below the other."""
    tongue = f' lang="{escape(language)}"' if language else ""
    rows = "".join(
        f'<tr><th dir="auto">{escape(name)}</th><td dir="auto">{_broken(said)}</td></tr>'
        for name, said in lines
    )
    return (
        f'<!doctype html><html{tongue} dir="{direction(language)}"><head><meta charset="utf-8">'
        f"<title>{escape(title)}</title><style>{_STYLE}</style></head>"
        f'<body><h1 dir="auto">{escape(title)}</h1><table>{rows}</table></body></html>\n'
    )


LONGEST_WORD = 40
"""Characters after which a word may go on in the next line: longer ones take long to lay out."""

_LONG = re.compile(rf"\S{{{LONGEST_WORD}}}(?=\S)")


def _broken(said: str) -> str:
    return escape(_LONG.sub("\\g<0>\u200b", said)).replace("\n", "<br>")
