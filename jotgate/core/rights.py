"""What each role may do, in the office and in one questionnaire or register: the one table."""

from collections.abc import Iterable, Mapping
from typing import Literal, get_args

Role = Literal["owner", "coordinator", "reviewer", "reader"]
"""From the one that may do most; each may do what those after it may."""

ROLES: tuple[Role, ...] = get_args(Role)

OfficeRight = Literal["run", "begin", "follow", "reach"]
"""What concerns the whole office: run it (people, teams, settings), begin questionnaires, registers
and questions of the bank, follow what happens (the trail, the mail room), reach people (contacts,
their lists, letters to them)."""

Right = Literal["share", "write", "review", "read"]
"""What concerns one questionnaire or register: give others a part in it and clearance; change it;
see how it is made, and try it; read what came in."""

Thing = Literal["questionnaire", "register"]

IN_OFFICE: Mapping[OfficeRight, Role] = {
    "run": "owner",
    "begin": "coordinator",
    "follow": "coordinator",
    "reach": "coordinator",
}
IN_THING: Mapping[Right, Role] = {
    "share": "owner",
    "write": "coordinator",
    "review": "reviewer",
    "read": "reader",
}
"""Each right with the last role that has it."""

SAYS: Mapping[Right, str] = {
    "share": "Only an owner can do this.",
    "write": "You may read this, but not change it.",
    "review": "You may read what came in, but not how it is made.",
    "read": "You have no part in this.",
}


def strongest(roles: Iterable[Role | None]) -> Role | None:
    """The role of `roles` that may do most, None where there is none."""
    found = [ROLES.index(role) for role in roles if role is not None]
    return ROLES[min(found)] if found else None


def reaches(role: Role | None, least: Role) -> bool:
    """Whether `role` may do what `least` may."""
    return role is not None and ROLES.index(role) <= ROLES.index(least)


def rights_of(role: Role | None) -> tuple[Right, ...]:
    return tuple(right for right, least in IN_THING.items() if reaches(role, least))


def office_rights_of(role: Role | None) -> tuple[OfficeRight, ...]:
    return tuple(right for right, least in IN_OFFICE.items() if reaches(role, least))
