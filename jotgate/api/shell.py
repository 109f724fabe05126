"""A built page, with what belongs to one response put into its slots."""

import gzip
import re
import secrets
from dataclasses import dataclass
from functools import cache
from html import escape
from pathlib import Path

from fastapi import Request
from fastapi.responses import HTMLResponse

from jotgate.core.words import direction
from jotgate.ports.rendering import NOTHING, Rendered

POLICY = (
    "default-src 'none'; script-src 'self' 'nonce-{nonce}'; style-src 'self' 'nonce-{nonce}'; "
    "img-src 'self' data: blob:; media-src 'self'; font-src 'self'; connect-src 'self'; "
    "base-uri 'none'; form-action 'self'; frame-src 'self'; frame-ancestors {framed}"
)

COMPRESSION = 3
"""Of gzip: more costs more time than it saves."""

_SLOT = re.compile(r"(__[A-Z]+__)")


@dataclass(frozen=True)
class PageShell:
    """What a page shows: its title, and, as JSON, what its script starts with.

    `drawn` is the same drawn beforehand. `framed` says which pages may show it inside of them
    (CSP, frame-ancestors).
    """

    title: str
    language: str
    first: str
    drawn: Rendered = NOTHING
    status: int = 200
    framed: str = "'none'"


@cache
def _template(path: Path) -> tuple[str, ...]:
    """A built page, taken apart at its slots; it does not change while we run."""
    return tuple(_SLOT.split(path.read_text(encoding="utf-8")))


def shell(request: Request, name: str, sheet: PageShell) -> HTMLResponse:
    """The built page `name` with a fresh nonce, compressed where its browser takes that."""
    nonce = secrets.token_urlsafe(16)
    said = {
        "__NONCE__": nonce,
        "__LANG__": escape(sheet.language),
        "__DIRECTION__": direction(sheet.language),
        "__TITLE__": escape(sheet.title),
        "__FIRST__": sheet.first.replace("<", "\\u003c"),
        "__BODY__": sheet.drawn.html,
        "__STYLES__": sheet.drawn.styles.replace("<style", f'<style nonce="{nonce}"'),
    }
    web: Path = request.app.state.settings.web
    html = "".join(said.get(part, part) for part in _template(web / f"{name}.html")).encode()
    headers = {
        "Content-Security-Policy": POLICY.format(nonce=nonce, framed=sheet.framed),
        "Cache-Control": "no-store",
        "Vary": "Accept-Encoding",
    }
    if "gzip" in request.headers.get("accept-encoding", ""):
        html = gzip.compress(html, COMPRESSION)
        headers["Content-Encoding"] = "gzip"
    return HTMLResponse(html, sheet.status, headers)
