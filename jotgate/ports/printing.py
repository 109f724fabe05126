"""Pages in print."""

from typing import Protocol


class Printing(Protocol):
    async def pdf(self, html: str) -> bytes:
        """The PDF of a whole HTML document. Raises TookTooLong."""

    def close(self) -> None: ...
