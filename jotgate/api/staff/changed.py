"""What became of many things that were to be changed at once."""

from collections.abc import Sequence
from uuid import UUID

from pydantic import BaseModel

from jotgate.services.staff.many import Changed


class ChangedOut(BaseModel):
    """What became of one of them: `wrong` is empty, or why it stays as it was."""

    id: UUID
    wrong: str


def changed_out(found: Sequence[Changed]) -> list[ChangedOut]:
    return [ChangedOut(id=one.id, wrong=one.wrong) for one in found]
