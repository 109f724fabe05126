"""The proof of a draft: kept while the draft stays, given up in time, and as a test sheet."""

import csv
import io
from dataclasses import replace
from datetime import timedelta
from typing import Any

import pytest

from jotgate.adapters.proofs import OwnProcess
from jotgate.core.common.errors import Invalid, NotFound, Unavailable
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.services.context import Context
from jotgate.services.staff import proof, questionnaires
from tests.conftest import Clock
from tests.documents import is_, item, options, page, questionnaire
from tests.scenes import Scene, save

BRANCHING = questionnaire(
    page(
        "a",
        item("pick_one", "source", required=True, options=options("own", "mains")),
        item("carried", "route", options=options("x", "b")),
        skips=[{"when": is_("source", "mains"), "to": {"kind": "finish", "finish": "no"}}],
    ),
    page("b", item("yes_no", "ok"), shown_when=is_("route", "x")),
    page("c", item("short_text", "last")),
    finishes=("done", "no"),
)


OK = item("yes_no", "ok")
BLANK = {"op": "is", "item": "", "value": ""}


async def write(context: Context, scene: Scene, document: Questionnaire) -> None:
    state = await questionnaires.draft(context, scene.coordinator, scene.id)
    await save(context, scene.coordinator, scene.id, document, state.revision)


async def test_a_draft_is_proved_once_for_each_revision_and_day(
    context: Context, scene: Scene, clock: Clock
) -> None:
    await write(context, scene, BRANCHING)
    found = await proof.proved(context, scene.coordinator, scene.id)
    assert found.proof is not None
    assert found.proof.findings == ()
    assert (await proof.proved(context, scene.coordinator, scene.id)).proof is found.proof
    number = found.proof.examples["pages/b"]
    example = await proof.example(context, scene.coordinator, scene.id, number)
    assert [leg.page for leg in example.legs][:2] == ["a", "b"]
    assert ("route", "x") in example.link
    with pytest.raises(NotFound):
        await proof.example(context, scene.coordinator, scene.id, 99)
    clock.move(timedelta(days=1))
    assert (await proof.proved(context, scene.coordinator, scene.id)).proof is not found.proof


async def test_faults_of_the_branching_are_in_the_way(context: Context, scene: Scene) -> None:
    await write(
        context, scene, questionnaire(page("a", item("yes_no", "x", shown_when=is_("y", "z"))))
    )
    found = await proof.proved(context, scene.coordinator, scene.id)
    assert found.proof is None
    assert [one.code for one in found.in_the_way] == ["not_earlier"]
    with pytest.raises(Invalid):
        await proof.walk_throughs(context, scene.coordinator, scene.id)


UNFINISHED: tuple[dict[str, Any], ...] = (
    page("a", OK, skips=[{"when": is_("ok", True), "to": {"kind": "finish", "finish": ""}}]),
    page("a", OK, skips=[{"when": is_("", ""), "to": {"kind": "finish", "finish": "done"}}]),
    page("a", OK, skips=[{"when": BLANK, "to": {"kind": "finish", "finish": ""}}]),
    page("a", OK, shown_when=BLANK),
    page("a", OK, item("yes_no", "b", shown_when=BLANK)),
    page("a", OK, item("yes_no", "b", required_when={"op": "all", "parts": [BLANK]})),
    page("a", OK, item("yes_no", "b", shown_when={"op": "is", "item": "ok", "value": ""})),
    page("a", OK, item("number", "n"), checks=[{"left": "n", "relation": "is", "message": {}}]),
    page(
        "a", OK, item("grid", "g"), item("roster", "r"), item("pick_one", "p"), item("picture", "m")
    ),
    page("a", item("computed", "c", formula={"do": "sum", "of": ["gone"]}), OK),
    page("a", OK, OK),
)


@pytest.mark.parametrize("draft", UNFINISHED)
async def test_what_is_unfinished_is_proved_or_in_the_way(
    context: Context, scene: Scene, draft: dict[str, Any]
) -> None:
    """A draft is saved at every step of writing it; none of them may break the proof."""
    await write(context, scene, questionnaire(draft))
    found = await proof.proved(context, scene.coordinator, scene.id)
    assert (found.proof is None) is bool(found.in_the_way)


async def test_missing_words_are_not_in_the_way(context: Context, scene: Scene) -> None:
    await write(context, scene, questionnaire(page("a", {**item("yes_no", "x"), "text": {}})))
    assert (await proof.proved(context, scene.coordinator, scene.id)).proof is not None


async def test_the_sheet_says_what_to_answer_and_what_follows(
    context: Context, scene: Scene
) -> None:
    await write(context, scene, BRANCHING)
    head, *rows = csv.reader(
        io.StringIO(await proof.walk_sheet(context, scene.coordinator, scene.id))
    )
    assert head == ["Walk-through", "Step", "Page", "Question", "Key", "Answer", "Then"]
    assert any(row[2:5] == ["1 A", "Source", "source"] and row[6] == "Finish: No" for row in rows)
    assert any(row[2] == "Before it begins" and row[4:6] == ["route", "x"] for row in rows)
    assert {row[6] for row in rows} >= {"Finish: No", "Finish: Done", "3 C"}


async def test_where_answers_lead_whoever_the_visitor_is(context: Context, scene: Scene) -> None:
    """A carried value and a fact of the visitor come with the link that is tried."""
    spanish = {"op": "is", "item": "contact.language", "value": "es"}
    await write(
        context,
        scene,
        questionnaire(
            page("a", item("yes_no", "x"), item("carried", "route", options=options("x", "b"))),
            page("b", item("yes_no", "y"), shown_when=is_("route", "x")),
            page("c", item("yes_no", "z"), shown_when=spanish),
        ),
    )
    for link, pages in (
        ("", ("a",)),
        ("route=x", ("a", "b")),
        ("contact.language=es", ("a", "c")),
        ("route=x&contact.language=es&contact.shoe=1", ("a", "b", "c")),
    ):
        found = await proof.path(context, scene.coordinator, scene.id, link, {"x": True})
        assert (found.pages, found.finish) == (pages, "done")


def _after(page: int, place: int) -> dict[str, Any]:
    """Shown after the question at the same place of the page before."""
    return {"shown_when": is_(f"x{page - 1}_{place}", True)} if page else {}


async def test_a_proof_that_takes_too_long_is_given_up(context: Context, scene: Scene) -> None:
    """And the next one is made again, by a new process."""
    slow = OwnProcess(seconds=0.05)
    hasty = replace(context, proofs=slow)
    pages = [
        page(f"p{n}", *(item("yes_no", f"x{n}_{m}", **_after(n, m)) for m in range(6)))
        for n in range(400)
    ]
    await write(context, scene, questionnaire(*pages))
    with pytest.raises(Unavailable):
        await proof.proved(hasty, scene.coordinator, scene.id)
    slow.processes.seconds = 60
    await write(context, scene, BRANCHING)
    found = await proof.proved(hasty, scene.coordinator, scene.id)
    assert found.proof is not None
    slow.close()
