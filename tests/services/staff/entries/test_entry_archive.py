"""Entries as a ZIP: tables of rosters and grids, and files, with nothing restricted."""

import csv
import io
import zipfile
from typing import Any
from uuid import UUID, uuid4

import orjson
import pytest
from sqlalchemy import text

from jotgate.core.table_views import TableView
from jotgate.services.context import Context
from jotgate.services.staff import questionnaires
from jotgate.services.staff.entries import entry_archive, entry_export
from jotgate.services.staff.entries.entry_export import Exporting
from jotgate.services.staff.entries.entry_table import Asked
from jotgate.services.tables import zips
from tests.documents import item, page, questionnaire
from tests.scenes import SECRET, Scene, published, save
from tests.services.public.test_uploads import Sender, of, picture, sender
from tests.services.staff.entries.chance_entries import INSERT, filled

__all__ = ["sender"]

EVERY = Asked(archived=True)


async def archived(
    scene: Scene, id: UUID, files: bool = False, asked: Asked = EVERY, codes: bool = False
) -> zipfile.ZipFile:
    wanted = Exporting(asked, codes)
    found = await entry_archive.archive(scene.context, scene.coordinator, id, wanted, files)
    whole = zipfile.ZipFile(io.BytesIO(b"".join([piece async for piece in found.pieces])))
    assert whole.testzip() is None
    return whole


def table(whole: zipfile.ZipFile, name: str) -> list[dict[str, str]]:
    text = whole.read(name).decode("utf-8-sig")
    return list(csv.DictReader(io.StringIO(text, newline="")))


async def test_each_roster_and_grid_has_a_table_of_its_own(
    scene: Scene, context: Context, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(entry_export, "LINES_AT_ONCE", 7)
    id, _, every = await filled(scene, 40)
    whole = await archived(scene, id, codes=True)
    assert whole.namelist() == ["entries.csv", "grid.csv", "wells.csv"]
    main = table(whole, "entries.csv")
    assert [int(row["No."]) for row in main] == [one.number for one in every]
    assert not {"wells", "grid", "secret"} & main[0].keys()
    wells: list[Any] = [
        {"No.": str(one.number), "Line": str(at), **{key: line.get(key, "") for key in keys}}
        for one in every
        for keys in [("note", "depth", "use")]
        for at, line in enumerate(one.answers.get("wells", ()), 1)  # type: ignore[arg-type]
    ]
    said = table(whole, "wells.csv")
    assert len(wells) > 20
    for row, line in zip(said, wells, strict=True):
        assert {**row, "note": row["note"].removeprefix("'")} == line
    grid = [
        (str(one.number), "r", line.get("n", ""))
        for one in every
        for line in one.answers.get("grid", {}).get("r", ())  # type: ignore[union-attr]
    ]
    assert [(row["No."], row["Line"], row["n"]) for row in table(whole, "grid.csv")] == grid
    assert len(grid) > 10


async def test_in_words_and_as_the_view_shows_them(scene: Scene, context: Context) -> None:
    id, _, _ = await filled(scene, 20)
    columns = [{"column": "wells"}, {"column": "grid", "away": True}]
    view = TableView.model_validate({"columns": columns})
    whole = await archived(scene, id, asked=Asked(view, archived=True))
    assert "grid.csv" not in whole.namelist()
    assert {*table(whole, "wells.csv")[0]} == {"No.", "Line", "Note", "Depth", "Use"}
    assert {row["Use"] for row in table(whole, "wells.csv")} <= {"", "Well", "Tank"}
    rows = await archived(scene, id)
    assert {row["Line"] for row in table(rows, "grid.csv")} == {"R"}


async def test_files_stand_under_their_entry_and_what_is_gone_is_told(
    sender: Sender, context: Context
) -> None:
    first, second = picture(), picture("JPEG")
    photos = [await sender.send("photo", name, first) for name in ("a/b:c?.png", "..png")]
    twice = [await sender.send("head", "x.jpg", second) for _ in range(2)]
    secret = await sender.send("secret", "secret.png", picture(size=(9, 9)))
    await sender.submit(
        photo=[of(one) for one in photos],
        secret=[of(secret)],
        wells=[{"head": [of(one)]} for one in twice],
    )
    whole = await archived(sender.scene, sender.id, files=True)
    told = table(whole, "files.csv")
    assert [whole.read(row["Stands under"]) for row in told if row["Question"] == "photo"] == [
        first,
        first,
    ]
    assert [whole.read(row["Stands under"]) for row in told if row["Question"] == "wells"] == [
        second,
        second,
    ]
    assert {"files/0001/wells/x.jpg", "files/0001/wells/2-x.jpg"} < set(whole.namelist())
    for name in whole.namelist():
        assert not name.startswith("/")
        assert ".." not in name.split("/")
    assert len(told) == 4
    assert "secret" not in b"".join(whole.read(one) for one in whole.namelist()).decode("latin-1")
    assert all("files" not in one for one in (await archived(sender.scene, sender.id)).namelist())
    await context.files.remove(f"files/{photos[0].id}")
    gone = table(await archived(sender.scene, sender.id, files=True), "files.csv")
    assert [row["Stands under"] for row in gone].count("It is gone") == 1


async def test_what_an_earlier_edition_held_in_another_form(scene: Scene, context: Context) -> None:
    """Its files are told of, and what was no roster then has no lines."""
    name = item("short_text", "name")
    before = questionnaire(page("p", item("file", "plan"), item("number", "wells"), name))
    roster = item("roster", "wells", items=[item("short_text", "note")])
    after = questionnaire(page("p", item("short_text", "plan"), roster, name))
    id, _ = await published(context, scene.coordinator, before)
    await save(context, scene.coordinator, id, after, 1)
    await questionnaires.publish(context, scene.coordinator, id, 2)
    file = {"id": str(uuid4()), "name": "plan.pdf", "size": 9, "type": "application/pdf"}
    row = {"of": id, "edition": 1, "number": 1, "ago": 1, "finish": "", "key": "k", "status": ""}
    row |= {"language": "", "archived": False, "corrected": False, "since": None, "carer": None}
    said = orjson.dumps({"plan": [file], "wells": "4", "name": "Ada"}).decode()
    async with context.engine.begin() as conn:
        given = {"answers": said, "now": scene.context.clock.now()}
        await conn.execute(text(INSERT), row | given)
    whole = await archived(scene, id, files=True)
    assert [one["File"] for one in table(whole, "files.csv")] == ["plan.pdf"]
    assert table(whole, "wells.csv") == []
    assert [one["name"] for one in table(await archived(scene, id, codes=True), "entries.csv")] == [
        "Ada"
    ]


async def test_nothing_restricted_is_in_it(scene: Scene, context: Context) -> None:
    await scene.submit("a", ill=True, illness=SECRET)
    whole = await archived(scene, scene.id, files=True)
    for name in whole.namelist():
        assert SECRET.encode() not in whole.read(name)
        assert b"illness" not in whole.read(name)


async def test_more_than_memory_holds_goes_out_piece_by_piece(context: Context) -> None:
    """What is written is sent on before the next piece is asked for."""
    held = []

    async def much() -> Any:
        for at in range(64):
            held.append(at)
            yield bytes(range(256)) * 4096

    async def members() -> Any:
        yield "much", much()

    sent, most = 0, 0
    async for piece in zips.zipped(members(), context.clock.now()):
        most, sent = max(most, len(piece)), sent + len(piece)
    assert len(held) == 64
    assert most < 2_000_000
    assert sent > 0
