"""The limits of a question as the browser needs them, kind by kind."""

from collections.abc import Callable, Mapping
from datetime import datetime
from typing import Any

from jotgate.core.checking.dates import moment_bound
from jotgate.core.checking.file_kinds import TYPES
from jotgate.core.checking.picks import ranked
from jotgate.core.common.decimals import plain
from jotgate.core.common.today import Today, day_of
from jotgate.core.items import Item

Limits = dict[str, Any]


def limits(item: Item, today: Today) -> Limits:
    """Fields of `QuestionOut` by name; days and moments for `today`."""
    of = _LIMITS.get(item.kind)
    return of(item, today) if of else {}


def _same(*names: str) -> Callable[[Any, Today], Limits]:
    return lambda item, _: {
        name: list(value) if isinstance(value := getattr(item, name), tuple) else value
        for name in names
    }


def _short_text(item: Any, _: Today) -> Limits:
    like = {"server": item.pattern is not None}
    return {"shortest": item.shortest, "longest": item.longest, **like}


def _number(item: Any, _: Today) -> Limits:
    edges = {name: getattr(item, name) for name in ("at_least", "at_most", "step")}
    told = {name: None if edge is None else plain(edge) for name, edge in edges.items()}
    return {**told, "decimals": item.decimals}


def _date(item: Any, today: Today) -> Limits:
    edges = {"earliest": item.earliest, "latest": item.latest}
    days = {name: day_of(edge, today.day) if edge else None for name, edge in edges.items()}
    return {name: day.isoformat() if day else None for name, day in days.items()}


def _moment(item: Any, today: Today) -> Limits:
    earliest = item.earliest and moment_bound(item.earliest, today, end=False)
    latest = item.latest and moment_bound(item.latest, today, end=True)
    return {"earliest": _minutes(earliest), "latest": _minutes(latest)}


def _minutes(moment: datetime | None) -> str | None:
    return moment.isoformat(timespec="minutes") if moment else None


def _rank(item: Any, _: Today) -> Limits:
    return {"most": ranked(item), "shuffled": item.shuffled}


def _scale(item: Any, _: Today) -> Limits:
    return {"at_least": str(item.low), "at_most": str(item.high)}


def _file(item: Any, _: Today) -> Limits:
    types = [one for kind in item.kinds for one in TYPES[kind]]
    return {"most": item.most, "largest": item.largest, "kinds": list(item.kinds), "types": types}


def _media(item: Any, _: Today) -> Limits:
    found = {"media": item.media, "captions": getattr(item, "captions", None)}
    size = {name: getattr(item, name, None) for name in ("width", "height")}
    return {name: f"/media/{id}" if id else None for name, id in found.items()} | size


_LIMITS: Mapping[str, Callable[[Any, Today], Limits]] = {
    "short_text": _short_text,
    "long_text": _same("shortest", "longest"),
    "number": _number,
    "date": _date,
    "time": _same("earliest", "latest"),
    "date_time": _moment,
    "pick_one": _same("look", "shuffled"),
    "pick_many": _same("fewest", "most", "shuffled"),
    "rank": _rank,
    "scale": _scale,
    "name": _same("parts", "needed"),
    "address": _same("parts", "needed"),
    "location": lambda _item, _today: {"server": True},
    "file": _file,
    "grid": _same("totals"),
    "roster": _same("fewest", "most"),
    "picture": _media,
    "video": _media,
}
