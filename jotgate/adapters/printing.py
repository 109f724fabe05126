"""Pages in print, by WeasyPrint."""

import io
import re
from collections.abc import Sequence

import pypdfium2

from jotgate.adapters.isolated import OwnProcesses
from jotgate.collecting import leave_what_is_there
from jotgate.ports.printing import Joined


def pdf(html: str) -> bytes:
    """The PDF of a whole HTML document, tagged (ISO 32000-2, 14.8). Nothing that it names is
    fetched, neither files nor addresses, but what stands in the page itself (RFC 2397)."""
    from weasyprint import HTML
    from weasyprint.urls import URLFetcher

    itself = URLFetcher(allowed_protocols=["data"], fail_on_errors=True)
    made: bytes = HTML(string=html, url_fetcher=itself).write_pdf(pdf_tags=True)
    return made


def _pdf_alone(html: str) -> bytes:
    """`pdf` in a process that does nothing else: a page is full of cycles, whose room the next
    ones need."""
    made = pdf(html)
    leave_what_is_there()
    return made


_SHEET = """<!doctype html><meta charset="utf-8"><style>
@page {{ size: {width}px {height}px; margin: 12px; }} body {{ margin: 0; }}
svg {{ display: block; }}</style>{svg}"""
_SIZE = re.compile(r' width="(\d{1,5})" height="(\d{1,6})" ')

TWICE = 2 * 96 / 72
"""PDF counts in points, 72 to an inch, drawings in pixels, 96 to an inch (CSS)."""


def picture(svg: str) -> bytes:
    """The PNG of a drawing (SVG) that says how large it is, on white."""
    size = _SIZE.search(svg)
    if size is None:
        raise ValueError("The drawing does not say how large it is.")
    width, height = (int(one) + 24 for one in size.groups())
    sheet = pypdfium2.PdfDocument(pdf(_SHEET.format(width=width, height=height, svg=svg)))
    out = io.BytesIO()
    sheet[0].render(scale=TWICE).to_pil().save(out, "PNG", optimize=True)
    sheet.close()
    leave_what_is_there()
    return out.getvalue()


def joined(parts: Sequence[bytes], fronts: bool) -> Joined:
    """The parts in one PDF, with an empty page behind those that end on a front side where each
    is to begin on one."""
    whole, first, out = pypdfium2.PdfDocument.new(), [], io.BytesIO()
    for part in parts:
        if fronts and len(whole) % 2:
            whole.new_page(*whole[len(whole) - 1].get_size())
        found = pypdfium2.PdfDocument(part)
        begins = [one.get_dest().get_index() for one in found.get_toc()]
        first += [len(whole) + 1 + at for at in begins]
        whole.import_pages(found)
        found.close()
    whole.save(out)
    return Joined(out.getvalue(), len(whole), tuple(first))


class WeasyPrinting:
    """Each page in one of its `processes`, whose time and memory are limited. They are good for
    nothing else: WeasyPrint has Pillow take pictures that were cut off, for the whole process."""

    def __init__(self, processes: OwnProcesses) -> None:
        self._processes = processes

    async def pdf(self, html: str) -> bytes:
        return await self._processes.run(_pdf_alone, html)

    async def picture(self, svg: str) -> bytes:
        return await self._processes.run(picture, svg)

    async def joined(self, parts: Sequence[bytes], fronts: bool) -> Joined:
        return await self._processes.run(joined, parts, fronts)

    def close(self) -> None:
        self._processes.close()
