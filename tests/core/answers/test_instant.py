"""The cases that the browser's instant checks are held to, by the check that has the last word.

`web/tests/instant.test.ts` runs the same cases; `server` marks those that only the server can tell.
"""

import json
from typing import Any

import pytest

from jotgate.core.answers.checks import check
from jotgate.core.answers.failures import CheckFailed
from jotgate.settings import ROOT
from tests.core.kinds import of
from tests.documents import TODAY

CASES = json.loads((ROOT / "web" / "tests" / "cases.json").read_text(encoding="utf-8"))


@pytest.mark.parametrize("case", CASES, ids=lambda case: f"{case['item']['kind']} {case['raw']}")
def test_the_check_fails_as_the_case_says(case: dict[str, Any]) -> None:
    members = {name: value for name, value in case["item"].items() if name != "kind"}
    try:
        check(of(case["item"]["kind"], **members), case["raw"], TODAY)
        code = None
    except CheckFailed as failed:
        code = failed.code
    assert code == case["code"]
