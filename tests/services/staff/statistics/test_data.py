"""Data for statistics programs, opened by other readers: every value of every entry, and why there
is none."""

import csv
import io
import random
import zipfile
from dataclasses import dataclass
from datetime import date, datetime, time
from pathlib import Path
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

import duckdb
import pandas as pd
import pyarrow.parquet
import pyreadstat
import pytest
from sqlalchemy import text

from jotgate.core.entries.entry import Entry
from jotgate.core.statistics.variables import LEFT_EMPTY, NOT_ASKED
from jotgate.core.table_views import TableView
from jotgate.services.staff.entries.entry_table import Asked
from jotgate.services.staff.statistics import exporting
from tests.scenes import Scene
from tests.services.staff.entries.chance_entries import ITEMS, filled
from tests.services.staff.statistics.told import Told, as_text, told_of

ALL = Asked(TableView(), archived=True)
UTC = ZoneInfo("UTC")
ASKED = {one["key"] for one in ITEMS if one["kind"] not in ("carried", "computed")} | {"gone"}
FIRST = 40
"""Entries up to this one are of the first edition, which asks `short` in another form."""

MISSING = (LEFT_EMPTY, NOT_ASKED)


@dataclass
class Exported:
    """`told` is what each entry has to say, and `left` what was left empty, by its number."""

    files: dict[str, Path]
    told: dict[int, Told]
    left: dict[int, list[str] | None]


async def noted(scene: Scene, id: UUID, every: list[Entry]) -> dict[int, list[str] | None]:
    """Of most entries it is noted what they left empty, by chance."""
    chance = random.Random(3)
    found: dict[int, list[str] | None] = {}
    async with scene.context.engine.begin() as conn:
        for entry in every:
            late = {"secret"} if entry.edition == 1 else {"secret", "gone"}
            empty = sorted(ASKED - set(entry.answers) - late)
            left = [key for key in empty if chance.random() < 0.5]
            found[entry.number] = left if chance.random() < 0.8 else None
            given = {"left": found[entry.number], "of": id, "number": entry.number}
            update = "update entries set left_empty = :left where questionnaire_id = :of"
            await conn.execute(text(f"{update} and number = :number"), given)
    return found


async def exported(scene: Scene, folder: Path, *formats: str) -> Exported:
    id, opened, every = await filled(scene, 120)
    left = await noted(scene, id, every)
    files: dict[str, Path] = {}
    for format in formats:
        _, pieces = await exporting.data(scene.context, scene.coordinator, id, ALL, "", format)  # type: ignore[arg-type]
        whole = b"".join([one async for one in pieces])
        with zipfile.ZipFile(io.BytesIO(whole)) as found:
            found.extractall(folder / format)
            files |= {name: folder / format / name for name in found.namelist()}
    told = {}
    for one in every:
        own = told_of(one, opened.plans[one.edition], UTC)
        if one.edition == 1:
            own.pop("short", None)
        told[one.number] = own
    return Exported(files, told, left)


def key_of(name: str) -> str:
    """The question that a variable is of: no key here has a low line."""
    return name.partition("_")[0]


def why(made: Exported, number: int, name: str) -> str | None:
    """Why an entry says nothing of a variable whose question it did not answer."""
    left = made.left[number]
    is_asked = key_of(name) in ASKED
    answered = any(key_of(one) == key_of(name) for one in made.told[number])
    if left is None or not is_asked or answered or (key_of(name) == "short" and number <= FIRST):
        return None
    return LEFT_EMPTY if key_of(name) in left else NOT_ASKED


def unescaped(cell: str) -> str:
    bare = cell.lstrip("'")
    marked = bare.startswith(("=", "+", "-", "@", "\t", "\r")) or bare in MISSING
    return cell[1:] if cell.startswith("'") and marked else cell


async def test_csv_says_what_entries_say_and_why_not(scene: Scene, tmp_path: Path) -> None:
    made = await exported(scene, tmp_path, "csv")
    data = made.files["entries.csv"].read_bytes().decode()
    rows = list(csv.DictReader(io.StringIO(data, newline="")))
    assert {int(one["entry_number"]) for one in rows} == set(made.told)
    seen: set[str | None] = set()
    for row in rows:
        number = int(row["entry_number"])
        told = made.told[number]
        for name, cell in row.items():
            if name.startswith("entry_") and name not in told:
                continue
            if name in told:
                own = unescaped(cell) if isinstance(told[name], str) else cell
                assert own == as_text(told[name]), (number, name)
            else:
                reason = why(made, number, name)
                assert cell == (reason or ""), (number, name)
                seen.add(reason)
        assert set(told) <= set(row)
        assert "secret" not in row
    assert seen == {None, LEFT_EMPTY, NOT_ASKED}
    lines = list(csv.DictReader(made.files["wells.csv"].open(newline="")))
    counted = {number: told.get("wells", 0) for number, told in made.told.items()}
    for number, many in counted.items():
        assert sum(int(one["entry_number"]) == number for one in lines) == many
    assert sum(counted.values()) > 20


