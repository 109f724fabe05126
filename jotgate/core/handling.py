"""How an office works through the entries of a questionnaire: the statuses that they can have, and
who takes care of each."""

from dataclasses import dataclass
from typing import Annotated, Self
from uuid import UUID

from pydantic import Field, StringConstraints, model_validator

from jotgate.core.common.part import Key, Part


class Status(Part):
    """Where an entry stands in handling."""

    key: Key
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)]


class Handling(Part):
    """The statuses, in their order. An entry that has just arrived has none."""

    statuses: tuple[Status, ...] = Field((), max_length=30)

    @model_validator(mode="after")
    def _differ(self) -> Self:
        for said in ({one.key for one in self.statuses}, {one.name for one in self.statuses}):
            if len(said) != len(self.statuses):
                raise ValueError("two statuses have the same name")
        return self

    @property
    def keys(self) -> frozenset[str]:
        return frozenset(one.key for one in self.statuses)


@dataclass(frozen=True)
class Care:
    """Who takes care of an entry: a person, a team, or nobody."""

    person: UUID | None = None
    team: UUID | None = None

    @property
    def id(self) -> UUID | None:
        """Of the person or the team."""
        return self.person or self.team


NOBODY = Care()
