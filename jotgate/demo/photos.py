"""Drawn pictures: a well head in a field and a plan of a well, never the same twice, and bottles on
a shelf."""

import io
from random import Random

from PIL import Image, ImageDraw, ImageFilter, ImageFont

SIZE = (1200, 900)


def well_head(random: Random) -> bytes:
    """A JPEG of a ring of stones with a lid, under a sky of some colour."""
    width, height = SIZE
    picture = Image.new("RGB", SIZE, (random.randint(150, 200), 200, random.randint(210, 235)))
    draw = ImageDraw.Draw(picture)
    horizon = random.randint(330, 470)
    draw.rectangle((0, horizon, width, height), fill=(90, random.randint(110, 150), 60))
    left, top = random.randint(300, 460), horizon - 40
    draw.rectangle((left, top, left + 420, top + 260), fill=(140, 135, 125))
    draw.ellipse((left, top + 180, left + 420, top + 330), fill=(140, 135, 125))
    draw.ellipse((left, top - 70, left + 420, top + 80), fill=(96, 78, 60))
    for row in range(5):
        for stone in range(7):
            x = left + stone * 62 - (row % 2) * 30
            y = top + 70 + row * 50
            shade = random.randint(105, 165)
            draw.rounded_rectangle((x, y, x + 56, y + 42), 12, fill=(shade, shade, shade - 8))
    out = io.BytesIO()
    picture.filter(ImageFilter.GaussianBlur(1.2)).save(out, "JPEG", quality=80)
    return out.getvalue()


def well_plan(random: Random) -> bytes:
    """A PDF of a section through a well: its ring, its shaft, and where the water stands."""
    page = Image.new("RGB", (827, 1169), (253, 252, 246))
    draw = ImageDraw.Draw(page)
    ink, water = (44, 52, 54), (120, 168, 190)
    top, bottom, level = 300, 1000, random.randint(560, 860)
    draw.line((80, top, 747, top), ink, 4)
    for x in range(90, 740, 26):
        draw.line((x, top + 4, x - 16, top + 20), ink, 2)
    draw.rectangle((330, top - 90, 500, top), outline=ink, width=5)
    draw.rectangle((330, level, 500, bottom), fill=water)
    for side in (330, 500):
        draw.line((side, top, side, bottom), ink, 5)
    draw.line((330, bottom, 500, bottom), ink, 5)
    draw.line((600, top, 600, level), ink, 2)
    metres = f"{(level - top) / 50:.1f} m"
    draw.text((616, (top + level) // 2), metres, ink, ImageFont.load_default(28))
    draw.text((80, 100), "The well, seen from the lane", ink, ImageFont.load_default(34))
    out = io.BytesIO()
    page.save(out, "PDF", resolution=100)
    return out.getvalue()


def bottles() -> bytes:
    """A JPEG of three sample bottles on a shelf, taller than it is wide."""
    width, height = 900, 1200
    picture = Image.new("RGB", (width, height), (214, 224, 222))
    draw = ImageDraw.Draw(picture)
    draw.rectangle((0, 900, width, height), fill=(150, 126, 98))
    draw.rectangle((0, 900, width, 930), fill=(122, 100, 76))
    for left, tint in ((110, (120, 168, 176)), (350, (146, 188, 186)), (590, (98, 146, 160))):
        draw.rounded_rectangle((left, 420, left + 200, 905), 34, fill=(236, 243, 243))
        draw.rounded_rectangle((left + 8, 560, left + 192, 897), 28, fill=tint)
        draw.rectangle((left + 62, 350, left + 138, 430), fill=(236, 243, 243))
        draw.rounded_rectangle((left + 48, 290, left + 152, 366), 12, fill=(29, 106, 117))
        draw.rectangle((left + 8, 640, left + 192, 780), fill=(250, 248, 240))
        for line in range(3):
            draw.rectangle(
                (left + 28, 664 + line * 34, left + 172 - line * 30, 676 + line * 34),
                fill=(90, 90, 84),
            )
    out = io.BytesIO()
    picture.resize((675, 900)).save(out, "JPEG", quality=72)
    return out.getvalue()
