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

    A picture has a size in pixels, and `small`, a WebP of at most 480 pixels a side that
    carries nothing but the picture.
    """

    type: str
    width: int | None = None
    height: int | None = None
    small: bytes | None = None


class FileInspector(Protocol):
    async def look(self, data: bytes) -> Inspected:
        """What `data` is. A picture that cannot be drawn is of no known type."""
        ...

    def close(self) -> None:
        """Nothing is asked any more."""
        ...
