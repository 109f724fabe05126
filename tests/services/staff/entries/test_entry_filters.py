"""What a table of entries finds and how it sorts, against the same worked out by the core."""

from collections.abc import Iterator
from decimal import Decimal
from typing import Any
from uuid import UUID

import pytest

from jotgate.core.common.errors import Invalid
from jotgate.core.common.today import today_in
from jotgate.core.conditions.condition import holds
from jotgate.core.entries.facts import NAMES
from jotgate.core.entries.stored import as_json
from jotgate.core.entries.table import ABOUT, CARE, LATE, SINCE, TableColumn
from jotgate.core.items import inside
from jotgate.core.items.kinds import KINDS, OPERATORS
from jotgate.core.publishing.condition_faults import operators_for, taken_from
from jotgate.core.table_views import TableView
from jotgate.services.context import Context
from jotgate.services.staff.entries import entry_table
from jotgate.services.staff.entries.entry_table import Asked, Opened
from jotgate.store.base import Connection
from jotgate.store.entries.entry_tables import entries
from jotgate.store.entry_table import pages
from jotgate.store.entry_table.looking import Looking
from jotgate.store.entry_table.reading import LINES, Cursor, read
from tests.documents import page, plan
from tests.scenes import Scene
from tests.services.staff.entries.chance_entries import ITEMS, filled
from tests.services.staff.entries.table_values import table_values

LAST = Decimal("1e9")

LEFT = {"entry.link"}
"""There are no links to be named."""


def operands(column: TableColumn, said: list[Any]) -> list[Any]:
    """What entries say there, and what none says."""
    held = column.holds
    flat = [one for value in said for one in (value if isinstance(value, tuple) else (value,))]
    if held == "truth":
        return [True, False]
    if codes := [one.code for one in getattr(column.item, "options", ())]:
        return [*codes, *(["else"] if getattr(column.item, "else_label", {}) else [])]
    if held in ("day", "moment"):
        days = {str(as_json(one)) for one in flat}
        return ["today", "today-1", "today+1", *sorted(days)[:3]]
    found = sorted({str(as_json(one)) for one in flat if not isinstance(one, dict)})
    return [*found[:6], "9999" if held == "number" else "12:00" if held == "time" else "nothing"]


def conditions(column: TableColumn, said: list[Any]) -> Iterator[dict[str, Any]]:
    """Every operator that a column can be asked."""
    key, given = column.key, operands(column, said)
    meant = taken_from(column.item, plan(page("p", *ITEMS)).items)
    for op in sorted(frozenset.intersection(*(operators_for(one) for one in meant))):
        match op:
            case "answered" | "unanswered":
                yield {"op": op, "item": key}
            case "between":
                for low, high in zip(given, [*given[1:], given[0]], strict=True):
                    yield {"op": op, "item": key, "low": low, "high": high}
            case "one_of" | "includes_all":
                yield {"op": op, "item": key, "values": given[:2]}
                yield {"op": op, "item": key, "values": given[-2:]}
            case "like":
                yield from ({"op": op, "item": key, "value": one} for one in (".*s.*", "[aA].*"))
            case "contains":
                yield from ({"op": op, "item": key, "value": one} for one in ("SS", "Í", "%", "e"))
            case "entry_count" | "any_entry" | "every_entry":
                yield from _of_entries(op, column)
            case _:
                yield from ({"op": op, "item": key, "value": one} for one in given)


def _of_entries(op: str, column: TableColumn) -> Iterator[dict[str, Any]]:
    counted = {"at_least": 1, "at_most": 1} if op == "entry_count" else {}
    if op == "entry_count":
        yield {"op": op, "item": column.key, "at_least": 2}
    for inner in inside(column.item):
        own = TableColumn(inner.key, "", inner)
        for where in conditions(own, [Decimal("1.5")] if own.holds == "number" else ["Made up"]):
            yield {"op": op, "item": column.key, "where": where, **counted}
    outer = {"op": "at_least", "item": "number", "value": "0"}
    yield {"op": op, "item": column.key, "where": outer, **counted}


