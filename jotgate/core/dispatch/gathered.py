"""Letters as they are sent: the words of one, or of several that go out together."""

from collections.abc import Sequence
from html import escape

from jotgate.core.formats.letter_page import letter_page
from jotgate.core.words import letter

Part = tuple[str, str, str]
"""Subject, plain text, HTML."""


def gathered_letter(parts: Sequence[Part], language: str) -> Part:
    """One letter with the words of several below each other."""
    words = letter(language)
    subject = words["letter_gathered"].format(count=len(parts), subject=parts[0][0])
    rule = "-" * 40
    plain = f"\n\n{rule}\n\n".join(f"{one}\n\n{said}".strip() for one, said, _ in parts)
    html = "<hr>".join(f"<h3>{escape(one)}</h3>{said}" for one, _, said in parts)
    return subject, plain, letter_page(html, language)
