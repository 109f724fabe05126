"""What is set for the people at a gate: who may come in, how often, and what their browsers do."""

from typing import Annotated, Literal, get_args
from uuid import UUID

from pydantic import Field, StringConstraints

from jotgate.core.common.part import Part
from jotgate.core.gate.times import LocalMoment

KnownBy = Literal["sign_in", "contact", "pass", "mail", "device"]
"""By what somebody is known again, the surest first. A mail address was confirmed by a letter; a
device is one browser, whose storage its user can empty."""


class PerPerson(Part):
    """How often one person may answer: `most` times within `days` (ever, without them), and not
    again within `pause` hours. A person is known by the surest of `known_by` that there is. Entries
    that were archived count, unless `archived` says that they do not."""

    most: Annotated[int, Field(ge=1, le=1_000)] = 1
    days: Annotated[int, Field(ge=1, le=3_650)] | None = None
    pause: Annotated[int, Field(ge=0, le=10_000)] = 0
    archived: bool = True
    known_by: tuple[KnownBy, ...] = Field(get_args(KnownBy), min_length=1)


Domain = Annotated[
    str,
    StringConstraints(
        to_lower=True, strip_whitespace=True, pattern=r"^[a-z0-9-]+(\.[a-z0-9-]+)+$", max_length=253
    ),
]


class PassHolders(Part):
    """People with a pass; of the contacts on one of these lists, where there are any."""

    kind: Literal["passes"] = "passes"
    lists: tuple[UUID, ...] = Field((), max_length=50)


class SignedIn(Part):
    """People who signed in; with one of `values` in a claim of theirs, or with an address in one of
    `domains` that their provider says is theirs, where either is set."""

    kind: Literal["signed_in"] = "signed_in"
    claim: Annotated[str, StringConstraints(max_length=60)] = ""
    values: tuple[Annotated[str, StringConstraints(max_length=200)], ...] = Field(
        (), max_length=100
    )
    domains: tuple[Domain, ...] = Field((), max_length=100)


class Changing(Part):
    """People may change what they sent: until a moment, and while it has one of `statuses`, an
    empty one where it has none yet; without the first for as long as the gate is open, without the
    others whatever its status is."""

    until: LocalMoment | None = None
    statuses: tuple[Annotated[str, StringConstraints(max_length=40)], ...] = Field(
        (), max_length=31
    )


class Confirmed(Part):
    """People who open a link that was sent to their mail address; to one in `domains`, where there
    are any."""

    kind: Literal["mail"] = "mail"
    domains: tuple[Domain, ...] = Field((), max_length=100)


Who = Annotated[PassHolders | SignedIn | Confirmed, Field(discriminator="kind")]


class Robots(Part):
    """What is asked of browsers whose visitor is not known. `proof` is the work to be done, in
    leading zero bits of a SHA-256 (0 is none, 16 about a second), `least` the seconds that
    answering takes at least, `pace` the entries that one network address may send in an hour
    (0 is no limit). `trap` is a field that people do not see."""

    proof: Annotated[int, Field(ge=0, le=22)] = 0
    least: Annotated[int, Field(ge=0, le=600)] = 0
    pace: Annotated[int, Field(ge=0, le=100_000)] = 0
    trap: bool = False

    @property
    def is_off(self) -> bool:
        return not (self.proof or self.least or self.pace or self.trap)
