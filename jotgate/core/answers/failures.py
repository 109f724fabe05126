"""How an answer fails its checks: a code with parameters. Its words are in `failure_messages`."""

from collections.abc import Mapping
from datetime import date, time
from decimal import Decimal

Param = int | str | Decimal | date | time | Mapping[str, str]
"""A parameter of a failure; a mapping is a text in several languages."""


class CheckFailed(Exception):
    """An answer that fails a check, by code and parameters."""

    def __init__(self, code: str, **params: Param) -> None:
        super().__init__(code)
        self.code = code
        self.params = params


class FailedInside(Exception):
    """Answers inside another that fail: `failures` by their place, such as `kitchen/0/litres`."""

    def __init__(self, failures: Mapping[str, CheckFailed]) -> None:
        super().__init__(", ".join(failures))
        self.failures = failures
