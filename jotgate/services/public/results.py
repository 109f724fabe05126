"""What a finish tells the program that its link onward leads to, signed and encrypted."""

from dataclasses import dataclass, replace
from datetime import timedelta
from typing import Any
from urllib.parse import quote, urlsplit
from uuid import UUID

from jotgate.core.document.questionnaire import Finish
from jotgate.core.entries.finishing import Ending
from jotgate.core.walking.arrival import Came
from jotgate.services.context import Context
from jotgate.services.keys.link_keys import opened
from jotgate.store.contacts import contacts

LASTS = timedelta(minutes=10)


@dataclass(frozen=True)
class Result:
    """What is told: of which entry, how it ended, what it is about, and who it was."""

    questionnaire_id: UUID
    address: str
    entry_id: UUID
    number: int
    finish: str
    about: str | None
    came: Came


async def with_result(context: Context, finish: Finish, ending: Ending, result: Result) -> Ending:
    """The ending of `finish`, with the result in the address that its link leads to where it says
    so. Without a key that the other program knows too there is nobody to tell."""
    link = ending.onward
    if link is None or finish.link is None or not finish.link.signed:
        return ending
    async with context.engine.connect() as conn:
        keys = await opened(context, conn, result.questionnaire_id)
        came = result.came
        contact = await contacts.find(conn, came.contact_id) if came.contact_id else None
    if not keys:
        return ending
    key_id, secret = keys[0]
    now = context.clock.now()
    there = urlsplit(link.address)
    told: dict[str, Any] = {
        "iss": context.public_url,
        "aud": f"{there.scheme}://{there.netloc}",
        "iat": int(now.timestamp()),
        "exp": int((now + LASTS).timestamp()),
        "jti": str(context.ids.id()),
        "questionnaire": result.address,
        "entry": str(result.entry_id),
        "number": result.number,
        "finish": result.finish,
    }
    more = {
        "about": result.about,
        "contact": contact and (contact.key or contact.email),
        "pass": came.pass_id and str(came.pass_id),
    }
    told |= {name: value for name, value in more.items() if value}
    token = context.sealed_links.make(secret, key_id, told)
    parts = there._replace(query=f"{there.query}{'&' if there.query else ''}result={quote(token)}")
    return replace(ending, onward=replace(link, address=parts.geturl()))
