"""Changing many things at once, each for itself."""

from collections.abc import Awaitable, Callable, Sequence
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import JotGateError


@dataclass(frozen=True)
class Changed:
    """What became of one of many: nothing `wrong`, or why it stays as it was."""

    id: UUID
    wrong: str = ""


async def each(ids: Sequence[UUID], change: Callable[[UUID], Awaitable[None]]) -> list[Changed]:
    """Change each of `ids`, which are looked at once; what one cannot change stays as it was."""
    return [await _one(id, change) for id in dict.fromkeys(ids)]


async def _one(id: UUID, change: Callable[[UUID], Awaitable[None]]) -> Changed:
    try:
        await change(id)
    except JotGateError as error:
        return Changed(id, error.message)
    return Changed(id)
