"""Pages drawn before they are sent, so that their words are there before any script runs."""

from dataclasses import dataclass
from typing import Protocol


@dataclass(frozen=True)
class Rendered:
    """HTML of a page's body, and its style elements."""

    html: str
    styles: str


NOTHING = Rendered("", "")
"""The page is drawn by the browser."""


class Rendering(Protocol):
    async def render(self, first: str) -> Rendered:
        """The answering page that starts with `first` (JSON); NOTHING where that cannot be
        had soon."""
        ...

    def close(self) -> None:
        """Nothing is asked any more."""
        ...
