"""How a gate stood and will stand: spans of time by its changes and its opening times."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from jotgate.core.gate.opening import spans
from jotgate.core.records.questionnaires import GateVersion

Stands = Literal["open", "shut", "held", "closed"]
"""`closed` is open by hand, and not by its times."""


@dataclass(frozen=True)
class Stretch:
    """How it stands from one moment to another. `by` changed it by hand at its beginning, for the
    reason `note`; nobody where that is by its times."""

    stands: Stands
    since: datetime
    until: datetime
    by: str = ""
    note: str = ""


def timeline(
    versions: Sequence[GateVersion], zone: str, start: datetime, end: datetime
) -> list[Stretch]:
    """Stretches in order, without gaps, from the first that is known. What holds now goes on."""
    found: list[Stretch] = []
    for n, version in enumerate(versions):
        since = max(version.at, start)
        until = min(versions[n + 1].at, end) if n + 1 < len(versions) else end
        if since < until:
            found += _of_version(version, zone, since, until, version.at >= start)
    return list(_joined(found))


def _of_version(
    version: GateVersion, zone: str, since: datetime, until: datetime, by_hand: bool
) -> Iterator[Stretch]:
    gate, by = version.gate, version.by if by_hand else ""
    if gate.state != "open":
        yield Stretch(gate.state, since, until, by, gate.note)
        return
    at = since
    for opens, shuts in spans(gate.times, zone, since, until):
        if opens > at:
            yield Stretch("closed", at, opens, by if at == since else "", gate.note)
        yield Stretch("open", opens, shuts, by if opens == since else "", gate.note)
        at = shuts
    if at < until:
        yield Stretch("closed", at, until, by if at == since else "", gate.note)


def _joined(stretches: list[Stretch]) -> Iterator[Stretch]:
    """A change of something else than how it stands makes no new stretch."""
    last: Stretch | None = None
    for one in stretches:
        if last is not None and last.stands == one.stands and last.until == one.since:
            last = Stretch(last.stands, last.since, one.until, last.by, last.note or one.note)
            continue
        if last is not None:
            yield last
        last = one
    if last is not None:
        yield last
