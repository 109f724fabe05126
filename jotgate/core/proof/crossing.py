"""Checks across answers as statements: that one applies and does not hold."""

from collections.abc import Iterator, Mapping

from jotgate.core.common.today import Today
from jotgate.core.common.values import Value
from jotgate.core.conditions.cross_checks import CrossCheck, Relation, broken, measure
from jotgate.core.proof.answers import ANY, Answer
from jotgate.core.proof.gates import FALSE, Gates
from jotgate.core.proof.statements import Answers


def crossed(gates: Gates, check: CrossCheck, answers: Answers, today: Today, listed: bool) -> int:
    """That `check` does not hold of what is answered; its condition is not looked at.

    `listed` tells that the classes of all that is held against one another were made with the
    values of the others in view: then an answer of which nothing is known is none of those.
    """
    bare = check.model_copy(update={"when": None})
    left = answers.get(check.left)
    if left is None:
        return FALSE
    if check.right is None:
        return _against_number(gates, bare, left, today)
    right = answers.get(check.right)
    return FALSE if right is None else _against_answer(gates, bare, left, right, today, listed)


def _classes(gates: Gates, answer: Answer) -> list[tuple[int, Value | None]]:
    """The classes of what of an answer is compared, None for one of which that is not known.

    Of picks and entries it is how many there are.
    """
    counts = _counted(gates, answer)
    if counts is not None:
        return [
            (gates.both(answer.answered, counts[n], -counts[n + 1]), ("x",) * n)
            for n in range(1, len(counts) - 1)
        ]
    if answer.count is not None:
        return [(answer.answered, ("x",) * answer.count)]
    if answer.options or answer.others or answer.entries:
        return [(answer.answered, None)]
    return [(one, cell.exact) for one, cell in answer.cells]


def _counted(gates: Gates, answer: Answer) -> list[int] | None:
    """For each number, whether at least so many are picked or entered; None where that is not
    known. One more than there can be stands last."""
    if answer.entries:
        given = [entry.given for entry in answer.entries]
        return None if answer.cells else [answer.answered, *given, FALSE]
    if answer.options and not answer.others:
        picks = list(answer.options.values())
        return [*gates.counts(picks, len(picks)), FALSE]
    return None


def _against_number(gates: Gates, check: CrossCheck, answer: Answer, today: Today) -> int:
    fails = []
    for one, value in _classes(gates, answer):
        if value is None:
            about = ("check", check.relation, check.number, answer.name)
            fails.append(gates.maybe(one, about))
        elif broken(check, {check.left: value}, today):
            fails.append(one)
    return gates.either(*fails)


def _against_answer(
    gates: Gates, check: CrossCheck, left: Answer, right: Answer, today: Today, listed: bool
) -> int:
    """Two answers stand in exactly one of three orders; where both are known, in theirs."""
    both = gates.both(left.answered, right.answered)
    if both == FALSE:
        return FALSE
    turned = right.name < left.name
    name = (right.name, left.name) if turned else (left.name, right.name)
    less, more = (gates.maybe(both, ("order", name, one)) for one in ("less", "more"))
    if turned:
        less, more = more, less
    gates.never(less, more)
    equal = gates.both(both, -less, -more)
    orders = {"less": less, "equal": equal, "more": more}
    theirs = _classes(gates, right)
    for one, mine in _classes(gates, left):
        for other, value in theirs:
            order = _order(check, mine, value, today)
            if order is not None:
                gates.some((-one, -other, orders[order]))
    if listed:
        for one, other in (*_apart(left, right), *_apart(right, left)):
            gates.never(one, other, equal)
    failing = {
        "is": (less, more),
        "is_not": (equal,),
        "at_least": (less,),
        "at_most": (more,),
        "more_than": (less, equal),
        "less_than": (more, equal),
    }
    return gates.either(*failing[check.relation])


def _apart(one: Answer, other: Answer) -> Iterator[tuple[int, int]]:
    """The class of which nothing is known, with each of the other answer that is known."""
    for literal, cell in one.cells:
        if cell is ANY:
            yield from ((literal, known) for known, its in other.cells if its.exact is not None)


def _order(check: CrossCheck, mine: Value | None, theirs: Value | None, today: Today) -> str | None:
    """How the two stand to each other, asked of the evaluator; None where that is not known.

    What has no order is put in any, the same for all checks.
    """
    if mine is None or theirs is None:
        return None
    values = {check.left: mine, check.right or "": theirs}

    def fails(relation: Relation) -> bool:
        return broken(check.model_copy(update={"relation": relation}), values, today)

    if not fails("is"):
        return "equal"
    if isinstance(measure(mine), str | bool | Mapping):
        return "less" if repr(mine) < repr(theirs) else "more"
    return "less" if fails("at_least") else "more"
