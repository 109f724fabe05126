"""Accounts, their sessions, and what is known of people."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal
from uuid import UUID

from jotgate.core.rights import IN_OFFICE, OfficeRight, Role, reaches


@dataclass(frozen=True)
class Account:
    """Somebody who works here. `role` is the one for the whole office; without it they have only
    the parts that they, or their teams, were given in single questionnaires and registers. `token`
    is the name of the token under which a script works for them, `cleared` whether that may read
    what they have clearance for."""

    id: UUID
    email: str
    name: str
    role: Role | None
    token: str = ""
    cleared: bool = True

    def may(self, right: OfficeRight) -> bool:
        return reaches(self.role, IN_OFFICE[right])


@dataclass(frozen=True)
class Session:
    """`csrf` is the token that every change must carry; `seen` is the last moment, to the minute,
    at which its person did something, `confirmed` that at which they last showed who they are. In a
    `limited` one nothing can be done but to set up a second factor."""

    id: UUID
    account: Account
    csrf: str
    expires: datetime
    seen: datetime
    confirmed: datetime
    limited: bool = False


@dataclass(frozen=True)
class Client:
    """Where a request comes from: the network address, the secret of the device that its browser
    keeps, and what the browser says that it is."""

    place: str
    device: str = ""
    agent: str = ""


LinkPurpose = Literal["first_owner", "invitation", "reset"]


@dataclass(frozen=True)
class Link:
    """What a one-time link is for; nobody has an account yet where it makes the first one."""

    purpose: LinkPurpose
    account_id: UUID | None


@dataclass(frozen=True)
class Passkey:
    """`id` and `public_key` as WebAuthn has them; `count` is how often it says it was used."""

    id: bytes
    account_id: UUID
    public_key: bytes
    count: int
    name: str
    added: datetime
    used: datetime | None


@dataclass(frozen=True)
class OpenSession:
    """A session as its person sees it in a list."""

    id: UUID
    started: datetime
    seen: datetime
    expires: datetime
    agent: str
    place: str


PersonState = Literal["invited", "active", "ended", "left"]


@dataclass(frozen=True)
class Person:
    """Somebody in the list of people. `until` is the moment from which the account is closed."""

    id: UUID
    email: str
    name: str
    role: Role | None
    note: str
    until: datetime | None
    left: datetime | None
    has_password: bool
    seen: datetime | None
    protected: bool
    teams: tuple[UUID, ...]

    def state(self, now: datetime) -> PersonState:
        if self.left is not None:
            return "left"
        if self.until is not None and self.until <= now:
            return "ended"
        return "active" if self.has_password or self.seen is not None else "invited"


@dataclass(frozen=True)
class Team:
    """People under a name. `address` is a mail address for notices, empty where there is none."""

    id: UUID
    name: str
    address: str
    members: tuple[UUID, ...]


@dataclass(frozen=True)
class Part:
    """A role in one questionnaire or register, of a person or a team."""

    id: UUID
    role: Role
    account_id: UUID | None
    team_id: UUID | None


@dataclass(frozen=True)
class Clearance:
    """Leave to read the restricted answers of one questionnaire. With `asks_reason` every reading
    has to say why."""

    account_id: UUID
    questionnaire_id: UUID
    given: datetime
    given_by: UUID
    until: datetime | None
    asks_reason: bool
