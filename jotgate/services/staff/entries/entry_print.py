"""Entries on paper: one PDF of those that somebody chose, with nothing that is restricted."""

from collections.abc import Sequence
from uuid import UUID

from jotgate.core.common.errors import Invalid, NotFound, Unavailable
from jotgate.core.entries.display import Reader
from jotgate.core.entries.print_page import print_all, printed_entry
from jotgate.core.records.accounts import Account
from jotgate.ports.isolated import TookTooLong
from jotgate.services.context import Context
from jotgate.services.staff.rights import needs
from jotgate.store import questionnaires
from jotgate.store.entries import entries

MOST = 100
"""Entries of one PDF."""


async def pdf(
    context: Context,
    account: Account,
    id: UUID,
    numbers: Sequence[int],
    empty: bool = False,
    own: bool = False,
) -> bytes:
    """In the order of their numbers, the largest first; in the languages that they were answered in
    where that is `own`, else in the first one. Raises NotFound, Invalid, Unavailable."""
    if len(numbers) > MOST:
        raise Invalid(f"{MOST} entries can be printed at once. Choose fewer.")
    async with context.engine.connect() as conn:
        await needs(conn, account, "read", id)
        found = await entries.numbered(conn, id, numbers)
        summary = await questionnaires.summary(conn, id)
        if not found or summary is None or summary.edition is None:
            raise NotFound("There is no such entry.")
        plans = {one.edition: await context.plan(conn, id, one.edition) for one in found}
        newest = await context.plan(conn, id, summary.edition)
    readers = [Reader(plans[one.edition], one.language if own else "") for one in found]
    things = [
        printed_entry(one, plans[one.edition], newest, reader, empty)
        for one, reader in zip(found, readers, strict=True)
    ]
    title = things[0].title if len(things) == 1 else f"{readers[0].say(newest.questionnaire.title)}"
    page = print_all(title, things, readers[0].language)
    try:
        return await context.printing.pdf(page)
    except TookTooLong:
        raise Unavailable("That takes too long to print. Choose fewer entries.") from None
