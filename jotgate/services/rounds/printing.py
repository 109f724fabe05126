"""The letters of a step on paper: one PDF for the printer, and a table of what is in it."""

import asyncio
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from uuid import UUID

from jotgate.core.common.errors import Invalid, NotFound
from jotgate.core.common.typed_code import shown
from jotgate.core.formats import table
from jotgate.core.records.mailings import Mailing
from jotgate.core.records.rounds import Print, ToPrint
from jotgate.core.records.work import Work
from jotgate.core.rounds.paper_letter import (
    Addressed,
    PaperLetter,
    address_of,
    on_paper,
    paper_page,
)
from jotgate.core.rounds.round import Step
from jotgate.ports.isolated import TookTooLong
from jotgate.ports.printing import Joined
from jotgate.services import typed_codes
from jotgate.services.arrivals import link_of
from jotgate.services.context import Context
from jotgate.services.rounds.state import RoundState, kept_round, state_of
from jotgate.services.rounds.whom import of_step
from jotgate.services.trail import note
from jotgate.store import questionnaires, work
from jotgate.store.base import Connection, joins_many
from jotgate.store.links import mailings
from jotgate.store.rounds import prints

AT_ONCE = 20
"""Letters of one piece of the PDF; pieces are made side by side."""

KEPT = timedelta(days=7)
"""For how long the PDF and its table are kept."""

STOPPED = "This round is stopped. Let it go on first."
NOT_FITTING = "The address has too many lines for the window, or there is none."


@dataclass(frozen=True)
class _Piece:
    letters: Sequence[PaperLetter]
    of: Sequence[tuple[ToPrint, str]]


def place(mailing_id: UUID) -> str:
    """Where a PDF and its table are kept, below the files."""
    return f"prints/{mailing_id}"


def purpose(mailing_id: UUID, name: str) -> str:
    return f"print {mailing_id} {name}"


def short_address(context: Context) -> str:
    """Where codes are typed, as it stands in letters."""
    return f"{context.public_url.partition('://')[2]}{typed_codes.PATH}"


async def print_letters(context: Context, conn: Connection, one: Work) -> dict[str, object]:
    """Print what `one` asks for, in the transaction of `conn`. Raises Invalid, NotFound."""
    assert one.questionnaire_id is not None
    round_id, mailing_id = (UUID(one.arguments[name]) for name in ("round_id", "mailing_id"))
    kept = await kept_round(conn, one.questionnaire_id, round_id, lock=True)
    mailing = await mailings.find(conn, one.questionnaire_id, mailing_id)
    state, now = await state_of(conn, kept), context.clock.now()
    step = kept.round.step(mailing.step) if mailing else None
    portion = next((run.portion for run in state.gone if run.mailing_id == mailing_id), None)
    if mailing is None or step is None or portion is None:
        raise NotFound("There are no such letters.")
    if kept.state == "stopped":
        raise Invalid(STOPPED)
    async with joins_many(conn):
        which = await of_step(conn, state, step, portion, now)
        wanted = await prints.to_print(conn, mailing, *which, now)
    pieces, unfit = await _pieces(context, conn, state, step, mailing, wanted)
    done = await _printed(context, one.id, pieces, step)
    await _keep(context, mailing_id, done, pieces)
    ids = [letter.id for piece in pieces for letter, _ in piece.of]
    await prints.printed(conn, kept, mailing, ids, now)
    await prints.not_addressed(conn, unfit, NOT_FITTING, now)
    made = Print(mailing_id, now, len(ids), done.pages)
    await prints.put(conn, mailing.questionnaire_id, made)
    await mailings.put_state(conn, mailing.questionnaire_id, mailing_id, ["sending"], "done")
    where, name = one.questionnaire_id, mailing.name
    await note(context, conn, one.account_id, "round_printed", where, name=name, count=len(ids))
    return {"letters": len(ids), "pages": done.pages, "not_addressed": len(unfit)}


async def _pieces(
    context: Context,
    conn: Connection,
    state: RoundState,
    step: Step,
    mailing: Mailing,
    wanted: Sequence[ToPrint],
) -> tuple[list[_Piece], list[UUID]]:
    """The letters in pieces, and those whose address does not fit."""
    summary = await questionnaires.summary(conn, mailing.questionnaire_id)
    if summary is None:
        raise NotFound("There are no such letters.")
    codes = await typed_codes.codes_of(
        context, conn, mailing.questionnaire_id, [letter.one.id for letter in wanted]
    )
    post, text = state.kept.round.post, mailing.text
    short = short_address(context)
    made: list[tuple[PaperLetter, ToPrint, str]] = []
    unfit = []
    for letter in wanted:
        to = address_of(post, letter.contact, step.window)
        link = link_of(context, letter.one, letter.hash, summary.address)
        if to is None or not link:
            unfit.append(letter.id)
            continue
        there = Addressed(link, short, codes[letter.one.id])
        said = on_paper(text, post, letter.contact, summary.languages[0], there, to)
        made.append((said, letter, there.code))
    return [_piece(made[at : at + AT_ONCE]) for at in range(0, len(made), AT_ONCE)], unfit


def _piece(made: Sequence[tuple[PaperLetter, ToPrint, str]]) -> _Piece:
    return _Piece([said for said, _, _ in made], [(letter, code) for _, letter, code in made])


async def _printed(context: Context, work_id: UUID, pieces: Sequence[_Piece], step: Step) -> Joined:
    """All of them in one PDF, made side by side, with the page that each letter begins on."""
    made, turns = 0, asyncio.Semaphore(2)

    async def one(piece: _Piece) -> bytes:
        nonlocal made
        async with turns:
            page = await asyncio.to_thread(paper_page, piece.letters, step.window, step.duplex)
            pdf = await context.printing.pdf(page)
            made += len(piece.letters)
            async with context.single.connect() as conn:
                await work.advance(conn, work_id, made, context.clock.now())
            return pdf

    try:
        parts = await asyncio.gather(*map(one, pieces))
        return await context.printing.joined(parts, step.duplex)
    except TookTooLong:
        raise Invalid("One of the letters takes too long to print. Make it shorter.") from None


async def _keep(context: Context, mailing_id: UUID, done: Joined, pieces: Sequence[_Piece]) -> None:
    told = ["number", "page", "name", "address", "postcode", "code"]
    letters = [
        (said, *letter)
        for piece in pieces
        for said, letter in zip(piece.letters, piece.of, strict=True)
    ]
    rows = [
        [
            str(number),
            str(page),
            letter.contact.called,
            "\n".join(said.address.lines),
            letter.postcode,
            shown(code),
        ]
        for number, (page, (said, letter, code)) in enumerate(
            zip(done.first, letters, strict=True), 1
        )
    ]
    files = {"letters.pdf": done.data, "letters.csv": table.write(told, rows).encode()}
    for name, data in files.items():
        sealed = await asyncio.to_thread(context.cipher.seal, data, purpose(mailing_id, name))
        await context.files.put(f"{place(mailing_id)}/{name}", sealed)


async def forget_old(context: Context, now: datetime) -> None:
    """Forget what was printed some time ago."""
    async with context.engine.begin() as conn:
        gone = await prints.forget(conn, now - KEPT)
    for mailing_id in gone:
        await context.files.remove(place(mailing_id))
