"""A table of a million entries: its pages, filters, orders and searches at the API, many changed at
once, and how long it takes to open in Chromium."""

import asyncio
import json
import statistics
import time
from collections.abc import Callable, Iterator
from datetime import timedelta
from functools import partial
from http.client import HTTPConnection, RemoteDisconnected
from itertools import groupby
from typing import Any
from urllib.parse import quote, urlsplit
from uuid import UUID

from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from sqlalchemy import event, text

from bench.support.chromium import WATCH, at_pace, busy, chromium, served, waited
from bench.support.entry_data import EMAIL, ENTRIES, PASSWORD, staged
from bench.support.entry_files import csv_to_copy, xlsx_memory
from bench.support.figure import Figure
from bench.support.machine import both, timed
from jotgate.core.records.accounts import Account
from jotgate.local.installation import Installation
from jotgate.services import doing, entry_rows
from jotgate.services.context import Context
from jotgate.services.handling import Change
from jotgate.services.staff.accounts import tokens
from jotgate.services.staff.entries import entry_acts, entry_table
from jotgate.services.staff.entries.choosing import Choice
from jotgate.store.accounts import accounts
from jotgate.store.base import Engine
from jotgate.wiring import open_context

ROUNDS = 12
PAGES_MS, SEARCH_MS, NEWEST_MS, OPENING_MS, TASK_MS = 30, 100, 20, 1_000, 50
CHANGED = 10_000


def _asks(op: str, item: str, **more: Any) -> dict[str, Any]:
    return {"op": op, "item": item, **more}


FILTERS: tuple[dict[str, Any], ...] = (
    _asks("is", "district", value="saltings"),
    _asks("is", "rare", value=True),
    _asks("is_not", "source", value="tank"),
    _asks("includes", "uses", value="garden"),
    _asks("is", "household", value="Berg 7919"),
    _asks("at_least", "drinkers", value="6"),
    _asks("at_least", "litres", value="99990"),
    _asks("less_than", "litres", value="20"),
    _asks("between", "visit", low="2026-03-01", high="2026-03-01"),
    _asks("unanswered", "rare"),
    _asks("contains", "remark", value="eggs"),
    _asks("contains", "household", value="7919"),
    _asks("is", "entry.status", value="received"),
    _asks("less_than", "entry.arrived", value="2026-01-03"),
    {"op": "not", "part": _asks("is", "district", value="saltings")},
    {
        "op": "all",
        "parts": [_asks("is", "district", value="saltings"), _asks("is", "rare", value=True)],
    },
    {
        "op": "all",
        "parts": [
            _asks("is", "district", value="east"),
            _asks("is", "entry.status", value="sent"),
            _asks("at_most", "depth", value="50"),
        ],
    },
)
SORTS = ("household", "litres", "district", "visit", "uses", "taste", "remark", "entry.arrived")
SEARCHES = ("eggs", "berg 7919", "flood saltings", "L17 drinking", "7d0a")


