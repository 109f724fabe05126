"""Pages to share: staff put figures on them, with words between, and take them back."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import Fault, Invalid, NotFound, Stale
from jotgate.core.entries.table import view_faults
from jotgate.core.records.accounts import Account
from jotgate.core.shared_pages.page import DrawnPage, FigurePart, PageContent, SharedPage
from jotgate.core.table_views import TableView
from jotgate.services import shared_pages as shown_pages
from jotgate.services.context import Context
from jotgate.services.staff.entries.entry_table import Opened, open_for_all
from jotgate.services.staff.rights import needs
from jotgate.services.trail import note
from jotgate.store import shared_pages
from jotgate.store.base import Connection

MOST = 100
"""Pages of one questionnaire."""


@dataclass(frozen=True)
class PageGiven:
    """`live`: the figures are counted whenever somebody looks, else they stay as they are."""

    content: PageContent
    live: bool


async def every(context: Context, account: Account, id: UUID) -> list[SharedPage]:
    """The newest first. Raises NotFound, NotAllowed."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id)
        return await shared_pages.every(conn, id)


async def page(context: Context, account: Account, id: UUID, page_id: UUID) -> SharedPage:
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id)
        return await _found(conn, id, page_id)


async def _found(conn: Connection, id: UUID, page_id: UUID, lock: bool = False) -> SharedPage:
    found = await shared_pages.page(conn, id, page_id, lock)
    if found is None:
        raise NotFound("There is no such page to share.")
    return found


async def add(context: Context, account: Account, id: UUID, given: PageGiven) -> SharedPage:
    """Raises NotFound, NotAllowed, Invalid and Unavailable."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", id)
        await _checked(context, conn, id, given.content)
    frozen = await _frozen(context, id, given)
    now = context.clock.now()
    made = SharedPage(
        id=context.ids.id(),
        questionnaire_id=id,
        token=context.ids.secret(),
        content=given.content,
        frozen=frozen,
        closed=None,
        made=now,
        made_by=account.id,
        revision=1,
    )
    async with context.engine.begin() as conn:
        if await shared_pages.count(conn, id) >= MOST:
            raise Invalid(f"There are {MOST} pages to share already. Remove one first.")
        await shared_pages.add(conn, made)
        await _noted(context, conn, account, made, "made")
    return made


async def change(
    context: Context, account: Account, id: UUID, page_id: UUID, given: PageGiven, revision: int
) -> SharedPage:
    """Over the `revision` that it was read at; what stays as it is, is counted anew. Raises as
    `add` does, and Stale."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "write", id)
        await _found(conn, id, page_id)
        await _checked(context, conn, id, given.content)
    frozen = await _frozen(context, id, given)
    async with context.engine.begin() as conn:
        before = await _found(conn, id, page_id, lock=True)
        if before.revision != revision:
            raise Stale("Somebody changed this page to share in the meantime.", current=None)
        after = replace(before, content=given.content, frozen=frozen, revision=revision + 1)
        await shared_pages.put(conn, after)
        await _noted(context, conn, account, after, "changed")
    return after


async def close(
    context: Context, account: Account, id: UUID, page_id: UUID, closed: bool
) -> SharedPage:
    """Nobody finds it any more, or again at another address: whoever had the old one has to be
    given the new one."""
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        before = await _found(conn, id, page_id, lock=True)
        if (before.closed is not None) == closed:
            return before
        at = context.clock.now() if closed else None
        token = before.token if closed else context.ids.secret()
        after = replace(before, closed=at, token=token, revision=before.revision + 1)
        await shared_pages.put(conn, after)
        await _noted(context, conn, account, after, "closed" if closed else "opened")
    return after


async def remove(context: Context, account: Account, id: UUID, page_id: UUID) -> None:
    async with context.engine.begin() as conn:
        await needs(conn, account, "write", id)
        before = await _found(conn, id, page_id, lock=True)
        await shared_pages.remove(conn, id, page_id)
        await _noted(context, conn, account, before, "removed")


async def _frozen(context: Context, id: UUID, given: PageGiven) -> DrawnPage | None:
    return None if given.live else await shown_pages.drawn(context, id, given.content)


async def _noted(
    context: Context, conn: Connection, account: Account, one: SharedPage, state: str
) -> None:
    told: dict[str, Any] = {"title": one.content.title, "state": state, "live": one.frozen is None}
    await note(context, conn, account.id, "page_shared", one.questionnaire_id, **told)


async def _checked(context: Context, conn: Connection, id: UUID, content: PageContent) -> None:
    """Raises Invalid for what is not there to be shown."""
    opened = await open_for_all(context, conn, id)
    found = list(_faults(opened, content))
    if found:
        raise Invalid(found[0].message, found)


def _faults(opened: Opened, content: PageContent) -> Iterator[Fault]:
    if opened.table is None:
        message = "Nothing is published yet, so there are no figures to share."
        yield Fault(code="not_published", at="parts", message=message)
        return
    if content.language not in opened.table.languages:
        message = "The questionnaire is not in that language."
        yield Fault(code="no_language", at="language", message=message)
    for at, part in enumerate(content.parts):
        if isinstance(part, FigurePart):
            column = opened.table.columns.get(part.key)
            if column is None or column.fact or column.restricted:
                message = f"There is no open question {part.key}."
                yield Fault(code="no_figure", at=f"parts[{at}]", message=message)
    yield from view_faults(TableView(filter=content.filter), opened.table)
