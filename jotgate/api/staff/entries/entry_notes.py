"""Notes about an entry among the people who read it. For people alone."""

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, StringConstraints

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.services.staff.entries import entry_notes

router = routes("/api/questionnaires/{id}/entries/{entry_id}/notes", "handling")


class NoteOut(BaseModel):
    """`who` is empty where they have no account any more; one's own can be taken back."""

    id: UUID
    who: str
    own: bool
    words: str
    written: datetime


class NoteIn(BaseModel):
    words: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=2_000)]


@router.get("")
async def notes_of_entry(
    id: UUID, entry_id: UUID, context: CurrentContext, account: CurrentAccount
) -> list[NoteOut]:
    """The oldest first."""
    found = await entry_notes.every(context, account, id, entry_id)
    return [
        NoteOut(
            id=one.id,
            who=one.who,
            own=one.account_id == account.id,
            words=one.words,
            written=one.written,
        )
        for one in found
    ]


@router.post("", status_code=204)
async def add_note(
    id: UUID, entry_id: UUID, body: NoteIn, context: CurrentContext, account: CurrentAccount
) -> None:
    await entry_notes.add(context, account, id, entry_id, body.words)


@router.delete("/{note_id}", status_code=204)
async def remove_note(
    id: UUID, entry_id: UUID, note_id: UUID, context: CurrentContext, account: CurrentAccount
) -> None:
    """One's own."""
    await entry_notes.remove(context, account, id, entry_id, note_id)
