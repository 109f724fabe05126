"""Days as people write them."""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jotgate.core.registers.days import MONTHS, NoDay, day


@pytest.mark.parametrize(
    "written",
    [
        "2026-11-03",
        "2026-11-3",
        "3 Nov 2026",
        "3 November 2026",
        "03 nov 2026",
        "3. Nov. 2026",
        "Nov 3, 2026",
        "november 3 2026",
        "3.11.2026",
        "03. 11. 2026",
        "  3   Nov  2026 ",
    ],
)
def test_one_day_is_meant(written: str) -> None:
    assert day(written) == date(2026, 11, 3)


@pytest.mark.parametrize(
    ("written", "why"),
    [
        ("31 Nov 2026", "November has 30 days."),
        ("29 Feb 2026", "February has 28 days in 2026."),
        ("30 Feb 2028", "February has 29 days in 2028."),
        ("0 Mar 2026", "March has 31 days."),
        ("2026-13-01", "There is no month 13."),
        ("0000-01-01", "There is no year 0."),
        ("3/11/2026", "Two days can be meant by this. Write the month as a word: 3 Nov 2026."),
        ("3 Ju 2026", "Write a day such as 27 Nov 2026, or 2026-11-27."),
        ("3 Növ 2026", "Write a day such as 27 Nov 2026, or 2026-11-27."),
        ("tomorrow", "Write a day such as 27 Nov 2026, or 2026-11-27."),
        ("", "Write a day such as 27 Nov 2026, or 2026-11-27."),
    ],
)
def test_what_is_no_day_is_told(written: str, why: str) -> None:
    with pytest.raises(NoDay) as told:
        day(written)
    assert str(told.value) == why


@given(st.dates(min_value=date(1000, 1, 1)), st.integers(3, 9))
def test_every_day_in_every_form(one: date, letters: int) -> None:
    month = MONTHS[one.month - 1]
    for written in (
        one.isoformat(),
        f"{one.day} {month[:letters]} {one.year}",
        f"{month} {one.day}, {one.year}",
        f"{one.day}.{one.month}.{one.year}",
    ):
        assert day(written) == one


@given(st.text(max_size=30))
def test_anything_written_is_a_day_or_told(written: str) -> None:
    try:
        assert isinstance(day(written), date)
    except NoDay as why:
        assert str(why)
