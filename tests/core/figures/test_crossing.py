"""One question by another, against pandas and the formulas worked out with NumPy."""

import random
from typing import Any

import numpy
import pandas
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from jotgate.core.figures.crossing import Both, crossing
from tests.core.figures.test_figure import BY_KEY, READER

CODES = ("b", "a", "c")
TABLES = st.lists(st.tuples(*(st.integers(0, 40),) * 5), min_size=3, max_size=3)


def of(table: Any, rows: Any = CODES, columns: Any = range(5)) -> list[Both]:
    return [
        Both(row, str(column), int(table[i][j]))
        for i, row in enumerate(rows)
        for j, column in enumerate(columns)
        if table[i][j]
    ]


@given(TABLES)
def test_counts_expected_and_residuals(table: list[tuple[int, ...]]) -> None:
    found = crossing(BY_KEY["one"], BY_KEY["scale"], of(table), READER)
    seen = numpy.array(table)
    total = seen.sum()
    assert found.total == total
    rows = found.rows[:3]
    assert [[cell.count for cell in row.cells] for row in rows] == seen.tolist()
    assert [row.total for row in rows] == seen.sum(1).tolist()
    assert list(found.totals) == seen.sum(0).tolist()
    margins = numpy.outer(seen.sum(1), seen.sum(0))
    for i, row in enumerate(rows):
        for j, cell in enumerate(row.cells):
            if not margins[i, j]:
                assert cell.expected is None
                continue
            expected = margins[i, j] / total
            assert cell.expected == pytest.approx(expected)
            left = (1 - seen.sum(1)[i] / total) * (1 - seen.sum(0)[j] / total)
            if left > 1e-12:
                residual = (seen[i, j] - expected) / numpy.sqrt(expected * left)
                assert cell.residual == pytest.approx(residual)
    used = seen[seen.sum(1) > 0][:, seen.sum(0) > 0]
    assert (found.test is None) == (min(used.shape) < 2)
    if found.test is not None:
        _held(found.test, used)


def _held(test: Any, used: Any) -> None:
    """Pearson's chi-square by its formula, its p from the distribution."""
    expected = numpy.outer(used.sum(1), used.sum(0)) / used.sum()
    statistic = ((used - expected) ** 2 / expected).sum()
    freedom = (used.shape[0] - 1) * (used.shape[1] - 1)
    assert (test.statistic, test.freedom) == (pytest.approx(statistic), freedom)
    v = numpy.sqrt(statistic / (used.sum() * (min(used.shape) - 1)))
    assert test.v == pytest.approx(v)
    small = expected.min() < 1 or (expected < 5).mean() > 0.2
    assert (test.by != "chi_square") == small
    if not small:
        assert test.p == pytest.approx(stats.chi2.sf(statistic, freedom))


def test_fisher_where_cells_are_small() -> None:
    """The lady tasting tea (R. A. Fisher, 1935): three of four told right, p = 0.486 two-sided,
    34/70; from memory, and by the hypergeometric distribution."""
    tea = of([[3, 1], [1, 3]], ("b", "a"), ("b", "a"))
    found = crossing(BY_KEY["one"], BY_KEY["one"], tea, READER).test
    assert found is not None
    assert found.by == "fisher"
    assert found.p == pytest.approx(34 / 70)


def test_fisher_in_a_larger_table_is_told_from_random_ones() -> None:
    """Against all tables with these margins, one by one."""
    seen = [[3, 0, 1], [0, 4, 2], [1, 1, 5]]
    found = crossing(BY_KEY["one"], BY_KEY["scale"], of(seen, CODES, range(3)), READER).test
    assert found is not None
    assert found.by == "fisher_random"
    chance, labels = (
        random.Random(2),
        [j for row in seen for j, n in enumerate(row) for _ in range(n)],
    )
    sizes = [sum(row) for row in seen]

    def likely(table: Any) -> float:
        return -sum(
            float(numpy.sum(numpy.log(numpy.arange(1, n + 1)))) for row in table for n in row
        )

    own, hits = likely(seen), 0
    for _ in range(4_000):
        chance.shuffle(labels)
        at, table = 0, []
        for size in sizes:
            table.append([labels[at : at + size].count(j) for j in range(3)])
            at += size
        hits += likely(table) <= own + 1e-9
    assert found.p == pytest.approx(hits / 4_000, abs=0.012)
    again = crossing(BY_KEY["one"], BY_KEY["scale"], of(seen, CODES, range(3)), READER).test
    assert again == found


def test_several_picks_count_in_each_and_are_not_tested() -> None:
    said = [Both(["x", "y"], True, 3), Both(["y", {"else": "tank"}], False, 2)]
    found = crossing(BY_KEY["many"], BY_KEY["yes"], said, READER)
    assert found.test is None
    assert found.total == 5
    frame = pandas.DataFrame(
        [(code, value) for value, many in ((True, 3), (False, 2)) for _ in range(many)
         for code in (("x", "y") if value else ("y", "else"))],
        columns=["row", "column"],
    )  # fmt: skip
    counts = pandas.crosstab(frame["row"], frame["column"])
    for code, row in zip(("x", "y", "z", "else"), found.rows, strict=True):
        expected = [
            int(counts.loc[code, value]) if code in counts.index else 0 for value in (True, False)
        ]
        assert [cell.count for cell in row.cells] == expected
        assert all(cell.expected is None for cell in row.cells)
    assert found.totals == (3, 2)


def test_nobody_answered_both() -> None:
    found = crossing(BY_KEY["one"], BY_KEY["yes"], [], READER)
    assert (found.total, found.test) == (0, None)
    assert all(cell.count == 0 for row in found.rows for cell in row.cells)


def test_own_words_that_are_not_offered_any_more_have_a_name() -> None:
    found = crossing(BY_KEY["yes"], BY_KEY["scale"], [Both({"else": "x"}, "1", 2)], READER)
    assert [row.label for row in found.rows] == ["Yes", "No", "Other"]
