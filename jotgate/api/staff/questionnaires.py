"""Drafts and publishing."""

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from fastapi import Request
from fastapi.responses import JSONResponse, Response
from pydantic import BaseModel, StringConstraints

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.core.common.errors import Fault
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.formats import json_schema
from jotgate.core.gate.settings import Gate
from jotgate.core.publishing.drafts import Depending, Draft, DraftJson
from jotgate.core.rights import Right
from jotgate.services.context import Context
from jotgate.services.staff import desk, questionnaires
from jotgate.services.staff.desk import DeskLine
from jotgate.services.staff.questionnaires import Changed

router = routes("/api/questionnaires", "questionnaires")


class SummaryOut(BaseModel):
    """A questionnaire with where it stands. `link` is its public address, whole. `stands` is how
    its gate does, until it `changes` by its times; `taken` of `most` places in all are, where those
    are limited."""

    id: UUID
    title: str
    language: str
    link: str
    gate: Gate
    edition: int | None
    changed: bool
    entries: int
    folder: str
    template: bool
    rights: list[Right]
    stands: Literal["open", "shut", "held", "closed", "full"]
    changes: datetime | None
    taken: int | None
    most: int | None


class DraftOut(Draft):
    faults: list[Fault]
    depending: Depending


DRAFT_BODY = {
    "requestBody": {
        "required": True,
        "content": {
            "application/json": {
                "schema": {
                    "type": "object",
                    "required": ["revision", "document"],
                    "properties": {
                        "revision": {"type": "integer"},
                        "document": {"$ref": "#/components/schemas/Questionnaire"},
                    },
                }
            }
        },
    }
}
"""The body of a draft is read away from other requests, so that it is described here."""


class PresenceIn(BaseModel):
    """A tab draws an id for itself; `at` is the key of what is selected there."""

    tab: Annotated[str, StringConstraints(pattern=r"^[0-9a-f]{32}$")]
    at: Annotated[str, StringConstraints(max_length=40)] = ""


class PresentOut(BaseModel):
    tab: str
    name: str
    at: str


class PresencesOut(BaseModel):
    revision: int
    others: list[PresentOut]


class Publish(BaseModel):
    revision: int


class EditionOut(BaseModel):
    number: int
    document: Questionnaire


class PublishedOut(BaseModel):
    """An edition as it is listed; `by` is a person's name."""

    number: int
    at: datetime
    by: str


class ChangeOut(BaseModel):
    """`at` is a path of keys, as in a fault."""

    at: str
    says: str


class ChangesOut(BaseModel):
    """What is different from `edition`; null where there is none before."""

    edition: int | None
    changes: list[ChangeOut]


def summary_out(line: DeskLine, context: Context) -> SummaryOut:
    summary, brief = line.summary, line.brief
    return SummaryOut(
        id=summary.id,
        title=summary.called,
        language=summary.languages[0],
        link=f"{context.public_url}/q/{summary.address}",
        gate=summary.gate,
        edition=summary.edition,
        changed=summary.draft_revision != summary.published_revision,
        entries=summary.entries,
        folder=summary.folder or "",
        template=summary.template,
        rights=list(line.rights),
        **vars(brief),
    )


def _draft(draft: DraftJson) -> Response:
    return Response(draft.whole(), media_type="application/json")


def _changes(changed: Changed) -> ChangesOut:
    told = [ChangeOut(at=one.at, says=one.says) for one in changed.changes]
    return ChangesOut(edition=changed.edition, changes=told)


@router.get("/{id}")
async def questionnaire(id: UUID, context: CurrentContext, account: CurrentAccount) -> SummaryOut:
    return summary_out(await desk.line(context, account, id), context)


@router.get("/{id}/draft", response_model=DraftOut)
async def draft(id: UUID, context: CurrentContext, account: CurrentAccount) -> Response:
    return _draft(await questionnaires.draft_json(context, account, id))


@router.put("/{id}/draft", response_model=DraftOut, openapi_extra=DRAFT_BODY)
async def save_draft(
    id: UUID, request: Request, context: CurrentContext, account: CurrentAccount
) -> Response:
    """Save it over the revision that it was read at."""
    return _draft(await questionnaires.save_draft(context, account, id, await request.body()))


@router.post("/{id}/draft/presence")
async def be_present(
    id: UUID, body: PresenceIn, context: CurrentContext, account: CurrentAccount
) -> PresencesOut:
    """Who else has the draft open. Asked every few seconds, it also says that this tab is there."""
    company = await questionnaires.be_present(context, account, id, body.tab, body.at)
    others = [PresentOut(tab=one.tab, name=one.name, at=one.at) for one in company.others]
    return PresencesOut(revision=company.revision, others=others)


@router.post("/{id}/editions", status_code=201)
async def publish(
    id: UUID, body: Publish, context: CurrentContext, account: CurrentAccount
) -> EditionOut:
    await questionnaires.publish(context, account, id, body.revision)
    return await newest_edition(id, context, account)


@router.get("/{id}/editions/newest")
async def newest_edition(id: UUID, context: CurrentContext, account: CurrentAccount) -> EditionOut:
    number, document = await questionnaires.edition(context, account, id)
    return EditionOut(number=number, document=document)


@router.get("/{id}/editions/newest/entry-schema")
async def entry_schema(id: UUID, context: CurrentContext, account: CurrentAccount) -> JSONResponse:
    """What an entry of the newest edition holds, as JSON Schema 2020-12."""
    _, document = await questionnaires.edition(context, account, id)
    return JSONResponse(json_schema.entry_schema(document), media_type="application/schema+json")


@router.get("/{id}/editions")
async def editions(
    id: UUID, context: CurrentContext, account: CurrentAccount
) -> list[PublishedOut]:
    """Every edition, the newest first."""
    return [
        PublishedOut(number=one.number, at=one.at, by=one.by)
        for one in await questionnaires.editions(context, account, id)
    ]


@router.get("/{id}/editions/{number}")
async def edition(
    id: UUID, number: int, context: CurrentContext, account: CurrentAccount
) -> EditionOut:
    found, document = await questionnaires.edition(context, account, id, number)
    return EditionOut(number=found, document=document)


@router.get("/{id}/editions/{number}/changes")
async def edition_changes(
    id: UUID, number: int, context: CurrentContext, account: CurrentAccount
) -> ChangesOut:
    """What an edition changed since the one before it, in words."""
    return _changes(await questionnaires.changed(context, account, id, number))


@router.get("/{id}/draft/changes")
async def draft_changes(id: UUID, context: CurrentContext, account: CurrentAccount) -> ChangesOut:
    """What the draft changed since the newest edition, in words."""
    return _changes(await questionnaires.changed(context, account, id))
