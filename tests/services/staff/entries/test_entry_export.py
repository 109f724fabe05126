"""Entries as files: whole, as a spreadsheet and a program read them, with nothing restricted."""

import csv
import io
import json
from datetime import date
from decimal import Decimal
from pathlib import Path
from typing import Any
from zoneinfo import ZoneInfo

import pytest
from python_calamine import CalamineWorkbook

from jotgate.api.tables import table_file
from jotgate.core.common.errors import Invalid
from jotgate.core.handling import named
from jotgate.core.records.trail import TrailFilter
from jotgate.core.table_views import TableView
from jotgate.services.context import Context
from jotgate.services.staff import trail
from jotgate.services.staff.entries import entry_export, entry_table
from jotgate.services.staff.entries.entry_export import Exporting
from jotgate.services.staff.entries.entry_table import Asked
from tests.scenes import SECRET, Scene
from tests.services.staff.entries.chance_entries import filled


async def whole(reply: Any) -> bytes:
    return b"".join([piece async for piece in reply.body_iterator])


async def as_csv(scene: Scene, id: Any, mark: bool = False, **wanted: Any) -> list[dict[str, str]]:
    found = await entry_export.export(scene.context, scene.coordinator, id, Exporting(**wanted))
    body = await whole(table_file("x", "csv", found.head, found.rows, mark))
    assert body.startswith(b"\xef\xbb\xbf") is mark
    return list(csv.DictReader(io.StringIO(body.decode("utf-8-sig"), newline="")))


EVERY = Asked(archived=True)


async def test_csv_reads_back_as_it_was(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(entry_export, "AT_ONCE", 7)
    id, known, every = await filled(scene, 40)
    rows = await as_csv(scene, id, asked=EVERY, codes=True)
    assert [int(row["No."]) for row in rows] == [one.number for one in every]
    assert known.table
    assert "secret" not in rows[0]
    for row, one in zip(rows, every, strict=True):
        for key in ("long", "number", "date", "one", "many", "wells", "grid", "gone"):
            said = one.answers.get(key)
            if said is None:
                assert row[key] == "", key
            elif isinstance(said, str) and key != "long":
                assert row[key] == said, key
            elif isinstance(said, str):
                assert row[key].removeprefix("'") == said
            else:
                assert json.loads(row[key]) == said, key
        assert row["entry.status"] == named(one.status)
    assert len(await as_csv(scene, id, mark=True, asked=EVERY)) == 40
    marks, _ = await trail.page(context, scene.coordinator, TrailFilter(), None)
    assert (marks[0].action, marks[0].detail) == ("entries_exported", {"count": 40})


async def test_in_words_as_the_view_shows_them(scene: Scene, context: Context) -> None:
    id, _, every = await filled(scene, 30)
    view = TableView.model_validate(
        {
            "filter": {"op": "is", "item": "one", "value": "a"},
            "sort": [{"column": "number"}],
            "columns": [{"column": "number"}, {"column": "one"}, {"column": "short", "away": True}],
        }
    )
    rows = await as_csv(scene, id, asked=Asked(view, archived=True))
    wanted = [one for one in every if one.answers.get("one") == "a"]
    assert {int(row["No."]) for row in rows} == {one.number for one in wanted}
    assert [*rows[0]][:3] == ["No.", "Number", "One"]
    assert "Short" not in rows[0]
    assert {row["One"] for row in rows} == {"A"}
    said = [Decimal(row["Number"]) for row in rows if row["Number"]]
    assert said == sorted(said)


async def test_what_a_spreadsheet_would_run_is_text(scene: Scene, context: Context) -> None:
    await scene.submit("a", name="=HYPERLINK(1)")
    (row,) = await as_csv(scene, scene.id)
    assert "'=HYPERLINK(1)" in row.values()


async def test_xlsx_has_numbers_days_and_moments(
    scene: Scene, context: Context, tmp_path: Path
) -> None:
    id, known, every = await filled(scene, 25)
    found = await entry_export.export(context, scene.coordinator, id, Exporting(EVERY, codes=True))
    path = tmp_path / "x.xlsx"
    path.write_bytes(await whole(table_file("x", "xlsx", found.head, found.rows)))
    head, *rows = CalamineWorkbook.from_path(str(path)).get_sheet_by_index(0).to_python()
    assert list(head) == list(found.head)
    zone = ZoneInfo(known.zone)
    for row, one in zip(rows, every, strict=True):
        said: dict[Any, Any] = dict(zip(head, row, strict=True))
        number, day = one.answers.get("number"), one.answers.get("date")
        assert said["number"] == ("" if number is None else float(str(number)))
        assert said["date"] == ("" if day is None else date.fromisoformat(str(day)))
        assert said["yes"] == one.answers.get("yes", "")
        moment: Any = one.arrived.astimezone(zone).replace(tzinfo=None)
        assert abs((said["entry.arrived"] - moment).total_seconds()) < 1
        assert isinstance(said["long"] or "", str)


async def test_json_lines_have_what_is_stored(scene: Scene, context: Context) -> None:
    id, _, every = await filled(scene, 12)
    found = await entry_export.export(context, scene.coordinator, id, Exporting(EVERY))
    lines = b"".join([some async for some in found.lines]).decode().splitlines()
    assert [json.loads(line)["number"] for line in lines] == [one.number for one in every]
    assert [json.loads(line)["answers"] for line in lines] == [one.answers for one in every]


async def test_nothing_restricted_goes_out_with_clearance_neither(
    scene: Scene, context: Context
) -> None:
    await scene.submit("a", ill=True, illness=SECRET)
    for codes in (False, True):
        found = await entry_export.export(
            context, scene.coordinator, scene.id, Exporting(codes=codes)
        )
        body = await whole(table_file("x", "csv", found.head, found.rows))
        again = await entry_export.export(context, scene.coordinator, scene.id, Exporting())
        lines = b"".join([some async for some in again.lines])
        assert SECRET.encode() not in body + lines
        assert not {"ill", "illness"} & set(found.head)


async def test_a_sheet_that_is_too_small_is_told_beforehand(scene: Scene, context: Context) -> None:
    for n in range(3):
        await scene.submit(f"k{n}")
    with pytest.raises(Invalid, match="Take CSV"):
        await entry_export.export(context, scene.coordinator, scene.id, Exporting(limit=2))
    assert len((await entry_table.page(context, scene.coordinator, scene.id)).entries) == 3
