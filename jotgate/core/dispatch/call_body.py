"""What another system is told of an entry: the body of a call, and its JSON Schema."""

from collections.abc import Mapping
from datetime import UTC
from typing import Any

from jotgate.core.common.values import Values
from jotgate.core.entries.about import about
from jotgate.core.entries.entry import Entry, Stored
from jotgate.core.walking.plan import Plan

ARRIVED = "entry.arrived"


def call_body(plan: Plan, entry: Entry, values: Values) -> dict[str, Any]:
    """What is sent of an entry with open answers only, whose `values` those are; `type` and
    `timestamp` are as the Standard Webhooks specification has them."""
    arrived = entry.arrived.astimezone(UTC).isoformat().replace("+00:00", "Z")
    title = plan.questionnaire.title
    return {
        "type": ARRIVED,
        "timestamp": arrived,
        "data": {
            "questionnaire": str(entry.questionnaire_id),
            "title": title.get(plan.questionnaire.first_language, ""),
            "entry": str(entry.id),
            "number": entry.number,
            "edition": entry.edition,
            "arrived": arrived,
            "finish": entry.finish,
            "language": entry.language,
            "about": about(plan, values),
            "answers": dict(entry.answers),
        },
    }


def with_restricted(body: Mapping[str, Any], answers: Stored, finish: str) -> dict[str, Any]:
    """A body that tells what is restricted as well; `finish` is empty where that is open."""
    told = {"answers": dict(answers), "finish": finish}
    return {**body, "data": {**body["data"], "restricted": told}}


def _object(**members: dict[str, Any]) -> dict[str, Any]:
    """An object that has all of these members; `restricted` may be missing."""
    return {
        "type": "object",
        "properties": members,
        "required": [name for name in members if name != "restricted"],
        "additionalProperties": False,
    }


_TEXT, _MOMENT = {"type": "string"}, {"type": "string", "format": "date-time"}
_ID = {"type": "string", "format": "uuid"}
_COUNT = {"type": "integer", "minimum": 1}

SCHEMA: dict[str, Any] = {
    "$schema": "https://json-schema.org/draft/2020-12/schema",
    "title": "What Jot Gate tells another system when an entry has arrived",
    **_object(
        type={"const": ARRIVED},
        timestamp=_MOMENT,
        data=_object(
            questionnaire=_ID,
            title=_TEXT,
            entry=_ID,
            number=_COUNT,
            edition=_COUNT,
            arrived=_MOMENT,
            finish={"type": "string", "description": "Empty where it is restricted."},
            language=_TEXT,
            about={"type": ["string", "null"]},
            answers={
                "type": "object",
                "description": "By key, without restricted ones. The schema of a questionnaire's "
                "entries says what each can be.",
            },
            restricted={
                "description": "For systems that are told what is restricted.",
                **_object(
                    answers={"type": "object", "description": "The restricted ones, by key."},
                    finish={"type": "string", "description": "Empty where it is open."},
                ),
            },
        ),
    ),
}
"""JSON Schema 2020-12 of `call_body`."""
