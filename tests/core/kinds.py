"""One item of a kind, and what becomes of an answer to it."""

from typing import Any

from jotgate.core.answers.checks import check
from jotgate.core.answers.failures import CheckFailed, FailedInside
from jotgate.core.common.values import Values
from jotgate.core.items import Item
from tests.documents import TODAY, item, page, questionnaire


def of(kind: str, **more: Any) -> Item:
    return next(questionnaire(page("p", item(kind, "q", **more))).items())


def outcome(one: Item, raw: Any, values: Values | None = None) -> Any:
    """The value that is kept, the code of the failure, or codes by their place inside."""
    try:
        return check(one, raw, TODAY, values)
    except CheckFailed as failed:
        return failed.code
    except FailedInside as inside:
        return {place: failed.code for place, failed in inside.failures.items()}
