"""What somebody sent is filled in again as they would have answered it, whatever its kind."""

from collections import Counter
from datetime import datetime
from random import Random
from typing import Any
from zoneinfo import ZoneInfo

import pytest

from jotgate.core.answers.by_kind import RULES
from jotgate.core.answers.checks import check
from jotgate.core.answers.failures import CheckFailed
from jotgate.core.common.today import Today
from jotgate.core.entries.stored import as_json, from_json, raw_again
from jotgate.core.items import Grid, Item, Roster, inside, is_asked
from tests.browser.published import EVERY_KIND

ZONES = ("UTC", "Asia/Kathmandu", "America/St_Johns", "Australia/Lord_Howe")


def made(item: Item, today: Today, dice: Random) -> Any:
    if isinstance(item, Roster | Grid):
        line = {one.key: made(one, today, dice) for one in inside(item)}
        return [line] if isinstance(item, Roster) else {row.code: [line] for row in item.rows}
    make = RULES[item.kind].make
    return make(item, today, dice) if make else None


def one_of(item: Item, today: Today, dice: Random) -> Any:
    """A value that such an item can have, None where none was made."""
    try:
        return check(item, made(item, today, dice), today)
    except CheckFailed:
        return None


@pytest.mark.parametrize("zone", ZONES)
def test_every_kind_comes_back_as_it_was(zone: str) -> None:
    home = ZoneInfo(zone)
    today, dice = Today(datetime(2026, 11, 25, 9, 30, tzinfo=home)), Random(3)
    seen: Counter[str] = Counter()
    asked = [one for one in EVERY_KIND.items() if is_asked(one) and one.kind != "file"]
    for item in asked:
        for value in (one_of(item, today, dice) for _ in range(40)):
            if value is not None:
                again = raw_again(from_json(item, as_json(value)), home)
                assert check(item, again, today) == value, item.kind
                seen[item.kind] += 1
    assert {one.kind for one in asked if seen[one.kind] < 10} == set()
