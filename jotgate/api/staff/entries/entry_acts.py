"""Acting on many entries at once: how far it is, stopping it, and undoing it. For people alone."""

from typing import Literal, Self
from uuid import UUID

from pydantic import BaseModel, Field, model_validator

from jotgate.api.dependencies import CurrentAccount, CurrentContext
from jotgate.api.routes import routes
from jotgate.api.staff.entries.handling import CareIn
from jotgate.api.staff.links.passes import WorkOut, work_out
from jotgate.core.handling import Care
from jotgate.core.table_views import TableView
from jotgate.services.handling import Change
from jotgate.services.staff.entries import entry_acts
from jotgate.services.staff.entries.choosing import Choice

router = routes("/api/questionnaires/{id}/entry-work", "handling")


class ChoiceIn(BaseModel):
    """Entries with these `numbers`, or with `all` those that `view` shows but these."""

    numbers: list[int] = Field([], max_length=20_000)
    all: bool = False
    view: TableView = TableView()
    archived: bool = False

    def choice(self) -> Choice:
        return Choice(tuple(self.numbers), self.all, self.view, self.archived)


class EntryActIn(ChoiceIn):
    """What is done with which entries. A status is the key of one, empty for none."""

    do: Literal["status", "archive", "take_back", "care", "delete"]
    status: str = Field("", max_length=40)
    care: CareIn | None = None

    @model_validator(mode="after")
    def _some(self) -> Self:
        if not self.all and not self.numbers:
            raise ValueError("no entry is chosen")
        return self

    def change(self) -> Change | None:
        match self.do:
            case "status":
                return Change(status=self.status)
            case "archive" | "take_back":
                return Change(archived=self.do == "archive")
            case "care":
                care = self.care or CareIn()
                return Change(care=Care(care.person_id, care.team_id))
        return None


@router.post("", status_code=202)
async def act_on_entries(
    id: UUID, body: EntryActIn, context: CurrentContext, account: CurrentAccount
) -> WorkOut:
    return work_out(await entry_acts.ask(context, account, id, body.choice(), body.change()))


@router.get("/{work_id}")
async def entry_work(
    id: UUID, work_id: UUID, context: CurrentContext, account: CurrentAccount
) -> WorkOut:
    """`result` has how many `entries` were changed, how many are as they were since something is
    `wrong`, and some of those by number with why (`named`)."""
    return work_out(await entry_acts.progress(context, account, id, work_id))


@router.post("/{work_id}/stop", status_code=204)
async def stop_entry_work(
    id: UUID, work_id: UUID, context: CurrentContext, account: CurrentAccount
) -> None:
    await entry_acts.stop(context, account, id, work_id)


@router.post("/{work_id}/undo", status_code=202)
async def undo_entry_work(
    id: UUID, work_id: UUID, context: CurrentContext, account: CurrentAccount
) -> WorkOut:
    """What nobody has changed since stands again as before."""
    return work_out(await entry_acts.undo(context, account, id, work_id))
