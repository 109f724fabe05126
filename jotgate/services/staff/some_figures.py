"""Figures of some questions by themselves, in a language: on pages for others, and as files."""

import asyncio
from collections.abc import Collection, Mapping
from dataclasses import dataclass
from uuid import UUID

from jotgate.core.common.errors import Invalid
from jotgate.core.figures.arrivals import Arrivals, arrivals
from jotgate.core.figures.pictures import Base
from jotgate.core.records.accounts import Account
from jotgate.core.shared_pages.page import DrawnFigure
from jotgate.services.context import Context
from jotgate.services.staff.entries.entry_table import Asked, open_for_all, opened_table
from jotgate.services.staff.figures import (
    Counted,
    Question,
    count,
    question_of,
    reader_of,
    readers_of,
)


@dataclass(frozen=True)
class SomeFigures:
    """Of `entries` those of some questions, by key, which may be restricted."""

    entries: int
    questions: Mapping[str, Question]
    arrivals: Arrivals | None


async def for_others(
    context: Context, id: UUID, asked: Asked, of: Base, keys: Collection[str], language: str
) -> SomeFigures:
    """Those of the questions `keys` in a language, for people without an account, to whom somebody
    shows them. Raises NotFound, Invalid and Unavailable."""
    async with context.engine.begin() as conn:
        opened = await open_for_all(context, conn, id)
        found = await count(context, conn, id, opened, asked, of, keys)
    return await asyncio.to_thread(_some, found, keys, language)


async def one_figure(
    context: Context, account: Account, id: UUID, asked: Asked, of: Base, key: str, language: str
) -> DrawnFigure:
    """The figure of one question by itself, in a language. Raises as `figures` does, and Invalid
    for what cannot be drawn."""
    async with context.engine.begin() as conn:
        opened = await opened_table(context, conn, account, id)
        found = await count(context, conn, id, opened, asked, of, (key,))
    if opened.table is None or language not in opened.table.languages:
        raise Invalid("The questionnaire is not in that language.")
    one = (await asyncio.to_thread(_some, found, (key,), language)).questions.get(key)
    if one is None or one.picture is None:
        raise Invalid(f"There is no picture of {key}.")
    return one.drawn()


def _some(found: Counted, keys: Collection[str], language: str) -> SomeFigures:
    opened, counts = found.opened, found.counts
    if counts is None or opened.table is None:
        return SomeFigures(0, {}, None)
    readers = readers_of(opened, language)
    columns = [one for key, one in opened.table.columns.items() if key in keys and not one.fact]
    drawn = {one.key: question_of(one, reader_of(one, readers), counts, None) for one in columns}
    came = arrivals(found.hours, language, opened.zone)
    return SomeFigures(counts.shown.entries, drawn, came)
