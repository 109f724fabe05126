"""What dispatch rules do with one entry."""

from jotgate.core.common.today import Today
from jotgate.core.common.values import Values
from jotgate.core.conditions.condition import holds
from jotgate.core.conditions.saved import SavedCondition, in_full
from jotgate.core.dispatch.acting import Acting
from jotgate.core.dispatch.effects import Outcome, Planned
from jotgate.core.dispatch.rules import OTHERWISE, Dispatch, Rule
from jotgate.core.dispatch.subject import Subject


def planned(dispatch: Dispatch, subject: Subject) -> Planned:
    """The effects of `dispatch` on an entry, in order. Whether rules hold is asked before anything
    is done."""
    saved = subject.plan.written.saved
    caught_by, outcomes = outcomes_of(dispatch, saved, subject.values, subject.today)
    acting = Acting(subject)
    effects = [
        effect
        for rule in dispatch.rules
        if outcomes[rule.key] in ("acted", "caught")
        for effect in acting.effects(rule.key, rule.acts)
    ]
    if caught_by is None:
        effects += acting.effects(OTHERWISE, dispatch.otherwise)
    return Planned(caught_by, tuple(effects), outcomes)


def outcomes_of(
    dispatch: Dispatch, saved: tuple[SavedCondition, ...], values: Values, today: Today
) -> tuple[str | None, dict[str, Outcome]]:
    """Which rule catches an entry with these answers and facts, and what comes of each by key;
    `saved` are the conditions that the questionnaire saves under a name."""
    outcomes: dict[str, Outcome] = {}
    caught_by: str | None = None
    for rule in dispatch.rules:
        when = rule.when and in_full(rule.when, saved)
        is_true = not rule.off and holds(when, values, today)
        outcome = outcomes[rule.key] = _outcome(rule, is_true, caught_by is not None)
        if outcome == "caught":
            caught_by = rule.key
    outcomes[OTHERWISE] = "passed_over" if caught_by else "acted"
    return caught_by, outcomes


def _outcome(rule: Rule, is_true: bool, is_caught: bool) -> Outcome:
    if rule.off:
        return "off"
    if not is_true:
        return "does_not_hold"
    if not rule.catches:
        return "acted"
    return "passed_over" if is_caught else "caught"