async def numbers(context: Context, scene: Scene, id: UUID, view: TableView) -> list[int]:
    found: list[int] = []
    after = None
    while True:
        some = await entry_table.page(
            context, scene.coordinator, id, Asked(view, after, archived=True)
        )
        found += [one.number for one in some.entries]
        if some.next is None:
            return found
        after = some.next


async def fitting(context: Context, id: UUID, known: Opened, view: TableView) -> list[int]:
    """The numbers of all that a view shows, without a page around them."""
    async with context.engine.begin() as conn:
        assert known.table
        asked = Asked(view, archived=True)
        look = await entry_table.looking(context, conn, id, known, asked)
        found = await pages.numbers(conn, look, 0, 1_000_000, 1_000)
        assert sorted(await as_lines(conn, look, 1_000)) == found
        return found


async def as_lines(conn: Connection, look: Looking, at_once: int) -> list[int]:
    """The numbers of all that a view shows, in its order, as they are read for files."""
    found: list[int] = []
    after: Cursor | None = None
    while True:
        some = await read(conn, look, [entries.c.number], after, at_once, form=LINES)
        found += [int(LINES.first(one, some.before + 1)[-1]) for one in some.rows]
        if len(some.rows) < at_once:
            return found
        after = some.end(at_once - 1)


async def test_filters_find_what_the_core_says(scene: Scene, context: Context) -> None:
    id, known, every = await filled(scene)
    assert known.table
    today = today_in("UTC", context.clock.now())
    values = {
        one.number: table_values(one, known.plans[one.edition], known.table, today) for one in every
    }
    asked: set[str] = set()
    kinds: set[str] = set()
    both = 0
    for column in known.table.columns.values():
        if column.restricted:
            continue
        said = [one[column.key] for one in values.values() if column.key in one]
        for condition in conditions(column, said):
            for wrapped in (condition, {"op": "not", "part": condition}):
                view = TableView.model_validate({"filter": wrapped})
                wanted = [n for n in values if holds(view.filter, values[n], today)]
                assert await fitting(context, id, known, view) == sorted(wanted), wrapped
                both += 0 < len(wanted) < len(values)
            asked.add(condition["op"])
        kinds.add(column.item.kind)
    everything = {op for found in OPERATORS.values() for op in found}
    assert asked == everything | {"answered", "unanswered"}
    assert kinds == {kind for kind, one in KINDS.items() if one.holds != "nothing"}
    assert both > 400
    assert 5 < sum(bool(one[LATE]) for one in values.values()) < len(values) - 5
    assert {key for key, one in known.table.columns.items() if one.fact} >= {
        ABOUT,
        CARE,
        LATE,
        SINCE,
        *NAMES,
    } - LEFT


def rank(column: TableColumn, value: Any) -> Any:
    """What the order of a column goes by, where that can be said here; else None."""
    match column.holds:
        case "number" | "day" | "time" | "moment" | "truth":
            return value
        case "pick":
            codes = [one.code for one in getattr(column.item, "options", ())]
            return codes.index(value) if value in codes else len(codes)
        case "picks" | "order" | "files" | "entries":
            return len(value)
    return None


