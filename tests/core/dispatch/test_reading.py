"""Rules that are not rules yet are told where they stand."""

from typing import Any

import pytest

from jotgate.core.dispatch.reading import read_rules
from tests.core.dispatch.rules import OWN, notice, rule


def test_what_is_written_well_is_read() -> None:
    found, faults = read_rules({"rules": [rule("r", OWN, notice())]})
    assert [one.key for one in found.rules] == ["r"]
    assert faults == ()


@pytest.mark.parametrize(
    ("written", "at", "message"),
    [
        (
            {"rules": [rule("a", OWN), rule("r", OWN, notice(to=""))]},
            "rules/r/acts/0/notice/to/address/address",
            "Write the mail address.",
        ),
        (
            {"rules": [rule("r", OWN, notice(to="x"))]},
            "rules/r/acts/0/notice/to/address/address",
            "This is not a mail address.",
        ),
        ({"otherwise": [{"kind": "sing"}]}, "otherwise/0", ""),
        ({"rules": [7]}, "rules/0", ""),
        ({"rules": {"a": 1}}, "rules", ""),
        ({"more": 1}, "more", ""),
        (7, "otherwise", ""),
    ],
)
def test_what_is_not_is_told_at_its_rule(written: Any, at: str, message: str) -> None:
    found, faults = read_rules(written)
    assert not found.rules
    assert any(fault.at == at and message in fault.message for fault in faults)
