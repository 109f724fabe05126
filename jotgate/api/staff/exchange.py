"""Questionnaires imported and exported as files: our own document, and HL7 FHIR."""

from typing import Any
from urllib.parse import quote
from uuid import UUID

from fastapi import Request
from fastapi.responses import JSONResponse, Response
from pydantic import BaseModel

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.common.wording import Language
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.formats import document
from jotgate.services.staff import desk, exchange
from jotgate.services.staff.exchange import Exported

router = routes("/api/questionnaires", "exchange")


class ImportedOut(BaseModel):
    """What was made of a file. `left` are sentences on what it could not hold."""

    id: UUID
    left: list[str]


class LeftOut(BaseModel):
    """Sentences on what the other format cannot say."""

    left: list[str]


@router.post("/files", status_code=201)
async def import_document(
    request: Request, context: CurrentContext, account: CurrentAccount
) -> ImportedOut:
    """Start a questionnaire from a file, the body itself. A broken one changes nothing."""
    imported = await exchange.import_document(context, account, await request.body())
    return ImportedOut(id=imported.id, left=list(imported.left))


@router.get("/schema")
async def schema(account: CurrentAccount) -> JSONResponse:
    """The shape of a questionnaire's file, as JSON Schema 2020-12."""
    return JSONResponse(document.schema(), media_type="application/schema+json")


@router.post("/{id}/copies", status_code=201)
async def copy(id: UUID, context: CurrentContext, account: CurrentAccount) -> ImportedOut:
    """Start another one from the draft of this."""
    return ImportedOut(id=await desk.copy(context, account, id), left=[])


@router.get("/{id}/draft/file")
async def export_document(id: UUID, context: CurrentContext, account: CurrentAccount) -> Response:
    """The draft as our own document."""
    return _attached(await exchange.export_document(context, account, id))


@router.get("/{id}/draft/fhir")
async def export_fhir(id: UUID, context: CurrentContext, account: CurrentAccount) -> Response:
    """The draft as HL7 FHIR Questionnaire, R4."""
    return _attached(await exchange.export_fhir(context, account, id))


@router.get("/{id}/draft/fhir/left-out")
async def left_out(id: UUID, context: CurrentContext, account: CurrentAccount) -> LeftOut:
    """What of the draft FHIR cannot say."""
    return LeftOut(left=list(await exchange.left_out_of_fhir(context, account, id)))


@router.get("/{id}/draft/translations/{language}")
async def export_translations(
    id: UUID, language: Language, context: CurrentContext, account: CurrentAccount
) -> Response:
    """The draft's texts and what there is of them in `language`, as XLIFF 1.2."""
    return _attached(await exchange.export_texts(context, account, id, language))


class TranslatedOut(BaseModel):
    """The draft with the translations of a file; nothing is saved yet.

    `taken` counts the texts that changed, `older` those whose original is another by now;
    `unknown` are places that the draft does not have.
    """

    document: Questionnaire
    language: str
    taken: int
    older: int
    unknown: list[str]


@router.post("/{id}/draft/translations")
async def import_translations(
    id: UUID, request: Request, context: CurrentContext, account: CurrentAccount
) -> TranslatedOut:
    """What becomes of the draft with an XLIFF 1.2 file, the body itself."""
    found = await exchange.with_texts(context, account, id, await request.body())
    return TranslatedOut(
        document=found.questionnaire,
        language=found.language,
        taken=found.taken,
        older=found.older,
        unknown=list(found.unknown),
    )


def _attached(file: Exported) -> Response:
    name = quote(file.name, safe="")
    headers: dict[str, Any] = {"Content-Disposition": f"attachment; filename*=UTF-8''{name}"}
    return Response(file.data, media_type=file.type, headers=headers)
