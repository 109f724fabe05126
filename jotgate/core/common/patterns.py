"""Expressions for RE2, whose time is linear in the text whatever the expression."""

from collections.abc import Callable
from functools import lru_cache
from typing import Any

import re2


class BadPattern(ValueError):
    """An expression that RE2 does not take; the message says why."""


def _options() -> Any:
    options = re2.Options()
    options.log_errors = False
    options.max_mem = 8 << 20
    return options


@lru_cache(maxsize=2000)
def compiled(expression: str) -> Any:
    """The expression, compiled once. Raises BadPattern."""
    try:
        return re2.compile(expression, _options())
    except re2.error as error:
        why = error.args[0]
        raise BadPattern(why.decode() if isinstance(why, bytes) else str(why)) from None


def likely(expression: str) -> Callable[[str], object]:
    """A short test: true only of texts that the whole expression matches. Raises BadPattern.

    It costs a fifth of a full match, and may miss one where the expression needs much memory.
    """
    compiled(expression)
    one = re2.Set.FullMatchSet(_options())
    one.Add(expression)
    one.Compile()
    match: Callable[[str], object] = one.Match
    return match
