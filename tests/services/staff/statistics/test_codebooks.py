"""Codebooks, held against the data that they are of by readers of each form."""

import io
import json
import zipfile
from datetime import date, timedelta
from pathlib import Path
from typing import Any, get_args
from uuid import UUID

import frictionless
import orjson
import pyreadstat
import pytest
from csvw import CSVW
from lxml import etree, html
from sqlalchemy import text

from jotgate.core.common.errors import Invalid
from jotgate.core.statistics.codebook import DataFormat
from jotgate.core.table_views import TableView
from jotgate.services import entry_rows
from jotgate.services.context import Context
from jotgate.services.staff.entries.entry_table import Asked
from jotgate.services.staff.statistics import exporting
from tests.documents import is_, item, page, questionnaire
from tests.scenes import SECRET, Scene, published

ARABIC = {"en": "Which water?", "ar": "أي ماء؟"}
WELL, MAINS = {"en": "Well", "ar": "بئر"}, {"en": "Mains", "ar": "شبكة"}
WORDS = (
    "=1+1",
    "'=1+1",
    "''left_empty",
    "left_empty",
    "not_asked",
    "-8",
    "-9",
    "'plain",
    "a\r\nb",
    "م",
)

OPTIONS = [{"code": "well", "label": WELL}, {"code": "mains.2", "label": MAINS}]
ROWS = [{"code": "a", "label": {"en": "A"}, "repeats": 3}, {"code": "b", "label": {"en": "B"}}]

DOCUMENT = questionnaire(
    page(
        "p",
        item("pick_one", "water", options=OPTIONS) | {"text": ARABIC},
        item("short_text", "words", shown_when=is_("water", "well")),
        item("date", "day"),
        item("date_time", "moment"),
        item("time", "clock"),
        item("number", "litres", decimals=3),
        item("number", "much", decimals=0),
        item("yes_no", "if"),
        item("grid", "visits", rows=ROWS, columns=[item("date", "on"), item("number", "n")]),
        item("short_text", "secret", restricted=True),
    ),
    languages=["en", "ar"],
    time_zone="Asia/Amman",
)

DAYS = (date(2024, 2, 29), date(1600, 2, 29), date(1899, 12, 31), date(2026, 10, 25))
"""Leap days, and days before those from which files count."""


def answers(at: int) -> dict[str, Any]:
    day = DAYS[at % len(DAYS)]
    found: dict[str, Any] = {
        "water": ("well", "mains.2")[at % 3 == 2],
        "day": day.isoformat(),
        "moment": f"{DAYS[0] + timedelta(days=at)}T22:{at:02}+00:00",
        "clock": f"{at % 24:02}:59",
        "litres": f"{at}.125",
        "much": str(-(10 ** (at % 15))),
        "if": at % 2 == 0,
        "visits": {"a": [{"on": day.isoformat()}, {"n": str(at)}], "b": [{"n": "0"}]},
        "secret": SECRET,
    }
    if found["water"] == "well":
        found["words"] = WORDS[at % len(WORDS)]
    return {key: one for key, one in found.items() if at % 7 != 3 or key == "water"}


INSERT = """
insert into entries (questionnaire_id, id, edition, number, arrived, finish, answers, flags,
  idempotency_key, stripe, status, language, corrected, left_empty)
select :of, gen_random_uuid(), 1, :number, :now, '', cast(:answers as jsonb), '{}', :key,
  (select min(stripe) from tallies where questionnaire_id = :of), '', 'en', false, :left
"""


@pytest.fixture
async def filled(scene: Scene) -> UUID:
    id, _ = await published(scene.context, scene.coordinator, DOCUMENT)
    async with scene.context.engine.begin() as conn:
        for at in range(40):
            said = orjson.dumps(answers(at)).decode()
            row = {"of": id, "number": at + 1, "now": scene.context.clock.now(), "answers": said}
            left = ["day"] if at % 7 == 3 else []
            await conn.execute(text(INSERT), row | {"key": f"k{at}", "left": left})
    await entry_rows.catch_up_with(scene.context, id)
    return id


async def unpacked(scene: Scene, id: UUID, format: Any, folder: Path, language: str = "ar") -> Path:
    _, pieces = await exporting.data(
        scene.context, scene.coordinator, id, Asked(), language, format
    )
    with zipfile.ZipFile(io.BytesIO(b"".join([one async for one in pieces]))) as found:
        found.extractall(folder)
    return folder


async def test_a_data_package_is_valid(scene: Scene, filled: UUID, tmp_path: Path) -> None:
    """By frictionless: types, codes, keys, and the lines of a grid by their entries."""
    folder = await unpacked(scene, filled, "csv", tmp_path)
    report = frictionless.validate(str(folder / "datapackage.json"))
    assert report.valid, report.flatten(["fieldName", "message"])[:5]
    package = frictionless.Package(str(folder / "datapackage.json"))
    assert [one.name for one in package.resources] == ["entries", "visits"]
    rows: list[dict[str, Any]] = package.get_resource("entries").read_rows()  # type: ignore[attr-defined]
    assert [row["day"] for row in rows] == [
        date.fromisoformat(answers(at)["day"]) if at % 7 != 3 else None
        for at in reversed(range(40))
    ]
    wrong = (folder / "entries.csv").read_text().replace("mains.2", "sea", 1)
    (folder / "entries.csv").write_text(wrong, newline="")
    assert not frictionless.validate(str(folder / "datapackage.json")).valid


