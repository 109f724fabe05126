"""QR codes (ISO/IEC 18004) of addresses, as pictures."""

import io
from typing import Literal

import segno

QrFormat = Literal["svg", "png"]

QUIET_ZONE = 4
"""Modules of white around the code, as the standard wants."""

SMALLEST_MODULE = 0.4
"""Millimetres of one module at least, so that ordinary cameras read what is printed
(common practice)."""


def qr(text: str, format: QrFormat) -> bytes:
    """A code of level M, which survives 15 % of it being damaged. Its size in the picture is as
    printed: at least 20 mm wide, and as many more as its modules need."""
    code = segno.make(text, micro=False, error="m")
    out = io.BytesIO()
    if format == "png":
        code.save(out, kind="png", scale=12, border=QUIET_ZONE, dpi=600)
        return out.getvalue()
    modules = code.symbol_size(border=QUIET_ZONE)[0]
    size = max(20.0, modules * SMALLEST_MODULE)
    code.save(
        out,
        kind="svg",
        border=QUIET_ZONE,
        scale=round(size / modules, 4),
        unit="mm",
        light="#ffffff",
        dark="#000000",
        xmldecl=False,
    )
    return out.getvalue()
