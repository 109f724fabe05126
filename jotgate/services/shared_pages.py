"""Pages to share, as those see them who have their address: figures with words between, live or as
they were counted once."""

import asyncio
import hashlib
from collections.abc import Mapping
from datetime import timedelta
from typing import NamedTuple
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
from jotgate.services.context import Context, PageCounting
from jotgate.services.staff import figures
from jotgate.services.staff.entries.entry_table import Asked, Opened, open_for_all
from jotgate.store import shared_pages

FRESH = timedelta(seconds=30)
"""For how long what a live page shows is not counted again."""

NOT_HERE = "There is no such page."


async def drawn(context: Context, id: UUID, content: PageContent) -> DrawnPage:
    """A page with its figures as they are now. Raises NotFound, Invalid and Unavailable."""
    asked = Asked(TableView(filter=content.filter), None, content.archived)
    found = await figures.for_others(context, id, asked, content.of, content.language)
    questions = {one.column.key: one for page in found.pages for one in page.questions}
    parts = (_part(one, found, questions) for one in content.parts)
    return DrawnPage(
        title=content.title,
        language=content.language,
        of=content.of,
        entries=found.entries,
        counted=context.clock.now(),
        parts=tuple(one for one in parts if one is not None),
    )


def _part(
    part: PagePart, found: figures.Figures, questions: Mapping[str, figures.Question]
) -> DrawnPart | None:
    if isinstance(part, WordsPart):
        return DrawnWords(words=part.words)
    if isinstance(part, ArrivalsPart):
        return None if found.arrivals is None else DrawnArrivals(arrivals=found.arrivals)
    one = questions.get(part.key)
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
    """Counted once for all who look within half a minute, whatever becomes of who looked first."""
    now, kept = context.clock.now(), context.shared_pages.find(found.id)
    fresh = kept is not None and kept.revision == found.revision and now - kept.since < FRESH
    if kept is None or not fresh:
        counting = drawn(context, found.questionnaire_id, found.content)
        kept = PageCounting(found.revision, now, asyncio.ensure_future(counting))
        context.shared_pages.keep(found.id, kept)
    try:
        return await asyncio.shield(kept.counting)
    except Exception:
        if context.shared_pages.get(found.id) is kept:
            del context.shared_pages[found.id]
        raise


async def on_paper(context: Context, token: str) -> bytes:
    """The same as a PDF, laid out once for all who want it of the same figures. Raises as `shown`
    does."""
    html = await asyncio.to_thread(shared_page, *await shown(context, token))
    key = hashlib.sha256(html.encode()).digest()
    making = context.shared_pdfs.find(key)
    if making is None:
        making = asyncio.ensure_future(_laid_out(context, html))
        context.shared_pdfs.keep(key, making)
    try:
        return await asyncio.shield(making)
    except Exception:
        if context.shared_pdfs.get(key) is making:
            del context.shared_pdfs[key]
        raise


async def _laid_out(context: Context, html: str) -> bytes:
    try:
        return await context.printing.pdf(html)
    except TookTooLong:
        raise Unavailable("That takes too long to print. Try again in a moment.") from None
