"""Entries as files: the ones that a view shows, with nothing that is restricted."""

from typing import Literal
from urllib.parse import quote
from uuid import UUID

from fastapi import Response
from fastapi.responses import StreamingResponse

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.table_views import InAddress
from jotgate.api.tables import table_file
from jotgate.services.staff import entry_export
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
