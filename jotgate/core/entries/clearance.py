"""Restricted answers, and what depends on them, kept apart from the open ones."""

from jotgate.core.common.values import Value, Values
from jotgate.core.entries.entry import Entry, Stored
from jotgate.core.walking.plan import Plan


def split(plan: Plan, kept: Values) -> tuple[dict[str, Value], dict[str, Value]]:
    """`kept` as (open answers, restricted answers)."""
    open_answers: dict[str, Value] = {}
    restricted: dict[str, Value] = {}
    for key, value in kept.items():
        (restricted if plan.is_restricted(key) else open_answers)[key] = value
    return open_answers, restricted


def shows_restricted(plan: Plan, newest: Plan) -> bool:
    """Whether going through all of an edition shows something that needs clearance."""
    finish = plan.restrictions.finish or newest.restrictions.finish
    return bool(finish) or not closed_keys(plan, newest).isdisjoint(plan.items)


def closed_keys(plan: Plan, newest: Plan | None) -> frozenset[str]:
    """The keys of what is restricted in an edition, or by now."""
    return plan.restricted if newest is None else plan.restricted | newest.restricted


def needs_clearance(plan: Plan, newest: Plan | None, key: str) -> bool:
    """Whether the answer under `key` is restricted: in its own edition, or by now.

    Restricting a question protects what was answered to it before as well.
    """
    return key in closed_keys(plan, newest)


def opened(entry: Entry, plan: Plan, newest: Plan | None) -> tuple[Entry, Stored]:
    """An entry with the answers that are open, and those that were open before."""
    finish = "" if newest and newest.restrictions.finish else entry.finish
    closed = closed_keys(plan, newest)
    if finish == entry.finish and closed.isdisjoint(entry.answers):
        return entry, {}
    hidden = {key: one for key, one in entry.answers.items() if key in closed}
    kept = {key: one for key, one in entry.answers.items() if key not in hidden}
    return entry._replace(answers=kept, finish=finish), hidden
