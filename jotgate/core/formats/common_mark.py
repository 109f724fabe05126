"""Formatted words: CommonMark to clean HTML."""

import re
from collections.abc import Callable
from functools import lru_cache

import nh3
from markdown_it import MarkdownIt

_READER = MarkdownIt("commonmark", {"html": False, "breaks": True})

_TAGS = {"p", "br", "em", "strong", "code", "pre", "blockquote", "ul", "ol", "li", "a", "hr"}
_HEADINGS = {"h1": 0, "h2": 1, "h3": 1, "h4": 1, "h5": 1, "h6": 1}
"""How far each is below the highest."""


@lru_cache(maxsize=2000)
def formatted(words: str, level: int = 3) -> str:
    """`words`, written in CommonMark, as HTML that is safe to show.

    Raw HTML stands as it was written; pictures are left out, and links lead to web and mail
    addresses only. Headings start at `level`, under those of the page.
    """
    tokens = _READER.parse(words)
    for token in tokens:
        if token.tag in _HEADINGS:
            token.tag = f"h{level + _HEADINGS[token.tag]}"
    html: str = _READER.renderer.render(tokens, _READER.options, {})
    return nh3.clean(
        html,
        tags=_TAGS | {f"h{level}", f"h{level + 1}"},
        attributes={"a": {"href", "title"}},
        url_schemes={"http", "https", "mailto", "tel"},
        link_rel="noopener noreferrer",
    ).strip()


_MARKS = re.compile("[\ue000\ue001]")
_MARKED = re.compile("\ue000(\\d+)\ue001")


def formatted_around(
    template: str, slot: re.Pattern[str], said: Callable[[re.Match[str]], str]
) -> str:
    """The same with slots, which are filled in once the rest is formatted: what is filled in, HTML
    that has to be safe, is never read as CommonMark."""
    told: list[str] = []

    def mark(found: re.Match[str]) -> str:
        told.append(said(found))
        return f"\ue000{len(told) - 1}\ue001"

    html = formatted(slot.sub(mark, _MARKS.sub("", template)))
    return _MARKED.sub(lambda one: told[int(one[1])], html)
