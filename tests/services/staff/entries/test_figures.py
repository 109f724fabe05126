"""Figures from the store, against the entries counted one by one."""

from collections import Counter
from typing import Any

from jotgate.core.entries.display import Reader
from jotgate.core.figures.crossing import Both, crossing
from jotgate.core.figures.figure import figure_of
from jotgate.core.figures.pictures import Bars, Bins, Texts
from jotgate.core.table_views import TableView
from jotgate.services import entry_rows
from jotgate.services.context import Context
from jotgate.services.staff import figures
from jotgate.services.staff.crossing import crossed
from jotgate.services.staff.entries import entry_table
from jotgate.services.staff.entries.entry_table import Asked
from jotgate.services.staff.figures import Figures, Question
from tests.core.figures.test_figure import tallied
from tests.scenes import SECRET, Scene
from tests.services.staff.entries.chance_entries import filled

VIEWS: tuple[dict[str, Any], ...] = (
    {},
    {"filter": {"op": "is", "item": "one", "value": "a"}},
    {"filter": {"op": "at_least", "item": "entry.edition", "value": "2"}},
    {"search": "well"},
)


def by_key(found: Figures) -> dict[str, Question]:
    return {one.column.key: one for page in found.pages for one in page.questions}


async def test_what_is_counted_is_what_entries_say(scene: Scene) -> None:
    context, owner = scene.context, scene.coordinator
    id, opened, every = await filled(scene, 150)
    newest = opened.newest
    assert newest is not None
    reader = Reader(newest)
    drawn = set()
    for given in VIEWS:
        asked = Asked(TableView.model_validate(given), None, True)
        shown = {one.number for one in (await entry_table.page(context, owner, id, asked)).entries}
        found = await figures.figures(context, owner, id, asked)
        if found.entries <= entry_table.PER_PAGE:
            assert found.entries == len(shown)
        else:
            shown = {one.number for one in every}
        for key, question in by_key(found).items():
            assert question.asked is None, "of these it was not noted"
            other = question.column.other
            said = [
                one.answers[key]
                for one in every
                if one.number in shown and key in one.answers and one.edition not in other
            ]
            if question.restricted:
                assert (question.answered, question.picture) == (0, None)
                continue
            assert question.answered == len(said)
            if key in newest.items and not isinstance(question.picture, Texts):
                assert question.picture == figure_of(question.column.item, tallied(said), reader)
                drawn.add(question.column.item.kind)
            elif isinstance(question.picture, Texts):
                assert question.picture.different == len(tallied(said))
    assert len(drawn) > 15


async def test_two_views_stand_side_by_side(scene: Scene) -> None:
    """Each says what it says alone, on the scales of both."""
    id, _, every = await filled(scene, 90)
    views = [{"filter": {"op": "at_most", "item": "number", "value": "0"}}, {}]
    both = [Asked(TableView.model_validate(view), None, True) for view in views]
    args = (scene.context, scene.coordinator, id)
    few, many = await figures.side_by_side(*args, (both[0], both[1]))
    assert 0 < few.entries < many.entries == len(every)
    assert many == await figures.figures(*args, both[1]), "the other is a part of it"
    alone = by_key(await figures.figures(*args, both[0]))
    here, there = by_key(few)["number"], by_key(many)["number"]
    assert isinstance(here.picture, Bins)
    assert isinstance(there.picture, Bins)
    assert [one.label for one in here.picture.bins] == [one.label for one in there.picture.bins]
    assert here.picture.spread == alone["number"].picture.spread  # type: ignore[union-attr]
    assert here.picture != alone["number"].picture
    assert few.arrivals is not None
    assert many.arrivals is not None
    assert len(few.arrivals.over_time.bins) == len(many.arrivals.over_time.bins)


async def test_when_entries_arrived(scene: Scene) -> None:
    """In each view, against the moments of its entries; none in a view without any."""
    id, _, every = await filled(scene, 90)
    for given in VIEWS:
        asked = Asked(TableView.model_validate(given), None, True)
        page = await entry_table.page(scene.context, scene.coordinator, id, asked)
        found = (await figures.figures(scene.context, scene.coordinator, id, asked)).arrivals
        assert found is not None
        moments = [one.arrived for one in every if one.number in {e.number for e in page.entries}]
        over_time = Counter(one.date().toordinal() for one in moments)
        assert {int(one.low): one.count for one in found.over_time.bins if one.count} == over_time
        by_hour = Counter(f"{one:%H}:00" for one in moments)
        assert {one.label: one.count for one in found.by_hour.bins if one.count} == by_hour
    none = Asked(TableView.model_validate({"search": "nowhere at all"}))
    assert (await figures.figures(scene.context, scene.coordinator, id, none)).arrivals is None


async def test_crossings_are_what_entries_say(scene: Scene) -> None:
    """Every pair of questions that can be crossed."""
    id, opened, every = await filled(scene, 90)
    newest = opened.newest
    assert newest is not None
    reader, asked = Reader(newest), Asked(TableView(), None, True)
    found = by_key(await figures.figures(scene.context, scene.coordinator, id, asked))
    pairs = [key for key, one in found.items() if one.crossable]
    assert {found[key].column.item.kind for key in pairs} == {
        "yes_no",
        "pick_one",
        "pick_many",
        "scale",
    }
    for row in pairs:
        for column in pairs:
            told = await crossed(scene.context, scene.coordinator, id, asked, row, column)
            said = [
                Both(one.answers[row], one.answers[column], 1)
                for one in every
                if row in one.answers and column in one.answers
            ]
            items = found[row].column.item, found[column].column.item
            assert told == crossing(*items, said, reader)


async def test_asked_left_empty_and_not_asked(scene: Scene, context: Context) -> None:
    await scene.submit("a", ill=False, drinkers="3")
    await scene.submit("b", source="mains")
    await scene.submit("c", ill=True, illness=SECRET)
    await entry_rows.catch_up(context)
    found = await figures.figures(context, scene.coordinator, scene.id, Asked())
    assert (found.entries, found.total) == (3, 3)
    told = by_key(found)
    source = told["source"]
    assert (source.asked, source.answered) == (3, 3)
    assert isinstance(source.picture, Bars)
    assert sum(one.count for one in source.picture.bars) == 3
    drinkers = told["drinkers"]
    assert drinkers.asked is not None
    assert (drinkers.asked, drinkers.answered) == (2, 1), "nobody asks those with mains"
    of_asked = await figures.figures(context, scene.coordinator, scene.id, Asked(), "asked")
    assert {one.asked for one in by_key(of_asked).values()} >= {3, 2}
    assert told["illness"].restricted
    assert told["illness"].answered == 0
