"""What tells people from programs, without a puzzle: work, time, and a field that nobody sees."""

import hashlib
from datetime import datetime, timedelta

from jotgate.core.common.errors import STALE, LinkRefused, NotProved, TooQuick, Trapped
from jotgate.core.gate.people import Robots
from jotgate.core.walking.arrival import Came

LONGEST = 20
"""Characters of a proof at most."""


def is_proved(key: str, proof: str, bits: int) -> bool:
    """Whether SHA-256 of `key:proof` begins with so many zero bits. Finding such a proof takes
    2**bits tries on the average, looking at it takes one."""
    if not proof.isascii() or not proof.isdigit() or len(proof) > LONGEST:
        return bits == 0
    found = hashlib.sha256(f"{key}:{proof}".encode()).digest()
    return int.from_bytes(found, "big") >> (256 - bits) == 0 if bits else True


def is_known(came: Came) -> bool:
    """Whether somebody is known by more than their browser: nothing is asked of those."""
    known = (came.pass_id, came.subject_id, came.mail_id, came.own, came.staff_id)
    return any(one is not None for one in known)


def refuse_robots(
    asked: Robots, key: str, proof: str, trap: str, begun: str, now: datetime
) -> None:
    """Raise Trapped, LinkRefused, TooQuick or NotProved for a submission under `key` that was
    `begun` then, in ISO 8601, and does not do what is asked of browsers."""
    if asked.trap and trap:
        raise Trapped
    if asked.least:
        if not begun:
            raise LinkRefused(STALE)
        left = datetime.fromisoformat(begun) + timedelta(seconds=asked.least) - now
        if left > timedelta():
            raise TooQuick(int(left.total_seconds()) + 1)
    if not is_proved(key, proof, asked.proof):
        raise NotProved
