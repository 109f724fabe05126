"""Columns of entries as CSV: any text and any moment is written as cells one by one are."""

import csv
import io
from datetime import UTC, datetime
from random import Random
from zoneinfo import ZoneInfo

import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import Integer, Text, column, func, literal, select, values

from jotgate.core.common.today import today_in
from jotgate.core.entries.facts import Around
from jotgate.core.entries.table import table_of
from jotgate.core.formats.table import safe, text
from jotgate.core.handling import Terms
from jotgate.core.walking.plan import compile_plan
from jotgate.services.context import Context
from jotgate.services.staff.entries.entry_cells import EntryCells
from jotgate.services.staff.entries.entry_csv import EntryCsv, moments
from jotgate.store.base import copy_out
from jotgate.store.entry_table.reading import LINES, Read
from tests.documents import item, page, questionnaire

ZONES = (
    "UTC",
    "Europe/Paris",
    "Asia/Kolkata",
    "America/St_Johns",
    "Australia/Lord_Howe",
    "Africa/Monrovia",
    "Pacific/Apia",
)


@given(
    st.lists(st.none() | st.datetimes(datetime(1850, 1, 1), datetime(2099, 12, 31)), max_size=40),
    st.sampled_from(ZONES),
)
def test_moments_stand_in_the_time_zone(found: list[datetime | None], name: str) -> None:
    """Around changes of clocks, and before there were any, as `zoneinfo` has them."""
    zone = ZoneInfo(name)
    there = [one and one.replace(microsecond=0, tzinfo=UTC) for one in found]
    stored = [one and one.replace(tzinfo=None).isoformat() for one in there]
    said = moments(pl.Series(stored, dtype=pl.String), zone)
    assert said.to_list() == [one and text(one.astimezone(zone)) for one in there]


@pytest.mark.parametrize("name", ZONES)
def test_hours_of_a_year(name: str) -> None:
    """Every hour of 2011, in which Apia left a whole day out."""
    zone = ZoneInfo(name)
    hours = [datetime(2011, 1, 1, tzinfo=UTC).timestamp() + 3600 * at for at in range(8760)]
    there = [datetime.fromtimestamp(one, UTC) for one in hours]
    stored = pl.Series([f"{one:%Y-%m-%dT%H:%M}+00:00" for one in there])
    assert moments(stored, zone).to_list() == [text(one.astimezone(zone)) for one in there]


SIGNS = ",;\"'\n\r\t=+-@\\.|\x1f\x7f\u2028\ufeffaé漢🌊 0"


async def test_any_text_comes_back(context: Context) -> None:
    chance = Random(5)
    texts = [*SIGNS, "\\.", '""', *("".join(chance.choices(SIGNS, k=9)) for _ in range(3000))]
    plan = compile_plan(questionnaire(page("p", item("short_text", "said"))))
    table = table_of({1: plan}, Around(), {}, Terms({}, {}))
    shown = [table.open["said"]]
    made = EntryCsv(EntryCells({1: plan}, today_in("UTC", datetime.now(UTC)), shown, False))
    given_rows = [(at, one) for at, one in enumerate(texts)]
    each = values(column("at", Integer), column("said", Text), name="each").data(given_rows)
    query = select(each.c.at, each.c.at, literal("1"), func.nullif(each.c.said, ""))
    async with context.engine.connect() as conn:
        rows = await copy_out(conn, query.order_by(each.c.at))
    frame = made.frame(Read(rows, 1, lambda _: ()))
    assert frame["c0"].to_list() == texts
    assert LINES.first(rows[3], 4) == ["3", "3", "1", texts[3]]
    assert [LINES.first(one, 4)[3] for one in rows] == texts
    read = list(csv.reader(io.StringIO(made.csv(frame).decode(), newline="")))
    assert read == [[str(at), safe(one)] for at, one in enumerate(texts)]