async def test_csv_on_the_web_is_read(scene: Scene, filled: UUID, tmp_path: Path) -> None:
    """By csvw: every cell by its type."""
    folder = await unpacked(scene, filled, "csv", tmp_path)
    found = CSVW(str(folder / "csv-metadata.json"), validate=True)
    assert found.is_valid, found.warnings
    entries = found.tables[0]
    rows = list(entries.iterdicts(strict=True))
    assert len(rows) == 40
    for row in rows:
        said = answers(int(row["entry_number"]) - 1)
        assert row["water"] == said["water"]
        assert (row["day"] and row["day"].date().isoformat()) == said.get("day")
        assert row["if_2"] == said.get("if")
        assert (row["litres"] is None) == ("litres" not in said)


@pytest.mark.parametrize("format", ["sav", "dta"])
async def test_labels_are_in_the_language(
    scene: Scene, filled: UUID, tmp_path: Path, format: str
) -> None:
    folder = await unpacked(scene, filled, format, tmp_path)
    read = pyreadstat.read_sav if format == "sav" else pyreadstat.read_dta
    frame, meta = read(folder / f"entries.{format}", output_format="dict")
    assert meta.column_names_to_labels["water"] == ARABIC["ar"]
    own = {words: number for number, words in meta.variable_value_labels["water"].items()}
    assert (own[WELL["ar"]], own[MAINS["ar"]]) == (1, 2)
    for at, number in enumerate(frame["entry_number"]):
        said = answers(int(number) - 1)
        assert frame["day"][at] == (date.fromisoformat(said["day"]) if "day" in said else None)
        assert (frame["words"][at] or "") == said.get("words", "")
        assert frame["much"][at] == (float(said["much"]) if "much" in said else None)
    lines, _ = read(folder / f"visits.{format}", output_format="dict")
    many = sum(len(one) for at in range(40) for one in answers(at).get("visits", {}).values())
    assert len(lines["line"]) == many > 50
    assert set(lines) == {"entry_number", "row", "line", "on", "n"}


async def test_what_people_read_and_machines(scene: Scene, filled: UUID, tmp_path: Path) -> None:
    """Wordings, options, when a question is asked, and counts, in HTML and by DDI."""
    folder = await unpacked(scene, filled, "parquet", tmp_path)
    whole = html.parse(str(folder / "codebook.html"))
    (water,) = whole.xpath("//section[@id='entries.water']")
    assert ARABIC["ar"] in water.text_content()
    rows = [[cell.text_content() for cell in row] for row in water.xpath(".//tbody/tr")]
    wells = sum(answers(at)["water"] == "well" for at in range(40))
    assert rows == [
        ["well", "1", WELL["ar"], str(wells)],
        ["mains.2", "2", MAINS["ar"], str(40 - wells)],
    ]
    (words,) = whole.xpath("//section[@id='entries.words']")
    said = sum("words" in answers(at) for at in range(40))
    assert "Asked when Which water is Well" in words.text_content()
    assert (
        f"{said} of 40 say something; left empty: 0; not asked: {40 - said}" in words.text_content()
    )
    (moment,) = whole.xpath("//section[@id='entries.moment']")
    assert "from 2024-03-01T01:00+03:00 to 2024-04-09T01:39+03:00" in moment.text_content()
    assert not whole.xpath("//section[contains(@id, 'secret')]")

    book = etree.parse(str(folder / "codebook.xml"))
    names = {"d": "ddi:codebook:2_5"}
    (var,) = book.xpath("//d:var[@name='water']", namespaces=names)
    assert var.xpath("string(d:qstn/d:qstnLit)", namespaces=names) == ARABIC["ar"]
    counts = var.xpath("d:catgry/d:catStat[@type='freq']/text()", namespaces=names)
    assert counts == [str(wells), str(40 - wells), "0", "0"]
    files = book.xpath("//d:fileDscr//d:caseQnty/text()", namespaces=names)
    assert files[0] == "40"
    assert [var.get("ID") for var in book.xpath("//d:var", namespaces=names)] == [
        f"V{at}" for at in range(1, len(book.xpath("//d:var", namespaces=names)) + 1)
    ]


async def test_nothing_restricted_and_nothing_that_is_not_there(
    context: Context, scene: Scene, filled: UUID, tmp_path: Path
) -> None:
    folder = await unpacked(scene, filled, "csv", tmp_path, "")
    for path in folder.iterdir():
        assert SECRET not in path.read_text()
        assert "secret" not in path.read_text()
    with pytest.raises(Invalid, match="none of the questionnaire's languages"):
        await exporting.data(context, scene.coordinator, filled, Asked(), "fr", "csv")
    none = Asked(TableView.model_validate({"filter": is_("water", "well"), "search": "nowhere"}))
    for format in get_args(DataFormat):
        _, pieces = await exporting.data(context, scene.coordinator, filled, none, "", format)
        assert b"".join([one async for one in pieces])
    name, pdf = await exporting.codebook(context, scene.coordinator, filled, Asked(), "ar", "pdf")
    assert (name, pdf[:5]) == ("codebook.pdf", b"%PDF-")
    _, book = await exporting.codebook(context, scene.coordinator, filled, Asked(), "", "csvw")
    assert [one["url"] for one in json.loads(book)["tables"]] == ["entries.csv", "visits.csv"]
