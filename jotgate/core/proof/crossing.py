"""Checks across answers as statements: that one applies and does not hold."""

from jotgate.core.crosschecks import CrossCheck, Relation, broken
from jotgate.core.proof.answers import Answer
from jotgate.core.proof.gates import FALSE, Gates
from jotgate.core.proof.statements import Answers
from jotgate.core.today import Today
from jotgate.core.values import Value


def crossed(gates: Gates, check: CrossCheck, answers: Answers, today: Today) -> int:
    """That `check` does not hold of what is answered; its condition is not looked at."""
    bare = check.model_copy(update={"when": None})
    left = answers.get(check.left)
    if left is None:
        return FALSE
    if check.right is None:
        return _against_number(gates, bare, left, today)
    right = answers.get(check.right)
    return FALSE if right is None else _against_answer(gates, bare, left, right, today)


def _counted(gates: Gates, answer: Answer) -> list[int] | None:
    """For each number, whether at least so many are picked or entered; None where that is not
    known. One more than there can be stands last."""
    if answer.entries:
        given = [entry.given for entry in answer.entries]
        return None if answer.cells else [gates.both(answer.answered), *given, FALSE]
    if answer.options and not answer.others:
        picks = list(answer.options.values())
        return [*gates.counts(picks, len(picks)), FALSE]
    return None


def _against_number(gates: Gates, check: CrossCheck, answer: Answer, today: Today) -> int:
    counts = _counted(gates, answer)
    if counts is not None:
        fails = [
            gates.both(answer.answered, counts[n], -counts[n + 1])
            for n in range(1, len(counts) - 1)
            if broken(check, {check.left: ("x",) * n}, today)
        ]
        return gates.either(*fails)
    fails = []
    for one, cell in answer.cells:
        if cell.value is None:
            fails.append(gates.maybe(one, ("check", check.relation, check.number)))
        elif broken(check, {check.left: cell.value}, today):
            fails.append(one)
    if answer.options or answer.others or answer.entries:
        fails.append(gates.maybe(answer.answered, ("check", check.relation, check.number)))
    return gates.either(*fails)


def _against_answer(
    gates: Gates, check: CrossCheck, left: Answer, right: Answer, today: Today
) -> int:
    """Two answers stand in exactly one of three orders; where both are known, in theirs."""
    right_key = check.right or ""
    both = gates.both(left.answered, right.answered)
    if both == FALSE:
        return FALSE
    name = (check.left, right_key) if check.left < right_key else (right_key, check.left)
    less, more = (gates.maybe(both, ("order", name, one)) for one in ("less", "more"))
    if name[0] != check.left:
        less, more = more, less
    gates.never(less, more)
    equal = gates.both(both, -less, -more)
    orders = {"less": less, "equal": equal, "more": more}
    for one, mine in left.cells:
        for other, theirs in right.cells:
            order = _order(check, mine.value, theirs.value, today)
            if order is not None:
                gates.some((-one, -other, orders[order]))
    failing = {
        "is": (less, more),
        "is_not": (equal,),
        "at_least": (less,),
        "at_most": (more,),
        "more_than": (less, equal),
        "less_than": (more, equal),
    }
    return gates.either(*failing[check.relation])


def _order(check: CrossCheck, mine: Value | None, theirs: Value | None, today: Today) -> str | None:
    """How the two stand to each other, asked of the evaluator; None where that is not known."""
    if mine is None or theirs is None:
        return None
    values = {check.left: mine, check.right or "": theirs}

    def fails(relation: Relation) -> bool:
        return broken(check.model_copy(update={"relation": relation}), values, today)

    if not fails("is"):
        return "equal"
    if isinstance(mine, str) and isinstance(theirs, str):
        return "less" if mine < theirs else "more"
    return "less" if fails("at_least") else "more"
