"""Data for statistics programs with its codebook, and the codebook alone."""

import asyncio
import io
from collections.abc import AsyncIterator, Mapping
from tempfile import TemporaryFile
from typing import IO, Literal
from uuid import UUID

import orjson

from jotgate.core.common.errors import Unavailable
from jotgate.core.formats.codebooks.csv_metadata import csv_metadata
from jotgate.core.formats.codebooks.data_package import data_package
from jotgate.core.formats.codebooks.ddi import ddi
from jotgate.core.formats.codebooks.page import codebook_page
from jotgate.core.records.accounts import Account
from jotgate.core.statistics.codebook import Codebook, DataFormat
from jotgate.ports.isolated import TookTooLong
from jotgate.services.context import Context
from jotgate.services.staff.entries.entry_table import Asked
from jotgate.services.staff.statistics.preparing import Prepared, prepared
from jotgate.services.tables.pieces import pieces_of
from jotgate.services.tables.zips import Member, zipped

CodebookFormat = Literal["html", "pdf", "csvw", "datapackage", "ddi"]

NAMES: Mapping[CodebookFormat, str] = {
    "html": "codebook.html",
    "pdf": "codebook.pdf",
    "csvw": "csv-metadata.json",
    "datapackage": "datapackage.json",
    "ddi": "codebook.xml",
}


async def data(
    context: Context,
    account: Account,
    id: UUID,
    asked: Asked,
    language: str,
    format: DataFormat,
) -> tuple[str, AsyncIterator[bytes]]:
    """The questionnaire's title, and a ZIP with a file for each table and codebooks beside them.
    Raises as `prepared` does."""
    async with prepared(context, account, id, asked, language, format) as made:
        members = {name: one for name, one in NAMES.items() if name != "pdf"}
        if format != "csv":
            members = {name: one for name, one in members.items() if name in ("html", "ddi")}
        books = {file: _told(name, made) for name, file in members.items()}
        return made.codebook.title, _sent(await _whole(made, books))


async def codebook(
    context: Context,
    account: Account,
    id: UUID,
    asked: Asked,
    language: str,
    format: CodebookFormat,
) -> tuple[str, bytes]:
    """The name of its file, and what stands in it. Raises as `prepared` does."""
    async with prepared(context, account, id, asked, language, None) as made:
        if format != "pdf":
            return NAMES[format], _told(format, made)
        try:
            return NAMES[format], await context.printing.pdf(codebook_page(made.codebook))
        except TookTooLong:
            raise Unavailable("That takes too long to print. Take the page.") from None


def _told(format: CodebookFormat, made: Prepared) -> bytes:
    book: Codebook = made.codebook
    match format:
        case "csvw":
            return _json(csv_metadata(book))
        case "datapackage":
            return _json(data_package(book))
        case "ddi":
            return ddi(book)
    return codebook_page(book).encode()


def _json(found: object) -> bytes:
    return orjson.dumps(found, option=orjson.OPT_INDENT_2)


async def _members(made: Prepared, books: Mapping[str, bytes]) -> AsyncIterator[Member]:
    for name, data in books.items():
        yield name, pieces_of(io.BytesIO(data))
    for name, path in made.files.items():
        with path.open("rb") as file:
            yield name, pieces_of(file)


async def _whole(made: Prepared, books: Mapping[str, bytes]) -> IO[bytes]:
    """A ZIP in a file without a name, which is gone when nobody holds it any more."""
    out = TemporaryFile()  # noqa: SIM115
    async for some in zipped(_members(made, books), made.codebook.made):
        await asyncio.to_thread(out.write, some)
    out.seek(0)
    return out


async def _sent(whole: IO[bytes]) -> AsyncIterator[bytes]:
    with whole:
        async for some in pieces_of(whole):
            yield some
