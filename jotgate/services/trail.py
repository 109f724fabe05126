"""Writing to the trail, and its chain."""

from collections.abc import Sequence
from typing import Any
from uuid import UUID

from jotgate.core.records.trail import Action, Link, TrailMark, chained
from jotgate.services.context import Context
from jotgate.store import trail
from jotgate.store.base import Connection

AT_ONCE = 1000


async def note(
    context: Context,
    conn: Connection,
    account_id: UUID | None,
    action: Action,
    questionnaire_id: UUID | None = None,
    entry_id: UUID | None = None,
    register_id: UUID | None = None,
    about: UUID | None = None,
    **detail: Any,
) -> None:
    """Add to the trail what `account_id` did, in the caller's transaction. Until that ends nobody
    else adds to it."""
    where = (questionnaire_id, entry_id, register_id, about)
    await _add(context, conn, [(account_id, action, *where, detail)])


async def note_each(
    context: Context,
    conn: Connection,
    account_id: UUID | None,
    action: Action,
    questionnaire_id: UUID,
    entries: Sequence[tuple[UUID, dict[str, Any]]],
) -> None:
    """Add the same of several entries, each with what is told of it."""
    await _add(
        context,
        conn,
        [(account_id, action, questionnaire_id, id, None, None, detail) for id, detail in entries],
    )


Row = tuple[UUID | None, Action, UUID | None, UUID | None, UUID | None, UUID | None, dict[str, Any]]


async def _add(context: Context, conn: Connection, rows: Sequence[Row]) -> None:
    if not rows:
        return
    await trail.lock(conn)
    last = await _chained_so_far(context, conn)
    next_id, now = await trail.last_id(conn) + 1, context.clock.now()
    marks = [TrailMark(id, now, *row) for id, row in enumerate(rows, next_id)]
    await trail.add(conn, marks)
    await _link(context, conn, marks, last)


async def _link(
    context: Context, conn: Connection, marks: Sequence[TrailMark], last: Link | None
) -> Link | None:
    """Make the links of rows that follow one another; the last of them."""
    made = []
    for mark in marks:
        last = Link(mark.id, context.cipher.mark(chained(mark, last.hash if last else b"")))
        made.append(last)
    await trail.add_links(conn, made)
    return last


async def _chained_so_far(context: Context, conn: Connection) -> Link | None:
    """The last link, once rows from before there was a chain have theirs."""
    last = await trail.last(conn)
    if last is not None:
        return last
    while found := await trail.following(conn, last.id if last else 0, AT_ONCE):
        last = await _link(context, conn, [mark for mark, _ in found], last)
    return last


async def check(context: Context, number: int = 0, noted: bytes = b"") -> tuple[int, str, str]:
    """Look through the whole chain: how many rows hold, the number and hash of the last of them,
    and what is wrong with the next, if anything is. A row `number` whose hash was `noted` elsewhere
    has to be there still: that shows whether rows were cut off at the end."""
    before, after, count, seen = b"", 0, 0, number == 0
    async with context.engine.connect() as conn:
        while found := await trail.following(conn, after, AT_ONCE):
            for mark, link in found:
                last = f"{after} {before.hex()}"
                if mark.id != after + 1 and count:
                    return count, last, f"Rows {after + 1} to {mark.id - 1} are missing."
                if link is None:
                    return count, last, f"Row {mark.id} is not in the chain."
                if not context.cipher.is_mark(chained(mark, before), link):
                    return count, last, f"Row {mark.id} was changed, or one before it."
                before, after, count = link, mark.id, count + 1
                seen = seen or (mark.id, link) == (number, noted)
    last = f"{after} {before.hex()}" if count else ""
    wrong = (
        "" if seen else f"Row {number} is not what was noted: rows were cut off, or written anew."
    )
    return count, last, wrong
