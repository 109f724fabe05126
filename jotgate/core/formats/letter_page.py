"""A letter in HTML."""

from html import escape

from jotgate.core.words import direction

_STYLE = "font-family:sans-serif;font-size:16px;line-height:1.45;max-width:40em;margin:0 auto"


def letter_page(html: str, language: str) -> str:
    """A whole HTML document around clean HTML."""
    tongue = f' lang="{escape(language)}"' if language else ""
    return (
        f'<!doctype html><html{tongue} dir="{direction(language)}"><head><meta charset="utf-8">'
        '<meta name="viewport" content="width=device-width,initial-scale=1"></head>'
        f'<body style="{_STYLE}">{html}</body></html>\n'
    )
