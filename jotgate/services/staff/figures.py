"""Figures: what the answers of a questionnaire's entries say, question by question."""

import asyncio
from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from jotgate.core.entries.display import Reader
from jotgate.core.entries.table import TableColumn
from jotgate.core.figures.arrivals import Arrivals, arrivals
from jotgate.core.figures.categories import has_categories
from jotgate.core.figures.figure import MOST_OFTEN, figure_of
from jotgate.core.figures.pictures import Base, Picture, Texts
from jotgate.core.figures.tally import Said, Tally, framed
from jotgate.core.items import is_asked
from jotgate.core.records.accounts import Account
from jotgate.core.shared_pages.page import DrawnFigure
from jotgate.services.context import Context
from jotgate.services.staff.entries.entry_table import (
    MANY,
    Asked,
    Opened,
    looking,
    opened_table,
)
from jotgate.store.base import Connection
from jotgate.store.entry_table import answered, rows
from jotgate.store.entry_table.answered import Answers, Shown

MOST_DIFFERENT = 50_000
"""Different answers to a question from which on it is not drawn."""


@dataclass(frozen=True)
class Counts:
    """What was counted in the store, and what shares are of."""

    said: Mapping[str, Answers]
    shown: Shown
    of: Base

    def asked(self, column: TableColumn, found: Answers) -> int | None:
        """How many were asked; None for what nobody is, and where it was not noted of every
        entry."""
        if not is_asked(column.item) or self.shown.noted < self.shown.entries:
            return None
        return found.answered + self.shown.left_empty.get(column.key, 0)


@dataclass(frozen=True)
class Question:
    """A question with what was answered. `asked` is None for what nobody is asked, and where it was
    not noted of every entry; `picture` where nobody answered, or where there are too many different
    answers. Of a restricted one nothing is told."""

    column: TableColumn
    words: str
    asked: int | None
    answered: int
    picture: Picture | None
    restricted: bool

    def drawn(self) -> DrawnFigure:
        """As it is drawn where it stands alone. Not for what is restricted."""
        column = self.column
        return DrawnFigure(
            key=column.key,
            title=self.words or column.label,
            asked=self.asked,
            answered=self.answered,
            picture=self.picture,
        )

    @property
    def crossable(self) -> bool:
        """Whether it can be counted by another."""
        return not self.restricted and has_categories(self.column.item)


@dataclass(frozen=True)
class Page:
    """`title` is empty for what the newest edition does not ask any more."""

    number: int
    title: str
    questions: tuple[Question, ...]


@dataclass(frozen=True)
class Figures:
    """`entries` of `total` are counted; `lag` of them are not found by a filter yet; `arrivals` is
    None where there are none."""

    entries: int
    total: int
    lag: int
    pages: tuple[Page, ...]
    arrivals: Arrivals | None = None


@dataclass(frozen=True)
class Counted:
    """What was counted of a view; None before the first publishing."""

    opened: Opened
    counts: Counts | None
    hours: Mapping[datetime, int]
    lag: int


async def figures(
    context: Context, account: Account, id: UUID, asked: Asked, of: Base = "answered"
) -> Figures:
    """Of the entries that a view shows; shares are of those who answered, or were asked where that
    is known. Raises NotFound, NotAllowed, Invalid, and Unavailable where it takes too long."""
    found = await _counted(context, account, id, asked, of)
    return await asyncio.to_thread(_drawn, found, None)


async def side_by_side(
    context: Context, account: Account, id: UUID, both: tuple[Asked, Asked], of: Base = "answered"
) -> tuple[Figures, Figures]:
    """The same of two views, on the same scales. Raises as `figures` does."""
    one, other = [await _counted(context, account, id, asked, of) for asked in both]
    first = await asyncio.to_thread(_drawn, one, other)
    return first, await asyncio.to_thread(_drawn, other, one)


