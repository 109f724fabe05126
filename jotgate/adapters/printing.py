"""Pages in print, by WeasyPrint."""

from typing import Any

from jotgate.adapters.isolated import OwnProcesses


class NothingFetched(Exception):
    """A page named something outside of itself."""


def _refuse(url: str, *_: Any, **__: Any) -> Any:
    raise NothingFetched(url)


def pdf(html: str) -> bytes:
    """The PDF of a whole HTML document, tagged (ISO 32000-2, 14.8). Nothing that it names is
    fetched: neither files nor addresses."""
    from weasyprint import HTML

    made: bytes = HTML(string=html, url_fetcher=_refuse).write_pdf(pdf_tags=True)
    return made


class WeasyPrinting:
    """Each page in one of its `processes`, whose time and memory are limited. They are good for
    nothing else: WeasyPrint has Pillow take pictures that were cut off, for the whole process."""

    def __init__(self, processes: OwnProcesses) -> None:
        self._processes = processes

    async def pdf(self, html: str) -> bytes:
        return await self._processes.run(pdf, html)

    def close(self) -> None:
        self._processes.close()