@pytest.mark.parametrize("descending", [False, True])
async def test_sorted_by_any_column_page_by_page(
    scene: Scene, context: Context, descending: bool, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Each entry once, in order, what is empty last, and the newest first of what is alike."""
    monkeypatch.setattr(entry_table, "PER_PAGE", 7)
    id, known, every = await filled(scene, 60)
    assert known.table
    today = today_in("UTC", context.clock.now())
    values = {
        one.number: table_values(one, known.plans[one.edition], known.table, today) for one in every
    }
    checked = 0
    for column in known.table.columns.values():
        if column.restricted:
            continue
        view = TableView.model_validate(
            {"sort": [{"column": column.key, "descending": descending}]}
        )
        found = await numbers(context, scene, id, view)
        assert sorted(found) == sorted(values), column.key
        async with context.engine.begin() as conn:
            asked = Asked(view, archived=True)
            look = await entry_table.looking(context, conn, id, known, asked)
            assert await as_lines(conn, look, 7) == found, column.key
        if column.key == "short":
            continue  # Of another kind in the first edition, where it stands as what it says.
        said = [(rank(column, values[n][column.key]), n) for n in found if column.key in values[n]]
        known_ones = [(one, n) for one, n in said if one is not None]
        assert [n for n in found if column.key in values[n]] == found[: len(said)], column.key
        tied = column.key not in ("entry.arrived", SINCE)
        wanted = sorted(known_ones, key=lambda one: -one[1] if tied else one[1])
        wanted = sorted(wanted, key=lambda one: one[0], reverse=descending)
        if descending and tied:
            wanted = sorted(known_ones, key=lambda one: (one[0], one[1]), reverse=True)
        assert known_ones == wanted, column.key
        checked += len(known_ones) > 10
    assert checked > 15


async def test_sorted_by_several_either_way(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(entry_table, "PER_PAGE", 7)
    id, known, every = await filled(scene, 60)
    assert known.table
    today = today_in("UTC", context.clock.now())
    values = {
        one.number: table_values(one, known.plans[one.edition], known.table, today) for one in every
    }
    for first, second in ((False, False), (True, True), (False, True), (True, False)):
        sort = [
            {"column": "scale", "descending": first},
            {"column": "number", "descending": second},
        ]
        found = await numbers(context, scene, id, TableView.model_validate({"sort": sort}))

        def key(number: int, first: bool = first, second: bool = second) -> tuple[Decimal, ...]:
            said: Any = values[number]
            scale, other = said.get("scale"), said.get("number")
            by = (scale, first), (other, second)
            return tuple(LAST if v is None else -v if down else v for v, down in by)

        assert found == sorted(values, key=lambda n: (*key(n), -n)), sort


async def test_groups_have_their_counts(scene: Scene, context: Context) -> None:
    id, _, every = await filled(scene, 60)
    every_one = {"op": "answered", "item": "entry.number"}
    view = TableView.model_validate({"group": "one", "filter": every_one})
    asked = Asked(view, archived=True)
    found = await entry_table.groups(context, scene.coordinator, id, asked)
    assert [one.words for one in found][:3] == ["B", "A", "C"]
    assert sum(one.entries for one in found) == len(every)
    of_a = next(one.entries for one in found if one.words == "A")
    assert of_a == sum(one.answers.get("one") == "a" for one in every)
    assert await entry_table.count(context, scene.coordinator, id, asked) == len(every)


def texts(said: Any) -> Iterator[str]:
    """What is written somewhere in answers."""
    if isinstance(said, str):
        yield said
    elif isinstance(said, dict | list):
        for one in said.values() if isinstance(said, dict) else said:
            yield from texts(one)


async def test_words_are_found_in_every_language_by_their_beginning(
    scene: Scene, context: Context
) -> None:
    id, _, every = await filled(scene, 60)

    async def search(words: str) -> set[int]:
        view = TableView.model_validate({"search": words})
        return set(await numbers(context, scene, id, view))

    def having(*words: str) -> set[int]:
        every_text = {one.number: list(texts(one.answers)) for one in every}
        return {n for n, said in every_text.items() if all(word in said for word in words)}

    assert having("well")
    assert having("well") <= await search("wells")
    assert having("well") <= await search("wel")
    assert having("Ínes", "STRASSE")
    assert await search("ínes STRAS") == having("Ínes", "STRASSE")
    assert 17 in await search("017")
    assert await search("'); drop table entries; --") == set()
    assert await search("& | ! :* <->") == set()


async def test_what_is_not_there_or_restricted_cannot_be_asked_for(
    scene: Scene, context: Context
) -> None:
    id, known, _ = await filled(scene, 10)
    assert known.table
    assert known.table.columns["secret"].restricted
    for view in (
        {"filter": {"op": "answered", "item": "secret"}},
        {"filter": {"op": "is", "item": "contact.name", "value": "x"}},
        {"filter": {"op": "saved", "name": "x"}},
        {"sort": [{"column": "secret"}]},
        {"group": "secret"},
        {"sort": [{"column": "nothing"}]},
    ):
        for ask in (entry_table.page, entry_table.count, entry_table.groups):
            with pytest.raises(Invalid):
                await ask(context, scene.coordinator, id, Asked(TableView.model_validate(view)))
