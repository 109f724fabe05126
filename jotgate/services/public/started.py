"""Started entries: saved as people answer, gone on with later, by link or by letter.

Whoever holds the secret of a started entry can read and change it; we keep only its hash.
"""

import hashlib
from dataclasses import dataclass
from datetime import timedelta
from typing import Any
from urllib.parse import quote

import orjson

from jotgate.core.common.errors import NotFound, TooLarge, TooManyTries
from jotgate.core.common.formatting import day
from jotgate.core.common.wording import closest
from jotgate.core.records.entries import Started
from jotgate.core.walking.path import RawAnswers
from jotgate.core.walking.plan import Plan
from jotgate.core.walking.retracing import traceable
from jotgate.core.words import page as page_words
from jotgate.services import gate, letters
from jotgate.services.arrivals import opened, renewed
from jotgate.services.context import Context
from jotgate.services.gate import Seen
from jotgate.services.letters import Written
from jotgate.services.public.allowances import allow, allow_letter, name_of
from jotgate.services.public.entering import edition_at, public_state
from jotgate.store.entries import started

KEPT_DAYS = 30
"""Days after the last change for which a started entry is kept."""

LETTERS = 3
"""Letters with a link that one started entry can have sent."""

LETTERS_A_DAY = {"address": 3, "client": 20, "questionnaire": 2_000}
"""Letters that go to one address, are asked for by one client, or at one questionnaire."""

NEW_A_DAY = 500
"""Started entries that one client can begin."""

LARGEST = 500_000
"""Bytes of a started entry."""


@dataclass(frozen=True)
class StartedAnswers:
    """Answers on their way: the link they came by, the page shown, the submission's name, and what
    is known of the visitor, sealed."""

    edition: int
    link: str
    page: str
    submission: str
    answers: RawAnswers
    arrival: str = ""


def _hash(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def _purpose(token_hash: str) -> str:
    return f"started {token_hash}"


async def save(
    context: Context, address: str, token: str, given: StartedAnswers, client: str
) -> None:
    """Keep answers under the secret `token`; those that no question asks for are left out.

    What was begun can be saved also while the gate is shut, so that nothing is lost. `client` is a
    network address. Raises Shut, NotFound, TooLarge, TooManyTries.
    """
    name = _hash(token)
    async with context.engine.begin() as conn:
        found = await public_state(conn, address)
        edition, plan = await edition_at(context, conn, found, given.edition)
        if await started.find(conn, name, found.id) is None:
            arrival, first = opened(context, found.id, given.arrival), plan.questionnaire
            seen = Seen(given.submission)
            if arrival.came.own is None:
                await gate.let_in(context, conn, found, plan, first.first_language, arrival, seen)
        sealed = context.cipher.seal(_content(plan, given), _purpose(name))
        page = given.page if given.page in traceable(plan, plan.restricted).pages else ""
        one = Started(name, found.id, edition, sealed, context.clock.now(), page)
        if await started.save(conn, one):
            says = "Too many answers were started from here today. Continue one that you started."
            await allow(context, conn, {name_of("started", client): NEW_A_DAY}, says)


def _content(plan: Plan, given: StartedAnswers) -> bytes:
    content: dict[str, Any] = {
        "link": given.link,
        "page": given.page,
        "submission": given.submission,
        "arrival": given.arrival,
        "answers": {key: one for key, one in given.answers.items() if key in plan.items},
    }
    plain = orjson.dumps(content)
    if len(plain) > LARGEST:
        raise TooLarge("These answers are too large to be saved before they are sent.")
    return plain


async def find(context: Context, address: str, token: str) -> StartedAnswers:
    """What was saved under `token`. Raises NotFound."""
    name = _hash(token)
    async with context.engine.connect() as conn:
        found = await public_state(conn, address)
        one = await started.find(conn, name, found.id)
    if one is None or one.touched < context.clock.now() - timedelta(days=KEPT_DAYS):
        raise NotFound("Nothing is saved under this link any more.")
    content = orjson.loads(context.cipher.open(one.sealed, _purpose(name)))
    content["arrival"] = renewed(context, found.id, content.get("arrival", ""))
    return StartedAnswers(edition=one.edition, **content)


async def forget(context: Context, token: str) -> None:
    async with context.engine.begin() as conn:
        await started.remove(conn, _hash(token))


async def ask_letter(
    context: Context, address: str, token: str, email: str, base: str, language: str, client: str
) -> None:
    """Have a letter with the way back sent to `email`, by the worker.

    `base` is the address that people reach us at, `client` the network address of who asks.
    Nothing that was answered, or that stood in a link, is in the letter. Raises NotFound,
    TooManyTries.
    """
    given = await find(context, address, token)
    name = _hash(token)
    async with context.engine.begin() as conn:
        found = await public_state(conn, address)
        _, plan = await edition_at(context, conn, found, given.edition)
        if await started.count_letter(conn, name) > LETTERS:
            raise TooManyTries("The link was sent often enough. Look for it in your mail.", 3600)
        says = "Too many letters were asked for today. Try again tomorrow."
        whose = {"client": client, "address": email, "questionnaire": str(found.id)}
        await allow_letter(context, conn, "letters", LETTERS_A_DAY, says, **whose)
        letter = _letter(context, plan, f"{base}/q/{quote(address)}", token, email, language)
        await letters.ask(context, conn, letter)


def _letter(
    context: Context, plan: Plan, base: str, token: str, email: str, wanted: str
) -> Written:
    language = closest(plan.questionnaire.languages, [wanted])
    until = day((context.clock.now() + timedelta(days=KEPT_DAYS)).date(), language)
    words, link = page_words(language), f"{base}#on={token}"
    return letters.worded(plan, email, language, words, "letter", link=link, until=until)


async def remove_untouched(context: Context) -> int:
    """Remove started entries that nobody went on with; how many."""
    async with context.engine.begin() as conn:
        before = context.clock.now() - timedelta(days=KEPT_DAYS)
        return await started.remove_untouched(conn, before)
