"""Whatever a condition compares with, the resource is a valid one.

The checks are those of the PyPI package fhir.resources (R4B), which has the formats of HL7 FHIR R4,
2.24.0.1; some are its own rules of JSON (RFC 8259: no NaN).
"""

import json
from typing import Any

import pytest
from fhir.resources.R4B.questionnaire import Questionnaire as Resource

from jotgate.core.formats.fhir import to_fhir
from jotgate.core.formats.fhir.terms import TYPES
from tests.documents import item, options, page, questionnaire

ODD = ["", " ", "\u00a0", "\x0b", "abc", "a b", "a  b", "else", "nan", "1e400", "-1e-400", "1e11"]
ODD += ["-0", "01", "2147483648", "0.1234567890123", "12:00", "12:00:00", "25:99", "24:00"]
ODD += ["2026-11-26", "2026-13-45", "today-7", "2026-11-26T09:00:00+01:00", "2026-13-26T09:00:00Z"]

NEEDS: dict[str, dict[str, Any]] = {
    "pick_one": {"options": options("x")},
    "pick_many": {"options": options("x")},
    "rank": {"options": options("x", "y")},
    "file": {"kinds": ["picture"]},
    "picture": {},
}

ASKED = [
    (kind, NEEDS.get(kind, {}))
    for kind in TYPES
    if kind not in ("grid", "roster", "video", "computed", "picture", "note")
]
ASKED.append(("number", {"decimals": 2}))


@pytest.mark.parametrize(("kind", "more"), ASKED, ids=lambda one: str(one)[:20])
def test_any_operand(kind: str, more: dict[str, Any]) -> None:
    asked = item(kind, "a", **more)
    shown = []
    for number, value in enumerate([*ODD, True]):
        when = {"op": "is", "item": "a", "value": value}
        shown.append(item("note", f"n{number}", shown_when=when))
    resource, lost = to_fhir(questionnaire(page("p", asked, *shown)))
    Resource.model_validate_json(json.dumps(resource, allow_nan=False))
    notes = [one for one in resource["item"][0]["item"] if one["type"] == "display"]
    for one in notes:
        told = f"{one['linkId']}: the condition under which it is shown." in lost
        assert told is ("enableWhen" not in one), one


def test_what_fits_is_kept() -> None:
    kept = {
        ("short_text", ()): ["abc", "a  b", " "],
        ("number", ()): ["01", "-0"],
        ("number", (("decimals", 2),)): ["01", "-0", "1e11", "2147483648"],
        ("time", ()): ["12:00", "12:00:00"],
        ("date", ()): ["2026-11-26"],
        ("date_time", ()): ["2026-11-26", "2026-11-26T09:00:00+01:00"],
    }
    for (kind, more), values in kept.items():
        for value in values:
            when = {"op": "is", "item": "a", "value": value}
            shown = item("note", "n", shown_when=when)
            resource, _ = to_fhir(questionnaire(page("p", item(kind, "a", **dict(more)), shown)))
            assert resource["item"][0]["item"][1].get("enableWhen"), (kind, value)
