"""`enableWhen` and `enableBehavior` as our conditions (HL7 FHIR R4, Questionnaire)."""

from collections.abc import Mapping
from typing import Any

_ORDER = {">=": "at_least", "<=": "at_most", ">": "more_than", "<": "less_than"}


def condition_of(
    item: Mapping[str, Any],
    keys: Mapping[str, str],
    kinds: Mapping[str, str],
    codes: Mapping[str, Mapping[str, str]],
) -> dict[str, Any] | None:
    """The condition of `item`, None where it has none or one that we cannot say."""
    rows = item.get("enableWhen") or []
    if not isinstance(rows, list) or not rows:
        return None
    parts = [_row(row, keys, kinds, codes) if isinstance(row, dict) else None for row in rows]
    if any(part is None for part in parts):
        return None
    if len(parts) == 1:
        return parts[0]
    return {"op": "any" if item.get("enableBehavior") == "any" else "all", "parts": parts}


def _row(
    row: Mapping[str, Any],
    keys: Mapping[str, str],
    kinds: Mapping[str, str],
    codes: Mapping[str, Mapping[str, str]],
) -> dict[str, Any] | None:
    question, operator = row.get("question"), row.get("operator")
    key, kind = keys.get(str(question)), kinds.get(str(question), "")
    answer = next((value for name, value in row.items() if name.startswith("answer")), None)
    if key is None or answer is None:
        return None
    if operator == "exists":
        return {"op": "answered" if answer else "unanswered", "item": key}
    value = _value(answer, kind, codes.get(str(question), {}))
    if value is None:
        return None
    equal = {"op": "includes" if kind == "pick_many" else "is", "item": key, "value": value}
    if operator == "=":
        return equal
    if operator == "!=":
        return None if kind == "pick_many" else {"op": "is_not", "item": key, "value": value}
    if operator in _ORDER:
        return {"op": _ORDER[operator], "item": key, "value": value}
    return None


def _value(answer: Any, kind: str, codes: Mapping[str, str]) -> str | bool | None:
    """An answer as an operand of ours, None where it is of no kind that we compare."""
    if isinstance(answer, bool):
        return answer if kind == "yes_no" else None
    if isinstance(answer, int | float):
        return str(answer) if kind in ("number", "scale") else None
    if isinstance(answer, dict):
        code = answer.get("code")
        picked = code and kind in ("pick_one", "pick_many")
        return codes.get(str(code), str(code)) if picked else None
    return str(answer)[:5] if kind == "time" else str(answer)
