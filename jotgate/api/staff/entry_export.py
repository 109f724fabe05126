"""Entries as files and on paper, with nothing that is restricted."""

from typing import Annotated, Literal
from urllib.parse import quote
from uuid import UUID

from fastapi import Query, Response
from fastapi.responses import StreamingResponse

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.table_views import InAddress
from jotgate.api.tables import table_file
from jotgate.services.staff import entry_export, entry_print
from jotgate.services.staff.entry_export import MOST_ROWS, Exporting
from jotgate.services.staff.entry_table import Asked

router = routes("/api/questionnaires/{id}", "entries")


@router.get("/entries-export", response_class=Response)
async def export_entries(
    id: UUID,
    view: InAddress,
    context: CurrentContext,
    account: CurrentAccount,
    format: Literal["csv", "xlsx", "jsonl"] = "csv",
    archived: bool = False,
    codes: bool = False,
    mark: bool = True,
) -> Response:
    """CSV (RFC 4180), with a mark of its encoding (U+FEFF) or without one, XLSX, or JSON Lines with
    answers as they are stored. Options stand in words, or as `codes` below the questions' keys."""
    limit = MOST_ROWS if format == "xlsx" else None
    wanted = Exporting(Asked(view, archived=archived), codes, limit)
    found = await entry_export.export(context, account, id, wanted)
    if format != "jsonl":
        return table_file(found.title or "entries", format, found.head, found.rows, mark)
    name = f"attachment; filename*=UTF-8''{quote(found.title or 'entries')}.jsonl"
    headers = {"Content-Disposition": name}
    return StreamingResponse(found.lines, media_type="application/jsonl", headers=headers)


@router.get("/entries-print", response_class=Response)
async def print_entries(
    id: UUID,
    numbers: Annotated[str, Query(max_length=1_100, pattern=r"^\d{1,9}(,\d{1,9})*$")],
    context: CurrentContext,
    account: CurrentAccount,
    empty: bool = False,
    own: bool = False,
) -> Response:
    """A PDF of the entries with these `numbers`, commas between them, each on pages of its own;
    with what was left `empty`, and in the languages that they were answered in for `own`."""
    wanted = [int(one) for one in numbers.split(",")]
    made = await entry_print.pdf(context, account, id, wanted, empty, own)
    headers = {"Content-Disposition": 'inline; filename="entries.pdf"', "Cache-Control": "no-store"}
    return Response(made, media_type="application/pdf", headers=headers)
