"""What the documents say is what the code has."""

import json
import re

from jotgate.core.failures import MESSAGES
from jotgate.core.faults import faults
from jotgate.core.questionnaire import Questionnaire
from jotgate.demo.load import documents
from jotgate.settings import ROOT, Settings

DOCS = ROOT / "docs"


def test_every_setting_is_described() -> None:
    written = (DOCS / "operations.md").read_text()
    named = set(re.findall(r"`JOTGATE_([A-Z_]+)`", written)) - {"DATA"}
    assert named == {name.upper() for name in Settings.model_fields}


def test_every_failure_code_is_described() -> None:
    table = (DOCS / "questionnaire.md").read_text().partition("## Failure codes")[2]
    assert set(re.findall(r"`([a-z_]+)`", table)) - {
        "limit",
        "length",
        "like",
        "countries",
        "label",
    } == set(MESSAGES)


def test_the_example_is_a_questionnaire() -> None:
    text = (DOCS / "questionnaire.md").read_text()
    (example,) = re.findall(r"```json\n(.*?)```", text, re.DOTALL)
    assert faults(Questionnaire.model_validate(json.loads(example))) == ()


def test_the_demo_questionnaires_can_be_published() -> None:
    assert len(documents()) == 5
    for name, document in documents().items():
        assert faults(document) == (), name


def test_every_picture_is_there() -> None:
    linked = re.findall(r"\((docs/screenshots/[^)]+)\)", (ROOT / "README.md").read_text())
    assert len(linked) == len(set(linked)) < 20
    for path in linked:
        assert (ROOT / path).is_file(), path
