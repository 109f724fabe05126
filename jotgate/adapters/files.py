"""Files in a folder, and looking at them with filetype, Pillow and PDFium."""

import asyncio
import csv
import io
import os
import shutil
import unicodedata
import warnings
from pathlib import Path

import filetype
import pypdfium2
from PIL import Image, ImageOps, UnidentifiedImageError

from jotgate.ports.files import Inspected, Missing
from jotgate.ports.isolated import Isolated, TookTooLong

MOST_PIXELS = 60_000_000
"""Pictures with more pixels are not drawn: a small file can unfold to gigabytes."""

_ORIENTATION, _SIDEWAYS = 0x0112, 5
"""Where Exif says how a picture is turned; from 5 on its sides are exchanged."""

_PLAIN = frozenset(
    "jfif jfif_version jfif_unit jfif_density dpi progressive progression adobe adobe_transform "
    "icc_profile transparency gamma srgb chromaticity interlace aspect background version duration "
    "loop extension timestamp".split()
)
"""What Pillow tells of a file that says how it is drawn, and nothing of anybody."""

DRAWN = {"JPEG": "image/jpeg", "PNG": "image/png", "GIF": "image/gif", "WEBP": "image/webp"}


class FolderFiles:
    """Each name is a path in `folder`; what is written is there whole or not at all."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def _path(self, name: str) -> Path:
        path = (self._folder / name).resolve()
        if not path.is_relative_to(self._folder.resolve()):
            raise Missing(name)
        return path

    async def put(self, name: str, data: bytes) -> None:
        await asyncio.to_thread(self._put, self._path(name), data)

    def _put(self, path: Path, data: bytes) -> None:
        path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        part = path.with_name(f".{path.name}.{os.getpid()}")
        with part.open("wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        part.replace(path)

    async def get(self, name: str, start: int = 0, length: int | None = None) -> bytes:
        return await asyncio.to_thread(self._get, self._path(name), start, length)

    def _get(self, path: Path, start: int, length: int | None) -> bytes:
        try:
            with path.open("rb") as file:
                file.seek(start)
                return file.read(-1 if length is None else length)
        except (FileNotFoundError, IsADirectoryError):
            raise Missing(path.name) from None

    async def remove(self, prefix: str) -> None:
        path = self._path(prefix)
        if path.is_dir():
            await asyncio.to_thread(shutil.rmtree, path, ignore_errors=True)
        else:
            path.unlink(missing_ok=True)


class PillowInspector:
    """Looks in `processes`: a small file can unfold to very many pixels, or take very long."""

    def __init__(self, processes: Isolated) -> None:
        self._processes = processes

    async def look(self, data: bytes, side: int) -> Inspected:
        try:
            return await self._processes.run(_look, data, side)
        except TookTooLong:
            return Inspected("")

    async def first_page(self, data: bytes, side: int) -> bytes | None:
        try:
            return await self._processes.run(_first_page, data, side)
        except TookTooLong:
            return None

    def close(self) -> None:
        self._processes.close()


def _first_page(data: bytes, side: int) -> bytes | None:
    """Drawn by PDFium, in the size that is wanted, so that a page of any size takes as much."""
    try:
        with pypdfium2.PdfDocument(data) as document:
            page = document[0]
            scale = side / max(*page.get_size(), 1)
            picture = page.render(scale=scale).to_pil().convert("RGB")
    except (pypdfium2.PdfiumError, IndexError, ValueError):
        return None
    return _webp(picture)


def _look(data: bytes, side: int) -> Inspected:
    guessed = filetype.guess(data)
    found = str(guessed.mime) if guessed else ""
    if found.startswith("image/"):
        return _picture(data, side)
    return Inspected(found or _text(data))


def _picture(data: bytes, side: int) -> Inspected:
    """A picture that can really be drawn, to its end."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(data), formats=tuple(DRAWN)) as picture:
                if picture.width * picture.height > MOST_PIXELS:
                    return Inspected("")
                kind, (width, height) = DRAWN[str(picture.format)], picture.size
                if picture.getexif().get(_ORIENTATION, 1) >= _SIDEWAYS:
                    width, height = height, width
                carries = bool(picture.getexif()) or not _PLAIN.issuperset(picture.info)
                moves = getattr(picture, "n_frames", 1) > 1
                drawn = _drawn(picture, side)
                return Inspected(kind, width, height, drawn, carries, moves)
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Warning):
        return Inspected("")
    except Image.DecompressionBombError:
        return Inspected("")


def _drawn(picture: Image.Image, side: int) -> bytes:
    """A new picture from the pixels alone: no place, no camera, no comments.

    It is made small before anything else, so that its pixels are held once only.
    """
    if picture.mode in ("P", "PA"):
        picture = picture.convert("RGBA" if "transparency" in picture.info else "RGB")
    picture.thumbnail((side, side))
    upright = ImageOps.exif_transpose(picture)
    drawn = upright.convert("RGBA" if "A" in upright.getbands() else "RGB")
    bare = Image.new(drawn.mode, drawn.size)
    bare.paste(drawn)
    return _webp(bare)


def _webp(picture: Image.Image) -> bytes:
    out = io.BytesIO()
    picture.save(out, "WEBP", quality=82)
    return out.getvalue()


def _text(data: bytes) -> str:
    """Plain text or a table of it, in UTF-8; nothing has a mark that would tell."""
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return ""
    if not text.strip() or any(
        unicodedata.category(letter) == "Cc" and letter not in "\t\r\n\f" for letter in text
    ):
        return ""
    try:
        csv.Sniffer().sniff(text[:4000], delimiters=",;\t")
    except csv.Error:
        return "text/plain"
    return "text/csv"
