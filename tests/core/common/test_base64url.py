"""Checked with the vectors of RFC 4648, section 10, and with every text that could be mistaken."""

import contextlib
import string

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.common.base64url import read, written

RFC_4648 = {
    b"": "",
    b"f": "Zg",
    b"fo": "Zm8",
    b"foo": "Zm9v",
    b"foob": "Zm9vYg",
    b"fooba": "Zm9vYmE",
    b"foobar": "Zm9vYmFy",
}
SIGNS = f"{string.ascii_letters}{string.digits}-_"


@pytest.mark.parametrize("found", RFC_4648)
def test_the_vectors_of_the_rfc(found: bytes) -> None:
    assert written(found) == RFC_4648[found]
    assert read(RFC_4648[found]) == found


@given(st.binary(min_size=1, max_size=40))
def test_one_text_for_some_bytes_and_no_other(found: bytes) -> None:
    text = written(found)
    assert read(text) == found
    for other in SIGNS.replace(text[-1], ""):
        with contextlib.suppress(ValueError):
            assert read(f"{text[:-1]}{other}") != found


@pytest.mark.parametrize(
    "text", ["Zh", "Zm9", "Zg==", "Zm 8", "Zm8\n", "Zm8.", "Zm+/", "Z", "Zm8é"]
)
def test_what_was_not_written_so_is_refused(text: str) -> None:
    with pytest.raises(ValueError, match=r"."):
        read(text)
