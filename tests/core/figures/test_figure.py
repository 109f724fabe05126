"""What is drawn of each kind of question, counted again from the answers one by one."""

import random
from collections import Counter
from datetime import UTC, datetime
from typing import Any, get_args
from zoneinfo import ZoneInfo

import pandas
import pytest

from jotgate.core.common.today import Today
from jotgate.core.entries.display import Reader
from jotgate.core.entries.table import held_by
from jotgate.core.figures.figure import _PICTURES, MOST_OFTEN, OF_PEOPLE, figure_of
from jotgate.core.figures.pictures import Bars, Bins, Files, Gathered, Plain, Ranks, Texts
from jotgate.core.figures.table import HEAD, lines_of
from jotgate.core.figures.tally import Said, answered
from jotgate.core.items import Item, is_valued
from jotgate.core.items.kinds import KINDS, Holds
from jotgate.core.walking.plan import compile_plan
from tests.documents import item, options, page, plan
from tests.services.staff.entries.chance_entries import ITEMS, answers

ROWS = [{"code": code, "label": {"en": code.upper()}} for code in ("north", "south")]
COLUMNS = [item("scale", "taste"), item("pick_one", "used", options=options("tap", "well"))]
MORE = (item("grid", "taps", rows=ROWS, columns=COLUMNS),)
PLAN = plan(page("p", *ITEMS, *MORE))
READER = Reader(PLAN)
NOW = Today(datetime(2026, 12, 1, 12, tzinfo=ZoneInfo("UTC")))
BY_KEY = {one.key: one for one in PLAN.questionnaire.items() if is_valued(one)}


def tallied(values: list[Any]) -> list[Said]:
    found: dict[str, Said] = {}
    for one in values:
        before = found.get(repr(one), Said(one, 0))
        found[repr(one)] = Said(one, before.many + 1)
    return list(found.values())


@pytest.fixture(scope="module")
def every() -> dict[str, list[Any]]:
    """Two hundred made-up answers to each question, as they are stored."""
    chance = random.Random(5)
    said: dict[str, list[Any]] = {}
    for _ in range(300):
        for key, value in answers(PLAN.questionnaire, NOW, chance).items():
            said.setdefault(key, []).append(value)
    said["secret"] = ["a", "b", "a"]
    return said


def test_each_form_of_answer_has_its_picture() -> None:
    gone_into = {"rows", "entries", "nothing", "carried", "computed"}
    assert set(_PICTURES) == {*get_args(Holds), "first"} - gone_into
    asked = {one.kind for one in BY_KEY.values()}
    assert asked == {kind for kind, one in KINDS.items() if one.holds != "nothing"}


@pytest.mark.parametrize("key", BY_KEY)
def test_no_answer_is_lost(every: dict[str, list[Any]], key: str) -> None:
    one, said = BY_KEY[key], every[key]
    picture = figure_of(one, tallied(said), READER)
    match picture:
        case Bars(picks=int()):
            assert sum(bar.count for bar in picture.bars) == sum(map(len, said)) == picture.picks
        case Bars():
            assert sum(bar.count for bar in picture.bars) == len(said)
            assert sum(bar.share for bar in picture.bars) == pytest.approx(1)
        case Bins():
            assert sum(bin.count for bin in picture.bins) == len(said)
        case Ranks():
            assert sum(one.first for one in picture.options) == len(said)
            assert sum(one.count for one in picture.options) == sum(map(len, said))
        case Texts():
            assert picture.different == len({str(text) for text in said})
            often = Counter(map(str, said)).most_common(MOST_OFTEN)
            often = [] if one.kind in OF_PEOPLE else often
            assert [one.count for one in picture.often] == [many for _, many in often if many > 1]
        case Files():
            assert picture.files == sum(map(len, said))
        case Gathered():
            lines = [line for value in said for line in _lines(one, value)]
            assert picture.lines == len(lines)
            for part in picture.inner:
                own = [
                    line
                    for row, line in lines
                    if part.key in line and (row or "") == part.row.lower()
                ]
                assert part.answered == len(own)
        case _:
            assert isinstance(picture, Plain)
            assert held_by(one) in ("parts", "place", "drawing")
    for line in lines_of(None, len(said), picture):
        assert len(line) == len(HEAD) - 2


