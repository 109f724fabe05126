"""Names that staff read, proposed as the desk proposes them while somebody writes."""

import json
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.items import ShortText
from jotgate.core.items.staff_names import LONGEST, proposed, staff_name

ROOT = Path(__file__).parents[3]
CASES = json.loads((ROOT / "web" / "tests" / "staff_names.json").read_text(encoding="utf-8"))


@pytest.mark.parametrize(("wording", "name"), CASES)
def test_a_name_is_proposed(wording: str, name: str) -> None:
    assert proposed(wording) == name


@given(st.text())
def test_a_proposed_name_is_one_short_line_of_the_wording(wording: str) -> None:
    name = proposed(wording)
    assert len(name) <= LONGEST
    assert "\n" not in name
    assert name.rstrip("…") in " ".join(wording.replace("*", "").split())
    assert bool(name) is bool(wording.replace("*", "").split())


def test_the_short_name_comes_before_the_wording_and_the_key_last() -> None:
    asked = ShortText(kind="short_text", key="a", text={"en": "What is it called?"})
    assert staff_name(asked, "en") == "What is it called"
    assert staff_name(asked.model_copy(update={"short_name": "Name"}), "en") == "Name"
    assert staff_name(asked.model_copy(update={"text": {}}), "en") == "a"
