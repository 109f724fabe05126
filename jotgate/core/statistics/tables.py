"""The tables of a questionnaire's entries for statistics programs: one of all entries, and one more
for each roster, and for each grid whose rows can be answered more than once."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from jotgate.core.entries.clearance import needs_clearance
from jotgate.core.entries.table import NUMBER, EntryTable, TableColumn
from jotgate.core.items import Grid, Item, Roster, inside, is_asked, is_valued
from jotgate.core.statistics.by_form import drafts, repeats, rows_of, versions
from jotgate.core.statistics.variables import Draft, Names, Read, Variable, Wording
from jotgate.core.walking.plan import Plan

FACTS = (
    NUMBER,
    "entry.edition",
    "entry.arrived",
    "entry.language",
    "entry.link",
    "entry.entered",
    "entry.finish",
    "entry.status",
    "entry.corrected",
    "entry.archived",
)
"""What is told of an entry beside its answers."""

ENTRIES = "entries"


@dataclass(frozen=True)
class Source:
    """A column and the variables that come of it, each with how it is read. Of `closed` editions
    nothing is told: they hold something else under its key, or nothing that is open."""

    column: TableColumn
    closed: frozenset[int]
    variables: tuple[Variable, ...]
    reads: tuple[Read, ...]


@dataclass(frozen=True)
class LineVariables:
    """The table of a roster or grid: each line has the entry's number, its own place or its row
    (`led`), and says something of each variable: what it is read from is `asked` inside."""

    key: str
    title: str
    source: int
    led: tuple[Variable, ...]
    said: tuple[Variable, ...]
    asked: tuple[tuple[str, Read], ...]

    @property
    def variables(self) -> tuple[Variable, ...]:
        return (*self.led, *self.said)

    def lines(self, number: str, stored: Any) -> Iterator[list[str | None]]:
        """The lines of an answer as it is stored, each with what its variables say."""
        rows = stored.items() if isinstance(stored, Mapping) else [(None, stored)]
        for row, lines in rows:
            for at, line in enumerate(lines, 1):
                lead = [number, str(at)] if row is None else [number, row, str(at)]
                told = (read(line[key]) if key in line else None for key, read in self.asked)
                yield [*lead, *told]


@dataclass(frozen=True)
class StatisticsTables:
    """`sources` are in the order of the questionnaire, facts first."""

    title: str
    language: str
    sources: tuple[Source, ...]
    lines: tuple[LineVariables, ...]

    @property
    def variables(self) -> tuple[Variable, ...]:
        return tuple(one for source in self.sources for one in source.variables)


def statistics_tables(
    table: EntryTable, plans: Mapping[int, Plan], language: str
) -> StatisticsTables:
    """Of what is open to everybody; labels are in `language`, or in the questionnaire's first."""
    newest = plans[max(plans)]
    say = Wording(language, newest.questionnaire.first_language)
    facts = [table.columns[one] for one in FACTS if one in table.columns]
    asked = [one for one in table.open.values() if not one.fact]
    names, sources, lines = Names(), [], []
    for column in (*facts, *asked):
        having = _versions(column, plans, newest)
        if not having:
            continue
        items = list(having.values())
        sources.append(_source(column, plans, having, names, say))
        if isinstance(items[-1], Roster) or repeats(items):
            lines.append(_lines(column, items, len(sources) - 1, say))
    title = say(newest.questionnaire.title)
    return StatisticsTables(title, say.language, tuple(sources), tuple(lines))


def _versions(column: TableColumn, plans: Mapping[int, Plan], newest: Plan) -> dict[int, Item]:
    """A column as editions have it, the oldest first."""
    if column.fact:
        return dict.fromkeys(sorted(plans), column.item)
    return {
        number: plan.items[column.key]
        for number, plan in sorted(plans.items())
        if column.key in plan.items
        and number not in column.other
        and not needs_clearance(plan, newest, column.key)
    }


def _source(
    column: TableColumn,
    plans: Mapping[int, Plan],
    having: Mapping[int, Item],
    names: Names,
    say: Wording,
) -> Source:
    stem = column.key.replace(".", "_")
    wording = say(column.item.text) or column.label
    told = is_asked(column.item) and not column.fact
    closed = (one for one, plan in plans.items() if column.key in plan.items and one not in having)
    made = drafts(list(having.values()), say)
    variables = (_variable(one, names, stem, wording, column.key, told) for one in made)
    reads = tuple(one.read for one in made)
    return Source(column, frozenset(closed), tuple(variables), reads)


def _variable(
    draft: Draft, names: Names, stem: str, wording: str, of: str, told_apart: bool
) -> Variable:
    return Variable(
        names.name([stem, *draft.stem]),
        draft.form,
        of,
        wording,
        draft.part,
        draft.categories,
        told_apart,
    )


def _lines(column: TableColumn, items: Sequence[Item], source: int, say: Wording) -> LineVariables:
    names, wording = Names(), say(column.item.text) or column.label

    def led(draft: Draft, name: str, words: str) -> Variable:
        return _variable(draft, names, name, words, column.key, False)

    number = led(Draft("whole", str), "entry_number", "Number of the entry")
    place = Draft("whole", str)
    lead = [number]
    if isinstance(items[-1], Grid):
        lead.append(led(Draft("code", str, categories=rows_of(items, say)), "row", "Row"))
    lead.append(led(place, "line", "Place among its like"))
    said: list[Variable] = []
    asked: list[tuple[str, Read]] = []
    for one in inside(items[-1]):
        if is_valued(one):
            for draft in drafts(versions(items, one.key), say):
                words = say(one.text) or one.key
                made = _variable(draft, names, one.key, words, column.key, False)
                said.append(replace(made, inside=one.key))
                asked.append((one.key, draft.read))
    return LineVariables(column.key, wording, source, tuple(lead), tuple(said), tuple(asked))
