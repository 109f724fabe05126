"""Questionnaires that tests are made of."""

from datetime import UTC, datetime
from typing import Any

from jotgate.core.common.today import Today
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.walking.plan import Plan, compile_plan

TODAY = Today(datetime(2026, 11, 25, 12, tzinfo=UTC))


def words(text: str) -> dict[str, str]:
    return {"en": text}


def item(kind: str, key: str, **more: Any) -> dict[str, Any]:
    return {"kind": kind, "key": key, "text": words(key.capitalize()), **more}


def options(*codes: str) -> list[dict[str, Any]]:
    return [{"code": code, "label": words(code.capitalize())} for code in codes]


def page(key: str, *items: dict[str, Any], **more: Any) -> dict[str, Any]:
    return {"key": key, "title": words(key.capitalize()), "items": list(items), **more}


def finish(key: str, **more: Any) -> dict[str, Any]:
    return {"key": key, "title": words(key.capitalize()), **more}


def is_(key: str, value: str | bool) -> dict[str, Any]:
    return {"op": "is", "item": key, "value": value}


def questionnaire(
    *pages: dict[str, Any], finishes: tuple[str | dict[str, Any], ...] = ("done",), **more: Any
) -> Questionnaire:
    return Questionnaire.model_validate(
        {
            "title": words("Test"),
            "pages": list(pages),
            "finishes": [one if isinstance(one, dict) else finish(one) for one in finishes],
            **more,
        }
    )


def plan(*pages: dict[str, Any], **more: Any) -> Plan:
    return compile_plan(questionnaire(*pages, **more))


def well_check() -> Questionnaire:
    """A small one with every kind, a condition, a skip rule and a restricted question."""
    return questionnaire(
        page(
            "start",
            item("note", "hello"),
            item("short_text", "name", required=True, longest=40),
            item("carried", "district", options=options("saltings", "millbeck")),
            item("pick_one", "source", required=True, options=options("own", "mains")),
            skips=[{"when": is_("source", "mains"), "to": {"kind": "finish", "finish": "none"}}],
        ),
        page(
            "health",
            item("number", "drinkers", at_least="1", at_most="60"),
            item("yes_no", "ill", restricted=True),
            item(
                "long_text",
                "illness",
                restricted=True,
                required=True,
                shown_when=is_("ill", True),
            ),
        ),
        finishes=("booked", "none"),
    )


def to_page(key: str) -> dict[str, str]:
    return {"kind": "page", "page": key}


def to_finish(key: str) -> dict[str, str]:
    return {"kind": "finish", "finish": key}


def skip(when: dict[str, Any], to: dict[str, str]) -> dict[str, Any]:
    return {"when": when, "to": to}
