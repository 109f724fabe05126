"""Files: told by what they are, sent in pieces, kept sealed, given to one entry only."""

import asyncio
import io
import zipfile
from dataclasses import dataclass
from datetime import timedelta
from typing import Any
from uuid import UUID

import pytest
from PIL import Image, ImageCms
from PIL.TiffImagePlugin import IFDRational
from pypdf import PdfWriter

from jotgate.adapters.files import MOST_PIXELS, PillowInspector
from jotgate.adapters.isolated import OwnProcesses
from jotgate.core.common.errors import InvalidAnswers, NotFound, TooManyTries
from jotgate.core.records.files import SentFile
from jotgate.services.context import Context
from jotgate.services.public import submitting, uploads
from jotgate.services.public.answering import Answers
from jotgate.services.public.submitted import Submitted
from jotgate.services.public.uploads import PIECE, AnnouncedFile
from jotgate.services.staff.entries import entries
from jotgate.store import files
from jotgate.store.entries import entries as entry_store
from tests.conftest import Clock
from tests.documents import item, page, questionnaire
from tests.scenes import Scene, published


def picture(kind: str = "PNG", size: tuple[int, int] = (60, 40), **more: Any) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", size, (90, 120, 60)).save(out, kind, **more)
    return out.getvalue()


def zipped(**files: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    return out.getvalue()


CLIENT = "192.0.2.7"
DOCUMENT = questionnaire(
    page(
        "p",
        item("file", "photo", most=2, largest=1, kinds=["picture"]),
        item("file", "papers", most=20, largest=2, kinds=["pdf", "sheet", "document"]),
        item("file", "secret", kinds=["picture"], restricted=True),
        item("roster", "wells", items=[item("file", "head", kinds=["picture"])]),
    )
)


@dataclass(frozen=True)
class Sender:
    context: Context
    scene: Scene
    id: UUID
    address: str

    async def send(self, key: str, name: str, data: bytes, size: int | None = None) -> SentFile:
        about = AnnouncedFile(1, key, name, len(data) if size is None else size, "en")
        sent = await uploads.begin(self.context, self.address, about, CLIENT)
        for offset in range(0, len(data), PIECE):
            sent = await uploads.take(
                self.context,
                self.address,
                sent.id,
                offset,
                data[offset : offset + PIECE],
                "en",
                CLIENT,
            )
        return sent

    async def submit(self, key: str = "a", **given: Any) -> Submitted:
        answers = Answers("", 1, given)
        return await submitting.submit(self.context, self.address, answers, key.rjust(20, "0"))


@pytest.fixture
async def sender(scene: Scene, context: Context) -> Sender:
    id, address = await published(context, scene.coordinator, DOCUMENT)
    return Sender(context, scene, id, address)


def of(file: SentFile) -> dict[str, str]:
    return {"id": str(file.id)}


async def refused(sender: Sender, key: str, name: str, data: bytes, **more: Any) -> str:
    with pytest.raises(InvalidAnswers) as failed:
        await sender.send(key, name, data, **more)
    return failed.value.faults[0].code


async def test_a_picture_arrives_and_can_be_read_back(sender: Sender, context: Context) -> None:
    data = picture()
    sent = await sender.send("photo", "../well\x00.png", data)
    assert (sent.name, sent.type) == ("well.png", "image/png")
    taken = await sender.submit(photo=[of(sent)])
    where = (sent.questionnaire_id, taken.id)
    found = await entries.file(context, sender.scene.coordinator, where, sent.id, small=False)
    assert (found.name, found.type, found.data) == ("well.png", "image/png", data)
    small = await entries.file(context, sender.scene.coordinator, where, sent.id, small=True)
    assert Image.open(io.BytesIO(small.data)).format == "WEBP"


def paper(password: str = "") -> bytes:
    out, made = io.BytesIO(), PdfWriter()
    made.add_blank_page(300, 200)
    if password:
        made.encrypt(password)
    made.write(out)
    return out.getvalue()


async def test_the_first_page_of_a_pdf_is_its_preview(sender: Sender, context: Context) -> None:
    """Drawn once, when somebody looks; one that cannot be drawn is there all the same."""
    cases = {"a": paper(), "locked": paper("x"), "damaged": b"%PDF-1.7\n" + b"x" * 99}
    sent = {key: await sender.send("papers", f"{key}.pdf", data) for key, data in cases.items()}
    taken = await sender.submit(papers=[of(one) for one in sent.values()])

    async def seen(key: str, small: bool) -> bytes:
        where = (sent[key].questionnaire_id, taken.id)
        owner = sender.scene.coordinator
        return (await entries.file(context, owner, where, sent[key].id, small=small)).data

    drawn = Image.open(io.BytesIO(await seen("a", small=True)))
    assert (drawn.format, drawn.size) == ("WEBP", (480, 320))
    await context.files.remove(f"files/{sent['a'].id}/{0:010}")
    assert Image.open(io.BytesIO(await seen("a", small=True))).size == (480, 320)
    for key in ("locked", "damaged"):
        assert await seen(key, small=False) == cases[key]
        with pytest.raises(NotFound):
            await seen(key, small=True)


@pytest.mark.parametrize(
    ("key", "name", "data", "code"),
    [
        ("photo", "a.png", b"not a picture", "file_not_of_kind"),
        ("photo", "a.png", b"", "file_empty"),
        ("photo", "a.png", picture("JPEG", (600, 400))[:900], "file_not_of_kind"),
        ("photo", "a.png", b"%PDF-1.7\n" + b"x" * 99, "file_not_of_kind"),
        ("photo", "a.svg", b"<svg xmlns='http://www.w3.org/2000/svg'/>", "file_not_of_kind"),
        ("photo", "a.png", b"<!doctype html><script>1</script>", "file_not_of_kind"),
        ("papers", "a.pdf", picture(), "file_not_of_kind"),
        ("papers", "a.docx", zipped(x=b"nothing of an office"), "file_not_of_kind"),
        ("papers", "a.csv", b"a,b\n\xff\xfe,c\n", "file_not_of_kind"),
        ("papers", "a.txt", b"a\x00b", "file_not_of_kind"),
    ],
)
async def test_the_content_tells_not_the_name(
    sender: Sender, key: str, name: str, data: bytes, code: str
) -> None:
    assert await refused(sender, key, name, data) == code


@pytest.mark.parametrize(
    ("name", "data", "kind"),
    [
        ("wells.csv", b"name,depth\nYard,12\nBarn,9\n", "text/csv"),
        ("wells.png", b"%PDF-1.7\n" + b"x" * 99, "application/pdf"),
        ("words.txt", b"Wie tief? Sehr tief.", "text/plain"),
    ],
)
async def test_a_right_file_under_any_name(
    sender: Sender, name: str, data: bytes, kind: str
) -> None:
    assert (await sender.send("papers", name, data)).type == kind


async def test_a_large_file_is_refused_before_it_is_sent(sender: Sender) -> None:
    assert await refused(sender, "photo", "a.png", b"x", size=1_000_001) == "file_too_large"


async def test_more_than_was_announced_is_refused(sender: Sender) -> None:
    with pytest.raises(NotFound):
        await sender.send("photo", "a.png", picture(), size=20)


async def test_a_picture_that_unfolds_to_gigabytes_is_not_drawn(reading: OwnProcesses) -> None:
    side = int(MOST_PIXELS**0.5) + 10
    bomb = io.BytesIO()
    Image.new("1", (side, side)).save(bomb, "PNG")
    assert len(bomb.getvalue()) < 100_000
    assert (await PillowInspector(reading).look(bomb.getvalue(), 480)).type == ""


async def test_a_preview_says_nothing_of_where_it_was_taken(reading: OwnProcesses) -> None:
    """The tags of a place in EXIF 2.32: 1 to 4 of the GPS IFD, 0x8825."""
    exif = Image.Exif()
    exif[0x010F] = "A camera"
    exif.get_ifd(0x8825).update({1: "N", 2: (IFDRational(51), IFDRational(30), IFDRational(0))})
    profile = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    data = picture("JPEG", (900, 600), exif=exif, icc_profile=profile)
    seen = await PillowInspector(reading).look(data, 480)
    assert (seen.type, seen.width, seen.height) == ("image/jpeg", 900, 600)
    small = Image.open(io.BytesIO(seen.drawn or b""))
    assert max(small.size) == 480
    assert not small.getexif()
    assert "exif" not in small.info
    assert "icc_profile" not in small.info


async def test_a_cut_connection_goes_on_from_what_has_arrived(
    sender: Sender, context: Context
) -> None:
    data = b"%PDF-1.7\n" + bytes(1_600_000)
    about = AnnouncedFile(1, "papers", "long.pdf", len(data), "en")
    sent = await uploads.begin(context, sender.address, about, CLIENT)
    first, rest = data[:900_000], data[900_000:]
    await uploads.take(context, sender.address, sent.id, 0, first, "en", CLIENT)
    # The reply was lost: the same piece comes again, and changes nothing.
    again = await uploads.take(context, sender.address, sent.id, 0, first, "en", CLIENT)
    assert again.received == (await uploads.so_far(context, sender.address, sent.id)).received
    done = await uploads.take(context, sender.address, sent.id, again.received, rest, "en", CLIENT)
    assert done.type == "application/pdf"
    assert await uploads.read(context, done.id, done.received) == data
    last = await uploads.take(context, sender.address, sent.id, 900_000, rest, "en", CLIENT)
    assert (last.received, last.type) == (len(data), "application/pdf")


async def test_nobody_fills_the_disk(sender: Sender, monkeypatch: pytest.MonkeyPatch) -> None:
    data = picture()
    monkeypatch.setattr(uploads, "MOST_UNSENT", len(data) + 10)
    sent = await sender.send("photo", "a.png", data)
    with pytest.raises(TooManyTries):
        await sender.send("photo", "b.png", data)
    await sender.submit(photo=[of(sent)])
    await sender.send("photo", "b.png", data)


async def test_announcing_takes_no_room(sender: Sender, monkeypatch: pytest.MonkeyPatch) -> None:
    """Whoever announces files and sends none keeps nobody from sending theirs."""
    data = picture()
    monkeypatch.setattr(uploads, "MOST_UNSENT", 2 * len(data))
    for number in range(5):
        about = AnnouncedFile(1, "photo", f"{number}.png", len(data), "en")
        await uploads.begin(sender.context, sender.address, about, "198.51.100.9")
    assert (await sender.send("photo", "a.png", data)).type == "image/png"


async def test_one_client_announces_and_sends_only_so_much_a_day(
    sender: Sender, clock: Clock, monkeypatch: pytest.MonkeyPatch
) -> None:
    data = picture()
    monkeypatch.setattr(uploads, "FILES_A_DAY", 2)
    monkeypatch.setattr(uploads, "BYTES_A_DAY", len(data))
    await sender.send("photo", "a.png", data)
    with pytest.raises(TooManyTries):
        await sender.send("photo", "b.png", data)
    about = AnnouncedFile(1, "photo", "c.png", len(data), "en")
    with pytest.raises(TooManyTries):
        await uploads.begin(sender.context, sender.address, about, CLIENT)
    await uploads.begin(sender.context, sender.address, about, "198.51.100.9")
    clock.move(timedelta(days=1))
    await sender.send("photo", "d.png", data)


async def test_20_at_once(sender: Sender) -> None:
    papers = [f"{number},{number}\n1,2\n3,4\n".encode() for number in range(20)]
    sent = await asyncio.gather(
        *(sender.send("papers", f"{n}.csv", data) for n, data in enumerate(papers))
    )
    taken = await sender.submit(papers=[of(file) for file in sent])
    async with sender.context.engine.connect() as conn:
        entry = await entry_store.entry(conn, sender.id, taken.id)
        claimed = await files.of_entry(conn, taken.id)
    assert entry is not None
    stored: Any = entry.answers["papers"]
    assert [one["name"] for one in stored] == [f"{n}.csv" for n in range(20)]
    assert {file.id for file in claimed} == {file.id for file in sent}
    assert [await uploads.read(sender.context, file.id, file.received) for file in sent] == papers