def _lines(one: Item, value: Any) -> list[tuple[str, dict[str, Any]]]:
    if one.kind == "roster":
        return [("", line) for line in value]
    return [(row, line) for row, lines in value.items() for line in lines]


def test_options_as_pandas_counts_them(every: dict[str, list[Any]]) -> None:
    one = figure_of(BY_KEY["one"], tallied(every["one"]), READER)
    codes = ["else" if isinstance(value, dict) else value for value in every["one"]]
    counts = pandas.Series(codes).value_counts()
    assert isinstance(one, Bars)
    assert [bar.count for bar in one.bars] == [
        int(counts[code]) for code in ("b", "a", "c", "else")
    ]
    many = figure_of(BY_KEY["many"], tallied(every["many"]), READER)
    assert isinstance(many, Bars)
    picked = (
        pandas.Series(every["many"]).explode().map(lambda v: "else" if isinstance(v, dict) else v)
    )
    shares = picked.value_counts() / len(every["many"])
    assert [bar.share for bar in many.bars] == pytest.approx(
        [shares[k] for k in ("x", "y", "z", "else")]
    )


def test_a_scale_has_its_ends_together(every: dict[str, list[Any]]) -> None:
    said = pandas.Series(every["scale"]).astype(int)
    found = figure_of(BY_KEY["scale"], tallied(every["scale"]), READER)
    assert isinstance(found, Bars)
    assert found.spread is not None
    assert found.spread.mean == pytest.approx(said.mean())
    assert found.bottom is not None
    assert found.top is not None
    assert (found.bottom.label, found.top.label) == ("0–1", "3–4")
    assert found.bottom.count == int((said <= 1).sum())
    assert found.top.share == pytest.approx((said >= 3).mean())


def test_ranks_by_average_place() -> None:
    said = [["p", "q", "r"], ["q", "p", "r"], ["q", "p", "r"]]
    found = figure_of(BY_KEY["rank"], tallied(said), READER)
    assert isinstance(found, Ranks)
    told = [(one.label, round(one.place, 3), one.first) for one in found.options]
    label = {one.code: one.label["en"] for one in BY_KEY["rank"].options}  # type: ignore[union-attr]
    assert told == [(label["q"], 1.333, 2), (label["p"], 1.667, 1), (label["r"], 3.0, 0)]


def test_moments_count_on_the_day_that_it_was_there() -> None:
    asked = plan(page("p", item("date_time", "at"))).questionnaire.model_copy(
        update={"time_zone": "Pacific/Auckland"}
    )
    reader = Reader(compile_plan(asked))
    late = datetime(2026, 11, 30, 23, 30, tzinfo=UTC).isoformat(timespec="minutes")
    found = figure_of(next(iter(asked.items())), [Said(late, 1)], reader)
    assert isinstance(found, Bins)
    assert [one.label for one in found.bins] == ["1 December 2026"]


def test_what_is_no_option_any_more_stands_behind() -> None:
    found = figure_of(BY_KEY["one"], [Said("gone", 3), Said("a", 1)], READER)
    assert isinstance(found, Bars)
    assert [(one.label, one.count) for one in found.bars][-2:] == [("gone", 3), ("Other", 0)]
    assert answered([Said("gone", 3), Said("a", 1)]) == 4


def test_nobody_answered() -> None:
    assert figure_of(BY_KEY["one"], [], READER) is None


def test_shares_of_those_who_were_asked() -> None:
    found = figure_of(BY_KEY["yes"], [Said(True, 3), Said(False, 1)], READER, 8)
    assert isinstance(found, Bars)
    assert [one.share for one in found.bars] == [0.375, 0.125]
