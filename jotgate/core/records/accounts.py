"""Accounts and their sessions."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from uuid import UUID

Role = Literal["coordinator", "reviewer"]


@dataclass(frozen=True)
class Account:
    id: UUID
    email: str
    name: str
    role: Role

    @property
    def writes(self) -> bool:
        """Whether this account may change questionnaires, gates and rules."""
        return self.role == "coordinator"


@dataclass(frozen=True)
class Session:
    account: Account
    csrf: str
    expires: datetime
