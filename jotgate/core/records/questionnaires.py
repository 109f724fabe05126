"""A questionnaire as it stands: its parts with their revisions, editions, who is in it."""

from dataclasses import dataclass
from datetime import datetime
from typing import Generic, Literal, TypeVar
from uuid import UUID

from jotgate.core.gate.settings import Gate
from jotgate.core.items import Question
from jotgate.core.sign_in import VisitorSignIn

T = TypeVar("T")

PartName = Literal["draft", "gate", "dispatch", "links", "handling"]
"""The parts of a questionnaire that are saved on their own, each under optimistic locking."""


@dataclass(frozen=True)
class Saved(Generic[T]):
    """A part of a questionnaire with the revision that it was read at."""

    revision: int
    value: T


@dataclass(frozen=True)
class PublicState:
    """What a visitor's request needs of a questionnaire. Editions count from 1; `frames` are the
    sites that may show it in a frame, `sign_in` says where visitors may or have to sign in."""

    id: UUID
    gate: Gate
    gate_revision: int
    edition: int
    frames: tuple[str, ...] = ()
    sign_in: VisitorSignIn = VisitorSignIn()


@dataclass(frozen=True)
class Summary:
    """A questionnaire as the desk lists it. `edition` is None before the first publishing;
    `days` counts entries by the day (ISO date in UTC) of their arrival, lately. `zone` is the time
    zone that its times are in."""

    id: UUID
    address: str
    title: dict[str, str]
    languages: list[str]
    gate: Gate
    edition: int | None
    draft_revision: int
    published_revision: int | None
    entries: int
    folder: str | None
    template: bool
    days: dict[str, int]
    gate_revision: int
    zone: str

    @property
    def called(self) -> str:
        """Its title in its first language; what JSON holds has no order of its own."""
        return self.title.get(self.languages[0], "")

    @property
    def public_state(self) -> PublicState:
        """What its gate is asked with, before it is published too."""
        return PublicState(self.id, self.gate, self.gate_revision, self.edition or 0)


@dataclass(frozen=True)
class GateVersion:
    """The gate as it was from a moment on; `by` is a person's name."""

    revision: int
    at: datetime
    by: str
    gate: Gate


@dataclass(frozen=True)
class Published:
    """An edition as it is listed; `by` is a person's name."""

    number: int
    at: datetime
    by: str


@dataclass(frozen=True)
class Banked:
    """A question in the bank; `revision` counts its wordings from 1."""

    id: UUID
    revision: int
    item: Question
    changed: datetime


@dataclass(frozen=True)
class Present:
    """Somebody in a tab; `at` is the key of what they have selected."""

    tab: str
    name: str
    at: str