class Api:
    """Requests over one connection."""

    def __init__(self, base: str, id: UUID, secret: str) -> None:
        parts = urlsplit(base)
        self._connection = HTTPConnection(parts.hostname or "", parts.port)
        self._path = f"/api/questionnaires/{id}/entries"
        self._headers = {"Authorization": f"Bearer {secret}"}

    def page(self, view: dict[str, Any], after: str = "") -> tuple[float, dict[str, Any]]:
        """Milliseconds until the page is there, and the page."""
        address = f"{self._path}?view={quote(json.dumps(view))}&after={after}"
        started = time.perf_counter()
        try:
            self._connection.request("GET", address, headers=self._headers)
            reply = self._connection.getresponse()
        except RemoteDisconnected:  # Kept for some seconds, while indexes are made.
            self._connection.close()
            return self.page(view, after)
        body = reply.read()
        took = (time.perf_counter() - started) * 1000
        assert reply.status == 200, body
        return took, json.loads(body)

    def times(self, view: dict[str, Any]) -> list[float]:
        """Of the first page again and again, and of those behind it."""
        found = [self.page(view) for _ in range(ROUNDS // 2)]
        after = found[-1][1]["next"]
        for _ in range(ROUNDS // 2):
            found.append(self.page(view, after or ""))
            after = found[-1][1]["next"] or after
        return [took for took, _ in found[1:]]


async def _me(context: Context) -> Account:
    async with context.engine.connect() as conn:
        found = await accounts.by_email(conn, EMAIL, context.clock.now())
    assert found is not None
    return found[0]


async def _made(installation: Installation) -> int:
    """Make the indexes that were asked for, as the worker does; how many."""
    async with open_context(installation.settings) as context:
        query = text("select name from entry_row_indexes where made is null")
        async with context.engine.connect() as conn:
            names = [row.name for row in await conn.execute(query)]
        for name in names:
            await entry_rows.make_index(context, name)
    return len(names)


def _ready(installation: Installation, api: Api, view: dict[str, Any]) -> list[float]:
    """The times of a view once its indexes are made: no more than twelve are kept."""
    api.page(view)
    asyncio.run(_made(installation))
    return api.times(view)


async def _changed(installation: Installation, id: UUID) -> Figure:
    """Statuses of many set at once, against a bare update of as many."""
    bare = text(
        "update entries set status = 'sent'"
        " where questionnaire_id = :id and number between :a and :b"
    )
    async with open_context(installation.settings) as context:
        me = await _me(context)
        ratios = []
        for at in range(3):
            low = 100_000 + at * 3 * CHANGED
            started = time.perf_counter()
            async with context.engine.begin() as conn:
                await conn.execute(bare, {"id": id, "a": low + 1, "b": low + CHANGED})
            alone = time.perf_counter() - started
            numbers = tuple(range(low + CHANGED + 1, low + 2 * CHANGED + 1))
            asked = await entry_acts.ask(
                context, me, id, Choice(numbers), Change(status="scheduled")
            )
            started = time.perf_counter()
            await doing.do(context, asked.id)
            ratios.append((time.perf_counter() - started) / alone)
    name = f"statuses of {CHANGED:,} set, to a bare update"
    return Figure("entries", name, statistics.median(ratios), "times", 3, least=False)


def _opened(driver: webdriver.Chrome, address: str) -> float:
    """Milliseconds until the first rows are drawn, from the moment it is asked for."""
    driver.get("about:blank")
    driver.get(address)
    while not driver.execute_script("return document.querySelector('[data-entry]') !== null"):
        time.sleep(0.005)
    return float(driver.execute_script("return performance.now()"))


def _in_chromium(base: str, id: UUID) -> Iterator[Figure]:
    with chromium() as driver:
        driver.get(f"{base}/desk")
        waited(driver, "input[type=password]")
        email, password = driver.find_elements(By.CSS_SELECTOR, "input")[:2]
        email.send_keys(EMAIL)
        password.send_keys(PASSWORD + Keys.ENTER)
        waited(driver, "a[href='/desk/registers']")
        address = f"{base}/desk/q/{id}/entries"
        _opened(driver, address)
        found = at_pace(driver, lambda: [_opened(driver, address) for _ in range(5)])
        raw, scaled = (statistics.median(each) for each in zip(*found, strict=True))
        yield from both("entries", f"opening {ENTRIES:,} entries", raw, scaled, OPENING_MS)
        driver.execute_script(WATCH)

        def to(top: int) -> Callable[[], None]:
            script = f"document.querySelector('[role=grid]').scrollTop = {top}"
            return lambda: driver.execute_script(script)

        pairs = at_pace(driver, lambda: [busy(driver, to(top)) for top in range(0, 30_000, 900)])
        each, paced = zip(*pairs, strict=True)
        yield from both("entries", "a scroll, longest task", max(each), max(paced), TASK_MS)


def _percentile(times: list[float]) -> float:
    return statistics.quantiles(times, n=20)[-1]


async def _prepared(installation: Installation) -> tuple[Installation, UUID, str]:
    """The installation with its entries, and a token that reads them."""
    id = await staged(installation)
    async with open_context(installation.settings) as context:
        until = context.clock.now() + timedelta(days=1)
        me = await _me(context)
        made = await tokens.make(context, me, "bench", ["read_entries"], False, until)
    return installation, id, made.secret


async def _bare(installation: Installation, id: UUID, secret: str) -> float:
    """Milliseconds of the statements that the newest page sends, sent by themselves: nothing is
    made of what they find."""
    times = []
    async with open_context(installation.settings) as context:
        sent: list[tuple[Engine, str, Any]] = []

        def note(engine: Engine, *given: Any) -> None:
            sent.append((engine, given[2], given[3]))

        engines = (context.engine, context.single, context.restricted)
        for one in engines:
            event.listen(one.sync_engine, "before_cursor_execute", partial(note, one))
        await entry_table.page(context, (await tokens.use(context, secret))[0], id)
        wanted, sent[:] = list(sent), []
        assert any("from entries" in " ".join(one[1].lower().split()) for one in wanted)
        for _ in range(ROUNDS):
            started = time.perf_counter()
            for engine, statements in groupby(wanted, key=lambda one: one[0]):
                async with engine.connect() as conn:
                    for _, statement, parameters in statements:
                        (await conn.exec_driver_sql(statement, parameters)).all()
            times.append((time.perf_counter() - started) * 1000)
    return statistics.median(times)


def _at_the_api(installation: Installation, api: Api, id: UUID, secret: str) -> Iterator[Figure]:
    newest = statistics.median(api.times({}))
    yield from timed("entries", "newest page", newest, NEWEST_MS)
    ratio = newest / asyncio.run(_bare(installation, id, secret))
    yield Figure("entries", "newest page, to the bare SQL", ratio, "times", 2, least=False)
    filters = [{"filter": one} for one in FILTERS]
    orders = [
        {"sort": [{"column": one, "descending": down}]} for one in SORTS for down in (False, True)
    ]
    for name, views, bar in (
        ("any filter, 95th percentile", filters, PAGES_MS),
        ("any order, 95th percentile", orders, PAGES_MS),
        ("search, 95th percentile", [{"search": one} for one in SEARCHES], SEARCH_MS),
    ):
        each = [_ready(installation, api, view) for view in views]
        worst = max(range(len(views)), key=lambda at: statistics.median(each[at]))
        told = f"{name.split(',')[0]}, the slowest: {json.dumps(views[worst])}"
        yield from timed("entries", name, _percentile([one for some in each for one in some]), bar)
        yield Figure("entries", told, statistics.median(each[worst]), "ms")


def figures() -> Iterator[Figure]:
    with served(_prepared) as (base, (installation, id, secret)):
        yield from _at_the_api(installation, Api(base, id, secret), id, secret)
        yield from _in_chromium(base, id)
        yield asyncio.run(_changed(installation, id))
        yield from xlsx_memory(installation, id)
        yield csv_to_copy(installation, base, id, secret)
