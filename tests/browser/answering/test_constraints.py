"""What Chromium's own constraint validation says of an input, and what our check says.

The fields are those of the HTML standard (4.10.5): email, url, number, date, and a text with
minlength, maxlength and pattern. Where the two differ on purpose, the reason stands in DIFFER.
"""

from collections.abc import Iterator
from typing import Any

import pytest

from jotgate.core.answers.checks import check
from jotgate.core.answers.failures import CheckFailed
from tests.browser.reading import Browser
from tests.core.kinds import of
from tests.documents import TODAY

FIELDS: dict[str, tuple[str, Any]] = {
    "text": (
        '<input minlength="2" maxlength="6" pattern="[a-z]+">',
        of("short_text", shortest=2, longest=6, pattern={"expression": "[a-z]+"}),
    ),
    "number": (
        '<input type="number" min="-3" max="12.5" step="0.5">',
        of("number", at_least="-3", at_most="12.5", decimals=1, step="0.5"),
    ),
    "date": (
        '<input type="date" min="2000-02-29" max="2026-11-25">',
        of("date", earliest="2000-02-29", latest="today"),
    ),
    "email": ('<input type="email">', of("email")),
    "url": ('<input type="url">', of("web_address")),
}

VALUES: dict[str, str] = {
    "text": "a ab abc abcdef abcdefg ABC aBc ab1 1 12 äb é éa a-b a.b ab\u200b abc\u00a0 日本 ab😀 "
    "😀😀 aa zz zzzzzz zzzzzzz _a x_ ½½ ǆǆ ßß",
    "number": "0 1 -1 -3 -3.5 -4 12 12.5 12.6 13 0.5 0.25 1.0 1.50 .5 5. +5 1e1 1E1 1e-1 5e-1 "
    "1e400 -0 00 007 0x10 1_0 1,5 NaN Infinity -Infinity ١٢ １２ 1e 1e+ -- - . one "
    "12.50 12.500 -3.0 -2.999 1.5e0 150e-2 99999999999999999999",
    "date": "2026-11-25 2026-11-26 2000-02-29 2000-02-28 2001-02-29 2004-02-29 1999-12-31 "
    "2026-1-1 2026-01-1 20260101 2026-13-01 2026-00-10 2026-04-31 2026-12-31 "
    "26-01-01 01/02/2026 2026-W05-1 2026-05 today 0000-01-01 12026-01-01 2010-06-15 "
    "2024-12-31 2100-02-29 2020-02-30 +2020-01-01",
    "email": "ines@example.org a@b.co a@b @example.org ines@ ines ines@@example.org "
    "ines@example..org ines@-example.org ines@example-.org ines@example.org. "
    ".ines@example.org ines.@example.org in..es@example.org in.es@example.org "
    "in+es@example.org in_es@example.org in'es@example.org in/es@example.org "
    "in=es@example.org in?es@example.org in!#$%es@example.org in{es}@example.org "
    "in|es@example.org in~es@example.org in`es@example.org in^es@example.org "
    '"ines"@example.org ines@[192.0.2.1] ines@192.0.2.1 ines@localhost '
    "ines@example.c ines@exa_mple.org inés@example.org ines@exämple.org ines@例え.jp "
    "ines@xn--e1afmkfd.example ines(x)@example.org ines,b@example.org ines;b@example.org "
    "mailto:ines@example.org ines@example.org,b@example.org <ines@example.org> INES@EXAMPLE.ORG "
    "ines@EXAMPLE.museum 1@2.org ines@a.b.c.d.example.org",
    "url": "https://example.org http://example.org https://example.org/ "
    "https://example.org/a?b=c#d "
    "https://example.org:8080/x https://example.org:0/ https://example.org:65535/ "
    "https://example.org:65536/ https://example.org:99999/ HTTPS://EXAMPLE.ORG/ "
    "https:example.org https:/example.org https:///example.org https://exa mple.org "
    "example.org www.example.org //example.org /path https:// http:// "
    "ftp://example.org file:///etc/passwd javascript:alert(1) data:text/html,x mailto:a@b.org "
    "https://localhost https://a https://192.0.2.1 https://192.0.2.256 https://[2001:db8::1]/ "
    "https://bücher.example https://例え.jp https://user:pw@example.org/ https://exa%20mple.org "
    "https://example.org/% https://example.org/%zz https://example.org\\x https://.org "
    "https://example..org https://-example.org https://example.org. https://1 ht!tp://example.org "
    "https://example.org/ä https://example.org/<x> https://ex<am>ple.org https://0x7f.1/",
}