async def _counted(context: Context, account: Account, id: UUID, asked: Asked, of: Base) -> Counted:
    async with context.engine.begin() as conn:
        opened = await opened_table(context, conn, account, id)
        return await count(context, conn, id, opened, asked, of)


async def count(
    context: Context,
    conn: Connection,
    id: UUID,
    opened: Opened,
    asked: Asked,
    of: Base,
    keys: Collection[str] | None = None,
) -> Counted:
    """Of all open questions, or of those of them that are asked for."""
    if opened.table is None:
        return Counted(opened, None, {}, 0)
    look = await looking(context, conn, id, opened, asked)
    columns = [one for one in look.table.open.values() if not one.fact]
    if keys is not None:
        columns = [one for one in columns if one.key in keys]
    most = [MOST_OFTEN if _is_text(one) else MOST_DIFFERENT for one in columns]
    said = await answered.answers(conn, look, columns, most) if columns else {}
    shown = await answered.shown(conn, look)
    hours = await answered.arrivals(conn, look)
    filtered = asked.view.filter is not None
    lag = await rows.lag(conn, id, opened.known.upto, MANY) if filtered else 0
    return Counted(opened, Counts(said, shown, of), hours, lag)


def _drawn(found: Counted, beside: Counted | None) -> Figures:
    """On the scales of what stands `beside`, too."""
    opened, counts = found.opened, found.counts
    if counts is None or opened.table is None:
        return Figures(0, opened.total, 0, ())
    hours = {**dict.fromkeys(beside.hours if beside else (), 0), **found.hours}
    pages = tuple(_pages(opened, counts, beside.counts if beside else None))
    came = arrivals(hours, opened.table.language, opened.zone)
    return Figures(counts.shown.entries, opened.total, found.lag, pages, came)


def _is_text(column: TableColumn) -> bool:
    return column.holds == "text"


def _pages(opened: Opened, counts: Counts, beside: Counts | None) -> Iterator[Page]:
    table = opened.table
    assert table is not None
    readers = readers_of(opened)
    reader = readers[max(readers)]

    def drawn(columns: Sequence[TableColumn]) -> tuple[Question, ...]:
        return tuple(question_of(one, reader_of(one, readers), counts, beside) for one in columns)

    seen = set()
    for number, page in enumerate(reader.plan.questionnaire.pages, 1):
        own = [table.columns[one.key] for one in page.items if one.key in table.columns]
        seen |= {one.key for one in own}
        if own:
            yield Page(number, reader.say(page.title), drawn(own))
    gone = [one for key, one in table.columns.items() if key not in seen and not one.fact]
    if gone:
        yield Page(0, "", drawn(gone))


def readers_of(opened: Opened, language: str = "") -> Mapping[int, Reader]:
    """One for each edition, in the first language or another."""
    return {number: Reader(plan, language) for number, plan in opened.plans.items()}


def reader_of(column: TableColumn, readers: Mapping[int, Reader]) -> Reader:
    """That of the newest edition that has the question."""
    having = [number for number, one in readers.items() if column.key in one.plan.items]
    return readers[max(having)]


def question_of(
    column: TableColumn, reader: Reader, counts: Counts, beside: Counts | None
) -> Question:
    words = reader.say(getattr(column.item, "text", None))
    if column.restricted:
        return Question(column, words, None, 0, None, True)
    found = counts.said.get(column.key) or Answers([], 0, 0)
    asked = counts.asked(column, found)
    base = asked if counts.of == "asked" else None
    picture = None
    if len(found.said) == found.different or _is_text(column):
        tally: Tally = [Said(*one) for one in found.said]
        other = beside.said.get(column.key) if beside else None
        if other is not None and not _is_text(column):
            tally = framed(tally, [Said(*one) for one in other.said])
        picture = figure_of(column.item, tally, reader, base)
    if isinstance(picture, Texts) and _is_text(column):
        picture = picture.model_copy(update={"different": found.different})
    return Question(column, words, asked, found.answered, picture, False)
