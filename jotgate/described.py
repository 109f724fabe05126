"""What is written from the code: the description of the API, the schemas of questionnaires and of
calls, and what
the front end has to know of kinds and languages."""

import json
from collections.abc import Mapping
from dataclasses import asdict
from pathlib import Path
from typing import Any

from jotgate.core.dispatch.call_body import SCHEMA as CALL
from jotgate.core.dispatch.rows import COLUMNS
from jotgate.core.formats import document
from jotgate.core.items.kinds import COUNTED, KINDS, MEASURED, NOT_ASKED, OPERATORS, UNORDERED
from jotgate.core.words import right_to_left
from jotgate.settings import ROOT, Settings


def files() -> Mapping[Path, str]:
    """Each file with what it has to hold."""
    from jotgate.api.app import create_app
    from jotgate.wiring import open_context

    return {
        ROOT / "docs/openapi.json": _json(create_app(Settings(), open_context).openapi()) + "\n",
        ROOT / "docs/questionnaire.schema.json": _json(document.schema()) + "\n",
        ROOT / "docs/call.schema.json": _json(CALL) + "\n",
        ROOT / "web/src/client/kinds.ts": kinds(),
    }


def _json(found: Any) -> str:
    return json.dumps(found, indent=1, ensure_ascii=False)


def _camel(name: str) -> str:
    first, *others = name.split("_")
    return first + "".join(one.capitalize() for one in others)


def _const(name: str, said: str, found: Any) -> str:
    return f"/** {said} */\nexport const {name} = {_json(found)} as const;\n"


def kinds() -> str:
    """`kinds.ts`: what `core/items/kinds.py` says, for TypeScript."""
    facts = {
        kind: {_camel(name): value for name, value in asdict(one).items()}
        for kind, one in KINDS.items()
    }
    parts = (
        "/** Written from the code of the server by bin/fix; not to be edited. */",
        _const("KINDS", "What is known of each kind of item.", facts),
        _const("OPERATORS", "What can be asked of an answer, by what it holds.", OPERATORS),
        _const(
            "MEASURED", "What of an answer is held against another, by what it holds.", MEASURED
        ),
        _const("COLUMNS", "What columns of registers take an answer, by what it holds.", COLUMNS),
        _const("COUNTED", "What can be several in one answer.", sorted(COUNTED)),
        _const("UNORDERED", "Measures of which none is more than another.", sorted(UNORDERED)),
        _const(
            "PRESSED",
            "The kinds that are answered with one press.",
            [kind for kind, one in KINDS.items() if one.pressed],
        ),
        _const("NOT_ASKED", "The kinds that nobody answers.", sorted(NOT_ASKED)),
        _const("RIGHT_TO_LEFT", "Languages written from right to left.", right_to_left()),
    )
    return "\n".join(parts)