DIFFER: dict[tuple[str, str], str] = {}
"""Field and value -> why we do not say what Chromium says."""


def because(why: str, field: str, *values: str) -> None:
    DIFFER.update({(field, value): why for value in values})


because(
    "a length is held only against what a person typed, not a script (HTML, 4.10.18.4)",
    "text",
    *("a", "abcdefg", "zzzzzzz"),
)
because("spaces around an answer, of any kind, are taken away", "text", "abc\u00a0")
because("numbers may be written in any plain way (common practice)", "number", "5.", "+5")
because("a public mail domain has a dot in it (common practice)", "email", "a@b", "ines@localhost")
because("an address of numbers stands in brackets (RFC 5321, 4.1.3)", "email", "ines@192.0.2.1")
because(
    "dots stand between letters only (RFC 5321, 4.1.2)",
    "email",
    *(".ines@example.org", "ines.@example.org", "in..es@example.org"),
)
because(
    "addresses in all scripts are taken (RFC 6531)",
    "email",
    *("inés@example.org", "ines@exämple.org", "ines@例え.jp"),
)
because(
    "https:// is put before an address without a scheme (people write them so)",
    "url",
    *("mple.org", "example.org", "www.example.org", "//example.org"),
)
because(
    "only http and https lead to a page",
    "url",
    *("ftp://example.org", "file:///etc/passwd", "javascript:alert(1)"),
    *("data:text/html,x", "mailto:a@b.org"),
)
because(
    "a public host has a dot between its labels (common practice)",
    "url",
    *("https://exa", "https://localhost", "https://a", "https://[2001:db8::1]/", "https://.org"),
)
because(
    "a host cannot hold a space, as %20 either (WHATWG URL, forbidden host code points)",
    "url",
    "https://exa%20mple.org",
)


def cases() -> Iterator[tuple[str, str]]:
    for field, values in VALUES.items():
        for value in values.split(" "):
            yield field, value


def ours(field: str, value: str) -> bool:
    try:
        return check(FIELDS[field][1], value, TODAY) is not None
    except CheckFailed:
        return False


READ = """
const box = document.createElement("div");
document.body.append(box);
box.innerHTML = arguments[0];
const field = box.firstChild;
const found = arguments[1].map((value) => {
  field.value = "";
  field.focus();
  document.execCommand("insertText", false, value);
  if (field.value !== value) field.value = value;
  return [field.value !== "" && field.checkValidity(), field.value];
});
box.remove();
return found;
"""


@pytest.fixture(scope="module")
def table() -> list[tuple[str, str]]:
    found = list(cases())
    assert len(found) == len(set(found)) >= 150
    return found


def test_chromium_and_we_agree_or_the_reason_is_given(
    browser: Browser, table: list[tuple[str, str]]
) -> None:
    browser.driver.get("about:blank")
    unlike: dict[tuple[str, str], tuple[bool, bool]] = {}
    for field, (html, _) in FIELDS.items():
        values = [value for name, value in table if name == field]
        read = browser.driver.execute_script(READ, html, values)
        for value, (valid, _) in zip(values, read, strict=True):
            if valid is not ours(field, value):
                unlike[field, value] = (valid, ours(field, value))
    unexplained = {key: pair for key, pair in unlike.items() if key not in DIFFER}
    lines = [f"{key}: Chromium {theirs}, we {mine}" for key, (theirs, mine) in unexplained.items()]
    assert not unexplained, "\n".join(lines)
    stale = set(DIFFER) - set(unlike)
    assert not stale, stale
