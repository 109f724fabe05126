"""Made-up photographs: a drawn well head in a field, never the same twice."""

import io
from random import Random

from PIL import Image, ImageDraw, ImageFilter

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
