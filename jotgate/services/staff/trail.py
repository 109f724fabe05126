"""The trail as it is read: a diary, filtered, as CSV."""

from collections.abc import AsyncIterator, Collection
from dataclasses import replace
from uuid import UUID

import orjson

from jotgate.core.common.errors import NotAllowed
from jotgate.core.formats import table
from jotgate.core.records.accounts import Account
from jotgate.core.records.trail import TrailEntry, TrailFilter
from jotgate.services.context import Context
from jotgate.services.staff.rights import needs
from jotgate.services.trail import note
from jotgate.store import trail
from jotgate.store.accounts import parts
from jotgate.store.base import Connection

PER_PAGE = 100
AT_ONCE = 2000

COLUMNS = (
    "number",
    "at",
    "who",
    "action",
    "about",
    "questionnaire",
    "entry",
    "register",
    "detail",
)


async def _may_follow(conn: Connection, account: Account, wanted: TrailFilter) -> None:
    """The whole trail is for who follows the office; that of one questionnaire or register for its
    owners. Raises NotAllowed, NotFound."""
    if account.may("follow"):
        return
    if wanted.questionnaire is not None:
        await needs(conn, account, "share", wanted.questionnaire)
    elif wanted.register is not None:
        await needs(conn, account, "share", wanted.register, "register")
    else:
        raise NotAllowed("The trail is for the coordinators of the office.")


async def page(
    context: Context, account: Account, wanted: TrailFilter, before: int | None
) -> tuple[tuple[TrailEntry, ...], bool]:
    """What matches from the newest back, and whether older lines follow."""
    async with context.engine.connect() as conn:
        await _may_follow(conn, account, wanted)
        cleared = await parts.clearances_of(conn, account.id, context.clock.now())
        found = await trail.newest(conn, _asked(wanted, cleared), before, PER_PAGE + 1)
    shown = tuple(_told(one, cleared) for one in found[:PER_PAGE])
    return shown, len(found) > PER_PAGE


def _asked(wanted: TrailFilter, cleared: Collection[UUID]) -> TrailFilter:
    """Without clearance nobody asks for who has seen which restricted answer either."""
    if wanted.key is None or wanted.questionnaire in cleared:
        return wanted
    raise NotAllowed("You have no clearance for the restricted answers of this one.")


def _told(mark: TrailEntry, cleared: Collection[UUID]) -> TrailEntry:
    """A mark without the names of the restricted answers that somebody saw, or that were
    sent, but for those with clearance: which of them there were can give away what they were."""
    named = mark.action in ("restricted_seen", "restricted_sent")
    if not named or mark.questionnaire_id in cleared:
        return mark
    kept = {name: one for name, one in mark.detail.items() if name != "keys"}
    return replace(mark, detail=kept)


async def export(context: Context, account: Account, wanted: TrailFilter) -> AsyncIterator[bytes]:
    """What matches as CSV (RFC 4180), the newest first; that it was exported stands on the
    trail."""
    async with context.engine.begin() as conn:
        await _may_follow(conn, account, wanted)
        cleared = await parts.clearances_of(conn, account.id, context.clock.now())
        asked = _asked(wanted, cleared)
        await note(context, conn, account.id, "trail_exported", asked.questionnaire)
    return _rows(context, asked, cleared)


async def _rows(
    context: Context, wanted: TrailFilter, cleared: Collection[UUID]
) -> AsyncIterator[bytes]:
    yield table.write(COLUMNS, ()).encode()
    before: int | None = None
    while True:
        async with context.engine.connect() as conn:
            found = await trail.newest(conn, wanted, before, AT_ONCE)
        yield table.lines(_cells(_told(one, cleared)) for one in found).encode()
        if len(found) < AT_ONCE:
            return
        before = found[-1].id


def _cells(one: TrailEntry) -> tuple[str, ...]:
    ids = (one.questionnaire_id, one.entry_id, one.register_id)
    return (
        str(one.id),
        one.at.isoformat(),
        one.who,
        one.action,
        one.about,
        *("" if id is None else str(id) for id in ids),
        orjson.dumps(one.detail).decode(),
    )
