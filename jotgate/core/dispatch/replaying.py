"""What is left to do for a past entry by the rules as they are now: nothing is done twice."""

import json
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any
from uuid import UUID

from jotgate.core.dispatch.effects import (
    CallPlanned,
    CarePlanned,
    ContactPlanned,
    Effect,
    ListPlanned,
    NoticePlanned,
    NotPlanned,
    Place,
    RowPlanned,
    StatusPlanned,
    ValuePlanned,
)
from jotgate.core.records.dispatch import Run, RunKind

OPEN = ("waiting", "failing", "failed")


@dataclass(frozen=True)
class ToDo:
    """An effect that is not done yet. `row` is the row that an earlier run filed for the entry in
    the same register: it is brought up to date, and no other one added."""

    effect: Effect
    row: int | None = None


@dataclass(frozen=True)
class Left:
    """What is left to do, in order, and the rows (register, row) that earlier runs added and no
    rule would any more."""

    todo: tuple[ToDo, ...]
    rows: tuple[tuple[UUID, int], ...]


def left(effects: Sequence[Effect], runs: Sequence[Run]) -> Left:
    """What of `effects` the `runs` of the entry have not done. What is no row counts as done where
    something that is the same in every word was done, waits, was skipped or waits for somebody;
    whose turn it was is not asked again, and of fields and values the last that was set counts."""
    done = Counter(_mark(run.kind, run.detail) for run in runs if run.detail)
    last = _last_set(runs)
    filed = _rows_of(runs)
    todo: list[ToDo] = []
    for effect in effects:
        match effect:
            case RowPlanned():
                run = _filed(effect, filed)
                if run is not None:
                    filed.remove(run)
                todo.append(ToDo(effect, int(run.detail["row"]) if run else None))
            case NotPlanned():
                if not effect.left_out and not _is_told(effect, runs):
                    todo.append(ToDo(effect))
            case ContactPlanned() | ValuePlanned():
                kind, detail = _of_effect(effect)
                if last.get(_what(kind, detail)) != effect.value:
                    todo.append(ToDo(effect))
            case _:
                mark = _mark(*_of_effect(effect))
                if done[mark]:
                    done[mark] -= 1
                else:
                    todo.append(ToDo(effect))
    return Left(tuple(todo), tuple(_no_more(filed)))


def kind_of(effect: Effect) -> RunKind:
    """What kind of run an effect becomes."""
    if isinstance(effect, NotPlanned):
        return effect.kind
    return "row" if isinstance(effect, RowPlanned) else _of_effect(effect)[0]


Done = (
    NoticePlanned
    | CallPlanned
    | StatusPlanned
    | CarePlanned
    | ContactPlanned
    | ValuePlanned
    | ListPlanned
)
"""Effects that are no rows."""


def detail_of(effect: Done) -> dict[str, Any]:
    """What the run of an effect keeps of it."""
    match effect:
        case NoticePlanned():
            printed = {"printed": effect.printed} if effect.printed else {}
            return {
                "to": effect.to,
                "subject": effect.subject,
                "plain": effect.plain,
                "html": effect.html,
                "language": effect.language,
                **printed,
            }
        case CallPlanned():
            return {"hook_id": str(effect.hook_id), "body": dict(effect.body)}
        case StatusPlanned():
            return {"status": effect.status}
        case CarePlanned():
            return {
                "person": effect.person and str(effect.person),
                "team": effect.team and str(effect.team),
                "in_turn": effect.in_turn,
            }
        case ContactPlanned():
            return {"field": effect.field, "value": effect.value}
        case ValuePlanned():
            return {"key": effect.key, "value": effect.value}
        case ListPlanned():
            contact = effect.contact_id and str(effect.contact_id)
            told = {"list_id": str(effect.list_id), "contact_id": contact, "email": effect.email}
            return {**told, "confirm": True} if effect.confirm else told


_KINDS: dict[type, RunKind] = {
    NoticePlanned: "notice",
    CallPlanned: "call",
    StatusPlanned: "status",
    CarePlanned: "care",
    ContactPlanned: "contact",
    ValuePlanned: "value",
    ListPlanned: "list",
}

_SAME: dict[RunKind, tuple[str, ...]] = {
    "notice": ("to", "subject", "plain", "language", "printed"),
    "call": ("hook_id", "body"),
    "status": ("status",),
    "care": ("person", "team", "in_turn"),
    "list": ("list_id", "contact_id", "email"),
}
"""By what of its detail a run is the same as another."""


def _of_effect(effect: Done) -> tuple[RunKind, dict[str, Any]]:
    return _KINDS[type(effect)], detail_of(effect)


def _mark(kind: RunKind, detail: dict[str, Any]) -> str:
    same = {name: detail.get(name) for name in _SAME.get(kind, ())}
    if detail.get("in_turn"):
        same["person"] = None
    return json.dumps([kind, same], sort_keys=True, default=str)


def _what(kind: RunKind, detail: dict[str, Any]) -> tuple[RunKind, str]:
    return kind, str(detail.get("field") or detail.get("key"))


def _last_set(runs: Sequence[Run]) -> dict[tuple[RunKind, str], str]:
    """What was set last of each field of the contact, and each carried value."""
    set_by = [run for run in runs if run.kind in ("contact", "value") and "value" in run.detail]
    set_by.sort(key=lambda run: run.round)
    return {_what(run.kind, run.detail): run.detail["value"] for run in set_by}


def _rows_of(runs: Sequence[Run]) -> list[Run]:
    """A run for each row that was filed: the last that wrote it, `added` if any of them did."""
    found: dict[tuple[str, int], Run] = {}
    for run in sorted(runs, key=lambda one: one.round):
        if run.kind == "row" and "row" in run.detail:
            at = (run.detail["register_id"], run.detail["row"])
            before = found.get(at)
            added = run.detail["added"] or (before is not None and before.detail["added"])
            found[at] = replace(run, detail={**run.detail, "added": added})
    return list(found.values())


def _filed(effect: RowPlanned, filed: Sequence[Run]) -> Run | None:
    """The run that filed the row of an effect: by the same act, or else the first in its
    register."""
    there = [run for run in filed if run.detail["register_id"] == str(effect.register_id)]
    same = (run for run in there if Place(run.rule, run.position, run.part) == effect.at)
    return next(same, there[0] if there else None)


def _is_told(effect: NotPlanned, runs: Sequence[Run]) -> bool:
    return any(
        Place(run.rule, run.position, run.part) == effect.at
        and run.kind == effect.kind
        and run.last_error == effect.why
        and run.state in OPEN
        for run in runs
    )


def _no_more(filed: Sequence[Run]) -> Iterator[tuple[UUID, int]]:
    """Rows that were added for the entry alone."""
    for run in filed:
        if run.detail["added"]:
            yield UUID(run.detail["register_id"]), int(run.detail["row"])
