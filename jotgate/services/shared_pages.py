"""Pages to share, as those see them who have their address: figures with words between, live or as
they were counted once."""

import asyncio
import hashlib
from collections.abc import Callable, Coroutine
from datetime import timedelta
from typing import Any, NamedTuple, TypeVar
from uuid import UUID

from jotgate.core.common.errors import NotFound, Unavailable
from jotgate.core.shared_pages.html import shared_page
from jotgate.core.shared_pages.page import (
    ArrivalsPart,
    DrawnArrivals,
    DrawnFigure,
    DrawnPage,
    DrawnPart,
    DrawnWords,
    FigurePart,
    NotShown,
    PageContent,
    PagePart,
    SharedPage,
    WordsPart,
)
from jotgate.core.shared_pages.words_of_people import without_words
from jotgate.core.table_views import TableView
from jotgate.ports.isolated import TookTooLong
from jotgate.services import office
from jotgate.services.context import Context, Recent
from jotgate.services.staff import some_figures
from jotgate.services.staff.entries.entry_table import Asked, Opened, open_for_all
from jotgate.store import shared_pages

FRESH = timedelta(seconds=30)
"""For how long what a live page shows is not counted again."""

K = TypeVar("K")
V = TypeVar("V")

NOT_HERE = "There is no such page."


async def drawn(context: Context, id: UUID, content: PageContent) -> DrawnPage:
    """A page with its figures as they are now. Raises NotFound, Invalid and Unavailable."""
    now = context.clock.now()
    asked = Asked(TableView(filter=content.filter), None, content.archived)
    keys = [one.key for one in content.parts if isinstance(one, FigurePart)]
    found = await some_figures.for_others(context, id, asked, content.of, keys, content.language)
    parts = (_part(one, found) for one in content.parts)
    return DrawnPage(
        title=content.title,
        language=content.language,
        of=content.of,
        entries=found.entries,
        counted=now,
        parts=tuple(one for one in parts if one is not None),
    )


def _part(part: PagePart, found: some_figures.SomeFigures) -> DrawnPart | None:
    if isinstance(part, WordsPart):
        return DrawnWords(words=part.words)
    if isinstance(part, ArrivalsPart):
        return None if found.arrivals is None else DrawnArrivals(arrivals=found.arrivals)
    one = found.questions.get(part.key)
    if one is None or one.restricted:
        return NotShown(key=part.key)
    figure = one.drawn()
    return figure.model_copy(update={"picture": without_words(figure.picture)})


class Shown(NamedTuple):
    """A page with what is around it: the office's name, and the questionnaire's time zone."""

    page: DrawnPage
    office: str
    zone: str


async def shown(context: Context, token: str) -> Shown:
    """What somebody sees at the address of a page. Raises NotFound where there is none, or none any
    more, and Unavailable where it takes too long to count."""
    async with context.engine.connect() as conn:
        found = await shared_pages.by_token(conn, token)
        if found is None or not found.is_open(context.clock.now()):
            raise NotFound(NOT_HERE)
        opened = await open_for_all(context, conn, found.questionnaire_id)
    page = found.frozen or await _live(context, found)
    name = (await office.current(context)).name
    return Shown(_open_alone(page, opened), name, opened.zone)


def _open_alone(page: DrawnPage, opened: Opened) -> DrawnPage:
    """Without the figures of what is restricted by now, however long ago it was counted."""
    known = opened.table.open if opened.table else {}
    parts = tuple(
        NotShown(key=one.key) if isinstance(one, DrawnFigure) and one.key not in known else one
        for one in page.parts
    )
    return page.model_copy(update={"parts": parts})


async def _live(context: Context, found: SharedPage) -> DrawnPage:
    """Counted at most once within half a minute."""
    now = context.clock.now()
    return await _once(
        context.shared_pages,
        (found.id, found.revision),
        lambda: drawn(context, found.questionnaire_id, found.content),
        lambda page: now - page.counted < FRESH,
    )


async def on_paper(context: Context, token: str) -> bytes:
    """The same as a PDF, laid out once as long as there is nothing else to see. Raises as `shown`
    does."""
    html = await asyncio.to_thread(shared_page, *await shown(context, token))
    key = hashlib.sha256(html.encode()).digest()
    return await _once(context.shared_pdfs, key, lambda: _laid_out(context, html))


async def _laid_out(context: Context, html: str) -> bytes:
    try:
        return await context.printing.pdf(html)
    except TookTooLong:
        raise Unavailable("That takes too long to print. Try again in a moment.") from None


async def _once(
    kept: Recent[K, "asyncio.Future[V]"],
    key: K,
    make: Callable[[], Coroutine[Any, Any, V]],
    is_good: Callable[[V], bool] = lambda _: True,
) -> V:
    """What is made once for all who ask for it, whatever becomes of who asked first; again where it
    failed, or is not good any more."""
    making = kept.find(key)
    if making is None or (making.done() and not (_went_well(making) and is_good(making.result()))):
        making = kept.keep(key, asyncio.ensure_future(make()))
    return await asyncio.shield(making)


def _went_well(made: "asyncio.Future[V]") -> bool:
    return not made.cancelled() and made.exception() is None
