"""Dispatch rules that tests are made of, for the small well check."""

from datetime import UTC, datetime
from typing import Any
from uuid import UUID

from jotgate.core.contacts.contact import Contact
from jotgate.core.dispatch.effects import Planned
from jotgate.core.dispatch.known import Known
from jotgate.core.dispatch.planning import planned
from jotgate.core.dispatch.rules import Dispatch
from jotgate.core.dispatch.subject import subject_of
from jotgate.core.entries.entry import Entry
from jotgate.core.entries.facts import Around
from jotgate.core.entries.stored import as_json
from jotgate.core.registers.columns import Column, Register
from jotgate.core.walking.plan import Plan, compile_plan
from tests.documents import is_, well_check

PLAN = compile_plan(well_check())
A, B, CREW = UUID(int=1), UUID(int=2), UUID(int=7)
POSTER = UUID("6f1f0c1e-0a52-4f0b-9df2-0d6a8bb6f2a1")
COLUMNS = (Column(key="name", label="Name"), Column(key="n", label="N", type="number"))
KNOWN = Known(
    registers={id: Register(id=id, name=f"R{id.int}", columns=COLUMNS) for id in (A, B)},
    teams={CREW: ("a@example.org", "b@example.org")},
    around=Around({str(POSTER): "Poster"}, {"received": "Received"}),
)
OWN = is_("source", "own")


def item(name: str) -> dict[str, Any]:
    return {"kind": "entry", "name": name}


def composed(text: str) -> dict[str, Any]:
    return {"kind": "composed", "text": text}


def file(id: UUID, more: dict[str, Any] | None = None, **columns: str | dict[str, Any]) -> Any:
    sources = {key: item(one) if isinstance(one, str) else one for key, one in columns.items()}
    return {"kind": "file", "register_id": str(id), "columns": sources, **(more or {})}


def notice(body: str = "w", subject: str = "s", to: Any = "a@example.org", **more: Any) -> Any:
    whom = {"kind": "address", "address": to} if isinstance(to, str) else to
    words = {"subject": {"en": subject}, "body": {"en": body}}
    return {"kind": "notice", "to": whom, **words, **more}


def rule(key: str, when: dict[str, Any] | None, *acts: dict[str, Any], **more: Any) -> Any:
    return {"key": key, "when": when, "acts": list(acts), **more}


def rules(*rules: dict[str, Any], otherwise: tuple[dict[str, Any], ...] = ()) -> Dispatch:
    return Dispatch.model_validate({"rules": rules, "otherwise": otherwise})


def entry(answers: dict[str, Any], **more: Any) -> Entry:
    values: dict[str, Any] = {
        "id": UUID(int=70),
        "questionnaire_id": UUID(int=71),
        "edition": 1,
        "number": 7,
        "arrived": datetime(2026, 11, 25, 12, 30, tzinfo=UTC),
        "finish": "booked",
        "answers": {key: as_json(value) for key, value in answers.items()},
        "flags": (),
        **more,
    }
    return Entry(**values)


def run(
    dispatch: Dispatch,
    answers: dict[str, Any] | None = None,
    *,
    plan: Plan = PLAN,
    known: Known = KNOWN,
    contact: Contact | None = None,
    **more: Any,
) -> Planned:
    """What rules do with an entry that has these answers."""
    return planned(dispatch, subject_of(plan, entry(answers or {}, **more), contact, known))
