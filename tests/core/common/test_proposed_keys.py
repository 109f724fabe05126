"""Keys made from words, held to the same names as the script makes while somebody types."""

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter

from jotgate.core.common.proposed_keys import key_from
from jotgate.core.items import Key
from jotgate.settings import ROOT

CASES = json.loads((ROOT / "web" / "tests" / "keys.json").read_text(encoding="utf-8"))


@pytest.mark.parametrize(("words", "taken", "spare", "wanted"), CASES)
def test_a_key_from_words(words: str, taken: list[str], spare: str, wanted: str) -> None:
    assert key_from(words, taken, spare) == wanted


@given(st.text(max_size=60), st.sets(st.sampled_from(["a", "b", "question"])))
def test_a_key_is_well_formed_and_its_own(words: str, taken: set[str]) -> None:
    key = key_from(words, taken, "question")
    assert TypeAdapter(Key).validate_python(key) == key
    assert key not in taken
