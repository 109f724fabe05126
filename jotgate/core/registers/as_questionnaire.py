"""A questionnaire that asks for what the columns of a register hold."""

from jotgate.core.document.questionnaire import Questionnaire, blank
from jotgate.core.registers.columns import Column, Register
from jotgate.core.registers.values import column_items

NOT_ASKED = ("person", "entry", "computed")
"""What is written by staff, or follows from other columns."""


def as_questionnaire(register: Register, language: str, zone: str) -> Questionnaire:
    """A draft with a question for each column that can be asked, under the same keys."""
    items = column_items(register.columns, language=language)
    asked = tuple(items[one.key] for one in register.columns if one.type not in NOT_ASKED)
    draft = blank(register.name, language, zone)
    page = draft.pages[0].model_copy(update={"items": asked})
    return Questionnaire.model_validate(
        draft.model_copy(update={"pages": (page,)}).model_dump(mode="json")
    )


def not_asked(register: Register) -> list[Column]:
    """The columns that no question is made of."""
    return [one for one in register.columns if one.type in NOT_ASKED]
