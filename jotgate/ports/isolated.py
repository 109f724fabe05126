"""Work away from those who wait for other things: in a process of its own, under limits."""

from collections.abc import Callable
from typing import Protocol, TypeVar

T = TypeVar("T")


class TookTooLong(Exception):
    """The work was given up: it took more time or memory than it may."""


class Isolated(Protocol):
    async def run(self, task: Callable[..., T], *args: object) -> T:
        """What `task` makes of `args`, all of which can be pickled.

        Raises what `task` raises, TookTooLong, and Unavailable where it cannot be begun soon.
        """
        ...

    def close(self) -> None:
        """Nothing is asked any more."""
        ...
