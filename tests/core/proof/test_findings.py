"""What is told of the branching, that its repairs mend it, and what stays undecided."""

from typing import Any

import pytest

from jotgate.core.proof import prove
from tests.core.proof.findings import SOURCE, applied, number_check, of
from tests.core.publishing.test_faults import OK
from tests.documents import (
    TODAY,
    is_,
    item,
    options,
    page,
    questionnaire,
    skip,
    to_finish,
    to_page,
    words,
)

BOTH: dict[str, Any] = {"op": "all", "parts": [is_("source", "own"), is_("source", "mains")]}
SURE = {"op": "any", "parts": [is_("source", "own"), is_("source", "mains")]}

CASES: dict[str, tuple[tuple[dict[str, Any], ...], str, str, str, tuple[str, ...]]] = {
    "a page under a condition that never holds": (
        (page("a", SOURCE), page("b", OK, shown_when=BOTH)),
        "page_never",
        "pages/b",
        "Nobody is shown page 2, B: its condition never holds for those who get there.",
        (),
    ),
    "a page that every way leads past": (
        (
            page("a", SOURCE, skips=[skip(is_("source", "own"), to_page("c"))]),
            page("b", OK, shown_when=is_("source", "own")),
            page("c", item("yes_no", "last")),
        ),
        "page_never",
        "pages/b",
        "Nobody is shown page 2, B: its condition never holds for those who get there.",
        ("pages/a/skips/1",),
    ),
    "a page that nobody arrives at": (
        (
            page("a", SOURCE, skips=[skip(SURE, to_page("c"))]),
            page("b", OK),
            page("c", item("yes_no", "last")),
        ),
        "page_never",
        "pages/b",
        "Nobody reaches page 2, B: every way leads past it.",
        ("pages/a/skips/1",),
    ),
    "a question that is never shown": (
        (page("a", SOURCE, item("yes_no", "ok", shown_when=BOTH)),),
        "condition_never",
        "pages/a/items/ok",
        "The condition of Ok never holds: it is not shown to anybody.",
        (),
    ),
    "a condition that always holds": (
        (page("a", SOURCE, item("yes_no", "ok", shown_when=SURE)),),
        "condition_always",
        "pages/a/items/ok",
        "The condition of Ok always holds, so it decides nothing.",
        (),
    ),
    "a rule that never applies": (
        (page("a", SOURCE, skips=[skip(BOTH, to_finish("no"))]), page("b", OK)),
        "rule_never",
        "pages/a/skips/1",
        "Rule 1 after page 1 never applies: its condition never holds there.",
        (),
    ),
    "a rule whose cases another takes": (
        (
            page(
                "a",
                SOURCE,
                skips=[
                    skip({"op": "answered", "item": "source"}, to_page("c")),
                    skip(is_("source", "mains"), to_finish("no")),
                ],
            ),
            page("b", OK),
            page("c", item("yes_no", "last")),
        ),
        "rule_shadowed",
        "pages/a/skips/2",
        "Rule 2 after page 1 never applies: the rules before it take every case.",
        ("pages/a/skips/1",),
    ),
    "a rule that leads where the walk goes anyway": (
        (page("a", SOURCE, skips=[skip(is_("source", "own"), to_page("b"))]), page("b", OK)),
        "rule_idle",
        "pages/a/skips/1",
        "Rule 1 after page 1 leads where the walk goes anyway.",
        (),
    ),
    "a finish without a rule": (
        (page("a", SOURCE),),
        "finish_never",
        "finishes/no",
        "Nobody ends at the finish No: no rule leads to it.",
        (),
    ),
    "a page that can come out empty": (
        (page("a", SOURCE), page("b", item("yes_no", "ok", shown_when=is_("source", "own")))),
        "page_empty",
        "pages/b",
        "Somebody can come to page 2, B and find nothing on it.",
        (),
    ),
    "a required question that some cannot answer": (
        (
            page(
                "a",
                SOURCE,
                item(
                    "pick_one",
                    "kind",
                    required=True,
                    options=[{**options("deep")[0], "shown_when": is_("source", "own")}],
                ),
            ),
        ),
        "cannot_answer",
        "pages/a/items/kind",
        "Not everybody can answer Kind, and it is required.",
        (),
    ),
    "a required question that nobody can answer": (
        (page("a", item("number", "n", required=True, at_least="0.2", at_most="0.8")),),
        "cannot_answer",
        "pages/a/items/n",
        "Nobody can answer N, and it is required.",
        (),
    ),
    "checks that contradict each other": (
        (
            page(
                "a",
                item("number", "n", required=True),
                checks=[number_check("at_least", "10"), number_check("at_most", "5")],
            ),
        ),
        "page_stuck",
        "pages/a",
        "Nobody gets past page 1, A: what has to be answered there cannot all be right.",
        ("pages/a/checks/1/broken", "pages/a/checks/2/broken"),
    ),
    "checks of two answers that contradict each other": (
        (
            page(
                "a",
                item("number", "n", required=True),
                item("number", "m", required=True),
                checks=[
                    {"left": "n", "relation": "at_least", "right": "m", "message": words("No.")},
                    {"left": "n", "relation": "less_than", "right": "m", "message": words("No.")},
                ],
            ),
        ),
        "page_stuck",
        "pages/a",
        "Nobody gets past page 1, A: what has to be answered there cannot all be right.",
        ("pages/a/checks/1/broken", "pages/a/checks/2/broken"),
    ),
}


@pytest.mark.parametrize("name", CASES)
def test_each_finding_is_told_with_what_is_at_fault_and_mended(name: str) -> None:
    pages, code, at, says, because = CASES[name]
    document = questionnaire(*pages, finishes=("done", "no"))
    found = of(code, at, document)
    assert found is not None
    assert (found.says, found.because) == (says, because)
    for repair in found.repairs:
        assert of(code, at, applied(document, repair)) is None, repair.says
    assert found.repairs
    example = None if found.example is None else prove(document, TODAY).runs[found.example]
    assert (example is not None) is (code in ("page_empty", "cannot_answer"))


def test_options_that_no_rule_tells_apart() -> None:
    asked = item("pick_one", "source", options=options("own", "mains", "spring"))
    rules = [skip(is_("source", "own"), to_finish("no"))]
    document = questionnaire(page("a", asked, skips=rules), page("b", OK), finishes=("done", "no"))
    found = of("options_same", "pages/a/items/source", document)
    assert found is not None
    assert found.says == "These options of Source lead the same way: Mains, Spring."


def test_a_sound_one_has_no_findings_and_an_example_of_everything() -> None:
    rules = [skip(is_("source", "mains"), to_finish("no"))]
    document = questionnaire(page("a", SOURCE, skips=rules), page("b", OK), finishes=("done", "no"))
    proof = prove(document, TODAY)
    assert (proof.findings, proof.open) == ((), ())
    assert set(proof.examples) == {
        "pages/a",
        "pages/a/items/source",
        "pages/a/skips/1",
        "pages/b",
        "pages/b/items/ok",
        "finishes/done",
        "finishes/no",
    }


def test_repairs_of_saved_conditions_leave_the_name_in_use() -> None:
    saves = [{"key": "both", "name": "Both", "when": BOTH}]
    used = {"op": "saved", "name": "both"}
    document = questionnaire(page("a", SOURCE), page("b", OK, shown_when=used), saved=saves)
    found = of("page_never", "pages/b", document)
    assert found is not None
    assert found.repairs[0].changes[0]["value"] == used
