"""The columns of a register: what each holds, and a register as it is known."""

from typing import Annotated, Literal, Self, get_args
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field, StringConstraints, model_validator

from jotgate.core.common.part import Code, Key, Part
from jotgate.core.conditions.formulas import Formula

ColumnType = Literal[
    "text",
    "long_text",
    "number",
    "date",
    "time",
    "date_time",
    "yes_no",
    "pick_one",
    "pick_many",
    "email",
    "phone",
    "web_address",
    "person",
    "files",
    "entry",
    "computed",
]
COLUMN_TYPES: tuple[ColumnType, ...] = get_args(ColumnType)

PICKED: frozenset[ColumnType] = frozenset({"pick_one", "pick_many"})

Label = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80)]


class Choice(Part):
    """What can be picked in a column."""

    code: Code
    label: Label


class Column(Part):
    """Only one that is picked from has `options`, each code once; only a computed one a `formula`,
    from other columns of its row. One that names entries names those `of` a questionnaire, by their
    numbers."""

    key: Key
    label: Label
    type: ColumnType = "text"
    options: tuple[Choice, ...] = Field((), max_length=500)
    formula: Formula | None = None
    of: UUID | None = None

    @model_validator(mode="after")
    def _picked_from(self) -> Self:
        if (self.type in PICKED) != bool(self.options):
            raise ValueError("a column that is picked from has options, and no other has")
        if len({one.code for one in self.options}) != len(self.options):
            raise ValueError("two options have the same code")
        if (self.type == "computed") != (self.formula is not None):
            raise ValueError("a computed column has a formula, and no other has")
        if (self.type == "entry") != (self.of is not None):
            raise ValueError("a column of entries names their questionnaire, and no other does")
        return self


class Register(BaseModel):
    """One that is `cleared` may hold restricted answers beside its rows, for cleared eyes."""

    model_config = ConfigDict(frozen=True)

    id: UUID
    name: str
    columns: tuple[Column, ...]
    revision: int = 1
    cleared: bool = False

    @property
    def names_people(self) -> bool:
        return any(column.type == "person" for column in self.columns)
