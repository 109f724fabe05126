"""An entry: one submitted set of answers."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from types import MappingProxyType
from typing import NamedTuple
from uuid import UUID

from jotgate.core.entries.stored import Json

Stored = dict[str, Json]
"""Answers by key, in the form that stored.as_json gives them."""


class Entry(NamedTuple):
    """One entry as it is stored, without its restricted answers.

    `number` counts the entries of its questionnaire from 1. `arrived` is in UTC. `finish` is
    empty where it is restricted too, `status` where it is the first one, `status_since` is None as
    long as that is since it arrived. `flags` are carried values that failed their checks.
    `language` is the one it was answered in, empty where that was not noted. It is `corrected`
    once its answers were changed, and `anonymised` since who sent it is not known any more.
    `carer_id` is who takes care of it, or `care_team_id` the team that does. `about` is the id of
    the thing in another system that it is about; what follows says by what its visitor came, and
    which entry of which questionnaire handed on to it. `staff_id` is the account of whoever entered
    it for them, `entered` how it came to them. `claims` are those of the visitor's sign-in that go
    along with them.
    """

    id: UUID
    questionnaire_id: UUID
    edition: int
    number: int
    arrived: datetime
    finish: str
    answers: Stored
    flags: Sequence[str]
    status: str = ""
    language: str = ""
    archived: datetime | None = None
    corrected: bool = False
    carer_id: UUID | None = None
    care_team_id: UUID | None = None
    status_since: datetime | None = None
    anonymised: datetime | None = None
    about: str | None = None
    link_id: UUID | None = None
    pass_id: UUID | None = None
    contact_id: UUID | None = None
    subject_id: UUID | None = None
    mail_id: UUID | None = None
    from_questionnaire: UUID | None = None
    from_entry: UUID | None = None
    staff_id: UUID | None = None
    entered: str = ""
    claims: Mapping[str, str] = MappingProxyType({})

    @property
    def since(self) -> datetime:
        """Since when it has its status."""
        return self.status_since or self.arrived
