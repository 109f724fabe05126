"""How much script a page loads, with brotli as the server sends it, in kilobytes (1000 bytes)."""

import json
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from bench.support.figure import Figure

WEB = Path(__file__).parent.parent / "web" / "dist"
MOST_PUBLIC = 120
MOST_SHARED = 150
MOST_PLACE = 120


def _kilobytes(files: set[str]) -> float:
    return sum((WEB / f"{file}.br").stat().st_size for file in files) / 1000


def _files(chunks: dict[str, Any], name: str) -> set[str]:
    """The files of a chunk and of all that it imports before it runs."""
    found: set[str] = set()
    left = [name]
    while left:
        chunk = chunks[left.pop()]
        if chunk["file"] in found:
            continue
        found.add(chunk["file"])
        left += chunk.get("imports", [])
    return found


def _public() -> Iterator[Figure]:
    html = (WEB / "answer.html").read_text()
    scripts = set(re.findall(r'(?:src|href)="/(assets/[^"]+\.js)"', html))
    yield Figure("size", "scripts of the public page", len(scripts), "scripts", 1, least=False)
    total = _kilobytes(scripts)
    yield Figure("size", "script of the public page", total, "kB", MOST_PUBLIC, least=False)


def _desk() -> Iterator[Figure]:
    chunks = json.loads((WEB / "desk.json").read_text())
    shared = _files(chunks, "desk.html")
    total = _kilobytes(shared)
    yield Figure(
        "size", "script that all of the desk shares", total, "kB", MOST_SHARED, least=False
    )
    for name in sorted(one for one, chunk in chunks.items() if chunk.get("isDynamicEntry")):
        own = _kilobytes(_files(chunks, name) - shared)
        place = Path(name).stem
        yield Figure("size", f"script of {place} beside that", own, "kB", MOST_PLACE, least=False)


def figures() -> Iterator[Figure]:
    yield from _public()
    yield from _desk()
