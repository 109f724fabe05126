"""Pages in print."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol


@dataclass(frozen=True)
class Joined:
    """PDFs in one: how many `pages` it has, and the `first` page, counted from 1, of everything
    that its parts have in their outlines."""

    data: bytes
    pages: int
    first: tuple[int, ...]


class Printing(Protocol):
    async def pdf(self, html: str) -> bytes:
        """The PDF of a whole HTML document. Raises TookTooLong."""

    async def picture(self, svg: str) -> bytes:
        """The PNG of a drawing of ours (SVG), twice as many pixels as it is large. Raises
        TookTooLong."""

    async def joined(self, parts: Sequence[bytes], fronts: bool) -> Joined:
        """PDFs of our own making one behind the other, each on a front side where `fronts`. Raises
        TookTooLong."""

    def close(self) -> None: ...
