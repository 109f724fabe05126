"""QR codes (ISO/IEC 18004) of addresses, as pictures."""

import base64
import io
from dataclasses import dataclass
from typing import Literal

import segno

QrFormat = Literal["svg", "png"]

QUIET_ZONE = 4
"""Modules of white around the code, as the standard wants."""

SMALLEST_MODULE = 0.4
"""Millimetres of one module at least, so that ordinary cameras read what is printed
(common practice)."""


@dataclass(frozen=True)
class PrintedQr:
    """A picture as an address in itself (RFC 2397), with one pixel a module, and how many
    millimetres wide it is. `mask` is the data mask that the code has."""

    url: str
    width: float
    mask: int


def _code(text: str, mask: int | None = None) -> segno.QRCode:
    return segno.make(text, micro=False, error="m", mask=mask)


def _width(modules: float) -> float:
    return max(20.0, modules * SMALLEST_MODULE)


def printed_qr(text: str, mask: int | None = None) -> PrintedQr:
    """The code to be set into a page. To find the best of the eight masks takes most of the time
    that a code takes; every one can be read (ISO/IEC 18004, 7.8), so addresses that differ but
    in a few letters may share that of the first."""
    code, out = _code(text, mask), io.BytesIO()
    code.save(out, kind="png", scale=1, border=QUIET_ZONE)
    data = base64.b64encode(out.getvalue()).decode()
    width = _width(code.symbol_size(border=QUIET_ZONE)[0])
    return PrintedQr(f"data:image/png;base64,{data}", width, int(code.mask))


def qr(text: str, format: QrFormat) -> bytes:
    """A code of level M, which survives 15 % of it being damaged. Its size in the picture is as
    printed: at least 20 mm wide, and as many more as its modules need."""
    code = _code(text)
    out = io.BytesIO()
    if format == "png":
        code.save(out, kind="png", scale=12, border=QUIET_ZONE, dpi=600)
        return out.getvalue()
    modules = code.symbol_size(border=QUIET_ZONE)[0]
    code.save(
        out,
        kind="svg",
        border=QUIET_ZONE,
        scale=round(_width(modules) / modules, 4),
        unit="mm",
        light="#ffffff",
        dark="#000000",
        xmldecl=False,
    )
    return out.getvalue()
