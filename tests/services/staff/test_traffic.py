"""How many went which way, against the walks of what was sent."""

from collections import Counter
from datetime import timedelta
from random import Random
from typing import Any

import pytest

from jotgate.core.common.errors import Invalid, NotFound
from jotgate.core.common.today import today_in
from jotgate.core.document.questionnaire import Questionnaire
from jotgate.core.figures.traffic import PageTraffic, Traffic
from jotgate.core.table_views import TableView
from jotgate.core.walking.made_up import MadeUp
from jotgate.core.walking.path import Walk, walk
from jotgate.core.walking.plan import compile_plan
from jotgate.services import entry_rows
from jotgate.services.public import started, submitting
from jotgate.services.public.answering import Answers
from jotgate.services.public.started import StartedAnswers
from jotgate.services.staff import questionnaires, traffic
from jotgate.services.staff.entries.entry_table import Asked
from tests.conftest import Clock
from tests.documents import finish, is_, item, options, page, questionnaire
from tests.scenes import Scene, published, save

EVERY = Asked(TableView(), None, True)


def to(key: str) -> dict[str, Any]:
    kind = "finish" if key in ("end", "early") else "page"
    return {"kind": kind, kind: key}


def document(restricted: bool = True) -> Questionnaire:
    """Ways by a pick, a day before today, lines of a roster, and by something restricted."""
    return questionnaire(
        page(
            "start",
            item("pick_one", "source", options=options("own", "mains", "none")),
            item("date", "since", earliest="2026-11-20", latest="2026-12-05"),
            item("roster", "wells", items=[item("number", "depth", at_least="0", at_most="9")]),
            skips=[
                {"when": is_("source", "none"), "to": to("early")},
                {"when": {"op": "at_least", "item": "since", "value": "today"}, "to": to("ill")},
            ],
        ),
        page(
            "deep",
            item("yes_no", "safe"),
            shown_when={
                "op": "any_entry",
                "item": "wells",
                "where": {"op": "at_least", "item": "depth", "value": "5"},
            },
        ),
        page(
            "ill",
            item("yes_no", "sick", restricted=restricted),
            skips=[{"when": is_("sick", True), "to": to("last")}],
        ),
        page(
            "well",
            item("yes_no", "tested"),
            skips=[{"when": is_("tested", True), "to": to("early")}],
        ),
        page("last", item("long_text", "more")),
        finishes=(finish("end"), finish("early")),
    )


async def sent(
    scene: Scene, clock: Clock, address: str, made: Questionnaire, count: int
) -> list[Walk]:
    """Entries by chance, over days."""
    plan, dice, found = compile_plan(made), Random(7), list[Walk]()
    for number in range(count):
        clock.move(timedelta(hours=7))
        today = today_in(made.time_zone, scene.context.clock.now())
        answers = MadeUp(plan, {}, today, dice)
        whole = walk(plan, answers, {}, today)
        assert whole.stuck is None
        given = {key: raw for key, raw in answers.made.items() if dice.random() < 0.9}
        whole = walk(plan, given, {}, today)
        key = f"entry {number}".rjust(20, "0")
        await submitting.submit(scene.context, address, Answers("", 1, given), key)
        found.append(whole)
    return found


def told(one: PageTraffic) -> tuple[int | None, list[int | None], int | None]:
    return one.came, list(one.rules), one.on


Told = dict[str, tuple[int | None, list[int | None], int | None]]


def walked(made: Questionnaire, found: list[Walk]) -> Told:
    left = Counter((step.page.key, step.rule or 0) for one in found for step in one.steps)
    return {
        one.key: (
            sum(left[one.key, at] for at in range(len(one.skips) + 1)),
            [left[one.key, at] for at in range(1, len(one.skips) + 1)],
            left[one.key, 0],
        )
        for one in made.pages
    }


def by_key(found: Traffic) -> Told:
    return {one.key: told(one) for one in found.pages}


async def test_ways_are_those_that_were_walked(scene: Scene, clock: Clock) -> None:
    """Where something restricted decides, nothing that follows from it is told."""
    made = document(restricted=False)
    id, address = await published(scene.context, scene.coordinator, made)
    walks = await sent(scene, clock, address, made, 60)
    args = (scene.context, scene.coordinator, id, EVERY)
    found, true = await traffic.traffic(*args, None), walked(made, walks)
    assert by_key(found) == true
    assert all(many for _, rules, on in true.values() for many in (*rules, on)), true
    assert {one.key: one.came for one in found.finishes} == Counter(one.finish.key for one in walks)
    assert (found.edition, found.entries, found.anonymised) == (1, 60, 0)
    await save(scene.context, scene.coordinator, id, document(), 1)
    await questionnaires.publish(scene.context, scene.coordinator, id, 2)
    hidden = await traffic.traffic(*args, 1)
    true["ill"] = (true["ill"][0], [None], None)
    true["well"] = (None, [None], None)
    true["last"] = (None, [], None)
    assert by_key(hidden) == true
    assert {one.came for one in hidden.finishes} == {None}
    assert {one.came for one in (await traffic.traffic(*args, None)).pages} == {0, None}
    with pytest.raises(NotFound):
        await traffic.traffic(*args, 3)


async def test_a_filter_counts_some(scene: Scene, clock: Clock) -> None:
    made = document(restricted=False)
    id, address = await published(scene.context, scene.coordinator, made)
    walks = await sent(scene, clock, address, made, 25)
    await entry_rows.catch_up(scene.context)
    view = TableView.model_validate({"filter": is_("source", "own")})
    asked = Asked(view, None, False)
    found = await traffic.traffic(scene.context, scene.coordinator, id, asked, None)
    some = [one for one in walks if one.kept.get("source") == "own"]
    assert 0 < len(some) < len(walks)
    assert (found.entries, by_key(found)) == (len(some), walked(made, some))


async def test_who_stopped_is_told_where(scene: Scene, clock: Clock) -> None:
    """An hour after they saved last, until they send; never where it follows from something
    restricted."""
    made = document()
    id, address = await published(scene.context, scene.coordinator, made)
    for number, at in enumerate(["start", "start", "ill", "well", "nowhere"]):
        going = StartedAnswers(1, "", at, f"s{number}", {"source": "own"})
        await started.save(scene.context, address, f"{number}" * 64, going, "here")
    args = (scene.context, scene.coordinator, id, EVERY, None)
    before = {one.key: one.stopped for one in (await traffic.traffic(*args)).pages}
    assert before == {"start": 0, "deep": 0, "ill": 0, "well": None, "last": None}
    clock.move(traffic.STOPPED * 1.01)
    after = {one.key: one.stopped for one in (await traffic.traffic(*args)).pages}
    assert after == {"start": 2, "deep": 0, "ill": 1, "well": None, "last": None}
    await started.forget(scene.context, "0" * 64)
    (first, *_) = (await traffic.traffic(*args)).pages
    assert first.stopped == 1


async def test_too_many_different_ways_are_not_walked(
    scene: Scene, clock: Clock, monkeypatch: pytest.MonkeyPatch
) -> None:
    made = document(restricted=False)
    id, address = await published(scene.context, scene.coordinator, made)
    await sent(scene, clock, address, made, 8)
    monkeypatch.setattr(traffic, "MOST_DIFFERENT", 2)
    with pytest.raises(Invalid, match="too many different ways"):
        await traffic.traffic(scene.context, scene.coordinator, id, EVERY, None)
