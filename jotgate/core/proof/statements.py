"""Conditions as statements about what somebody may have answered."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from jotgate.core.common.today import Today
from jotgate.core.conditions.condition import Condition, Entries, EntryCount, OneOf, holds
from jotgate.core.proof.answers import Answer
from jotgate.core.proof.cells import Cell
from jotgate.core.proof.gates import FALSE, TRUE, Gates

Answers = Mapping[str, Answer]
Cells = tuple[tuple[int, Cell], ...]


def statement(gates: Gates, condition: Condition | None, answers: Answers, today: Today) -> int:
    """That `condition` holds; the classes of answers are asked by the evaluator itself."""
    if condition is None:
        return TRUE
    match condition.op:
        case "all":
            return gates.both(*(statement(gates, one, answers, today) for one in condition.parts))
        case "any":
            return gates.either(*(statement(gates, one, answers, today) for one in condition.parts))
        case "not":
            return -statement(gates, condition.part, answers, today)
        case "saved":
            return FALSE
    answer = answers.get(condition.item)
    if answer is None:
        return TRUE if condition.op == "unanswered" else FALSE
    match condition.op:
        case "answered":
            return answer.answered
        case "unanswered":
            return -answer.answered
        case "any_entry" | "every_entry" | "entry_count":
            return _of_entries(gates, condition, answer, answers, today)
    return _compares(gates, condition, answer, today)


def _compares(gates: Gates, leaf: Any, answer: Answer, today: Today) -> int:
    if answer.options or answer.others:
        return _picked(gates, leaf, answer)
    true = []
    for one, cell in answer.cells:
        if cell.value is None:
            true.append(_unknown(gates, leaf, one, answer.cells))
        elif holds(leaf, {leaf.item: cell.value}, today):
            true.append(one)
    return gates.either(*true)


def _unknown(gates: Gates, leaf: Any, of_it: int, cells: Cells) -> int:
    """A comparison with an answer that is none of those named: open, but that a text which is
    named has a class of its own."""
    if leaf.op in _EQUAL and any(isinstance(cell.value, str) for _, cell in cells):
        return of_it if leaf.op == "is_not" else FALSE
    return gates.maybe(of_it, leaf)


_EQUAL = frozenset({"is", "is_not", "one_of"})


def _picked(gates: Gates, leaf: Any, answer: Answer) -> int:
    codes = leaf.values if isinstance(leaf, OneOf) else (leaf.value,)
    picks = [answer.options.get(str(code), FALSE) for code in codes]
    return gates.both(*picks) if leaf.op == "includes_all" else gates.either(*picks)


def _of_entries(
    gates: Gates, leaf: Entries | EntryCount, answer: Answer, answers: Answers, today: Today
) -> int:
    """What is asked of entries; open where there are more of them than are told apart."""
    more = gates.either(*answer.loose)
    if more != FALSE:
        told = replace(answer, cells=())
        exact = gates.both(-more, _of_entries(gates, leaf, told, answers, today))
        return gates.either(exact, gates.maybe(more, leaf))
    fitting = [
        gates.both(entry.given, statement(gates, leaf.where, {**answers, **entry.answers}, today))
        for entry in answer.entries
    ]
    if isinstance(leaf, Entries):
        if leaf.op == "any_entry":
            return gates.both(answer.answered, gates.either(*fitting))
        missed = [
            gates.both(entry.given, -fits)
            for entry, fits in zip(answer.entries, fitting, strict=True)
        ]
        return gates.both(answer.answered, *(-one for one in missed))
    low, high = leaf.at_least or 0, leaf.at_most
    most = max(low, (high + 1) if high is not None else 0)
    counts = gates.counts(fitting, most)
    over = counts[high + 1] if high is not None else FALSE
    return gates.both(answer.answered, counts[low], -over)
