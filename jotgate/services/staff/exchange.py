"""Questionnaires in and out as files: our own document, HL7 FHIR, and their texts as XLIFF."""

import asyncio
import json
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from jotgate.core.common.errors import Invalid
from jotgate.core.common.wording import say
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.formats import document, xliff
from jotgate.core.formats.fhir import from_fhir, to_fhir
from jotgate.core.records.accounts import Account
from jotgate.services.context import Context
from jotgate.services.staff import questionnaires
from jotgate.services.staff.rights import in_office


@dataclass(frozen=True)
class Imported:
    """A questionnaire that came in as a file, and what of the file was left out."""

    id: UUID
    left: tuple[str, ...]


async def import_document(context: Context, account: Account, data: bytes) -> Imported:
    """Start a questionnaire from a file: our own document, or FHIR. Raises Invalid."""
    in_office(account, "begin")
    draft, left = await context.apart(_imported, data)
    return Imported(await questionnaires.add(context, account, "", draft), left)


def _imported(data: bytes) -> tuple[str, tuple[str, ...]]:
    """The draft in a file as JSON, and what was left out."""
    found = document.parse(data)
    is_fhir = isinstance(found, dict) and found.get("resourceType") == "Questionnaire"
    draft, left = _read_fhir(found, data) if is_fhir else (document.read(data), ())
    return draft.model_dump_json(), left


def _read_fhir(found: Any, data: bytes) -> tuple[Questionnaire, tuple[str, ...]]:
    """As `from_fhir`, each fault with its line."""
    try:
        return from_fhir(found)
    except Invalid as refused:
        raise Invalid(refused.message, document.with_lines(refused.faults, data)) from None


@dataclass(frozen=True)
class Exported:
    """A file: its name, its media type, what it holds."""

    name: str
    type: str
    data: bytes


async def export_document(context: Context, account: Account, id: UUID) -> Exported:
    """The draft as our own document."""
    return await _exported(context, account, id, document.write, "application/json", "json")


async def export_fhir(context: Context, account: Account, id: UUID) -> Exported:
    """The draft as HL7 FHIR Questionnaire, R4."""
    return await _exported(context, account, id, _as_fhir, "application/fhir+json", "fhir.json")


async def export_texts(context: Context, account: Account, id: UUID, language: str) -> Exported:
    """The draft's texts and what there is of them in `language`, as XLIFF 1.2."""

    def write(draft: Questionnaire) -> bytes:
        return xliff.write(draft, language)

    return await _exported(context, account, id, write, "application/xliff+xml", f"{language}.xlf")


def _as_fhir(draft: Questionnaire) -> bytes:
    return json.dumps(to_fhir(draft)[0], ensure_ascii=False, indent=2).encode()


async def _exported(
    context: Context,
    account: Account,
    id: UUID,
    write: Callable[[Questionnaire], bytes],
    type: str,
    ending: str,
) -> Exported:
    draft = (await questionnaires.draft(context, account, id)).document
    title = say(draft.title, draft.first_language, draft.first_language).strip() or "questionnaire"
    return Exported(f"{title[:80]}.{ending}", type, await asyncio.to_thread(write, draft))


async def left_out_of_fhir(context: Context, account: Account, id: UUID) -> tuple[str, ...]:
    """Sentences on what of the draft FHIR cannot say."""
    draft = (await questionnaires.draft(context, account, id)).document
    return (await asyncio.to_thread(to_fhir, draft))[1]


async def with_texts(context: Context, account: Account, id: UUID, data: bytes) -> xliff.Read:
    """What becomes of the draft with an XLIFF 1.2 file; nothing is saved. Raises Invalid."""
    draft = (await questionnaires.draft(context, account, id)).document
    found: xliff.Read = await context.apart(xliff.read, draft, data)
    return found
