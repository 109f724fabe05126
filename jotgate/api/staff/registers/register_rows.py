"""Single rows of a register, with what became of them and their files."""

from datetime import datetime
from uuid import UUID

from fastapi.responses import Response
from pydantic import BaseModel, Field

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.entries.entries import sent_file
from jotgate.api.staff.registers.registers import RegisterRowOut, row_out
from jotgate.core.records.dispatch import RowDid
from jotgate.core.registers.cells import Cell
from jotgate.core.registers.columns import Column
from jotgate.services.staff.registers import kept, registers

router = routes("/api/registers/{id}", "registers")


class RowChangeOut(BaseModel):
    """What was done to a row, by somebody or by the rule of an entry. Cells that were or became
    empty are not there."""

    at: datetime
    did: RowDid
    who: str
    rule: str
    entry_number: int | None
    before: dict[str, Cell]
    after: dict[str, Cell]


class FileInRow(BaseModel):
    """A file that stands in a cell by its id; `size` is in bytes."""

    id: UUID
    name: str
    size: int
    type: str


class KeptOut(BaseModel):
    """A restricted question of a questionnaire; seeing the answer may need a reason."""

    questionnaire_id: UUID
    key: str
    label: str
    asks_reason: bool


class RowRead(BaseModel):
    """A row with what became of it, the last first. `questionnaire_id` and `entry_id` lead to where
    it came from, where one may see that; `gone` tells that the entry was deleted. `kept` are the
    restricted questions whose answers stand beside it, for those with clearance alone; `named`
    are by column the ids of the entries that it names."""

    row: RegisterRowOut
    columns: list[Column]
    changes: list[RowChangeOut]
    removed: datetime | None
    questionnaire_id: UUID | None
    entry_id: UUID | None
    gone: bool
    files: list[FileInRow]
    kept: list[KeptOut] = []
    named: dict[str, UUID] = {}


@router.get("/rows/{row_id}")
async def register_row(
    id: UUID, row_id: int, context: CurrentContext, account: CurrentAccount
) -> RowRead:
    found = await registers.row(context, account, id, row_id)
    source = found.source or (None, None)
    return RowRead(
        row=row_out(found.row),
        columns=list(found.register.columns),
        changes=[
            RowChangeOut(
                at=one.at,
                did=one.did,
                who=found.names.get(one.account_id, "") if one.account_id else "",
                rule=one.rule,
                entry_number=one.entry_number,
                before=dict(one.before),
                after=dict(one.after),
            )
            for one in found.changes
        ],
        removed=found.row.removed,
        questionnaire_id=source[0],
        entry_id=source[1],
        gone=found.gone,
        files=[FileInRow(**vars(one)) for one in found.files],
        kept=[KeptOut(**vars(one)) for one in found.kept],
        named=dict(found.named),
    )


class RevealRow(BaseModel):
    """`reason` is asked for by some clearances; it stands on the trail."""

    reason: str = Field("", max_length=500)


class KeptShown(BaseModel):
    """A restricted answer in words, empty where none was given."""

    questionnaire_id: UUID
    key: str
    words: str


@router.post("/rows/{row_id}/revealed")
async def reveal_row(
    id: UUID, row_id: int, body: RevealRow, context: CurrentContext, account: CurrentAccount
) -> list[KeptShown]:
    """What is restricted beside a row."""
    found = await kept.reveal(context, account, id, row_id, body.reason)
    return [KeptShown(**vars(one)) for one in found]


@router.get("/rows/{row_id}/files/{file_id}", response_class=Response)
async def file_of_row(
    id: UUID,
    row_id: int,
    file_id: UUID,
    context: CurrentContext,
    account: CurrentAccount,
    small: bool = False,
) -> Response:
    """The file to save, or its preview to look at; a browser never runs either."""
    found = await registers.file(context, account, id, row_id, file_id, small)
    return sent_file(found, small)
