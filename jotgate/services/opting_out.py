"""Opting out of letters, by the address at the foot of each (RFC 8058, RFC 2369)."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from uuid import UUID

from jotgate.core.common.errors import NotFound
from jotgate.core.common.wording import closest, say
from jotgate.core.contacts.contact import Contact, facts_of
from jotgate.core.contacts.opting import EVERYTHING, Scope, of_kind, of_questionnaire
from jotgate.services.context import Context
from jotgate.services.mailings import letter_marks
from jotgate.services.trail import note
from jotgate.store import questionnaires
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts, opt_outs
from jotgate.store.links import mailings

PURPOSE = b"opt out"

OptChoice = Literal["everything", "questionnaire", "kind", "back"]
"""What somebody wants no more letters of, or that they want all of these again."""

NONE_SUCH = "There is no such letter."


@dataclass(frozen=True)
class Reader:
    """Whoever got a letter: their address, the questionnaire and the kind that it was of, as they
    read them, and what they opted out of, the widest of these."""

    email: str
    title: str
    kind: str
    out: OptChoice | None


def address_of(context: Context, letter_id: UUID) -> str:
    """The address by which whoever got a letter opts out; nobody else can make it."""
    return f"{context.public_url}/out/{letter_marks.token_of(context, PURPOSE, letter_id)}"


Offered = dict[OptChoice, Scope]


async def _offered(
    context: Context, conn: Connection, token: str, language: str
) -> tuple[str, Offered]:
    """The address that a letter went to, and what can be opted out of. Raises NotFound."""
    id = letter_marks.letter_by(context, PURPOSE, token)
    letter = await mailings.letter(conn, id) if id else None
    if letter is None:
        raise NotFound(NONE_SUCH)
    mailing = await mailings.find(conn, letter.questionnaire_id, letter.mailing_id)
    title = await _title(conn, letter.questionnaire_id, language)
    offered: Offered = {
        "everything": EVERYTHING,
        "questionnaire": of_questionnaire(letter.questionnaire_id, title),
    }
    kind = of_kind(mailing.kind if mailing else "")
    return letter.email, offered | ({"kind": kind} if kind else {})


async def _title(conn: Connection, questionnaire_id: UUID, language: str) -> str:
    summary = await questionnaires.summary(conn, questionnaire_id)
    if summary is None:
        raise NotFound(NONE_SUCH)
    first = summary.languages[0]
    return say(summary.title, closest(summary.languages, [language]), first)


async def _reader(conn: Connection, email: str, offered: Offered) -> Reader:
    stopped = {one.scope for one in await opt_outs.of(conn, email)}
    out = next((name for name, scope in offered.items() if scope.key in stopped), None)
    kind = offered.get("kind", EVERYTHING).told
    return Reader(email, offered["questionnaire"].told, kind, out)


async def whose(context: Context, token: str, language: str) -> Reader:
    """Whoever got a letter, with its questionnaire in `language` where it has that. Raises
    NotFound."""
    async with context.engine.connect() as conn:
        return await _reader(conn, *await _offered(context, conn, token, language))


async def mark(conn: Connection, email: str, out: bool, now: datetime, told: str = "") -> bool:
    """Keep that whoever has this address opted out of everything, or did not, with every contact
    that has it; whether that is new. `told` is where it came from, if not by a letter."""
    changed = await (
        opt_outs.add(conn, email, now, EVERYTHING._replace(told=told))
        if out
        else opt_outs.remove(conn, email)
    )
    await contacts.mark_out(conn, [email], now if out else None)
    return changed


async def mark_contact(
    conn: Connection, id: UUID, out: bool, now: datetime, told: str
) -> Contact | None:
    """The same for a contact, by its address where it has one; None where it is gone."""
    found = await contacts.find(conn, id, lock=True)
    if found is None:
        return None
    if found.email:
        await mark(conn, found.email, out, now, told)
    else:
        at = (found.opted_out or now) if out else None
        await contacts.put(conn, id, found.revision, facts_of(found), at)
    return await contacts.find(conn, id)


async def choose(context: Context, token: str, choice: OptChoice, language: str) -> Reader:
    """Opt out, or back in. Doing it twice changes nothing. Raises NotFound."""
    now = context.clock.now()
    async with context.engine.begin() as conn:
        email, offered = await _offered(context, conn, token, language)
        if choice == "back":
            changed = await opt_outs.remove(
                conn, email, [scope.key for scope in offered.values() if scope.key]
            )
            changed |= await mark(conn, email, False, now)
        elif choice == "everything":
            changed = await mark(conn, email, True, now)
        else:
            scope = offered.get(choice)
            if scope is None:
                raise NotFound(NONE_SUCH)
            changed = await opt_outs.add(conn, email, now, scope)
        if changed:
            state = "in" if choice == "back" else "out"
            await note(context, conn, None, "opted_out", state=state)
        return await _reader(conn, email, offered)