async def test_parquet_is_read_by_others(scene: Scene, tmp_path: Path) -> None:
    made = await exported(scene, tmp_path, "parquet")
    path = made.files["entries.parquet"]
    arrow = pyarrow.parquet.read_table(path)
    kinds = {one.name: str(one.type) for one in arrow.schema}
    assert kinds["date"] == "date32[day]"
    assert kinds["moment"].startswith("timestamp[us, tz=UTC")
    assert kinds["yes"] == "bool"
    assert kinds["scale"] == "int64"
    assert kinds["number"] == "double"
    for row in arrow.to_pylist():
        number = row["entry_number"]
        told = made.told[number]
        for name, value in row.items():
            if name.startswith("why "):
                reason = why(made, number, name.removeprefix("why "))
                assert value == reason, (number, name)
            elif name in told or not name.startswith("entry_"):
                assert value == told.get(name), (number, name)
    assert pd.read_parquet(path)["entry_number"].tolist() == arrow["entry_number"].to_pylist()
    query = f"select count(*), sum(scale), count(mail) from '{path}'"
    found = duckdb.connect().execute(query).fetchone()
    each = made.told.values()
    scales = sum(one.get("scale", 0) for one in each)
    assert found == (len(made.told), scales, sum("mail" in one for one in each))


@pytest.mark.parametrize("format", ["sav", "dta"])
async def test_labelled_files_say_the_same(scene: Scene, tmp_path: Path, format: str) -> None:
    made = await exported(scene, tmp_path, format)
    read = pyreadstat.read_sav if format == "sav" else pyreadstat.read_dta
    frame, meta = read(made.files[f"entries.{format}"], user_missing=True, output_format="dict")
    labels = meta.variable_value_labels
    assert meta.column_names_to_labels["one"] == "One"
    assert set(labels["yes"].values()) >= {"Yes", "No"}
    seen: set[str | None] = set()
    for at, number in enumerate(frame["entry_number"]):
        told = made.told[int(number)]
        for name, column in frame.items():
            if name.endswith("_missing") or (name.startswith("entry_") and name not in told):
                continue
            found, want = column[at], told.get(name)
            if want is None:
                reason = why(made, int(number), name)
                seen.add(reason)
                assert_missing(format, found, reason, name, frame, at, meta)
            else:
                assert same(found, want, labels.get(name, {})), (number, name, found, want)
    assert seen == {None, LEFT_EMPTY, NOT_ASKED}


def same(found: Any, want: Any, labels: dict[Any, str]) -> bool:
    match want:
        case bool():
            return bool(found == float(want))
        case datetime():
            return isinstance(found, datetime) and found == want.replace(tzinfo=None)
        case time():
            clock = found.time() if isinstance(found, datetime) else found
            return isinstance(clock, time) and clock == want
        case date():
            return bool(found == want)
        case str() if labels and isinstance(found, float | int):
            return labels[found].casefold() in (want.casefold(), "other", want.title().casefold())
    return bool(found == want)


def assert_missing(
    format: str, found: Any, reason: str | None, name: str, frame: Any, at: int, meta: Any
) -> None:
    beside = frame.get(f"{name}_missing")
    if format == "dta" and beside is not None:
        told = {None: None, LEFT_EMPTY: 1.0, NOT_ASKED: 2.0}[reason]
        assert (found, beside[at]) == ("", told), name
    elif format == "dta":
        assert found == {None: None, LEFT_EMPTY: "a", NOT_ASKED: "b"}[reason] or (
            reason is None and found == ""
        ), name
    elif reason is None:
        assert found in (None, ""), name
    else:
        wanted = {LEFT_EMPTY: "Left empty", NOT_ASKED: "Not asked"}[reason]
        codes = [one["lo"] for one in meta.missing_ranges[name]]
        assert found in codes, (name, found, codes)
        labels = meta.variable_value_labels[name]
        if isinstance(found, float | str):
            assert labels[found] == wanted
