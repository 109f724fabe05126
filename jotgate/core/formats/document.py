"""A questionnaire as one open JSON file, and back; each fault with its line and path."""

import json
import re
from collections import Counter
from collections.abc import Iterator, Sequence
from typing import Any

from pydantic import ValidationError

from jotgate.core.common.errors import Fault, Invalid
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.formats.json_schema import DIALECT

FORMAT = "jotgate-questionnaire"
VERSION = 1
MOST_FAULTS = 50
MOST_ERRORS = 1_000
"""Errors of a broken document that are looked at for the faults to be told."""

Step = str | int


def schema() -> dict[str, Any]:
    """The shape of the file as JSON Schema (draft 2020-12)."""
    return {"$schema": DIALECT, **Questionnaire.model_json_schema()}


def write(questionnaire: Questionnaire) -> bytes:
    """The file, in UTF-8, with every member written out."""
    dumped = questionnaire.model_dump(mode="json")
    return (json.dumps(dumped, ensure_ascii=False, indent=2) + "\n").encode()


def parse(data: bytes) -> Any:
    """What stands in a JSON file. Raises Invalid with the line where it breaks."""
    try:
        text = data.decode("utf-8-sig")
        found = json.loads(text, parse_constant=_no_number, object_pairs_hook=_members)
    except _Twice as why:
        message = f"The member {why} stands twice in the same place."
        raise _refused([_fault("twice", str(why), 1, message)]) from None
    except UnicodeDecodeError as why:
        line = data[: why.start].count(b"\n") + 1
        raise _refused([_fault("not_utf8", "", line, "This is not text in UTF-8.")]) from None
    except json.JSONDecodeError as why:
        message = f"This is not JSON: {why.msg}, at character {why.colno}."
        raise _refused([_fault("not_json", "", why.lineno, message)]) from None
    except (ValueError, RecursionError):
        raise _refused([_fault("not_json", "", 1, "This is not JSON that can be read.")]) from None
    if "\\u0000" in text and _has_nul(found):
        message = "A text has the character NUL in it."
        raise _refused([_fault("nul", "", _line_of(text, "\\u0000"), message)])
    return found


def _has_nul(part: Any) -> bool:
    """Whether any text in it, the names of members too, has the character NUL."""
    left = [part]
    while left:
        one = left.pop()
        if isinstance(one, dict):
            left += [*one, *one.values()]
        elif isinstance(one, list):
            left += one
        elif isinstance(one, str) and "\0" in one:
            return True
    return False


def _line_of(text: str, part: str) -> int:
    return text[: text.index(part)].count("\n") + 1


class _Twice(Exception):
    """The name of a member that an object has twice (RFC 8259, 4: names should be unique)."""


def _members(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found = dict(pairs)
    if len(found) < len(pairs):
        counted = Counter(name for name, _ in pairs)
        raise _Twice(counted.most_common(1)[0][0])
    return found


def _no_number(name: str) -> Any:
    raise ValueError(name)


def read(data: bytes) -> Questionnaire:
    """The questionnaire in a file. Raises Invalid with every fault's line and path."""
    found = parse(data)
    if not isinstance(found, dict) or found.get("format") != FORMAT:
        message = f'The member "format" must be "{FORMAT}".'
        raise _refused([_fault("not_a_questionnaire", "format", 1, message)])
    if found.get("version") != VERSION:
        message = f"The file is of version {found.get('version')}; version {VERSION} can be read."
        raise _refused([_fault("other_version", "version", _lines(data)(("version",)), message)])
    try:
        return Questionnaire.model_validate(found)
    except ValidationError as why:
        line_of = _lines(data)
        errors = why.errors(include_url=False, include_input=False)
        told = [(_there(error["loc"], found), error) for error in errors[:MOST_ERRORS]]
        holders = {path[:length] for path, _ in told for length in range(len(path))}
        faults = [
            _fault(error["type"], "/".join(map(str, path)), line_of(path), error["msg"] + ".")
            for path, error in told
            if path not in holders
        ]
        raise _refused(faults[:MOST_FAULTS]) from None


def with_lines(faults: Sequence[Fault], data: bytes) -> list[Fault]:
    """`faults` whose place is a path into the file, each with its line."""
    line_of = _lines(data)
    return [
        _fault(one.code, one.at, line_of(_steps(one.at)), one.message) if one.at else one
        for one in faults
    ]


def _steps(at: str) -> tuple[Step, ...]:
    return tuple(int(step) if step.isdigit() else step for step in at.split("/"))


def _refused(faults: Sequence[Fault]) -> Invalid:
    return Invalid("The file was not imported. Nothing has changed.", faults)


def _fault(code: str, at: str, line: int, message: str) -> Fault:
    return Fault(code=code, at=at, message=f"Line {line}: {message}", params={"line": line})


def _there(location: Sequence[Step], document: Any) -> tuple[Step, ...]:
    """`location` without the names of kinds that stand in no document."""
    path: list[Step] = []
    part = document
    for step in location:
        held: Any = range(len(part)) if isinstance(part, list) else ()
        if isinstance(part, dict):
            held = part
        if step in held:
            part = part[step]
            path.append(step)
        elif step is location[-1] and not (isinstance(part, dict) and step in part.values()):
            path.append(step)
    return tuple(path)


_PART = re.compile(r'"(?:[^"\\]|\\.)*"|[{}\[\]:,]|[^\s{}\[\]:,"]+|\n')


def _lines(data: bytes) -> Any:
    """A function from a path to the line (from 1) where that member stands, or what holds it."""
    found = dict(_walk(data.decode("utf-8-sig")))

    def line_of(path: Sequence[Step]) -> int:
        for length in range(len(path), 0, -1):
            if tuple(path[:length]) in found:
                return found[tuple(path[:length])]
        return 1

    return line_of


def _walk(text: str) -> Iterator[tuple[tuple[Step, ...], int]]:
    """Every path of well-formed JSON, with the line on which it begins."""
    line = 1
    path: list[Step] = []
    named = [False]
    fresh = False
    for part in (match[0] for match in _PART.finditer(text)):
        if part == "\n":
            line += 1
            continue
        if fresh and part != "]":
            yield tuple(path), line
        fresh = part == "["
        if part in "{[":
            path.append(0 if fresh else "")
            named.append(not fresh)
        elif part in "}]":
            path.pop()
            named.pop()
        elif part == ",":
            last = path[-1]
            fresh = isinstance(last, int)
            if isinstance(last, int):
                path[-1] = last + 1
            else:
                named[-1] = True
        elif part != ":" and named[-1]:
            path[-1] = json.loads(part)
            named[-1] = False
            yield tuple(path), line
