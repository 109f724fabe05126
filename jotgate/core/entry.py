"""An entry: one submitted set of answers, and how its values read for a person."""

from datetime import datetime
from uuid import UUID

from pydantic import BaseModel, ConfigDict

from jotgate.core.checks import Json, as_json
from jotgate.core.conditions import Value, Values
from jotgate.core.items import Item, options_of
from jotgate.core.plan import Plan
from jotgate.core.questionnaire import Questionnaire
from jotgate.core.wording import say

Stored = dict[str, Json]
"""Answers by key, in the form that checks.as_json gives them."""


class Entry(BaseModel):
    """One entry as it is stored, without its restricted answers.

    `number` counts the entries of its questionnaire from 1. `arrived` is in UTC. `withheld`
    are the keys of restricted questions that were answered. `flags` are carried values that
    failed their checks.
    """

    model_config = ConfigDict(frozen=True)

    id: UUID
    questionnaire_id: UUID
    edition: int
    number: int
    arrived: datetime
    finish: str
    answers: Stored
    withheld: tuple[str, ...]
    flags: tuple[str, ...]


def reads(item: Item, value: Value, questionnaire: Questionnaire) -> str:
    """`value` in the words that a person reads: labels of options, Yes or No, the text."""
    if isinstance(value, bool):
        return "Yes" if value else "No"
    if isinstance(value, tuple):
        return ", ".join(reads(item, code, questionnaire) for code in value)
    first = questionnaire.first_language
    for option in options_of(item):
        if option.code == value:
            return say(option.label, first, first) or option.code
    return str(as_json(value))


def readable(plan: Plan, values: Values) -> dict[str, str]:
    """Every value of `values` as a person reads it, by key."""
    return {key: reads(plan.items[key], value, plan.questionnaire) for key, value in values.items()}
