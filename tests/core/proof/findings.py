"""Findings of a proof looked up, and their repairs done, for the tests."""

from typing import Any, TypeVar

from pydantic import BaseModel

from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.proof import Finding, prove
from jotgate.core.proof.repairs import Repair
from tests.documents import TODAY, item, options, words

T = TypeVar("T", bound=BaseModel)

LAST = item("yes_no", "last")
SOURCE = item("pick_one", "source", required=True, options=options("own", "mains"))


def number_check(relation: str, number: str, **more: Any) -> dict[str, Any]:
    found = {"left": "n", "relation": relation, "number": number, "message": words("Look again.")}
    return {**found, **more}


def applied(document: T, repair: Repair) -> T:
    """`document` after the changes of a repair (RFC 6902)."""
    whole = document.model_dump(mode="json")
    for change in repair.changes:
        *steps, last = change["path"].split("/")[1:]
        part: Any = whole
        for step in steps:
            part = part[int(step)] if isinstance(part, list) else part[step]
        name: Any = last
        if isinstance(part, list):
            name = len(part) if last == "-" else int(last)
        match change["op"]:
            case "test":
                assert part[name] == change["value"]
            case "remove":
                del part[name]
            case "add" if isinstance(part, list):
                part.insert(name, change["value"])
            case "add":
                part[name] = change["value"]
            case "replace":
                part[name] = change["value"]
    return type(document).model_validate(whole)


def of(code: str, at: str, document: Questionnaire) -> Finding | None:
    found = prove(document, TODAY).findings
    return next((one for one in found if (one.code, one.at) == (code, at)), None)
