"""A client that costs next to nothing: requests written whole on kept connections."""

import asyncio
import json
import time
from collections.abc import Callable
from typing import Any
from urllib.parse import urlsplit


def request(url: str, body: Any, headers: dict[str, str]) -> bytes:
    """A POST of `body` as JSON, as it goes over the wire (HTTP/1.1)."""
    parts = urlsplit(url)
    content = json.dumps(body).encode()
    lines = [
        f"POST {parts.path} HTTP/1.1",
        f"Host: {parts.netloc}",
        "Content-Type: application/json",
        f"Content-Length: {len(content)}",
        *(f"{name}: {value}" for name, value in headers.items()),
    ]
    return "\r\n".join(lines).encode() + b"\r\n\r\n" + content


def get(url: str) -> bytes:
    """A GET as a browser sends it, as it goes over the wire."""
    parts = urlsplit(url)
    head = f"Host: {parts.netloc}\r\nAccept-Encoding: gzip, br"
    return f"GET {parts.path} HTTP/1.1\r\n{head}\r\n\r\n".encode()


async def _send(reader: asyncio.StreamReader, writer: asyncio.StreamWriter, data: bytes) -> int:
    """Send one request and read its answer whole; its status."""
    writer.write(data)
    head = (await reader.readuntil(b"\r\n\r\n")).decode("latin-1").lower()
    length = int(head.partition("content-length:")[2].split("\r\n")[0])
    await reader.readexactly(length)
    return int(head.split(" ", 2)[1])


async def per_second(
    url: str, make: Callable[[], bytes], requests: int, at_once: int, expected: int = 200
) -> float:
    """Send `requests` made by `make`, `at_once` at a time; how many a second were accepted."""
    parts = urlsplit(url)
    left = iter(range(requests))

    async def worker() -> None:
        reader, writer = await asyncio.open_connection(parts.hostname, parts.port)
        for _ in left:
            status = await _send(reader, writer, make())
            assert status == expected, status
        writer.close()

    started = time.perf_counter()
    await asyncio.gather(*(worker() for _ in range(at_once)))
    return requests / (time.perf_counter() - started)
