"""Where the bytes of files are kept, and looking at what they are."""

from dataclasses import dataclass
from typing import Protocol


class Missing(Exception):
    """There are no bytes under this name."""


class Files(Protocol):
    """Bytes under names such as `files/4f0c…/0003`."""

    async def put(self, name: str, data: bytes) -> None:
        """Keep `data` whole or not at all, in place of what was there."""

    async def get(self, name: str, start: int = 0, length: int | None = None) -> bytes:
        """The bytes from `start`, at most `length`. Raises Missing."""

    async def remove(self, prefix: str) -> None:
        """Remove everything below `prefix`."""


@dataclass(frozen=True)
class Inspected:
    """What a file is by its content: its media type, empty where that is not known.

    A picture has a size in pixels, and `drawn`, a WebP of it that carries nothing but its pixels.
    `carries` tells that the file has more in it, such as the place or the camera; `moves` that it
    has several frames, of which `drawn` has the first.
    """

    type: str
    width: int | None = None
    height: int | None = None
    drawn: bytes | None = None
    carries: bool = False
    moves: bool = False


class FileInspector(Protocol):
    async def look(self, data: bytes, side: int) -> Inspected:
        """What `data` is, a picture drawn with at most `side` pixels a side. One that cannot be
        drawn is of no known type."""
        ...

    async def first_page(self, data: bytes, side: int) -> bytes | None:
        """The first page of a PDF as WebP, with at most `side` pixels a side. None where it cannot
        be drawn: it is damaged, asks for a password, or takes too long."""
        ...

    def close(self) -> None:
        """Nothing is asked any more."""
        ...
