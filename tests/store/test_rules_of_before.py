"""Dispatch rules that were saved before a migration are rules after it."""

from importlib import import_module
from typing import Any
from uuid import UUID

from jotgate.core.dispatch.acts import FileRow, FromEntry, Notice
from jotgate.core.dispatch.rules import Dispatch

BEFORE: dict[str, Any] = {
    "rules": [
        {
            "key": "saltings",
            "when": {"op": "is", "item": "district", "value": "saltings"},
            "acts": [
                {"kind": "file", "register_id": str(UUID(int=1)), "columns": {"name": "name"}},
                {"kind": "notice", "to": "a@example.org", "subject": "S {name}", "body": "B"},
            ],
        },
        {
            "key": "tell",
            "when": {"op": "answered", "item": "name"},
            "acts": [{"kind": "notice", "to": "b@example.org", "subject": "S", "body": ""}],
        },
    ],
    "otherwise": [{"kind": "file", "register_id": str(UUID(int=2)), "columns": {}}],
}


def test_a_rule_that_filed_catches_and_letters_are_in_the_first_language() -> None:
    migration = import_module("jotgate.store.migrations.versions.0018_dispatch")
    found = Dispatch.model_validate(migration.rewritten(BEFORE, "es"))
    assert [(rule.key, rule.catches) for rule in found.rules] == [
        ("saltings", True),
        ("tell", False),
    ]
    file, notice = found.rules[0].acts
    assert isinstance(file, FileRow)
    assert file.columns == {"name": FromEntry(kind="entry", name="name")}
    assert isinstance(notice, Notice)
    assert (notice.to.model_dump()["address"], notice.subject, notice.body) == (
        "a@example.org",
        {"es": "S {name}"},
        {"es": "B"},
    )
    assert migration.rewritten({}, "en") == {"rules": [], "otherwise": []}
