"""Registers: tables of our own where filed rows land and are worked on."""

from typing import Literal
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field

from jotgate.core.items import Key

ColumnType = Literal["text", "number", "yes_no", "date"]


class Column(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")

    key: Key
    label: str = Field(min_length=1, max_length=80)
    type: ColumnType = "text"


class Register(BaseModel):
    model_config = ConfigDict(frozen=True)

    id: UUID
    name: str
    columns: tuple[Column, ...]
