"""What acts of dispatch rules would come to, as it is sent."""

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import BaseModel, Field

from jotgate.core.dispatch.acts import Gathered
from jotgate.core.dispatch.effects import (
    CallPlanned,
    CarePlanned,
    ContactPlanned,
    ListPlanned,
    NoticePlanned,
    NotPlanned,
    RowPlanned,
    StatusPlanned,
    ValuePlanned,
)
from jotgate.core.records.dispatch import RunKind
from jotgate.core.registers.cells import Cell
from jotgate.services.staff.dispatch.rehearsing import Rehearsed


class EffectOut(BaseModel):
    """What an act would come to, of which rule; `why_not` where it would not be done."""

    rule: str
    position: int
    part: int
    why_not: str = ""


class RowMovedOut(BaseModel):
    """A row that changes; without an id it is one that an act before would have added."""

    id: int | None
    before: dict[str, Cell]
    after: dict[str, Cell]


class RowPlannedOut(EffectOut):
    """A new row, or the `rows` that are brought up to date; `kept` restricted answers go beside
    it."""

    kind: Literal["row"] = "row"
    register_id: UUID
    values: dict[str, Cell]
    rows: list[RowMovedOut]
    kept: int = 0


class NoticePlannedOut(EffectOut):
    """A letter; `printed` where the entry is attached to it as a PDF."""

    kind: Literal["notice"] = "notice"
    to: str
    subject: str
    plain: str
    html: str
    language: str
    printed: bool
    gathered: Gathered


class CallPlannedOut(EffectOut):
    """A call with this body, in JSON."""

    kind: Literal["call"] = "call"
    hook_id: UUID
    body: dict[str, Any]


class StatusPlannedOut(EffectOut):
    kind: Literal["status"] = "status"
    status: str


class CarePlannedOut(EffectOut):
    """Who takes care: a person, a team, or the person of the team whose turn it is."""

    kind: Literal["care"] = "care"
    person_id: UUID | None
    team_id: UUID | None
    in_turn: bool


class ContactPlannedOut(EffectOut):
    """A field of the contact, as it was and as it becomes."""

    kind: Literal["contact"] = "contact"
    field: str
    before: str
    value: str


class ValuePlannedOut(EffectOut):
    """A carried value, as it was and as it becomes."""

    kind: Literal["value"] = "value"
    key: str
    before: str
    value: str


class ListPlannedOut(EffectOut):
    """Somebody on a list: the contact of the entry, or, where `email` is there, whoever has that
    address. `question` and `answer` are the consent; with `confirm` a letter asks once more."""

    kind: Literal["list"] = "list"
    list_id: UUID
    email: str
    name: str
    question: str
    answer: str
    confirm: bool


class NotDoneOut(EffectOut):
    """An act that cannot be done with this entry."""

    kind: Literal["not_done"] = "not_done"
    of: RunKind
    left_out: bool


AnyEffect = Annotated[
    RowPlannedOut
    | NoticePlannedOut
    | CallPlannedOut
    | StatusPlannedOut
    | CarePlannedOut
    | ContactPlannedOut
    | ValuePlannedOut
    | ListPlannedOut
    | NotDoneOut,
    Field(discriminator="kind"),
]


def effect_out(shown: Rehearsed) -> AnyEffect:
    effect = shown.effect
    at = {**vars(effect.at), "why_not": shown.why_not}
    match effect:
        case RowPlanned():
            rows = [
                RowMovedOut(**{**vars(row), "id": row.id if row.id > 0 else None})
                for row in shown.rows
            ]
            values = dict(effect.values)
            return RowPlannedOut(
                **at,
                register_id=effect.register_id,
                values=values,
                rows=rows,
                kept=len(effect.kept),
            )
        case NoticePlanned():
            return NoticePlannedOut(
                **at,
                to=effect.to,
                subject=effect.subject,
                plain=effect.plain,
                html=effect.html,
                language=effect.language,
                printed=bool(effect.printed),
                gathered=effect.gathered,
            )
        case CallPlanned():
            return CallPlannedOut(**at, hook_id=effect.hook_id, body=dict(effect.body))
        case StatusPlanned():
            return StatusPlannedOut(**at, status=effect.status)
        case CarePlanned() | ContactPlanned() | ValuePlanned() | ListPlanned():
            return _set_out(effect, at)
        case NotPlanned():
            left_out = effect.left_out
            return NotDoneOut(**(at | {"why_not": effect.why}), of=effect.kind, left_out=left_out)


def _set_out(
    effect: CarePlanned | ContactPlanned | ValuePlanned | ListPlanned, at: dict[str, Any]
) -> AnyEffect:
    match effect:
        case CarePlanned(person=person, team=team, in_turn=in_turn):
            return CarePlannedOut(**at, person_id=person, team_id=team, in_turn=in_turn)
        case ContactPlanned(field=field, before=before, value=value):
            return ContactPlannedOut(**at, field=field, before=before, value=value)
        case ValuePlanned(key=key, before=before, value=value):
            return ValuePlannedOut(**at, key=key, before=before, value=value)
        case ListPlanned():
            names = ("email", "name", "question", "answer", "confirm")
            said = {name: getattr(effect, name) for name in names}
            return ListPlannedOut(**at, list_id=effect.list_id, **said)
