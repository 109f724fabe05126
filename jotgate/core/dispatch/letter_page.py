"""Letters as they are sent: the words of one, or of several that go out together."""

from collections.abc import Sequence
from html import escape

from jotgate.core.words import direction, letter

Part = tuple[str, str, str]
"""Subject, plain text, HTML."""

_STYLE = "font-family:sans-serif;font-size:16px;line-height:1.45;max-width:40em;margin:0 auto"


def letter_page(html: str, language: str) -> str:
    """A whole HTML document around clean HTML."""
    tongue = f' lang="{escape(language)}"' if language else ""
    return (
        f'<!doctype html><html{tongue} dir="{direction(language)}"><head><meta charset="utf-8">'
        '<meta name="viewport" content="width=device-width,initial-scale=1"></head>'
        f'<body style="{_STYLE}">{html}</body></html>\n'
    )


def gathered_letter(parts: Sequence[Part], language: str) -> Part:
    """One letter with the words of several below each other."""
    words = letter(language)
    subject = words["letter_gathered"].format(count=len(parts), subject=parts[0][0])
    rule = "-" * 40
    plain = f"\n\n{rule}\n\n".join(f"{one}\n\n{said}".strip() for one, said, _ in parts)
    html = "<hr>".join(f"<h3>{escape(one)}</h3>{said}" for one, _, said in parts)
    return subject, plain, letter_page(html, language)
