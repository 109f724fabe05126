"""Tokens for scripts."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal, get_args
from uuid import UUID

Scope = Literal[
    "read_questionnaires",
    "write_questionnaires",
    "read_entries",
    "read_registers",
    "write_registers",
]
"""What a script may do under somebody's account, as far as that account may."""

SCOPES: tuple[Scope, ...] = get_args(Scope)


@dataclass(frozen=True)
class Token:
    """`cleared` lets it read restricted answers that its person has clearance for."""

    id: UUID
    name: str
    scopes: tuple[Scope, ...]
    cleared: bool
    made: datetime
    expires: datetime
    used: datetime | None
