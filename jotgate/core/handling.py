"""How an office works through the entries of a questionnaire: the statuses that they can have,
which may follow which, for how long, and who takes care of each."""

from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cached_property
from typing import Annotated, Literal, Self
from uuid import UUID

from pydantic import Field, StringConstraints, model_validator

from jotgate.core.common.part import Key, Part
from jotgate.core.rights import Role, reaches

FIRST = "first"
"""The key of the status that an entry arrives with. Entries store it as nothing, so that nothing
has to be stored as they arrive."""

Glyph = Literal[
    "ring", "dot", "half", "square", "triangle", "diamond", "bars", "flag", "tick", "cross"
]
"""The shape that stands for a status, drawn before its name: colours alone tell nobody apart."""

Tone = Literal["plain", "new", "going", "waiting", "good", "bad"]
"""What its colour means."""

Least = Literal["coordinator", "reviewer", "reader"]


class _Status(Part):
    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)]
    glyph: Glyph = "dot"
    tone: Tone = "plain"
    next: tuple[Key, ...] | None = Field(None, max_length=31)
    role: Least = "coordinator"
    teams: tuple[UUID, ...] = Field((), max_length=20)
    days: Annotated[int, Field(ge=1, le=3650)] | None = None


class Status(_Status):
    """Where an entry stands in handling. `next` are those that may follow it, any where it is None.
    It is set by people who have `role` at least, or, where some are named, by those of `teams`;
    owners may always. Entries are late once they have it for longer than `days`; never where it is
    `final`."""

    key: Key
    final: bool = False


class FirstStatus(_Status):
    """The one that entries arrive with."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60)] = (
        "New"
    )
    glyph: Glyph = "ring"
    tone: Tone = "new"


class Keeping(Part):
    """What becomes of entries by themselves once they have had a final status for so many days:
    they are deleted, or anonymised: kept without whoever sent them, and without the answers under
    `drop`."""

    days: Annotated[int, Field(ge=1, le=36_500)]
    then: Literal["delete", "anonymise"] = "delete"
    drop: tuple[Key, ...] = Field((), max_length=1_000)


@dataclass(frozen=True)
class Terms:
    """Days by status as entries store it: `limits` after which they are late, `kept` after which
    they are let go."""

    limits: Mapping[str, int]
    kept: Mapping[str, int]


class Handling(Part):
    """The statuses, in their order, and for how long entries are kept once they have a final one;
    without that they are kept for good."""

    first: FirstStatus = FirstStatus()
    statuses: tuple[Status, ...] = Field((), max_length=30)
    keeping: Keeping | None = None

    @model_validator(mode="after")
    def _fit(self) -> Self:
        keys = [FIRST, *(one.key for one in self.statuses)]
        if len({*keys}) != len(keys) or len({one.name for one in self.statuses}) != len(keys) - 1:
            raise ValueError("two statuses have the same name")
        for one in self.every.values():
            gone = {*(one.next or ())} - {*keys}
            if gone:
                raise ValueError(f"{one.name} is followed by {min(gone)}, which is no status")
        return self

    @cached_property
    def every(self) -> Mapping[str, FirstStatus | Status]:
        """All statuses by key, the first one too."""
        return {FIRST: self.first, **{one.key: one for one in self.statuses}}

    @property
    def keys(self) -> frozenset[str]:
        return frozenset(one.key for one in self.statuses)

    @cached_property
    def names(self) -> Mapping[str, str]:
        return {key: one.name for key, one in self.every.items()}

    @property
    def terms(self) -> Terms:
        limits = {
            stored(key): one.days
            for key, one in self.every.items()
            if one.days is not None and not getattr(one, "final", False)
        }
        finals = [one.key for one in self.statuses if one.final]
        return Terms(limits, dict.fromkeys(finals, self.keeping.days) if self.keeping else {})

    def why_not(self, before: str, after: str) -> str:
        """Why an entry may not go from one status to another, as entries store them; empty where it
        may. One that is no status any more may be followed by any."""
        now = self.every.get(named(before))
        then = self.every.get(named(after))
        if then is None:
            return "There is no such status."
        if now is None or before == after or now.next is None or named(after) in now.next:
            return ""
        return f"{then.name} may not follow {now.name}."

    def may_set(self, key: str, role: Role | None, teams: Collection[UUID]) -> bool:
        """Whether somebody with a role in the questionnaire, in these teams, sets a status, as
        entries store it."""
        one = self.every.get(named(key))
        if one is None or role is None:
            return False
        if role == "owner":
            return True
        return bool({*one.teams} & {*teams}) if one.teams else reaches(role, one.role)

    def team_ids(self) -> Iterator[UUID]:
        for one in self.every.values():
            yield from one.teams


def named(status: str) -> str:
    """The key of a status that an entry stores."""
    return status or FIRST


def stored(key: str) -> str:
    """A status as entries store it."""
    return "" if key == FIRST else key


def is_late(
    status: str, since: datetime, archived: bool, limits: Mapping[str, int], now: datetime
) -> bool:
    """Whether an entry has its status, since then, for longer than it may."""
    days = limits.get(status)
    return days is not None and not archived and since + timedelta(days=days) < now


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
