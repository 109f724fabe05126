"""QR codes, read by a decoder that we did not write (zxing-cpp)."""

import base64
import io

import pytest
import zxingcpp
from PIL import Image, ImageFilter

from jotgate.core.formats.qr import QUIET_ZONE, printed_qr, qr

PASS = "https://wells.example.org/p/vj96pq/5shB2V8uoo0Qqhf7XcpIXA"
LONG = "https://wells.example.org/q/vj96pq?district=saltings&name.given=In%C3%A9s" + "&x=1" * 60


def decoded(picture: Image.Image) -> str:
    (found,) = zxingcpp.read_barcodes(picture)
    text: str = found.text
    return text


@pytest.mark.parametrize("text", [PASS, LONG, "https://example.org/q/a?n=%D8%A7"])
def test_a_code_is_read_back(text: str) -> None:
    assert decoded(Image.open(io.BytesIO(qr(text, "png")))) == text


def test_a_code_is_read_when_it_is_printed_two_centimetres_wide() -> None:
    """At 300 dots an inch, a little out of focus, seen at half of that: 118 pixels."""
    whole = Image.open(io.BytesIO(qr(PASS, "png"))).convert("L")
    printed = whole.resize((236, 236), Image.Resampling.LANCZOS)
    seen = printed.filter(ImageFilter.GaussianBlur(1.2)).resize((118, 118))
    assert decoded(seen) == PASS


def test_the_drawing_says_how_large_it_is_printed() -> None:
    small, large = qr("https://example.org/q/a", "svg").decode(), qr(LONG, "svg").decode()
    assert 'width="20' in small
    assert "mm" in small
    width = float(large.split('width="')[1].split("mm")[0])
    assert width > 24


@pytest.mark.parametrize("mask", [None, *range(8)])
@pytest.mark.parametrize("text", [PASS, LONG])
def test_a_code_in_a_page_is_read_whatever_its_mask(text: str, mask: int | None) -> None:
    code = printed_qr(text, mask)
    assert mask in (None, code.mask)
    kind, _, data = code.url.partition(",")
    assert kind == "data:image/png;base64"
    picture = Image.open(io.BytesIO(base64.b64decode(data)))
    modules = picture.width
    assert code.width == pytest.approx(max(20.0, modules * 0.4))
    assert (modules - 2 * QUIET_ZONE - 17) % 4 == 0
    assert (
        decoded(picture.convert("L").resize((modules * 4,) * 2, Image.Resampling.NEAREST)) == text
    )
