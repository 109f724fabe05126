"""Pages of HTML in print, as a PDF."""

from typing import Any


class NothingFetched(Exception):
    """A page named something outside of itself."""


def _refuse(url: str, *_: Any, **__: Any) -> Any:
    raise NothingFetched(url)


def pdf(html: str) -> bytes:
    """The PDF of a whole HTML document. Nothing that it names is fetched: neither files nor
    addresses. It takes a while, and belongs into a process of its own."""
    from weasyprint import HTML

    made: bytes = HTML(string=html, url_fetcher=_refuse).write_pdf()
    return made
