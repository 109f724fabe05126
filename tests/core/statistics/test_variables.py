"""Names, numbers of codes, and which variables come of a question in several editions."""

import re
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.entries.facts import Around
from jotgate.core.entries.table import table_of
from jotgate.core.handling import Terms
from jotgate.core.items.kinds import KINDS
from jotgate.core.statistics.tables import StatisticsTables, statistics_tables
from jotgate.core.statistics.variables import LONGEST, RESERVED, Names, Variable, numbered
from jotgate.core.walking.plan import compile_plan
from tests.documents import item, options, page, questionnaire

KEYS = st.from_regex(r"[a-z][a-z0-9_]{0,39}", fullmatch=True)
CODES = st.from_regex(r"[A-Za-z0-9][A-Za-z0-9_.-]{0,39}", fullmatch=True)


NAMED = st.tuples(KEYS | st.sampled_from(sorted(RESERVED)), CODES | st.just(""))


@given(st.lists(NAMED, max_size=60))
def test_names_fit_everywhere(found: list[tuple[str, str]]) -> None:
    names = Names()
    made = [names.name([key, *([code] if code else [])]) for key, code in found]
    assert len({one.casefold() for one in made}) == len(made)
    for one in made:
        assert re.fullmatch(r"[A-Za-z]([A-Za-z0-9_]*[A-Za-z0-9])?", one)
        assert len(one) <= LONGEST
        assert one.casefold() not in RESERVED


@given(st.lists(CODES | st.integers(0, 2000).map(str), unique=True, max_size=40), st.booleans())
def test_numbers_stand_for_one_code_each(codes: list[str], other: bool) -> None:
    found = numbered([*codes, *(["else"] if other and "else" not in codes else [])], "else")
    assert len(set(found.values())) == len(found)
    if codes and all(one.isdigit() and (one == "0" or one[0] != "0") for one in codes):
        short = [one for one in codes if len(one) <= 9]
        if short == codes:
            assert all(found[one] == int(one) for one in codes)


def made(*editions: tuple[dict[str, Any], ...], language: str = "") -> StatisticsTables:
    plans = {
        number: compile_plan(questionnaire(page("p", *items)))
        for number, items in enumerate(editions, 1)
    }
    return statistics_tables(table_of(plans, Around(), {}, Terms({}, {})), plans, language)


def of(tables: StatisticsTables, key: str) -> list[Variable]:
    return [one for one in tables.variables if one.of == key]


def test_numbers_stay_when_options_come_and_move() -> None:
    before = item("pick_one", "one", options=options("a", "b"))
    after = item("pick_one", "one", options=options("c", "b", "a"))
    (first,), (both,) = of(made((before,)), "one"), of(made((before,), (after,)), "one")
    assert [(one.code, one.number) for one in first.categories] == [("a", 1), ("b", 2)]
    assert [(one.code, one.number) for one in both.categories] == [("a", 1), ("b", 2), ("c", 3)]


def test_a_grid_whose_rows_repeat_has_a_table_of_its_own() -> None:
    rows = [{"code": "r", "label": {"en": "R"}}, {"code": "s", "label": {"en": "S"}}]
    columns = [item("number", "n"), item("pick_many", "uses", options=options("x", "y"))]
    once = made((item("grid", "g", rows=rows, columns=columns),))
    assert [one.name for one in of(once, "g")] == [
        *("g_r_n", "g_r_uses_x", "g_r_uses_y"),
        *("g_s_n", "g_s_uses_x", "g_s_uses_y"),
    ]
    assert once.lines == ()
    often = [{**rows[0], "repeats": 2}, rows[1]]
    many = made((item("grid", "g", rows=often, columns=columns),))
    assert [(one.name, one.form) for one in of(many, "g")] == [("g_r", "whole"), ("g_s", "whole")]
    (table,) = many.lines
    assert [one.name for one in table.variables] == [
        *("entry_number", "row", "line"),
        *("n", "uses_x", "uses_y"),
    ]
    stored = {"s": [{"n": "1"}], "r": [{"uses": ["y"]}, {"n": "2", "uses": ["x", "y"]}]}
    assert list(table.lines("7", stored)) == [
        ["7", "s", "1", "1", None, None],
        ["7", "r", "1", None, "false", "true"],
        ["7", "r", "2", "2", "true", "true"],
    ]


def test_a_number_is_whole_where_all_editions_have_it_so() -> None:
    whole, parts = item("number", "n"), item("number", "n", decimals=2)
    assert of(made((whole,)), "n")[0].form == "whole"
    assert of(made((parts,), (whole,)), "n")[0].form == "number"


def test_every_kind_that_has_a_value_becomes_variables() -> None:
    more: dict[str, dict[str, Any]] = {
        "grid": {"rows": [{"code": "r", "label": {"en": "R"}}], "columns": [item("number", "in")]},
        "roster": {"items": [item("number", "inside")]},
        "computed": {"formula": {"do": "sum", "of": ["number"]}},
        **{kind: {"options": options("x", "y")} for kind in ("pick_one", "pick_many", "rank")},
    }
    kinds = [kind for kind, one in KINDS.items() if one.holds != "nothing"]
    tables = made(tuple(item(kind, kind, **more.get(kind, {})) for kind in kinds))
    for kind in kinds:
        assert of(tables, kind), kind
    assert len(kinds) > 20


def test_parts_are_named_as_respondents_read_them() -> None:
    name = of(made((item("name", "n"),), language="ar"), "n")
    assert [one.part for one in name] == ["الاسم", "اسم العائلة"]
