"""Answers with parts: names, addresses, signatures, files, ranks, something else."""

from datetime import UTC, datetime
from importlib.resources import files as resources
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.answers.checks import check
from jotgate.core.answers.composites import countries
from jotgate.core.answers.failures import CheckFailed
from jotgate.core.answers.file_kinds import LONGEST_NAME, file_name
from jotgate.core.common.today import today_in
from jotgate.core.common.values import Else, FileFacts
from jotgate.core.conditions.condition import holds
from jotgate.core.entries.stored import as_json, from_json
from jotgate.core.items import Item
from tests.core.kinds import of, outcome
from tests.documents import TODAY, is_, options

NAME = of("name", parts=["title", "given", "family"], needed=["given", "family"])
PLACE = of("address", countries=["GB", "IE"])
SIGNED = of("signature", required=True)
RANK = of("rank", options=options("a", "b", "c"), top=2)
ONE = of("pick_one", options=options("a", "b"), else_label={"en": "Other"})
MANY = of("pick_many", options=options("a", "b"), else_label={"en": "Other"}, most=2)
FULL = {"street": "1 Fell Road", "city": "Thornmere", "postcode": "TH1 1AA"}


@pytest.mark.parametrize(
    ("one", "raw", "kept"),
    [
        (NAME, {"given": " Ines ", "family": "Carvalho"}, {"given": "Ines", "family": "Carvalho"}),
        (NAME, {"given": "Ines"}, {"family": "part_missing"}),
        (NAME, {"given": "Ines", "family": "C\x00"}, {"family": "control_character"}),
        (NAME, {"given": "", "family": None}, None),
        (NAME, {"given": "Ines", "family": "C", "nick": "x"}, "wrong_kind"),
        (NAME, "Ines Carvalho", "wrong_kind"),
        (NAME, {"given": 5, "family": "C"}, {"given": "wrong_kind"}),
        (PLACE, {**FULL, "country": "GB"}, {**FULL, "country": "GB"}),
        (PLACE, {**FULL, "country": "PT"}, {"country": "not_a_country"}),
        (PLACE, {"country": "GB"}, dict.fromkeys(("street", "city", "postcode"), "part_missing")),
        (of("address"), {**FULL, "country": "PT"}, {**FULL, "country": "PT"}),
        (of("address"), {**FULL, "country": "XX"}, {"country": "not_a_country"}),
        (SIGNED, {"typed": "Ines"}, {"typed": "Ines"}),
        (SIGNED, {"drawn": "M1 2L3 4M5 6L7 8"}, {"drawn": "M1 2L3 4M5 6L7 8"}),
        (SIGNED, {"drawn": "M1 2"}, "not_signed"),
        (SIGNED, {"drawn": 'M1 2L3 4"/><script>'}, "not_signed"),
        (SIGNED, {"drawn": "M1 2" + "L3 4" * 20_000}, "not_signed"),
        (SIGNED, {"typed": " "}, "not_signed"),
        (SIGNED, {"typed": "Ines", "drawn": "M1 2L3 4"}, "not_signed"),
        (SIGNED, None, "required"),
        (RANK, ["c", "a"], ("c", "a")),
        (RANK, ["c"], "rank_all"),
        (RANK, ["c", "c"], "not_an_option"),
        (RANK, ["c", "z"], "not_an_option"),
        (RANK, "c", "wrong_kind"),
        (of("rank", options=options("a", "b")), ["b", "a"], ("b", "a")),
        (ONE, "a", "a"),
        (ONE, {"else": " clay "}, Else("clay")),
        (ONE, {"else": " "}, "say_else"),
        (ONE, {"else": "x" * 501}, "too_long"),
        (ONE, {"other": "x"}, "not_an_option"),
        (ONE, "else", "not_an_option"),
        (of("pick_one", options=options("a")), {"else": "x"}, "not_an_option"),
        (MANY, ["b", {"else": "clay"}], ("b", Else("clay"))),
        (MANY, [{"else": "x"}, {"else": "y"}], "not_an_option"),
        (MANY, ["a", "b", {"else": "x"}], "too_many"),
        (MANY, [{"else": ""}], "say_else"),
    ],
)
def test_parts(one: Item, raw: Any, kept: Any) -> None:
    assert outcome(one, raw) == kept


@pytest.mark.parametrize(
    ("one", "raw"),
    [
        (NAME, {"given": "Ines", "family": "Carvalho"}),
        (RANK, ["c", "a"]),
        (ONE, {"else": "clay"}),
        (MANY, ["b", {"else": "clay"}]),
    ],
)
def test_what_is_stored_comes_back(one: Item, raw: Any) -> None:
    value = outcome(one, raw)
    assert as_json(value) == raw
    assert from_json(one, as_json(value)) == value


def test_something_else_counts_under_a_code_of_its_own() -> None:
    assert holds(_condition(is_("q", "else")), {"q": Else("clay")}, TODAY)
    assert not holds(_condition(is_("q", "a")), {"q": Else("clay")}, TODAY)
    includes = _condition({"op": "includes", "item": "q", "value": "else"})
    assert holds(includes, {"q": ("a", Else("clay"))}, TODAY)
    assert not holds(includes, {"q": ("a",)}, TODAY)


def _condition(raw: dict[str, Any]) -> Any:
    return of("yes_no", shown_when=raw).shown_when


