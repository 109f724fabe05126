"""Two groups on the same scales: what each is like does not change by that."""

import random
from typing import Any

import pytest

from jotgate.core.figures.figure import figure_of
from jotgate.core.figures.pictures import Bars, Bins, Gathered, Picture, Texts
from jotgate.core.figures.tally import answered, framed
from jotgate.core.items import is_valued
from tests.core.figures.test_figure import BY_KEY, NOW, PLAN, READER, tallied
from tests.services.staff.entries.chance_entries import answers

Group = dict[str, list[Any]]


@pytest.fixture(scope="module")
def groups() -> tuple[Group, Group]:
    """A few people, and many."""
    chance = random.Random(11)
    found: tuple[Group, Group] = {}, {}
    for group, count in zip(found, (4, 120), strict=True):
        for _ in range(count):
            for key, value in answers(PLAN.questionnaire, NOW, chance).items():
                group.setdefault(key, []).append(value)
    return found


def scales(picture: Picture | None) -> list[tuple[Any, ...]]:
    """What stands on the axes of a picture, and of those inside it."""
    if isinstance(picture, Bins):
        return [(one.label, one.low, one.high) for one in picture.bins]
    if isinstance(picture, Bars):
        return [(one.label,) for one in picture.bars]
    return []


def counts(picture: Picture | None) -> list[int]:
    if isinstance(picture, Bins):
        return [one.count for one in picture.bins if one.count]
    if isinstance(picture, Bars):
        return [one.count for one in picture.bars if one.count]
    return []


def without_scale(picture: Picture | None) -> Any:
    """All that a picture says beside its axes."""
    assert picture is not None
    told = picture.model_dump(exclude={"bins", "bars", "many", "inner"})
    if isinstance(picture, Gathered):
        inner = [
            (one.key, one.row, one.answered, without_scale(one.picture)) for one in picture.inner
        ]
        return told, inner, picture.many and without_scale(picture.many)
    return told


@pytest.mark.parametrize("key", BY_KEY)
def test_both_are_drawn_on_the_same_scale(groups: tuple[Group, Group], key: str) -> None:
    item = BY_KEY[key]
    assert is_valued(item)
    few, many = (tallied(group.get(key, [])) for group in groups)
    if not (few and many):
        return
    drawn = figure_of(item, framed(few, many), READER), figure_of(item, framed(many, few), READER)
    alone = figure_of(item, few, READER), figure_of(item, many, READER)
    assert scales(drawn[0]) == scales(drawn[1])
    for one, by_itself, tally in zip(drawn, alone, (few, many), strict=True):
        assert without_scale(one) == without_scale(by_itself)
        if isinstance(one, Bars):
            assert counts(one) == counts(by_itself)
        if isinstance(one, Bins):
            assert sum(counts(one)) == answered(tally)
    if isinstance(drawn[0], Gathered) and isinstance(drawn[1], Gathered):
        second = {(one.key, one.row): one.picture for one in drawn[1].inner}
        for inner in drawn[0].inner:
            assert scales(inner.picture) == scales(second[inner.key, inner.row])


def test_scales_of_few_reach_as_far_as_those_of_many(groups: tuple[Group, Group]) -> None:
    """And would not by themselves: the test above could fail."""
    wider = 0
    for key, item in BY_KEY.items():
        few, many = (tallied(group.get(key, [])) for group in groups)
        if few and many:
            by_itself = scales(figure_of(item, few, READER))
            wider += by_itself != scales(figure_of(item, framed(few, many), READER))
    assert wider >= 4


def test_who_answered_nothing_has_no_picture(groups: tuple[Group, Group]) -> None:
    for key, said in groups[1].items():
        assert figure_of(BY_KEY[key], framed([], tallied(said)), READER) is None


def test_texts_of_the_other_group_are_not_counted() -> None:
    found = figure_of(BY_KEY["short"], framed(tallied(["a", "a"]), tallied(["b", "b"])), READER)
    assert isinstance(found, Texts)
    assert (found.different, [one.text for one in found.often]) == (1, ["a"])
