"""What is known of the answers of one kind: a value for each, in the module of its family."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from random import Random
from typing import Any, Protocol

from jotgate.core.common.today import Today
from jotgate.core.common.values import Value

Raw = Any
"""An answer as it comes over the wire: any JSON value, with files in place of their ids."""

Schema = dict[str, Any]
"""JSON Schema, draft 2020-12."""

Limits = dict[str, Any]
"""What the browser is told of a question, by the names of `QuestionOut`."""

FastCheck = Callable[[Raw], Value | None]
"""The value that the check would give, or None where it is not sure; then the check decides."""


class Words(Protocol):
    """The language in which values are read."""

    language: str
    words: Mapping[str, str]

    def say(self, text: Mapping[str, str] | None) -> str: ...


def nothing(_: Any, *_more: Any) -> Iterator[Any]:
    return iter(())


def same(_: Any, stored: Any) -> Value:
    found: Value = stored
    return found


def no_limits(_: Any, _today: Today) -> Limits:
    return {}


def as_set(*names: str) -> Callable[[Any, Today], Limits]:
    """The members of these names as they are, lists in place of tuples."""
    return lambda item, _: {
        name: list(value) if isinstance(value := getattr(item, name), tuple) else value
        for name in names
    }


@dataclass(frozen=True)
class Rules:
    """The item is an argument of each.

    `check` gives the value that is kept of an answer, for a day and time, or raises CheckFailed or
    FailedInside; without it nothing is taken. `fast` makes the short check of an item, which never
    gives a value that `check` would refuse. `schema` is the JSON Schema of an answer, `unsaid` says
    in words what that leaves out. `read` is the value of what is stored; `tell` is what a person
    reads, where the class of the value does not say that. `make` makes an answer up. `limits` is
    what the browser is told; `faults` gives code and message of what keeps the item from being
    published.
    """

    check: Callable[[Any, Raw, Today], Value] | None = None
    fast: Callable[[Any], FastCheck] | None = None
    schema: Callable[[Any], Schema] | None = None
    unsaid: Callable[[Any], Iterator[str]] = nothing
    read: Callable[[Any, Any], Value] = same
    tell: Callable[[Words, Any, Any], str] | None = None
    make: Callable[[Any, Today, Random], Raw] | None = None
    limits: Callable[[Any, Today], Limits] = no_limits
    faults: Callable[[Any], Iterator[tuple[str, str]]] = nothing


def closed(properties: Schema, required: list[str]) -> Schema:
    """An object with these members and no others."""
    return {
        "type": "object",
        "properties": properties,
        "required": required,
        "minProperties": 1,
        "additionalProperties": False,
    }


def always(schema: Schema) -> Callable[[Any], Schema]:
    return lambda _: schema


def saying(*words: str) -> Callable[[Any], Iterator[str]]:
    return lambda _: iter(words)


def range_faults(low: Any, high: Any) -> Iterator[tuple[str, str]]:
    """A range that nothing lies in."""
    if low is not None and high is not None and low > high:
        message = f"No answer can be at least {low} and at most {high}. Change one of them."
        yield "empty_range", message
