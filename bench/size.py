"""How much script the public page loads, with brotli as the server sends it."""

import re
from collections.abc import Iterator
from pathlib import Path

from bench.figure import Figure

WEB = Path(__file__).parent.parent / "web" / "dist"
MOST_KB = 120


def figures() -> Iterator[Figure]:
    """Every script that the page names, one after the other, in kilobytes (1000 bytes)."""
    html = (WEB / "answer.html").read_text()
    scripts = re.findall(r'(?:src|href)="(/assets/[^"]+\.js)"', html)
    total = sum((WEB / f"{path[1:]}.br").stat().st_size for path in scripts)
    yield Figure("size", "scripts of the public page", len(scripts), "scripts", 1, least=False)
    yield Figure("size", "script of the public page", total / 1000, "kB", MOST_KB, least=False)
