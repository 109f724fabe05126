"""The worker's side of what is sent of entries: letters and calls one after the other, each again
until it is taken or somebody has to see to it.

Runs are locked meanwhile. When the worker ends between the other side's yes and the commit, the
same goes out again under the same name: the Message-ID of a letter, the id of a call.
"""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any
from uuid import UUID, uuid5

import orjson

from jotgate.core.dispatch.call_body import with_restricted
from jotgate.core.dispatch.due import TRIES, pause_after
from jotgate.core.dispatch.gathered import gathered_letter
from jotgate.core.formats.letter_page import letter_page
from jotgate.core.records.dispatch import Run
from jotgate.core.words import letter as letter_words
from jotgate.ports.calls import Answered, Call, CallFailed
from jotgate.ports.isolated import TookTooLong
from jotgate.ports.mail import Attached, Letter, MailFailed
from jotgate.services.context import Context
from jotgate.services.keys.hook_secrets import open_secret
from jotgate.services.keys.sealing import Restricted, restricted_of
from jotgate.services.letters import from_office
from jotgate.services.trail import note
from jotgate.store import hooks, runs
from jotgate.store.base import Connection
from jotgate.store.entries import entries
from jotgate.store.hooks import Called


async def send_due(context: Context) -> bool:
    """Send the letter that is due for longest; whether any was."""
    async with context.engine.begin() as conn:
        found = await runs.take_due(conn, "notice", context.clock.now())
        if not found:
            return False
        try:
            letter = await _with_pdfs(context, found, _letter(found))
            await context.mail.send(await from_office(context, letter))
        except MailFailed as failed:
            await _failed(context, conn, found, str(failed), failed.for_good)
        else:
            await runs.mark(conn, [run.id for run in found], "done", None, context.clock.now())
    return True


async def call_due(context: Context) -> bool:
    """Make the call that is due for longest; whether any was."""
    async with context.engine.begin() as conn:
        found = await runs.take_due(conn, "call", context.clock.now())
        for run in found:
            called = await hooks.find(conn, UUID(run.detail["hook_id"]), context.clock.now())
            if called is None:
                why = "What is to be called is gone. Skip this."
                await _failed(context, conn, [run], why, True)
            else:
                await _make(context, conn, run, called)
    return bool(found)


async def _make(context: Context, conn: Connection, run: Run, called: Called) -> None:
    """Try a call once."""
    kept = await _restricted(context, run) if called.hook.cleared else None
    try:
        answered = await context.calls.send(_call(context, run, called, kept))
    except CallFailed as failed:
        told = _told(failed.answered)
        await _failed(context, conn, [run], str(failed), failed.for_good, told)
    else:
        now = context.clock.now()
        await runs.mark(conn, [run.id], "done", None, now, answered=_told(answered))
    if kept is not None and kept.answers:
        keys, at = sorted(kept.answers), (run.questionnaire_id, run.entry_id)
        name = called.hook.name
        await note(context, conn, None, "restricted_sent", *at, keys=keys, name=name)


async def _restricted(context: Context, run: Run) -> Restricted:
    """What of the entry is restricted, opened for one call alone: it stands in no run."""
    async with context.restricted.connect() as conn:
        found = await entries.sealed(conn, run.questionnaire_id, [run.entry_id])
    return await restricted_of(context, run.entry_id, found)


async def _failed(
    context: Context,
    conn: Connection,
    found: list[Run],
    why: str,
    for_good: bool,
    answered: Mapping[str, Any] | None = None,
) -> None:
    """Note a try that failed, and when there is another."""
    ids, now = [run.id for run in found], context.clock.now()
    tries = max(run.tries for run in found) + 1
    over = for_good or tries >= TRIES
    again = None if over else now + pause_after(tries)
    await runs.mark(conn, ids, "failed" if over else "failing", why[:500], now, again, answered)


def _told(answered: Answered | None) -> dict[str, Any] | None:
    if answered is None:
        return None
    words = answered.words.replace("\0", "\ufffd")[:500]
    return {"status": answered.status, "words": words}


def _call(context: Context, run: Run, called: Called, kept: Restricted | None) -> Call:
    hook, body = called.hook, run.detail["body"]
    if kept is not None:
        body = with_restricted(body, kept.answers, kept.finish)
    secrets = [open_secret(context, hook.id, one) for one in called.secrets]
    return Call(str(run.id), hook.address, orjson.dumps(body), secrets)


def _letter(found: list[Run]) -> Letter:
    first = found[0].detail
    if len(found) == 1:
        page = letter_page(first["html"], first["language"]) if first["html"] else ""
        return Letter(str(found[0].id), first["to"], first["subject"], first["plain"], html=page)
    parts = [(run.detail["subject"], run.detail["plain"], run.detail["html"]) for run in found]
    subject, plain, html = gathered_letter(parts, first["language"])
    return Letter(str(_name(found)), first["to"], subject, plain, html=html)


async def _with_pdfs(context: Context, found: list[Run], letter: Letter) -> Letter:
    """A letter with the entries in print, each made in a process of its own. Where one takes too
    long the letter goes without it, and says so."""
    pages = [run.detail["printed"] for run in found if run.detail.get("printed")]
    made: list[bytes] = []
    for page in pages:
        try:
            made.append(await context.printing.pdf(page))
        except TookTooLong:
            words = letter_words(found[0].detail["language"])["letter_not_printed"]
            html = letter.html.replace("</body>", f"<p>{words}</p></body>")
            letter = replace(letter, body=f"{letter.body}\n\n{words}", html=html)
    names = ["entry.pdf"] if len(made) == 1 else [f"entry_{n}.pdf" for n in range(1, len(made) + 1)]
    attached = (Attached(name, data) for name, data in zip(names, made, strict=True))
    return replace(letter, attached=tuple(attached))


def _name(found: list[Run]) -> UUID:
    """The same for the same runs, so that a letter that goes out again can be told."""
    assert found[0].batch is not None
    return uuid5(found[0].batch, " ".join(str(run.id) for run in found))