def test_the_countries_are_those_of_iso_3166() -> None:
    """Against `iso3166.tab` of the IANA time zone database, as the package tzdata carries it."""
    table = (resources("tzdata.zoneinfo") / "iso3166.tab").read_text()
    codes = {line[:2] for line in table.splitlines() if line and not line.startswith("#")}
    assert countries() == codes


def facts(**more: Any) -> FileFacts:
    return FileFacts(**{"id": "1", "name": "a.png", "size": 900, "type": "image/png", **more})


PHOTO = of("file", most=2, largest=1, kinds=["picture"])


@pytest.mark.parametrize(
    ("raw", "kept"),
    [
        ([facts()], (facts(),)),
        ([facts(), facts(id="2")], (facts(), facts(id="2"))),
        ([facts(), facts()], "no_such_file"),
        ([facts(), facts(id="2"), facts(id="3")], "too_many_files"),
        ([facts(size=1_000_001)], "file_too_large"),
        ([facts(size=1_000_000)], (facts(size=1_000_000),)),
        ([facts(size=0)], "file_empty"),
        ([facts(type="application/pdf")], "file_not_of_kind"),
        ([facts(type="image/svg+xml")], "file_not_of_kind"),
        (["1"], "no_such_file"),
        ([{"id": "1", "name": "a.png", "size": 9, "type": "image/png"}], "no_such_file"),
        ("1", "no_such_file"),
        ([], None),
    ],
)
def test_files(raw: Any, kept: Any) -> None:
    assert outcome(PHOTO, raw) == kept


@pytest.mark.parametrize(
    ("given", "name"),
    [
        ("../../etc/passwd", "passwd"),
        ("C:\\wells\\photo.png", "photo.png"),
        ("a\x00b\r\n.png", "ab.png"),
        ("gnp.\u202eexe", "gnp.exe"),
        ("  two   words .pdf ", "two words .pdf"),
        ("...", "file"),
        ("", "file"),
        ("/", "file"),
        (f"{'x' * 300}.jpeg", f"{'x' * (LONGEST_NAME - 6)}….jpeg"),
    ],
)
def test_names_of_files(given: str, name: str) -> None:
    assert file_name(given) == name


@given(st.text(max_size=400))
def test_a_name_of_a_file_is_short_and_has_no_folder(given: str) -> None:
    name = file_name(given)
    assert 0 < len(name) <= LONGEST_NAME
    assert not set(name) & set("/\\\x00\n\u202e")
    assert file_name(name) == name


def moments(raw: Any, zone: str, **more: Any) -> Any:
    today = today_in(zone, datetime(2026, 11, 25, 12, 5, 30, tzinfo=UTC))
    try:
        return check(of("date_time", **more), raw, today)
    except CheckFailed as failed:
        return failed.code


@pytest.mark.parametrize(
    ("raw", "zone", "limits", "kept"),
    [
        ("2026-11-25T12:30", "UTC", {}, datetime(2026, 11, 25, 12, 30, tzinfo=UTC)),
        ("2026-07-01T09:00", "Europe/London", {}, datetime(2026, 7, 1, 8, 0, tzinfo=UTC)),
        # The clocks of London skip 01:00 to 02:00 on the last Sunday of March (tz database).
        ("2026-03-29T01:30", "Europe/London", {}, "not_a_moment"),
        # They show 01:30 twice on the last Sunday of October; the first is meant.
        ("2026-10-25T01:30", "Europe/London", {}, datetime(2026, 10, 25, 0, 30, tzinfo=UTC)),
        ("2026-11-25T12:05", "UTC", {"latest": "now"}, datetime(2026, 11, 25, 12, 5, tzinfo=UTC)),
        ("2026-11-25T12:06", "UTC", {"latest": "now"}, "too_late"),
        (
            "2026-11-25T23:59",
            "UTC",
            {"latest": "today"},
            datetime(2026, 11, 25, 23, 59, tzinfo=UTC),
        ),
        ("2026-11-26T00:00", "UTC", {"latest": "today"}, "too_late"),
        ("2026-11-24T23:59", "UTC", {"earliest": "today"}, "too_early"),
        ("2026-11-25", "UTC", {}, "not_a_moment"),
        ("2026-11-25T24:00", "UTC", {}, "not_a_moment"),
        ("2026-11-25T12:30Z", "UTC", {}, "not_a_moment"),
        ("0001-01-01T00:00", "Asia/Tokyo", {}, "not_a_moment"),
    ],
)
def test_moments(raw: str, zone: str, limits: dict[str, str], kept: Any) -> None:
    found = moments(raw, zone, **limits)
    assert found == kept
    if isinstance(found, datetime):
        assert as_json(found) == found.strftime("%Y-%m-%dT%H:%M+00:00")
        assert from_json(of("date_time"), as_json(found)) == found


@pytest.mark.parametrize(
    ("raw", "more", "kept"),
    [
        ("15", {"step": "5"}, "15"),
        ("17", {"step": "5"}, "not_a_step"),
        ("17", {"step": "5", "at_least": "2"}, "17"),
        ("-5", {"step": "5"}, "-5"),
        ("0.3", {"step": "0.1", "decimals": 1}, "0.3"),
        ("0.25", {"step": "0.1", "decimals": 2}, "not_a_step"),
    ],
)
def test_steps_are_exact(raw: str, more: dict[str, Any], kept: str) -> None:
    found = outcome(of("number", **more), raw)
    assert (found if isinstance(found, str) else as_json(found)) == kept
