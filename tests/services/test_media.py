"""Pictures that pages show: everybody gets them, so they carry nothing but their pixels."""

import io
from typing import Any

import pytest
from PIL import Image, ImageChops, ImageStat

from jotgate.services.context import Context
from jotgate.services.public.media import part
from jotgate.services.staff import media
from tests.scenes import Scene

GPS, ORIENTATION, COMMENT = 0x8825, 0x0112, b"taken at home"


def written(width: int, height: int, format: str, **more: Any) -> bytes:
    picture = Image.new("RGB", (width, height), (200, 40, 30))
    picture.paste((20, 60, 200), (0, 0, width // 2, height // 2))
    out = io.BytesIO()
    picture.save(out, format, **more)
    return out.getvalue()


def exif(**tags: Any) -> Image.Exif:
    found = Image.Exif()
    found[ORIENTATION] = tags.get("orientation", 1)
    found.get_ifd(GPS).update({1: "N", 2: (54.0, 7.0, 24.0)})
    return found


async def kept(context: Context, scene: Scene, data: bytes) -> tuple[bytes, str]:
    medium, seen = await media.add(context, scene.coordinator, scene.id, "p", data)
    stored = await part(context, medium, 0, medium.size)
    with Image.open(io.BytesIO(stored)) as picture:
        assert picture.size == (seen.width, seen.height)
    return stored, medium.type


@pytest.mark.parametrize(
    "data",
    [
        written(3000, 2000, "JPEG", exif=exif()),
        written(300, 200, "JPEG", exif=exif(orientation=6)),
        written(300, 200, "JPEG", comment=COMMENT),
        written(300, 200, "PNG", exif=exif()),
        written(300, 200, "WEBP", exif=exif(), lossless=True),
        written(300, 200, "WEBP", xmp=COMMENT, lossless=True),
        written(4000, 100, "PNG"),
    ],
    ids=["large", "turned", "comment", "png", "webp", "xmp", "long"],
)
async def test_a_picture_that_says_more_or_is_larger_is_drawn_anew(
    context: Context, scene: Scene, data: bytes
) -> None:
    stored, type = await kept(context, scene, data)
    assert type == "image/webp"
    assert COMMENT not in stored
    with Image.open(io.BytesIO(stored)) as picture, Image.open(io.BytesIO(data)) as before:
        assert not picture.getexif()
        assert max(picture.size) <= media.PAGE_SIDE
        upright = before.getexif().get(ORIENTATION, 1) < 5
        assert (picture.width > picture.height) is upright
        if upright:
            same = before.convert("RGB").resize(picture.size)
            off = ImageStat.Stat(ImageChops.difference(picture.convert("RGB"), same)).mean
            assert max(off) < 3


async def test_others_stay_as_they_are(context: Context, scene: Scene) -> None:
    frames = [Image.new("RGB", (40, 30), colour) for colour in ("red", "navy", "white")]
    out = io.BytesIO()
    frames[0].save(out, "GIF", save_all=True, append_images=frames[1:], comment=COMMENT)
    for data, type in (
        (written(1600, 900, "PNG"), "image/png"),
        (written(640, 480, "JPEG", dpi=(72, 72), progressive=True), "image/jpeg"),
        (out.getvalue(), "image/gif"),
    ):
        assert await kept(context, scene, data) == (data, type)
