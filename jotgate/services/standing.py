"""Whether somebody has answered: asked by other programs, which lead back here until it is done."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from uuid import NAMESPACE_URL, UUID, uuid5

from jotgate.core.common.errors import Fault, Invalid
from jotgate.core.common.secrets import hash_of
from jotgate.core.records.links import Pass
from jotgate.services.arrivals import link_of
from jotgate.services.context import Context
from jotgate.store.base import Connection
from jotgate.store.contacts import contacts
from jotgate.store.entries import entries
from jotgate.store.links import passes, visits

State = Literal["not_started", "started", "done"]


@dataclass(frozen=True)
class Whom:
    """Who is asked about, by one of: the secret of a pass, the key or the mail address of a
    contact, or who signed in (`issuer` and `subject`, OpenID Connect Core 1.0, 2)."""

    passed: str = ""
    contact_key: str = ""
    contact_email: str = ""
    issuer: str = ""
    subject: str = ""


@dataclass(frozen=True)
class Standing:
    """`entry_id`, `number` and `when` are of the newest entry, where there is one; `link` leads on
    to answering, and is empty where there is none that works."""

    state: State
    when: datetime | None
    entry_id: UUID | None
    number: int | None
    link: str


def subject_id(issuer: str, subject: str) -> UUID:
    """What stands for somebody who signed in, the same each time."""
    return uuid5(NAMESPACE_URL, f"{issuer} {subject}")


async def standing(
    context: Context, conn: Connection, id: UUID, address: str, whom: Whom
) -> Standing:
    """How far somebody has come with the questionnaire `id`. Somebody who is not known has not
    started. Raises Invalid where nobody, or more than one, is named."""
    named = [
        bool(whom.passed),
        bool(whom.contact_key or whom.contact_email),
        bool(whom.issuer and whom.subject),
    ]
    if sum(named) != 1 or (bool(whom.contact_key) and bool(whom.contact_email)):
        message = "Name a pass, a contact by key or mail address, or who signed in: one of them."
        raise Invalid(message, [Fault(code="whom", at="whom", message=message)])
    if whom.issuer:
        return await _of_subject(context, conn, id, address, subject_id(whom.issuer, whom.subject))
    if whom.passed:
        held = await passes.by_secret(conn, id, hash_of(whom.passed))
        return await _of_passes(context, conn, id, address, [held] if held else [], None)
    ids = await _contacts(conn, whom)
    held_by = await passes.of_contacts(conn, id, ids)
    return await _of_passes(context, conn, id, address, held_by, ids)


async def _contacts(conn: Connection, whom: Whom) -> list[UUID]:
    if whom.contact_key:
        found = await contacts.by_key(conn, whom.contact_key)
        return [found.id] if found else []
    return [one.id for one in await contacts.by_email(conn, whom.contact_email.strip().lower())]


async def _of_subject(
    context: Context, conn: Connection, id: UUID, address: str, subject: UUID
) -> Standing:
    link = f"{context.public_url}/q/{address}"
    newest = await entries.newest_of(conn, id, subject_id=subject)
    if newest is not None:
        return Standing("done", newest.arrived, newest.id, newest.number, link)
    begun = await visits.signed_in(conn, id, subject, context.clock.now())
    return Standing("started" if begun else "not_started", None, None, None, link)


async def _of_passes(
    context: Context,
    conn: Connection,
    id: UUID,
    address: str,
    held: list[tuple[Pass, bytes | None]],
    contact_ids: list[UUID] | None,
) -> Standing:
    """By passes, the newest first, and by whatever else their contacts sent."""
    now = context.clock.now()
    newest = await entries.newest_of(
        conn, id, pass_ids=[one.id for one, _ in held], contact_ids=contact_ids or []
    )
    good = [(one, hash) for one, hash in held if not one.is_used_up and not one.is_over(now)]
    working = [link_of(context, one, hash, address) for one, hash in good]
    link = next((one for one in working if one), "")
    if newest is not None:
        return Standing("done", newest.arrived, newest.id, newest.number, link)
    begun = max((one.started for one, _ in held if one.started), default=None)
    return Standing("started" if begun else "not_started", begun, None, None, link)
