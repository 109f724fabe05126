"""The one comparison of an answer with an operand, for every kind of answer."""

from collections.abc import Callable, Iterable, Mapping
from datetime import date, datetime, time
from decimal import Decimal
from operator import eq, ge, gt, le, lt, ne
from typing import Any

from jotgate.core.common.patterns import BadPattern, compiled
from jotgate.core.common.today import Today
from jotgate.core.common.values import ELSE, Else, Value, read_operand

RELATIONS: Mapping[str, Callable[[Any, Any], bool]] = {
    "is": eq,
    "is_not": ne,
    "at_least": ge,
    "at_most": le,
    "more_than": gt,
    "less_than": lt,
}


def compares(op: str, answer: Value, operand: str | bool, today: Today) -> bool:
    """Whether `answer` stands in the relation `op` to `operand`; false where it cannot."""
    compare = _BY_CLASS.get(answer.__class__)
    return compare is not None and compare(op, answer, operand, today)


def _ordered(op: str, answer: Any, operand: str | bool, today: Today) -> bool:
    value: Any = read_operand(answer.__class__, operand, today)
    if value is None:
        return op == "is_not"
    if answer.__class__ is datetime and value.__class__ is date:
        answer = answer.astimezone(today.zone).date()
    relation = RELATIONS.get(op)
    return relation is not None and relation(answer, value)


def _picked(op: str, answer: Any, operand: str | bool, _: Today) -> bool:
    if op != "includes":
        return False
    return operand in answer or (operand == ELSE and any(one.__class__ is Else for one in answer))


def _else(op: str, _: Else, operand: str | bool, _today: Today) -> bool:
    return (operand == ELSE) is (op == "is") and op in ("is", "is_not")


def _text(op: str, answer: str, operand: str | bool, _: Today) -> bool:
    match op:
        case "is":
            return answer == operand
        case "is_not":
            return answer != operand
        case "contains":
            return isinstance(operand, str) and operand.casefold() in answer.casefold()
        case "like":
            return isinstance(operand, str) and is_like(answer, operand)
    return False


def _yes_no(op: str, answer: bool, operand: str | bool, _: Today) -> bool:
    same = operand is answer
    return same if op == "is" else op == "is_not" and not same


_BY_CLASS: dict[type, Callable[[str, Any, str | bool, Today], bool]] = {
    str: _text,
    bool: _yes_no,
    tuple: _picked,
    Else: _else,
    Decimal: _ordered,
    date: _ordered,
    time: _ordered,
    datetime: _ordered,
}


def is_like(text: str, expression: str) -> bool:
    """Whether the whole of `text` matches; false where the expression is none."""
    try:
        return compiled(expression).fullmatch(text) is not None
    except BadPattern:
        return False


def contains_all(answer: Value, wanted: Iterable[str | bool], today: Today) -> bool:
    return all(compares("includes", answer, one, today) for one in wanted)
