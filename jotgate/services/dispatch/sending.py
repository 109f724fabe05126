"""The worker's side of what is sent of entries: one letter after the other, each again until it is
taken or somebody has to see to it."""

from uuid import UUID, uuid5

from jotgate.core.dispatch.due import TRIES, pause_after
from jotgate.core.dispatch.letter_page import gathered_letter, letter_page
from jotgate.core.records.dispatch import Run
from jotgate.ports.mail import Letter, MailFailed
from jotgate.services.context import Context
from jotgate.services.letters import from_office
from jotgate.store import runs


async def send_due(context: Context) -> bool:
    """Send what is due for longest; whether anything was.

    Its runs are locked meanwhile. When the worker ends between the mail server's yes and the
    commit, the same letter goes out again under the same Message-ID.
    """
    async with context.engine.begin() as conn:
        found = await runs.take_due(conn, context.clock.now())
        if not found:
            return False
        ids = [run.id for run in found]
        try:
            await context.mail.send(await from_office(context, _letter(found)))
        except MailFailed as failed:
            now, tries = context.clock.now(), max(run.tries for run in found) + 1
            over = failed.for_good or tries >= TRIES
            again = None if over else now + pause_after(tries)
            told = str(failed)[:500]
            await runs.mark(conn, ids, "failed" if over else "failing", told, now, again)
        else:
            await runs.mark(conn, ids, "done", None, context.clock.now())
    return True


def _letter(found: list[Run]) -> Letter:
    first = found[0].detail
    if len(found) == 1:
        page = letter_page(first["html"], first["language"]) if first["html"] else ""
        return Letter(str(found[0].id), first["to"], first["subject"], first["plain"], html=page)
    parts = [(run.detail["subject"], run.detail["plain"], run.detail["html"]) for run in found]
    subject, plain, html = gathered_letter(parts, first["language"])
    return Letter(str(_name(found)), first["to"], subject, plain, html=html)


def _name(found: list[Run]) -> UUID:
    """The same for the same runs, so that a letter that goes out again can be told."""
    assert found[0].batch is not None
    return uuid5(found[0].batch, " ".join(str(run.id) for run in found))
