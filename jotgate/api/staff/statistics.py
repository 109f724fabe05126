"""Entries as data for statistics programs, and the codebook that says what each column means."""

from typing import Annotated, Literal
from uuid import UUID

from fastapi import Query, Response

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.table_views import InAddress
from jotgate.api.tables import saved
from jotgate.core.common.wording import Language
from jotgate.core.statistics.codebook import DataFormat
from jotgate.services.staff.entries.entry_table import Asked
from jotgate.services.staff.statistics import exporting
from jotgate.services.staff.statistics.exporting import CodebookFormat

router = routes("/api/questionnaires/{id}", "entries")

LabelLanguage = Annotated[Language | Literal[""], Query(max_length=40)]

TYPES: dict[CodebookFormat, str] = {
    "html": "text/html; charset=utf-8",
    "pdf": "application/pdf",
    "csvw": "application/csvm+json",
    "datapackage": "application/json",
    "ddi": "application/xml",
}


@router.get("/statistics-export", response_class=Response)
async def statistics_export(
    id: UUID,
    view: InAddress,
    context: CurrentContext,
    account: CurrentAccount,
    format: DataFormat = "csv",
    archived: bool = False,
    language: LabelLanguage = "",
) -> Response:
    """A ZIP of the entries of a view with one file for all of them and one for each roster, and for
    each grid whose rows can be answered more than once; with its codebook as a page and by DDI, and
    beside CSV by CSV on the Web and as a data package. Labels are in a `language` of the
    questionnaire, or in its first. Nothing restricted is in it."""
    asked = Asked(view, archived=archived)
    title, pieces = await exporting.data(context, account, id, asked, language, format)
    return saved(f"{title or 'entries'} ({format}).zip", pieces, "application/zip")


@router.get("/codebook", response_class=Response)
async def codebook(
    id: UUID,
    view: InAddress,
    context: CurrentContext,
    account: CurrentAccount,
    format: CodebookFormat = "html",
    archived: bool = False,
    language: LabelLanguage = "",
) -> Response:
    """The codebook alone, with what is counted of the entries of a view."""
    asked = Asked(view, archived=archived)
    name, made = await exporting.codebook(context, account, id, asked, language, format)
    told = {"Content-Disposition": f'attachment; filename="{name}"'}
    return Response(made, media_type=TYPES[format], headers=told)
