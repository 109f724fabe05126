"""Whether somebody may change what they sent."""

from dataclasses import dataclass
from datetime import datetime
from zoneinfo import ZoneInfo

from jotgate.core.gate.opening import Opening, instant
from jotgate.core.gate.settings import Gate


@dataclass(frozen=True)
class MayChange:
    """It may be changed `until` then, where that is known."""

    until: datetime | None = None


def may_change(
    gate: Gate, opening: Opening, zone: str, moment: datetime, status: str, archived: bool
) -> MayChange | None:
    """Whether an entry that stands so may be changed by whoever sent it, at `moment`, at which the
    times of the gate stand as `opening` says. Nothing is changed while it is held, nor in the
    archive."""
    changing = gate.changing
    if changing is None or archived or gate.state == "held":
        return None
    if changing.statuses and status not in changing.statuses:
        return None
    if changing.until is not None:
        until = instant(datetime.fromisoformat(changing.until), ZoneInfo(zone), last=True)
        return MayChange(until) if moment < until else None
    if changing.statuses:
        return MayChange()
    is_open = gate.state == "open" and opening.open
    return MayChange(opening.until) if is_open else None
