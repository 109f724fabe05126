"""Files of entries read back by programs that others wrote: pandas, Polars, DuckDB, openpyxl, and
lxml, which holds the XML against our schema (XML Schema 1.0)."""

import csv
import io
from pathlib import Path
from typing import Any

import duckdb
import pandas
import polars
import pytest
from lxml import etree
from openpyxl import load_workbook

from jotgate.api.staff.entries.entry_export import around
from jotgate.api.tables import table_file
from jotgate.core.formats.entries_xml import FOOT, HEAD, NAMESPACE, XSD, entry_xml
from jotgate.core.items.kinds import KINDS
from jotgate.services.context import Context
from jotgate.services.staff.entries import entry_export, entry_table
from jotgate.services.staff.entries.entry_export import Exporting, chosen
from jotgate.services.staff.entries.entry_table import Asked
from tests.scenes import SECRET, Scene
from tests.services.staff.entries.chance_entries import filled
from tests.services.staff.entries.test_entry_export import EVERY, whole

SCHEMA = etree.XMLSchema(etree.fromstring(XSD))
OURS = {"e": NAMESPACE}


async def exported(scene: Scene, id: Any, asked: Asked = EVERY) -> entry_export.EntriesOut:
    return await entry_export.export(
        scene.context, scene.coordinator, id, Exporting(asked, codes=True)
    )


async def as_xml(scene: Scene, id: Any, asked: Asked = EVERY) -> Any:
    found = await exported(scene, id, asked)
    said = b"".join([some async for some in around(found.xml)])
    tree = etree.fromstring(said)
    SCHEMA.assertValid(tree)
    return tree


async def test_csv_is_the_same_to_four_readers(scene: Scene, tmp_path: Path) -> None:
    """Python's csv, pandas, Polars and DuckDB, each as texts."""
    id, _, _ = await filled(scene, 40)
    found = await exported(scene, id)
    path = tmp_path / "entries.csv"
    path.write_bytes(await whole(table_file("x", "csv", found.head, found.rows, False)))
    head, *rows = csv.reader(io.StringIO(path.read_text(), newline=""))
    by_pandas: Any = pandas.read_csv(path, dtype=str, keep_default_na=False)
    assert (list(by_pandas.columns), by_pandas.to_numpy().tolist()) == (head, rows)
    by_polars = polars.read_csv(path, infer_schema=False).fill_null("")
    assert (by_polars.columns, [list(row) for row in by_polars.rows()]) == (head, rows)
    read = duckdb.read_csv(
        str(path), all_varchar=True, header=True, quotechar='"', escapechar='"', null_padding=False
    )
    by_duckdb = [[one or "" for one in row] for row in read.fetchall()]
    assert (read.columns, by_duckdb) == (head, rows)


async def test_xlsx_is_the_same_to_openpyxl(scene: Scene, tmp_path: Path) -> None:
    id, _, every = await filled(scene, 25)
    found = await exported(scene, id)
    path = tmp_path / "x.xlsx"
    path.write_bytes(await whole(table_file("x", "xlsx", found.head, found.rows)))
    sheet: Any = load_workbook(path, read_only=True).active
    head, *rows = sheet.iter_rows(values_only=True)
    assert tuple(head) == found.head
    for row, one in zip(rows, every, strict=True):
        said = dict(zip(head, row, strict=True))
        number = one.answers.get("number")
        assert said["number"] == (None if number is None else float(str(number)))
        assert str(said["No."]) == str(one.number)
        if "date" in one.answers:
            assert said["date"].date().isoformat() == one.answers["date"]


async def test_xml_of_every_kind_is_valid_and_says_it_all(scene: Scene, context: Context) -> None:
    id, known, every = await filled(scene, 60)
    tree = await as_xml(scene, id)
    entries = tree.findall("e:entry", OURS)
    assert [int(one.get("number")) for one in entries] == [one.number for one in every]
    kinds: set[str] = set()
    for made, one in zip(entries, every, strict=True):
        answers = {each.get("key"): each for each in made.findall("e:answer", OURS)}
        assert set(answers) == set(one.answers)
        for key, said in one.answers.items():
            values = [v.text or "" for v in answers[key].findall("e:value", OURS)]
            if isinstance(said, str):
                assert values == [said], key
            if isinstance(said, list) and all(isinstance(each, str) for each in said):
                assert values == said, key
            kinds.add(known.plans[one.edition].items[key].kind)
        lines = answers["wells"].findall("e:line", OURS) if "wells" in answers else []
        assert len(lines) == len(one.answers.get("wells", []))  # type: ignore[arg-type]
    assert kinds == {kind for kind, one in KINDS.items() if one.holds != "nothing"}


@pytest.mark.parametrize("name", ["<b>&amp;</b>", "]]>", "مرحبا 🙂", "a 'b' \"c\""])
async def test_xml_holds_whatever_is_written(scene: Scene, context: Context, name: str) -> None:
    await scene.submit("a", name=name, ill=True, illness=SECRET)
    tree = await as_xml(scene, scene.id, Asked())
    (said,) = tree.xpath("//e:answer[@key='name']/e:value/text()", namespaces=OURS)
    assert said == name
    assert SECRET not in etree.tostring(tree, encoding="unicode")


async def test_what_no_xml_can_hold_is_told_as_such(scene: Scene, context: Context) -> None:
    """Control characters stand as U+FFFD, the replacement character."""
    await scene.submit("a")
    page = await entry_table.page(context, scene.coordinator, scene.id)
    entry = page.entries[0]._replace(answers={"name": "a\x00\x08\ufffe\ud800b"})
    plan = page.opened.plans[1]
    said = etree.fromstring(HEAD + entry_xml(entry, plan) + FOOT)
    SCHEMA.assertValid(said)
    assert said.xpath("string(//e:value)", namespaces=OURS) == "a\ufffd\ufffd\ufffd\ufffdb"


async def test_chosen_ones_alone_or_all_but_those(scene: Scene) -> None:
    id, _, every = await filled(scene, 30)
    some = (3, 9, 28)

    async def numbers(but: bool) -> list[int]:
        asked = Asked(archived=True, chosen=chosen(some, but))
        tree = await as_xml(scene, id, asked)
        return [int(one.get("number")) for one in tree]

    assert await numbers(False) == [28, 9, 3]
    assert await numbers(True) == [one.number for one in every if one.number not in some]
    assert chosen((), False) is None
