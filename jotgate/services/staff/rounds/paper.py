"""Letters on paper as staff have them printed, and fetch them."""

import asyncio
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal
from uuid import UUID

from jotgate.core.common.errors import Invalid, NotFound, Unavailable
from jotgate.core.contacts.contact import Contact
from jotgate.core.contacts.fields import ContactField
from jotgate.core.records.accounts import Account
from jotgate.core.records.mailings import Mailing
from jotgate.core.records.rounds import Print
from jotgate.core.records.work import Work
from jotgate.core.rounds.paper_letter import Addressed, address_of, on_paper, paper_page
from jotgate.core.rounds.round import Round
from jotgate.ports.files import Missing
from jotgate.ports.isolated import TookTooLong
from jotgate.services.context import Context
from jotgate.services.rounds.printing import (
    NOT_FITTING,
    STOPPED,
    place,
    purpose,
    short_address,
)
from jotgate.services.rounds.state import kept_round
from jotgate.services.staff.questionnaires import there
from jotgate.services.staff.rights import in_office, needs
from jotgate.services.staff.rounds.rounds import may_change
from jotgate.services.trail import note
from jotgate.store import questionnaires, work
from jotgate.store.contacts import contacts
from jotgate.store.links import mailings
from jotgate.store.rounds import prints

PICTURE = 1_100
"""Pixels of the longer side of a page that is looked at beforehand."""

PrintFile = Literal["letters.pdf", "letters.csv"]
GONE = "There is no such print any more. Print the letters again."


@dataclass(frozen=True)
class OnPaper:
    """The letters of a step on paper, with the newest print of them."""

    mailing: Mailing
    printed: Print | None


async def preview(
    context: Context, account: Account, id: UUID, round: Round, step: str, whom: UUID | None
) -> bytes:
    """A picture (WebP) of the first page of a letter on paper, as somebody gets it, or as an
    example would. Raises Invalid, Unavailable."""
    in_office(account, "reach")
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        summary = there(await questionnaires.summary(conn, id))
        known = await contacts.find(conn, whom) if whom else None
        own = await contacts.fields(conn)
    found = round.step(step)
    if found is None or found.text is None:
        raise Invalid("This step has no letter.")
    one = known or _example(context, own)
    to = address_of(round.post, one, found.window)
    if to is None:
        raise Invalid(NOT_FITTING)
    link = f"{context.public_url}/p/{summary.address}/{'x' * 22}"
    where = Addressed(link, short_address(context), "BCDFGHJK")
    said = on_paper(found.text, round.post, one, summary.languages[0], where, to)
    try:
        whole = await context.printing.pdf(paper_page([said], found.window, found.duplex))
    except TookTooLong:
        whole = b""
    picture = whole and await context.inspector.first_page(whole, PICTURE)
    if not picture:
        raise Unavailable("That takes too long to print. Make it shorter.")
    return picture


def _example(context: Context, fields: Sequence[ContactField]) -> Contact:
    own = {one.key: one.options[0] if one.options else one.label for one in fields}
    return Contact(context.ids.id(), name="Ines Example", email="ines@example.org", fields=own)


async def every(context: Context, account: Account, id: UUID, round_id: UUID) -> list[OnPaper]:
    """The newest first."""
    async with context.engine.connect() as conn:
        await needs(conn, account, "review", id)
        made = await prints.of_mailings(conn, id)
        found = await mailings.every(conn, id, round_id)
    return [OnPaper(one, made.get(one.id)) for one in found if one.way == "paper"]


async def ask(
    context: Context, account: Account, id: UUID, round_id: UUID, mailing_id: UUID
) -> Work:
    """Have letters printed by the worker. Raises Invalid, NotFound."""
    async with context.engine.begin() as conn:
        await may_change(conn, account, id)
        one = await kept_round(conn, id, round_id)
        if one.state == "stopped":
            raise Invalid(STOPPED)
        found = await mailings.every(conn, id, round_id)
        mailing = next((each for each in found if each.id == mailing_id), None)
        if mailing is None or mailing.way != "paper":
            raise NotFound("There are no such letters.")
        total = mailing.waiting + mailing.sent + mailing.failed
        said = {"round_id": str(round_id), "mailing_id": str(mailing_id)}
        now, new = context.clock.now(), context.ids.id()
        asked = Work(new, account.id, id, "print_letters", "waiting", 0, total, said, {}, now)
        await work.ask(conn, asked, context.queue)
    return asked


async def fetch(
    context: Context, account: Account, id: UUID, round_id: UUID, which: tuple[UUID, PrintFile]
) -> bytes:
    """A file of the newest print; that it was fetched is noted. Raises NotFound."""
    mailing_id, name = which
    in_office(account, "reach")
    async with context.engine.begin() as conn:
        await may_change(conn, account, id)
        mailing = await mailings.find(conn, id, mailing_id)
        made = await prints.of_mailings(conn, id)
        if mailing is None or mailing.round_id != round_id or mailing_id not in made:
            raise NotFound(GONE)
        count = made[mailing_id].letters
        await note(context, conn, account.id, "passes_exported", id, name=mailing.name, count=count)
    try:
        sealed = await context.files.get(f"{place(mailing_id)}/{name}")
    except Missing:
        raise NotFound(GONE) from None
    return await asyncio.to_thread(context.cipher.open, sealed, purpose(mailing_id, name))
