"""Letters of a round on paper: printed, and fetched for the printer."""

from datetime import datetime
from uuid import UUID

from fastapi.responses import Response
from pydantic import BaseModel

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.links.passes import WorkOut, work_out
from jotgate.services.rounds.printing import KEPT
from jotgate.services.staff.rounds import paper

router = routes("/api/questionnaires/{id}/rounds/{round_id}/paper", "rounds")


class PrintOut(BaseModel):
    """The newest PDF of some letters, which is kept `until` then."""

    at: datetime
    letters: int
    pages: int
    until: datetime


class OnPaperOut(BaseModel):
    """The letters of a step on paper: those that wait to be printed, were `sent` to the printer,
    were left out, or have an address that does not fit."""

    id: UUID
    step: str
    name: str
    made: datetime
    waiting: int
    sent: int
    left_out: int
    failed: int
    printed: PrintOut | None


@router.get("")
async def letters_on_paper(
    id: UUID, round_id: UUID, context: CurrentContext, account: CurrentAccount
) -> list[OnPaperOut]:
    """The newest first."""
    return [
        OnPaperOut(
            id=one.mailing.id,
            step=one.mailing.step,
            name=one.mailing.name,
            made=one.mailing.made,
            waiting=one.mailing.waiting,
            sent=one.mailing.sent,
            left_out=one.mailing.left_out,
            failed=one.mailing.failed,
            printed=one.printed
            and PrintOut(
                at=one.printed.at,
                letters=one.printed.letters,
                pages=one.printed.pages,
                until=one.printed.at + KEPT,
            ),
        )
        for one in await paper.every(context, account, id, round_id)
    ]


@router.post("/{mailing_id}/print", status_code=202)
async def print_on_paper(
    id: UUID, round_id: UUID, mailing_id: UUID, context: CurrentContext, account: CurrentAccount
) -> WorkOut:
    """Make one PDF of the letters that still go to somebody, also of those printed before."""
    return work_out(await paper.ask(context, account, id, round_id, mailing_id))


@router.get("/{mailing_id}/pdf", response_class=Response)
async def fetch_pdf(
    id: UUID, round_id: UUID, mailing_id: UUID, context: CurrentContext, account: CurrentAccount
) -> Response:
    data = await paper.fetch(context, account, id, round_id, (mailing_id, "letters.pdf"))
    return _file(data, "application/pdf", "letters.pdf")


@router.get("/{mailing_id}/csv", response_class=Response)
async def fetch_table(
    id: UUID, round_id: UUID, mailing_id: UUID, context: CurrentContext, account: CurrentAccount
) -> Response:
    """What is in the PDF: to whom each letter goes, on which page it begins, and its code."""
    data = await paper.fetch(context, account, id, round_id, (mailing_id, "letters.csv"))
    return _file(data, "text/csv; charset=utf-8", "letters.csv")


def _file(data: bytes, type: str, name: str) -> Response:
    shown = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(data, media_type=type, headers=shown)
