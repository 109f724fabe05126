"""What the documents say is what the code has."""

import json
import re
from typing import Any, get_args

from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.items import Item, with_inside
from jotgate.core.publishing.faults import faults
from jotgate.core.words import failures
from jotgate.demo.load import documents
from jotgate.settings import ROOT, Settings

DOCS = ROOT / "docs"
KINDS = {get_args(one.model_fields["kind"].annotation)[0] for one in get_args(get_args(Item)[0])}


def test_every_setting_is_described() -> None:
    written = (DOCS / "operations.md").read_text()
    named = set(re.findall(r"`JOTGATE_([A-Z_]+)`", written)) - {"DATA"}
    assert named == {name.upper() for name in Settings.model_fields}


def test_every_failure_code_is_described() -> None:
    table = (DOCS / "questionnaire.md").read_text().partition("## Failure codes")[2]
    table = table.partition("A failure is placed")[0]
    assert set(re.findall(r"`([a-z_]+)`", table)) - {
        "limit",
        "length",
        "like",
        "countries",
        "label",
        "below",
        "above",
        "step",
        "part",
        "name",
        "message",
    } == {code for code in failures("en") if "." not in code}


def test_every_kind_is_described() -> None:
    text = (DOCS / "questionnaire.md").read_text()
    table = text.partition("## Kinds")[2].partition("## Values in links")[0]
    rows = [line.split("|")[1] for line in table.splitlines() if line.startswith("| `")]
    assert set(re.findall(r"`([a-z_]+)`", " ".join(rows))) == KINDS


def test_the_well_check_uses_most_kinds() -> None:
    document = documents()["private_well_check"]
    kinds = {one.kind for one in with_inside(tuple(document.items()))}
    assert len(kinds) >= 18
    assert {"roster", "grid", "file", "computed", "rank", "signature"} <= kinds
    assert any(page.checks for page in document.pages)
    assert not _untranslated(document.model_dump(), document.languages)


def _untranslated(part: Any, languages: tuple[str, ...]) -> list[Any]:
    """Texts of a document that lack one of its languages; what is the same in all may."""
    if isinstance(part, dict):
        if languages[0] in part and not part[languages[0]].startswith("TW-"):
            return [] if all(part.get(one) for one in languages) else [part]
        return [found for one in part.values() for found in _untranslated(one, languages)]
    if isinstance(part, list | tuple):
        return [found for one in part for found in _untranslated(one, languages)]
    return []


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
