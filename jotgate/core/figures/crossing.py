"""One question by another: how many said both, and whether that is more than chance would bring."""

from collections import Counter
from collections.abc import Sequence
from math import sqrt
from typing import Any, Literal, NamedTuple

from jotgate.core.common.part import Part
from jotgate.core.entries.display import Reader
from jotgate.core.entries.table import held_by
from jotgate.core.figures.categories import codes_in, in_order
from jotgate.core.items import Item

SMALL = 5
"""An expected number under which a cell is small."""

RANDOM_TABLES, SEED = 9_999, 1_973


class Both(NamedTuple):
    """What so many entries said to two questions, as it is stored."""

    row: Any
    column: Any
    many: int


class CrossingCell(Part):
    """`expected` is what independence would bring, `residual` the adjusted standardised residual
    (S. J. Haberman, 1973): over 1.96 or under -1.96 it differs from that at the level of 5 %. Both
    are None where somebody can be in several rows or columns."""

    count: int
    expected: float | None = None
    residual: float | None = None


class CrossingRow(Part):
    label: str
    total: int
    cells: tuple[CrossingCell, ...]


class Independence(Part):
    """Whether two questions hang together. Pearson's chi-square; where cells are small Fisher's
    exact test, which in tables of more than two by two is told from random tables with the same
    margins. `v` is Cramér's V, from 0 to 1."""

    by: Literal["chi_square", "fisher", "fisher_random"]
    statistic: float
    freedom: int
    p: float
    v: float


class Crossing(Part):
    """`total` entries answered both; `columns` are named, with how many are in each. There is no
    `test` where somebody can be in several, or where there is only one row or column."""

    columns: tuple[str, ...]
    totals: tuple[int, ...]
    rows: tuple[CrossingRow, ...]
    total: int
    test: Independence | None = None


def crossing(row: Item, column: Item, tally: Sequence[Both], reader: Reader) -> Crossing:
    """Of all who answered both questions; shares are for whoever reads it to take."""
    counts: Counter[tuple[str, str]] = Counter()
    in_row: Counter[str] = Counter()
    in_column: Counter[str] = Counter()
    for one in tally:
        for a in codes_in(one.row):
            in_row[a] += one.many
            for b in codes_in(one.column):
                counts[a, b] += one.many
        for b in codes_in(one.column):
            in_column[b] += one.many
    rows, columns = in_order(row, in_row, reader), in_order(column, in_column, reader)
    total = sum(one.many for one in tally)
    apart = "picks" not in (held_by(row), held_by(column))
    return Crossing(
        columns=tuple(one.label for one in columns),
        totals=tuple(one.many for one in columns),
        rows=tuple(
            CrossingRow(
                label=one.label,
                total=one.many,
                cells=tuple(
                    _cell(counts[one.code, other.code], one.many, other.many, total, apart)
                    for other in columns
                ),
            )
            for one in rows
        ),
        total=total,
        test=_test([[counts[a.code, b.code] for b in columns] for a in rows]) if apart else None,
    )


def _cell(count: int, row: int, column: int, total: int, apart: bool) -> CrossingCell:
    if not (apart and total and row and column):
        return CrossingCell(count=count)
    expected = row * column / total
    spread = expected * (1 - row / total) * (1 - column / total)
    residual = (count - expected) / sqrt(spread) if spread > 0 else None
    return CrossingCell(count=count, expected=expected, residual=residual)


def _test(counts: Sequence[Sequence[int]]) -> Independence | None:
    """Of the rows and columns that anybody is in. Cells are small where more than a fifth of them
    expect under five, or one under one (W. G. Cochran, 1954)."""
    rows = [row for row in counts if any(row)]
    used = [column for column in zip(*rows, strict=True) if any(column)]
    if len(rows) < 2 or len(used) < 2:
        return None
    from scipy import stats

    table = [list(row) for row in zip(*used, strict=True)]
    found = stats.chi2_contingency(table, correction=False)
    every = [float(one) for row in found.expected_freq for one in row]
    total = sum(map(sum, table))
    statistic = float(found.statistic)
    v = sqrt(statistic / (total * (min(len(table), len(used)) - 1)))
    told = {"statistic": statistic, "freedom": int(found.dof), "v": min(v, 1.0)}
    if min(every) >= 1 and sum(one < SMALL for one in every) <= len(every) / 5:
        return Independence(by="chi_square", p=float(found.pvalue), **told)
    if len(table) == len(used) == 2:
        return Independence(by="fisher", p=float(stats.fisher_exact(table).pvalue), **told)
    method = stats.MonteCarloMethod(n_resamples=RANDOM_TABLES, rng=SEED)
    p = float(stats.fisher_exact(table, method=method).pvalue)
    return Independence(by="fisher_random", p=p, **told)
