"""Entries as files and on paper, with nothing that is restricted."""

from collections.abc import AsyncIterator
from typing import Annotated, Literal
from uuid import UUID

from fastapi import Query, Response

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.table_views import InAddress
from jotgate.api.tables import csv_file, saved, table_file
from jotgate.core.formats.entries_xml import FOOT, HEAD, XSD
from jotgate.services.staff.entries import entry_archive, entry_export, entry_print
from jotgate.services.staff.entries.entry_export import MOST_ROWS, Exporting
from jotgate.services.staff.entries.entry_table import Asked

router = routes("/api/questionnaires/{id}", "entries")


@router.get("/entries-export", response_class=Response)
async def export_entries(
    id: UUID,
    view: InAddress,
    context: CurrentContext,
    account: CurrentAccount,
    format: Literal["csv", "xlsx", "jsonl", "xml", "zip"] = "csv",
    archived: bool = False,
    codes: bool = False,
    files: bool = False,
    mark: bool = True,
    numbers: Annotated[str, Query(max_length=20_000, pattern=r"^(\d{1,9}(,\d{1,9})*)?$")] = "",
    but: bool = False,
) -> Response:
    """CSV (RFC 4180), with a mark of its encoding (U+FEFF) or without one, XLSX, or JSON Lines or
    XML (by the schema at `/api/entries.xsd`) with answers as they are stored. Options stand in
    words, or as `codes` below the questions' keys. A ZIP has the table as CSV, one for each roster
    and grid beside it, and with `files` those that came with the entries. With `numbers`, commas
    between them, those alone, or all `but` those."""
    limit = MOST_ROWS if format == "xlsx" else None
    chosen = entry_export.chosen([int(one) for one in numbers.split(",") if one], but)
    wanted = Exporting(Asked(view, archived=archived, chosen=chosen), codes, limit)
    if format == "zip":
        made = await entry_archive.archive(context, account, id, wanted, files)
        return saved(f"{made.title or 'entries'}.zip", made.pieces, "application/zip")
    found = await entry_export.export(context, account, id, wanted)
    title = found.title or "entries"
    if format == "csv":
        return csv_file(title, found.head, found.csv, mark)
    if format == "xlsx":
        return table_file(title, format, found.head, found.rows)
    if format == "xml":
        return saved(f"{title}.xml", around(found.xml), "application/xml")
    return saved(f"{title}.jsonl", found.lines, "application/jsonl")


async def around(entries: AsyncIterator[bytes]) -> AsyncIterator[bytes]:
    yield HEAD
    async for some in entries:
        yield some
    yield FOOT


schema = routes("/api", "entries")


@schema.get("/entries.xsd", response_class=Response)
async def entries_schema() -> Response:
    """What XML of entries is (XML Schema 1.0)."""
    return Response(XSD, media_type="application/xml")


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
