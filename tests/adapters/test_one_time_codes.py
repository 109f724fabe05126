"""One-time codes against the test values of RFC 6238, appendix B (SHA-1, eight digits; the last six
are those of a code of six): https://www.rfc-editor.org/rfc/rfc6238#appendix-B"""

from datetime import UTC, datetime

import pytest

from jotgate.adapters.secrets import STEP, TotpCodes

SECRET = b"12345678901234567890"

VALUES = {
    59: "94287082",
    1111111109: "07081804",
    1111111111: "14050471",
    1234567890: "89005924",
    2000000000: "69279037",
    20000000000: "65353130",
}


@pytest.mark.parametrize("seconds", VALUES)
def test_values_of_the_standard(seconds: int) -> None:
    codes, code = TotpCodes(), VALUES[seconds][-6:]
    assert codes.code(SECRET, seconds // STEP) == code
    at = datetime.fromtimestamp(seconds, UTC)
    assert codes.step(SECRET, code, at) == seconds // STEP


def test_one_step_aside_is_taken_and_two_are_not() -> None:
    codes = TotpCodes()
    now = datetime.fromtimestamp(1_000_000_005, UTC)
    step = 1_000_000_005 // STEP
    sides = range(-3, 4)
    taken = {one: codes.step(SECRET, codes.code(SECRET, step + one), now) for one in sides}
    assert taken == {one: step + one if abs(one) <= 1 else None for one in sides}


def test_the_address_is_what_apps_read() -> None:
    address = TotpCodes().address(SECRET, "a@example.org", "Office & Co")
    assert address.startswith("otpauth://totp/Office%20%26%20Co:a%40example.org?")
    assert "secret=GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ" in address
