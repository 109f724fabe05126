"""What somebody can opt out of: everything, one questionnaire, or one kind of letters."""

from dataclasses import dataclass
from datetime import datetime
from typing import NamedTuple
from uuid import UUID


class Scope(NamedTuple):
    """`key` tells it from others, `told` is how people read it."""

    key: str
    told: str = ""


EVERYTHING = Scope("")


@dataclass(frozen=True)
class OptOut:
    """That an address opted out of a scope. Where that is empty, it is everything, and `told` says
    where it came from: who or which table, nothing for a letter's own way."""

    email: str
    scope: str
    told: str
    at: datetime


def of_questionnaire(id: UUID, title: str) -> Scope:
    return Scope(f"questionnaire {id}", title)


def of_kind(kind: str) -> Scope | None:
    """None where the letter is of no kind. Kinds that differ in case or blanks are the same."""
    told = " ".join(kind.split())
    return Scope(f"kind {told.casefold()}", told) if told else None


def keys(questionnaire_id: UUID, kind: str) -> list[str]:
    """What a letter of a questionnaire and a kind is in, beside everything."""
    found = (of_questionnaire(questionnaire_id, ""), of_kind(kind))
    return [one.key for one in found if one]
