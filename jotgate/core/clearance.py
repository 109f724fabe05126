"""Restricted answers, and what depends on them, kept apart from the open ones."""

from jotgate.core.plan import Plan
from jotgate.core.values import Value, Values


def split(plan: Plan, kept: Values) -> tuple[dict[str, Value], dict[str, Value]]:
    """`kept` as (open answers, restricted answers)."""
    open_answers: dict[str, Value] = {}
    restricted: dict[str, Value] = {}
    for key, value in kept.items():
        (restricted if plan.is_restricted(key) else open_answers)[key] = value
    return open_answers, restricted
